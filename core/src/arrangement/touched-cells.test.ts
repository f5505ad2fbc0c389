import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { arrange } from './arrangement.js';
import { type Contour, STEPS_PER_MM, toStep } from '../geometry/index.js';
import { TouchedCells } from './touched-cells.js';

const box = (x: number, y: number, width: number, height: number): Contour =>
  Float64Array.of(x, y, x + width, y, x + width, y + height, x, y + height);

/** How often a ring winds around a point: the turns of the look from there, by definition. */
function windsAround(ring: Contour, x: number, y: number): number {
  let turned = 0;
  for (let i = 0; i < ring.length; i += 2) {
    const j = (i + 2) % ring.length;
    const [ax, ay, bx, by] = [ring[i] - x, ring[i + 1] - y, ring[j] - x, ring[j + 1] - y];
    turned += Math.atan2(ax * by - ay * bx, ax * bx + ay * by);
  }
  return Math.round(turned / (2 * Math.PI)) + 0;
}

/** The cells of boxes on a plate of 200 × 120 mm. */
function cellsOf(boxes: readonly Contour[]): TouchedCells {
  const { edges } = arrange([[box(-100, -60, 200, 120)], boxes], (windings) =>
    windings.some((v, i) => i % 2 === 0 && v === 1) ? 1 : 0,
  );
  return new TouchedCells(edges, (label) => label === 1);
}

const places = fc.array(
  fc.tuple(fc.integer({ min: -90, max: 70 }), fc.integer({ min: -50, max: 30 }), fc.integer({ min: 1, max: 20 })),
  {
    minLength: 1,
    maxLength: 6,
  },
);

describe('TouchedCells', () => {
  it('tell nothing to lie apart that touches a place', () => {
    fc.assert(
      fc.property(places, fc.integer({ min: -100, max: 95 }), fc.integer({ min: -60, max: 55 }), (chosen, x, y) => {
        const cells = cellsOf(chosen.map(([left, low, size]) => box(left, low, size, size)));
        const touches = chosen.some(([l, b, s]) => x <= l + s && x + 5 >= l && y <= b + s && y + 5 >= b);
        const told = cells.touches(toStep(x), toStep(y), toStep(x + 5), toStep(y + 5));
        expect(told || !touches).toBe(true);
        // What is farther than two cells away is told to be.
        const isFar = chosen.every(([l, b, s]) => x > l + s + 1 || x + 5 < l - 1 || y > b + s + 1 || y + 5 < b - 1);
        expect(told && isFar).toBe(false);
      }),
    );
  });

  it('keep segments that touch', () => {
    const cells = cellsOf([box(0, 0, 10, 10)]);
    const segments = Int32Array.from([-5, 5, 15, 5, 20, 20, 40, 40, -5, -5, 5, 5].map((mm) => mm * STEPS_PER_MM));
    expect([...cells.touching(segments)].map((step) => step / STEPS_PER_MM)).toEqual([-5, 5, 15, 5, -5, -5, 5, 5]);
  });

  it('shorten rings that wind as often around every place as before', () => {
    const walk = fc.array(fc.tuple(fc.integer({ min: -95, max: 95 }), fc.integer({ min: -55, max: 55 })), {
      minLength: 3,
      maxLength: 40,
    });
    fc.assert(
      fc.property(places, walk, (chosen, points) => {
        const cells = cellsOf(chosen.map(([left, low, size]) => box(left, low, size, size)));
        const ring = Float64Array.from(points.flat());
        const short = cells.shortened(ring);
        for (const [left, low, size] of chosen) {
          // Places that no ring of whole mm runs through.
          const [x, y] = [left + size / 2 + 0.123, low + size / 2 + 0.0717];
          expect(short ? windsAround(short, x, y) : 0).toBe(windsAround(ring, x, y));
        }
      }),
      { numRuns: 300 },
    );
  });

  it('take nearly all points from what lies apart', () => {
    const circle = Float64Array.from({ length: 2000 }, (_, i) => {
      const angle = (Math.floor(i / 2) / 1000) * 2 * Math.PI;
      return 50 * (i % 2 === 0 ? Math.cos(angle) : Math.sin(angle));
    });
    // Around a place in its middle a few corners stay, around one on its edge those that lie there.
    expect(cellsOf([box(-1, -1, 2, 2)]).shortened(circle)!.length / 2).toBeLessThan(20);
    const beside = cellsOf([box(49, -1, 2, 2)]).shortened(circle)!.length / 2;
    expect(beside).toBeGreaterThan(6);
    expect(beside).toBeLessThan(60);
    expect(cellsOf([box(60, -55, 20, 20)]).shortened(circle)).toBeUndefined();
  });
});
