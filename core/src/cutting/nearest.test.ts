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

  it('are each gone once, always on to the nearest that is left', () => {
    const place = fc.tuple(fc.integer({ min: 0, max: 500 }), fc.integer({ min: 0, max: 500 }));
    fc.assert(
      fc.property(fc.array(fc.record({ from: place, to: place }), { maxLength: 40 }), (ways) => {
        const turns = nearestFirst(ways, [0, 0]);
        expect(turns.map(({ way: at }) => at).sort((a, b) => a - b)).toEqual(ways.map((_, i) => i));
        const left = new Set(ways);
        let [x, y] = [0, 0];
        for (const { way: at } of turns) {
          const far = ({ from }: Ends): number => Math.hypot(from[0] - x, from[1] - y);
          expect(far(ways[at])).toBeCloseTo(Math.min(...[...left].map(far)), 6);
          left.delete(ways[at]);
          [x, y] = ways[at].to;
        }
      }),
      { numRuns: 60 },
    );
  });
});
