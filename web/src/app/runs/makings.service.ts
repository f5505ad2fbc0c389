import { inject, Injectable, type OnDestroy } from '@angular/core';
import type { NewMaking, RunMaking } from '@plain-relief/api';
import { BehaviorSubject, type Observable } from 'rxjs';
import { Api, ApiError } from '../platform/api';

/** ms after which it is asked how far they are, while some are being made. */
const ASK_MS = 1000;

const isOpen = ({ state }: RunMaking): boolean => state === 'running' || state === 'paused';

/** Files of a run that the shop's workers make. */
@Injectable()
export class MakingsService implements OnDestroy {
  private readonly api = inject(Api);
  private readonly state = new BehaviorSubject<readonly RunMaking[]>([]);
  readonly makings$: Observable<readonly RunMaking[]> = this.state;
  private run = '';
  private timer: ReturnType<typeof setTimeout> | undefined;

  /** Follows those of a run. */
  follow(run: string): void {
    if (run === this.run) return;
    this.run = run;
    this.state.next([]);
    void this.look();
  }

  /** @throws ApiError */
  async ask(order: NewMaking): Promise<void> {
    await this.api.ask('POST /runs/:id/makings', { params: { id: this.run }, body: order });
    await this.look();
  }

  /** Pauses, goes on, or ends. @throws ApiError */
  async turn(id: string, state: 'paused' | 'running' | 'cancelled'): Promise<void> {
    const turned = await this.api.ask('POST /makings/:id', { params: { id }, body: { state } });
    this.state.next(this.state.value.map((making) => (making.id === id ? turned : making)));
    this.askAgain();
  }

  ngOnDestroy(): void {
    this.run = '';
    clearTimeout(this.timer);
  }

  private async look(): Promise<void> {
    const { run } = this;
    if (run === '') return;
    try {
      const { makings } = await this.api.ask('GET /runs/:id/makings', { params: { id: run } });
      if (run === this.run) this.state.next(makings);
    } catch (error) {
      // What was told last stays while the server is away.
      if (!(error instanceof ApiError)) throw error;
    }
    this.askAgain();
  }

  private askAgain(): void {
    clearTimeout(this.timer);
    if (this.run !== '' && this.state.value.some(isOpen)) this.timer = setTimeout(() => void this.look(), ASK_MS);
  }
}
