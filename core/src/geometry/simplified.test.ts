import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { cornersOf, regularPolygon, STEPS_PER_MM, toStep } from './index.js';

const onGrid = (ring: ArrayLike<number>): number[] => Array.from(ring, (mm) => toStep(mm) / STEPS_PER_MM);

describe('a ring by its corners', () => {
  it('is the same wherever it begins, and whatever points lie on its straight sides', () => {
    const where = fc.record({ sides: fc.integer({ min: 3, max: 9 }), radius: fc.double({ min: 2, max: 40, noNaN: true }), begin: fc.nat(20), shares: fc.array(fc.double({ min: 0.1, max: 0.9, noNaN: true }), { minLength: 9, maxLength: 9 }) }); // prettier-ignore
    fc.assert(
      fc.property(where, ({ sides, radius, begin, shares }) => {
        const ring = onGrid(regularPolygon(sides, radius, 'point'));
        const points: number[] = [];
        for (let k = 0; k < sides; k++) {
          const [i, j] = [2 * ((k + begin) % sides), 2 * ((k + begin + 1) % sides)];
          points.push(ring[i], ring[i + 1]);
          // As the diagonal of a wall crosses a plane: snapped to the grid beside the line.
          points.push(...onGrid([0, 1].map((c) => ring[i + c] + shares[k] * (ring[j + c] - ring[i + c]))));
        }
        expect([...cornersOf(points)]).toEqual([...cornersOf(ring)]);
        expect(cornersOf(ring)).toHaveLength(ring.length);
      }),
    );
  });
});
