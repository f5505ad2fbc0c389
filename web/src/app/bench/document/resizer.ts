import { inject, Injectable } from '@angular/core';
import { type Factors, hasSize, type Part, resized, scaledTogether, type SeenText } from '@plain-relief/core/sign';
import { ReliefService } from '../../relief/relief.service';
import { SignStore, tidy } from './sign-store';

/** Brings parts to other sizes, from what they were when their size began to be changed. */
@Injectable()
export class Resizer {
  private readonly store = inject(SignStore);
  private readonly relief = inject(ReliefService);
  /** Sizes as they were seen stand for the parts that the change began from. */
  private one: { readonly from: Part; readonly seen: SeenText | undefined } | undefined;
  private many: { readonly from: readonly Part[]; readonly seen: ReadonlyMap<string, SeenText | undefined> } | undefined;

  /**
   * Brings a part to another size, in its own directions.
   * @param from the part as it was when its size began to be changed
   * @param place where its place comes to lie; where it was if that is not given
   */
  resize(from: Part, factors: Factors, place?: { readonly x: number; readonly y: number }): void {
    if (from.locked) return;
    if (this.one?.from !== from) {
      this.one = { from, seen: this.relief.latest?.plan.parts.find(({ id }) => id === from.id)?.text };
    }
    const next = resized(from, factors, this.one.seen);
    const at = place ? { x: tidy(place.x), y: tidy(place.y) } : {};
    this.store.setPart({ ...next, place: { ...next.place, ...at } }, 'size');
  }

  /**
   * Makes parts larger or smaller together about a point that stays.
   * @param from the parts as they were when their size began to be changed
   */
  resizeTogether(from: readonly Part[], factor: number, about: { readonly x: number; readonly y: number }): void {
    const free = from.filter((part) => !part.locked && hasSize(part));
    if (this.many?.from !== from) {
      const views = this.relief.latest?.plan.parts ?? [];
      this.many = { from, seen: new Map(views.map(({ id, text }) => [id, text])) };
    }
    const { seen } = this.many;
    const next = new Map(scaledTogether(free, factor, about, (id) => seen.get(id)).map((part) => [part.id, part]));
    this.store.edit(`size of ${free.length} parts`, `size ${free.map(({ id }) => id).join(' ')}`, (sign) => {
      sign.parts = sign.parts.map((part) => next.get(part.id) ?? part);
    });
  }
}
