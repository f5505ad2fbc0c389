import { Injectable, type OnDestroy } from '@angular/core';
import { type Place } from '@plain-relief/core/in-place';
import { type Remote } from 'comlink';
import { LimitedWorker } from '../platform/limited-worker';
import type { Documents, PlacePicture, ReadingPicture } from './place-desk';
import type { PlaceCounter } from './place.worker';

/** A picture that takes longer, in ms, is given up. */
const LONGEST_MS = 40_000;

/** Draws signs as they will hang in a worker of its own; of what is asked meanwhile the newest is drawn next. */
@Injectable()
export class PlacePictures implements OnDestroy {
  private readonly worker = new LimitedWorker<PlaceCounter>(() => this.startWorker());
  private running: Promise<unknown> = Promise.resolve();
  private newest = 0;

  /** A picture of a place; undefined where a newer one was asked for meanwhile. @throws Error with a sentence */
  draw(place: Place, documents: Documents, longest: number): Promise<PlacePicture | undefined> {
    return this.newestOf((desk) => desk.draw(place, documents, longest));
  }

  /** A sign from where it is read; undefined where it is gone, or another picture was asked for meanwhile. @throws Error with a sentence */
  read(place: Place, index: number, documents: Documents, factor: number): Promise<ReadingPicture | undefined> {
    return this.newestOf((desk) => desk.read(place, index, documents, factor));
  }

  ngOnDestroy(): void {
    this.worker.end();
  }

  private async newestOf<T>(question: (desk: Remote<PlaceCounter>) => Promise<T>): Promise<T | undefined> {
    const own = ++this.newest;
    await this.running.catch(() => undefined);
    if (own !== this.newest) return undefined;
    const answer = this.limited(question);
    this.running = answer;
    return answer;
  }

  private limited<T>(question: (desk: Remote<PlaceCounter>) => Promise<T>): Promise<T> {
    return this.worker.ask(LONGEST_MS, `Drawing these signs takes longer than ${LONGEST_MS / 1000} s and was given up: hang fewer, or plainer ones.`, question); // prettier-ignore
  }

  protected startWorker(): Worker {
    return new Worker(new URL('./place.worker', import.meta.url), { type: 'module' });
  }
}
