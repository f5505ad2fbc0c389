import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { figure, runPath } from './path-data.js';

/** As the standard's grammar has it (SVG 1.1, 8.3.9), figure by figure. */
const written = (points: readonly number[], closed: boolean, per: number): string => {
  const pairs = Array.from(
    { length: points.length / 2 },
    (_, i) => `${figure(points[2 * i] / per)} ${figure(-points[2 * i + 1] / per)}`,
  );
  return `${pairs.map((pair, i) => `${i === 0 ? 'M' : 'L'}${pair}`).join('')}${closed ? 'Z' : ''}`;
};

describe('path data', () => {
  it('has every figure as it is written by itself', () => {
    const near = fc.oneof(
      fc.double({ min: -5000, max: 5000, noNaN: true }),
      fc.integer({ min: -4_000_000, max: 4_000_000 }).map((steps) => steps / 4096),
      fc.constantFrom(0, -0, 1e-7, -4e-7, 5e-7, -5e-7, 0.1, 99.9999996, -99.9999996, 1000, 1_000_000, 0.000001, -0.00001),
      fc.double(),
    );
    fc.assert(
      fc.property(
        fc.array(fc.tuple(near, near), { maxLength: 40 }),
        fc.boolean(),
        fc.constantFrom(1, 25.4),
        (pairs, closed, per) => {
          const points = pairs.flat();
          expect(runPath(Float64Array.from(points), closed, per)).toBe(written(points, closed, per));
        },
      ),
      { numRuns: 500 },
    );
  });

  it('is as long as it has to be', () => {
    const points = Float64Array.from({ length: 60_000 }, (_, i) => -1234.567891 - i / 7);
    expect(runPath(points, true)).toBe(written([...points], true, 1));
    expect(runPath(new Float64Array(), true)).toBe('Z');
    expect(runPath(Float64Array.of(1, 2), false)).toBe('M1 -2');
  });
});
