import { inject, Injectable } from '@angular/core';
import { BehaviorSubject, firstValueFrom, type Observable } from 'rxjs';
import { isUnderWay, type Task } from '../tasks/tasks.service';
import { Api, type ApiError } from '../platform/api';
import { type SheetLayout } from '@plain-relief/core/sheet';
import type { NewRemark, SharedProof } from './proof-types';

/** The sheets of a frozen proof are made as files of signs are. */
export type SheetTask = Omit<Task, 'kind'> & { readonly kind: 'sheet' | 'stamped sheet' };

export interface Proof extends SharedProof {
  readonly id: string;
  readonly recipient: string;
  /** What the customer opens; makers are not told. */
  readonly address?: string;
  readonly seenAt: string | null;
  readonly remindAt: string | null;
  /** What was changed in the signs since, by their ids. */
  readonly changes: Readonly<Record<string, readonly string[]>>;
  readonly sheets: readonly SheetTask[];
}

export interface NewProof {
  readonly signs: readonly string[];
  readonly recipient: string;
  readonly message: string;
  readonly days: number;
  readonly layout: SheetLayout;
  readonly remindAfter?: number;
  /** Notes left open that were confirmed. */
  readonly confirmed?: readonly Pick<OpenNotes, 'signId' | 'notes'>[];
}

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

export interface JobEvent {
  readonly at: string;
  readonly who: string;
  readonly text: string;
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

  close(): void {
    this.jobId = undefined;
    clearTimeout(this.timer);
  }

  /** @throws ApiError */
  async send(proof: NewProof): Promise<void> {
    await firstValueFrom(this.api.post(`/jobs/${this.jobId}/proofs`, proof));
    await this.refresh();
  }

  /** @throws ApiError */
  async withdraw(id: string): Promise<void> {
    await firstValueFrom(this.api.post(`/proofs/${id}/withdraw`, {}));
    await this.refresh();
  }

  /** @throws ApiError */
  async remark(id: string, remark: NewRemark): Promise<void> {
    await firstValueFrom(this.api.post(`/proofs/${id}/remarks`, remark));
    await this.refresh();
  }

  /** Asks for a sheet that could not be made once more. @throws ApiError */
  async sheet(id: string, kind: SheetTask['kind']): Promise<void> {
    await firstValueFrom(this.api.post(`/proofs/${id}/sheets`, { kind }));
    await this.refresh();
  }

  /** Asks what happened, and for the proofs where something did: they hold whole signs. */
  private async refresh(): Promise<void> {
    clearTimeout(this.timer);
    const { jobId } = this;
    if (jobId === undefined) return;
    try {
      const { events } = await firstValueFrom(this.api.get<{ events: JobEvent[] }>(`/jobs/${jobId}/history`));
      if (!this.isUpToDate(events)) {
        const told = await firstValueFrom(this.api.get<Pick<ProofsState, 'proofs' | 'nextLetter'>>(`/jobs/${jobId}/proofs`));
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
