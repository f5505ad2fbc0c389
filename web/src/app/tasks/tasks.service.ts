import { inject, Injectable } from '@angular/core';
import type { Clearance, Frozen, NewTask, Task } from '@plain-relief/api';
import { BehaviorSubject, type Observable } from 'rxjs';
import { Api, type ApiError } from '../platform/api';

export const isUnderWay = ({ state }: Pick<Task, 'state'>): boolean => state === 'waiting' || state === 'running';

const POLL_MS = 350;

/** Long work asked for a sign: proofs and production files, newest first, followed until they are done. */
@Injectable()
export class TasksService {
  private readonly api = inject(Api);
  private readonly tasks = new BehaviorSubject<readonly Task[]>([]);
  readonly tasks$: Observable<readonly Task[]> = this.tasks;
  private signId: string | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;

  async open(signId: string): Promise<void> {
    this.signId = signId;
    this.tasks.next([]);
    await this.refresh();
  }

  /** @throws ApiError */
  async ask(asked: Frozen<NewTask>): Promise<void> {
    if (this.signId === undefined) return;
    const task = await this.api.ask('POST /signs/:id/tasks', { params: { id: this.signId }, body: asked });
    this.tasks.next([task, ...this.tasks.value]);
    this.follow();
  }

  /** @throws ApiError */
  clearance(option?: string): Promise<Clearance> {
    return this.api.ask('GET /signs/:id/clearance', { params: { id: this.signId ?? '' }, query: { option } });
  }

  async cancel(id: string): Promise<void> {
    await this.api.ask('POST /tasks/:id/cancel', { params: { id } });
    await this.refresh();
  }

  close(): void {
    clearTimeout(this.timer);
    this.signId = undefined;
  }

  private follow(): void {
    clearTimeout(this.timer);
    if (this.tasks.value.some(isUnderWay)) this.timer = setTimeout(() => void this.refresh(), POLL_MS);
  }

  private async refresh(): Promise<void> {
    const signId = this.signId;
    if (!signId) return;
    try {
      const { tasks } = await this.api.ask('GET /signs/:id/tasks', { params: { id: signId } });
      if (this.signId === signId) this.tasks.next(tasks);
    } catch (error) {
      // While the server is away the work goes on in the queue: ask again.
      if (!(error as ApiError).isPassing) throw error;
    }
    this.follow();
  }
}
