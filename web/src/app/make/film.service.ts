import { Injectable } from '@angular/core';
import { type Remote, wrap } from 'comlink';
import { BehaviorSubject, type Observable } from 'rxjs';
import type { FilmFacts, FilmOrder, Frame, Way } from './film-desk';
import type { FilmCounter } from './film.worker';

/** The page's side of a film. Of moments that are asked for while one is being cut only the newest is taken next. */
@Injectable()
export class FilmService {
  private worker: Worker | undefined;
  private desk: Remote<FilmCounter> | undefined;
  private isBusy = false;
  private waiting: { readonly seconds: number; readonly y?: number } | undefined;
  private readonly frames = new BehaviorSubject<Frame | undefined>(undefined);
  readonly frame$: Observable<Frame | undefined> = this.frames;

  /** Reads the programs of a plan. @throws where one cannot be read */
  async open(order: FilmOrder): Promise<FilmFacts> {
    this.close();
    const worker = new Worker(new URL('./film.worker', import.meta.url), { type: 'module' });
    this.worker = worker;
    this.desk = wrap<FilmCounter>(worker);
    const facts = await this.desk.open(order);
    if (this.worker !== worker) throw new Error('Another plan was opened meanwhile.');
    return facts;
  }

  /** Shows a moment, as soon as the one before is shown; cut through at y, or where the tool is. */
  show(seconds: number, y?: number): void {
    this.waiting = { seconds, ...(y !== undefined && { y }) };
    if (!this.isBusy) void this.next();
  }

  get isWaiting(): boolean {
    return this.isBusy;
  }

  async secondsAt(program: number, line: number): Promise<number> {
    return (await this.desk?.secondsAt(program, line)) ?? 0;
  }

  async ways(program: number, firstLine: number, lastLine: number): Promise<readonly Way[]> {
    return (await this.desk?.ways(program, firstLine, lastLine)) ?? [];
  }

  close(): void {
    this.worker?.terminate();
    this.worker = undefined;
    this.desk = undefined;
    this.isBusy = false;
    this.waiting = undefined;
    this.frames.next(undefined);
  }

  private async next(): Promise<void> {
    const { desk } = this;
    while (this.waiting !== undefined && desk) {
      const { seconds, y } = this.waiting;
      this.waiting = undefined;
      this.isBusy = true;
      const frame = await desk.frame(seconds, y);
      // One that was opened meanwhile has a worker of its own.
      if (this.desk !== desk) return;
      if (frame) this.frames.next(frame);
    }
    this.isBusy = false;
  }
}
