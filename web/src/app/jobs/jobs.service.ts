import { inject, Injectable } from '@angular/core';
import type { Answer, Job, JobChange, NewJob } from '@plain-relief/api';
import { type Sign } from '@plain-relief/core/sign';
import { BehaviorSubject, type Observable } from 'rxjs';
import { Api, type ApiError } from '../platform/api';

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
      const { jobs, customers } = await this.api.ask('GET /jobs');
      this.state.next({ isLoading: false, jobs, customers: customers.map(({ name }) => name) });
    } catch (error) {
      this.state.next({ ...this.state.value, isLoading: false, error: (error as ApiError).message });
    }
  }

  async create(job: NewJob): Promise<Job> {
    const made = await this.api.ask('POST /jobs', { body: job });
    await this.load();
    return made;
  }

  find(id: string): Promise<Job> {
    return this.api.ask('GET /jobs/:id', { params: { id } });
  }

  async change(id: string, change: JobChange): Promise<Job> {
    const job = await this.api.ask('PATCH /jobs/:id', { params: { id }, body: change });
    this.state.next({ ...this.state.value, jobs: this.state.value.jobs.map((other) => (other.id === id ? job : other)) });
    return job;
  }

  /** Puts a job into the bin. */
  async remove(id: string): Promise<void> {
    await this.api.ask('DELETE /jobs/:id', { params: { id } });
    await this.load();
  }

  /** Adds a sign; gives its id. @param document what it begins with */
  async addSign(jobId: string, title: string, document: Sign): Promise<string> {
    const { id } = await this.api.ask('POST /jobs/:id/signs', { params: { id: jobId }, body: { title, document } });
    return id;
  }

  /** Copies a sign under another title, into its own job or another; gives the copy's id. */
  async copySign(id: string, job: string, title: string): Promise<string> {
    const copy = await this.api.ask('POST /signs/:id/copies', { params: { id }, body: { job, title } });
    await this.load();
    return copy.id;
  }

  /** Takes a sign to another job. */
  async moveSign(id: string, job: string): Promise<void> {
    await this.api.ask('POST /signs/:id/move', { params: { id }, body: { job } });
    await this.load();
  }

  /** Puts a sign into the bin. */
  async removeSign(id: string): Promise<void> {
    await this.api.ask('DELETE /signs/:id', { params: { id } });
    await this.load();
  }

  /** What lies in the bin, and for how many days things lie there. */
  bin(): Promise<Answer<'GET /bin'>> {
    return this.api.ask('GET /bin');
  }

  async returnJob(id: string): Promise<void> {
    await this.api.ask('POST /bin/jobs/:id/return', { params: { id } });
    await this.load();
  }

  async returnSign(id: string): Promise<void> {
    await this.api.ask('POST /bin/signs/:id/return', { params: { id } });
    await this.load();
  }
}
