import { type SheetLayout, type TemplatePaper } from '@plain-relief/core/sheet';
import { inject, Injectable } from '@angular/core';
import { BehaviorSubject, firstValueFrom, type Observable } from 'rxjs';
import { Api, type ApiError } from '../platform/api';

export type TaskKind = 'proof' | 'stl' | '3mf' | 'glb' | 'pieces' | 'picture' | 'svg' | 'dxf' | 'template' | 'package';

export interface Task {
  readonly id: string;
  readonly signId: string;
  readonly revision: number;
  readonly kind: TaskKind;
  /** Id of the option that it is of. */
  readonly option: string | null;
  readonly state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
  readonly progress: number;
  readonly step: string;
  readonly error: string | null;
  readonly askedAt: string;
  readonly fileName: string | null;
}

/** What is asked for. */
export interface Asked {
  readonly kind: TaskKind;
  /** Id of an option. */
  readonly option?: string;
  /** Why it is made without approval. */
  readonly override?: string;
  /** Of a template. */
  readonly paper?: TemplatePaper;
  /** Of a sheet. */
  readonly layout?: SheetLayout;
}

/** Whether files for production may be made of a sign. */
export interface Clearance {
  readonly isCleared: boolean;
  readonly reason: string;
  /** The proof that it is measured by. */
  readonly letter?: string;
  readonly changes: readonly string[];
}

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
  async ask(asked: Asked): Promise<void> {
    const task = await firstValueFrom(this.api.post<Task>(`/signs/${this.signId}/tasks`, asked));
    this.tasks.next([task, ...this.tasks.value]);
    this.follow();
  }

  /** @throws ApiError */
  clearance(option?: string): Promise<Clearance> {
    const query = option === undefined ? '' : `?option=${encodeURIComponent(option)}`;
    return firstValueFrom(this.api.get<Clearance>(`/signs/${this.signId}/clearance${query}`));
  }

  async cancel(id: string): Promise<void> {
    await firstValueFrom(this.api.post<Task>(`/tasks/${id}/cancel`, {}));
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
      const { tasks } = await firstValueFrom(this.api.get<{ tasks: Task[] }>(`/signs/${signId}/tasks`));
      if (this.signId === signId) this.tasks.next(tasks);
    } catch (error) {
      // While the server is away the work goes on in the queue: ask again.
      if (!(error as ApiError).isPassing) throw error;
    }
    this.follow();
  }
}
