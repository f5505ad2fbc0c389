import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { rectangle } from '../geometry/index.js';
import { Loop, passHeights, RAMP, rampInto } from './toolpath.js';

describe('a loop', () => {
  it('is gone along by all of its corners, from anywhere to anywhere', () => {
    const loop = new Loop(rectangle(10, 10));
    const side = 10;
    fc.assert(
      fc.property(fc.double({ min: -40, max: 40, noNaN: true }), fc.double({ min: 0, max: 70, noNaN: true }), (from, way) => {
        const points = loop.between(from, from + way, (along) => along);
        const corners: number[] = [];
        for (let k = Math.ceil(from / side - 1e-9); k * side < from + way - 1e-9; k++)
          if (k * side > from + 1e-9) corners.push(k * side);
        const heights = [...points].filter((_, i) => i % 3 === 2);
        expect(heights).toHaveLength(corners.length + 1);
        [...corners, from + way].forEach((along, i) => expect(heights[i]).toBeCloseTo(along, 6));
        // It stays on the ring.
        for (let i = 0; i < points.length; i += 3) {
          const [x, y] = loop.at(points[i + 2]);
          expect(Math.hypot(x - points[i], y - points[i + 1])).toBeLessThan(1e-6);
        }
      }),
      { numRuns: 200 },
    );
  });

  it('takes further places along it in their order', () => {
    const loop = new Loop(rectangle(10, 10));
    const points = loop.between(5, 45, (along) => along, [12, 3]);
    expect([...points].filter((_, i) => i % 3 === 2)).toEqual([10, 12, 20, 30, 40, 43, 45]);
  });

  it('is ramped into along itself, so that the ramp ends where it begins', () => {
    const loop = new Loop(rectangle(20, 10));
    const { x, y, stretch } = rampInto(loop, 1, 0);
    const [bx, by] = loop.at(-1 / RAMP);
    expect([x, y]).toEqual([bx, by]);
    expect(stretch.pace).toBe('ramp');
    expect([...stretch.points.slice(-3)]).toEqual([...loop.at(0), 0]);
    // Every place of it is one of the ring, also behind corners.
    for (let i = 0; i < stretch.points.length; i += 3) {
      const [px, py] = [stretch.points[i], stretch.points[i + 1]];
      expect(Math.min(Math.abs(Math.abs(px) - 10), Math.abs(Math.abs(py) - 5))).toBeLessThan(1e-9);
    }
  });
});

describe('passes', () => {
  it('are alike and none deeper than may be', () => {
    expect(passHeights(0, -5, 2)).toEqual([-5 / 3, -10 / 3, -5]);
    expect(passHeights(0, -4, 2)).toEqual([-2, -4]);
    expect(passHeights(1, 1, 2)).toEqual([1]);
  });
});
