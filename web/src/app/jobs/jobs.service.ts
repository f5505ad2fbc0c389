import { inject, Injectable } from '@angular/core';
import { BehaviorSubject, firstValueFrom, type Observable } from 'rxjs';
import { Api, type ApiError } from '../platform/api';
import type { SignProof } from './sign-proof';

export const JOB_STATES = ['brief', 'layout', 'proof out', 'changes asked', 'approved', 'in the shop', 'done'] as const;
export type JobState = (typeof JOB_STATES)[number];

export interface JobSign {
  readonly id: string;
  readonly title: string;
  readonly revision: number;
  readonly proof?: SignProof;
}

export interface Job {
  readonly id: string;
  readonly number: string;
  readonly title: string;
  readonly state: JobState;
  readonly dueOn: string | null;
  readonly quantity: number;
  readonly unit: 'mm' | 'in';
  readonly customer: string;
  /** Who is spoken to there, and how. */
  readonly contact: string;
  readonly signs: readonly JobSign[];
}

export type NewJob = Pick<Job, 'customer' | 'title' | 'dueOn' | 'quantity' | 'unit'>;
export type JobChange = Partial<Pick<Job, 'title' | 'dueOn' | 'quantity' | 'unit' | 'state'>>;

export interface JobsState {
  readonly isLoading: boolean;
  readonly error?: string;
  readonly jobs: readonly Job[];
  readonly customers: readonly string[];
}

/** The jobs of the shop, and what is done to them. */
@Injectable({ providedIn: 'root' })
export class JobsService {
  private readonly api = inject(Api);
  private readonly state = new BehaviorSubject<JobsState>({ isLoading: true, jobs: [], customers: [] });
  readonly state$: Observable<JobsState> = this.state;

  async load(): Promise<void> {
    try {
      const { jobs, customers } = await firstValueFrom(this.api.get<{ jobs: Job[]; customers: { name: string }[] }>('/jobs'));
      this.state.next({ isLoading: false, jobs, customers: customers.map(({ name }) => name) });
    } catch (error) {
      this.state.next({ ...this.state.value, isLoading: false, error: (error as ApiError).message });
    }
  }

  async create(job: NewJob): Promise<Job> {
    const made = await firstValueFrom(this.api.post<Job>('/jobs', job));
    await this.load();
    return made;
  }

  find(id: string): Promise<Job> {
    return firstValueFrom(this.api.get<Job>(`/jobs/${id}`));
  }

  async change(id: string, change: JobChange): Promise<Job> {
    const job = await firstValueFrom(this.api.patch<Job>(`/jobs/${id}`, change));
    this.state.next({ ...this.state.value, jobs: this.state.value.jobs.map((other) => (other.id === id ? job : other)) });
    return job;
  }

  async remove(id: string): Promise<void> {
    await firstValueFrom(this.api.delete(`/jobs/${id}`));
    await this.load();
  }

  /** Adds a sign with a bare blank; gives its id. */
  async addSign(jobId: string, title: string): Promise<string> {
    const { id } = await firstValueFrom(this.api.post<{ id: string }>(`/jobs/${jobId}/signs`, { title }));
    return id;
  }

  /** Copies a sign under another title, into its own job or another; gives the copy's id. */
  async copySign(id: string, job: string, title: string): Promise<string> {
    const copy = await firstValueFrom(this.api.post<{ id: string }>(`/signs/${id}/copies`, { job, title }));
    await this.load();
    return copy.id;
  }

  /** Takes a sign to another job. */
  async moveSign(id: string, job: string): Promise<void> {
    await firstValueFrom(this.api.post(`/signs/${id}/move`, { job }));
    await this.load();
  }

  async removeSign(id: string): Promise<void> {
    await firstValueFrom(this.api.delete(`/signs/${id}`));
    await this.load();
  }
}
