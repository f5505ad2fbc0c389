import { inject, Injectable } from '@angular/core';
import type { Frozen, JobEvent, KeptPlace, ListedRun, NewProof, Proof, SheetKind, ShopRemark } from '@plain-relief/api';
import { BehaviorSubject, type Observable } from 'rxjs';
import { isUnderWay } from '../tasks/tasks.service';
import { Api, type ApiError } from '../platform/api';

/** What is to be looked at on a sign before a proof goes out. */
export interface OpenNotes {
  readonly signId: string;
  readonly title: string;
  readonly notes: readonly string[];
}

/** The notes that a refused proof is to be confirmed with; none where it was refused for something else. */
export function openNotesOf(error: unknown): readonly OpenNotes[] {
  const { body } = error as { body?: { code?: string; signs?: readonly OpenNotes[] } };
  return body?.code === 'NOTES_OPEN' ? (body.signs ?? []) : [];
}

export interface ProofsState {
  readonly isLoading: boolean;
  readonly error?: string;
  readonly proofs: readonly Proof[];
  /** The letter that the next one will have. */
  readonly nextLetter: string;
  readonly events: readonly JobEvent[];
}

/** How often it is asked whether the customer has answered. */
const POLL_MS = 2500;

/** The proofs of a job and its history, kept up to date while they are looked at. */
@Injectable()
export class ProofsService {
  private readonly api = inject(Api);
  private readonly state = new BehaviorSubject<ProofsState>({ isLoading: true, proofs: [], nextLetter: 'A', events: [] });
  readonly state$: Observable<ProofsState> = this.state;
  private jobId: string | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;

  async open(jobId: string): Promise<void> {
    this.jobId = jobId;
    await this.refresh();
  }

  /** Where the signs of a job hang, as far as anything does. @throws ApiError */
  async places(jobId: string): Promise<KeptPlace[]> {
    const { places } = await this.api.ask('GET /jobs/:id/places', { params: { id: jobId } });
    return places.filter(({ document }) => document.signs.length > 0);
  }

  /** The runs of a job that have rows. @throws ApiError */
  async runs(jobId: string): Promise<ListedRun[]> {
    const { runs } = await this.api.ask('GET /jobs/:id/runs', { params: { id: jobId } });
    return runs.filter(({ rows }) => rows > 0);
  }

  close(): void {
    this.jobId = undefined;
    clearTimeout(this.timer);
  }

  /** @throws ApiError */
  async send(proof: Frozen<NewProof>): Promise<void> {
    if (this.jobId === undefined) return;
    await this.api.ask('POST /jobs/:id/proofs', { params: { id: this.jobId }, body: proof });
    await this.refresh();
  }

  /** @throws ApiError */
  async withdraw(id: string): Promise<void> {
    await this.api.ask('POST /proofs/:id/withdraw', { params: { id } });
    await this.refresh();
  }

  /** @throws ApiError */
  async remark(id: string, remark: Frozen<ShopRemark>): Promise<void> {
    await this.api.ask('POST /proofs/:id/remarks', { params: { id }, body: remark });
    await this.refresh();
  }

  /** Asks for a sheet that could not be made once more. @throws ApiError */
  async sheet(id: string, kind: SheetKind): Promise<void> {
    await this.api.ask('POST /proofs/:id/sheets', { params: { id }, body: { kind } });
    await this.refresh();
  }

  /** Asks what happened, and for the proofs where something did: they hold whole signs. */
  private async refresh(): Promise<void> {
    clearTimeout(this.timer);
    const { jobId } = this;
    if (jobId === undefined) return;
    try {
      const { events } = await this.api.ask('GET /jobs/:id/history', { params: { id: jobId } });
      if (!this.isUpToDate(events)) {
        const told = await this.api.ask('GET /jobs/:id/proofs', { params: { id: jobId } });
        if (this.jobId !== jobId) return;
        const { proofs, nextLetter } = told;
        this.state.next({ isLoading: false, proofs, nextLetter, events });
      }
    } catch (error) {
      const { isPassing, message } = error as ApiError;
      this.state.next({ ...this.state.value, isLoading: false, error: message });
      if (!isPassing) return;
    }
    if (this.jobId === jobId) this.timer = setTimeout(() => void this.refresh(), POLL_MS);
  }

  /** Whether what is shown is all that there is: nothing has happened since, and no sheet is being made. */
  private isUpToDate(events: readonly JobEvent[]): boolean {
    const { isLoading, error, proofs, events: earlier } = this.state.value;
    if (isLoading || error !== undefined || JSON.stringify(events) !== JSON.stringify(earlier)) return false;
    return proofs.every(({ sheets }) => sheets.length > 0 && !sheets.some(isUnderWay));
  }
}
