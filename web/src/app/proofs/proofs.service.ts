import { inject, Injectable } from '@angular/core';
import { BehaviorSubject, firstValueFrom, type Observable } from 'rxjs';
import type { Task } from '../bench/tasks.service';
import { Api, type ApiError } from '../shell/api';
import type { NewRemark, SharedProof } from './proof-types';

export interface Proof extends SharedProof {
  readonly id: string;
  readonly recipient: string;
  /** What the customer opens. */
  readonly address: string;
  readonly seenAt: string | null;
  readonly remindAt: string | null;
  /** What was changed in the signs since, by their ids. */
  readonly changes: Readonly<Record<string, readonly string[]>>;
  readonly sheets: readonly Task[];
}

export interface NewProof {
  readonly signs: readonly string[];
  readonly recipient: string;
  readonly message: string;
  readonly days: number;
  readonly remindAfter?: number;
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
  readonly events: readonly JobEvent[];
}

/** How often it is asked whether the customer has answered. */
const POLL_MS = 2500;

/** The proofs of a job and its history, kept up to date while they are looked at. */
@Injectable()
export class ProofsService {
  private readonly api = inject(Api);
  private readonly state = new BehaviorSubject<ProofsState>({ isLoading: true, proofs: [], events: [] });
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
  async sheet(id: string, kind: string): Promise<void> {
    await firstValueFrom(this.api.post(`/proofs/${id}/sheets`, { kind }));
    await this.refresh();
  }

  private async refresh(): Promise<void> {
    clearTimeout(this.timer);
    const { jobId } = this;
    if (jobId === undefined) return;
    try {
      const [{ proofs }, { events }] = await Promise.all([
        firstValueFrom(this.api.get<{ proofs: Proof[] }>(`/jobs/${jobId}/proofs`)),
        firstValueFrom(this.api.get<{ events: JobEvent[] }>(`/jobs/${jobId}/history`)),
      ]);
      if (this.jobId !== jobId) return;
      // What is the same is not drawn anew: somebody may be writing in it.
      const { proofs: before, events: earlier } = this.state.value;
      const isSame = JSON.stringify([before, earlier]) === JSON.stringify([proofs, events]);
      if (!isSame || this.state.value.isLoading || this.state.value.error) this.state.next({ isLoading: false, proofs, events });
    } catch (error) {
      const { isPassing, message } = error as ApiError;
      this.state.next({ ...this.state.value, isLoading: false, error: message });
      if (!isPassing) return;
    }
    if (this.jobId === jobId) this.timer = setTimeout(() => void this.refresh(), POLL_MS);
  }
}
