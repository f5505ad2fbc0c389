import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { Area } from '../../../testing/brute-area.js';
import { offset, union } from '../../arrangement/index.js';
import { area, circle, type Contour, contourArea, rectangle, STEPS_PER_MM } from '../../geometry/index.js';
import { DistanceField, GrowthField } from '../../medial-axis/index.js';
import { type Parted } from './graded.js';
import { GradedLetter } from './slope-mesh.js';

const letterOf = (outline: readonly Contour[], run = 64): GradedLetter =>
  new GradedLetter(new DistanceField(outline, run, 0.001));

/** Area in mm² of the triangles of which all corners are at least so far from the edge. */
function areaBeyond({ x, y, distances, corners }: Parted, level: number): number {
  let twice = 0;
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [corners[t], corners[t + 1], corners[t + 2]];
    if (Math.min(distances[a], distances[b], distances[c]) < level - 1e-9) continue;
    twice += (x[b] - x[a]) * (y[c] - y[a]) - (y[b] - y[a]) * (x[c] - x[a]);
  }
  return twice / 2 / STEPS_PER_MM ** 2;
}

describe('triangles parted at distances from the edge', () => {
  it('leave a square what its inset leaves, and the ring around that (textbook)', () => {
    const letter = letterOf([rectangle(20, 20)]);
    for (const level of [0.5, 3, 9.5]) {
      const parted = letter.at([level]);
      expect(areaBeyond(parted, level)).toBeCloseTo((20 - 2 * level) ** 2, 3);
      expect(areaBeyond(parted, 0)).toBeCloseTo(400, 3);
      expect(area(parted.rings[0])).toBeCloseTo((20 - 2 * level) ** 2, 3);
      for (const d of parted.distances) expect(d).toBeLessThanOrEqual(10 + 1e-6);
    }
  });

  it('have no triangle that reaches over a line, whatever the outline and the lines (property)', () => {
    const hole = (r: number): Contour => circle(1, 1, r).map((v) => v);
    const outlines = fc.record({
      r: fc.double({ min: 0.8, max: 4, noNaN: true }),
      w: fc.double({ min: 14, max: 30, noNaN: true }),
    });
    const lines = fc.uniqueArray(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 2 });
    fc.assert(
      fc.property(outlines, lines, ({ r, w }, list) => {
        const ring = hole(r);
        // The hole runs the other way round.
        const outline = [
          rectangle(w, 12),
          Float64Array.from({ length: ring.length }, (_, i) => ring[ring.length - 2 - (i - (i % 2)) + (i % 2)]),
        ];
        const snapped = outline.map((contour) => contour.map((v) => Math.round(v * STEPS_PER_MM) / STEPS_PER_MM));
        const levels = list.sort((a, b) => a - b).map((n) => n / 10);
        const letter = letterOf(snapped);
        const parted = letter.at(levels);
        expect(areaBeyond(parted, 0)).toBeCloseTo(area(snapped), 2);
        for (let t = 0; t < parted.corners.length; t += 3) {
          const d = [0, 1, 2].map((k) => parted.distances[parted.corners[t + k]]);
          // Corners nearer than 0.004 mm may have been drawn together where triangles were too thin.
          for (const level of levels) expect(Math.min(...d) < level - 0.004 && Math.max(...d) > level + 0.004).toBe(false);
        }
        levels.forEach((level, i) => {
          if (level >= letter.deepest) return;
          const inset = area(offset(snapped, -level));
          // An inset of round corners runs in chords of 0.02 mm.
          expect(Math.abs(area(parted.rings[i]) - inset)).toBeLessThan(0.02 * 2 * (w + 12) + 0.5);
          // Slivers are taken out by parts of a thousandth of a millimetre along the line.
          expect(Math.abs(areaBeyond(parted, level) - area(parted.rings[i]))).toBeLessThan(0.0005 * 2 * (w + 12));
        });
      }),
      { numRuns: 40 },
    );
  });

  it('are the same drawn between many lines as cut at few', () => {
    const letter = letterOf([rectangle(30, 9)]);
    const [cut, drawn] = [letter.at([1, 2]), letter.at([1, 2, 3])];
    for (const level of [1, 2]) {
      expect(areaBeyond(cut, level)).toBeCloseTo(areaBeyond(drawn, level), 3);
      expect(area(cut.rings[level - 1])).toBeCloseTo(area(drawn.rings[level - 1]), 3);
    }
    expect(letter.at([1, 2])).toBe(cut);
    expect(letter.at([]).isWhole).toBe(true);
    expect(letter.deepest).toBeCloseTo(4.5, 3);
    for (const ring of cut.rings.flat()) expect(contourArea(ring)).toBeGreaterThan(0);
  });
});

describe('lines of equal distance alone', () => {
  it('are those between which triangles are parted, whatever the outline (property)', () => {
    const sizes = fc.record({
      w: fc.integer({ min: 12, max: 30 }),
      h: fc.integer({ min: 8, max: 20 }),
      r: fc.integer({ min: 1, max: 3 }),
      x: fc.integer({ min: -2, max: 2 }),
    });
    fc.assert(
      fc.property(
        sizes,
        fc.uniqueArray(fc.integer({ min: 1, max: 60 }), { minLength: 1, maxLength: 9 }),
        ({ w, h, r, x }, list) => {
          const hole = circle(x, 0, r);
          const turned = Float64Array.from({ length: hole.length }, (_, i) => hole[hole.length - 2 - (i - (i % 2)) + (i % 2)]);
          const outline = [rectangle(w, h), turned].map((ring) => ring.map((v) => Math.round(v * STEPS_PER_MM) / STEPS_PER_MM));
          const letter = letterOf(outline);
          const levels = list
            .sort((a, b) => a - b)
            .map((n) => n / 10 + 0.013)
            .filter((level) => level < letter.deepest);
          letter.linesAt(levels).forEach((rings, k) => {
            // The parting by triangles has the same line; an inset of round corners runs in chords of 0.02 mm.
            expect(Math.abs(area(rings) - area(offset(outline, -levels[k])))).toBeLessThan(0.02 * 2 * (w + h));
            expect(Math.abs(area(rings) - area(letter.at([levels[k]]).rings[0]))).toBeLessThan(0.005);
            // The farther places lie on the left.
            expect(rings.reduce((sum, ring) => sum + contourArea(ring), 0)).toBeGreaterThan(0);
          });
        },
      ),
      { numRuns: 40 },
    );
  });

  it('run through corners that lie on them', () => {
    const letter = letterOf([rectangle(20, 20)]);
    const half = letter.linesAt([5])[0];
    expect(half).toHaveLength(1);
    expect(area(half)).toBeCloseTo(100, 6);
    expect(letter.linesAt([9.9999])[0].length).toBeLessThanOrEqual(1);
  });
});

describe('triangles of what leans outwards', () => {
  /** The distance over the triangle that a place lies in, as its corners have it. */
  function distanceOver({ x, y, distances, corners }: Parted, px: number, py: number): number {
    const [qx, qy] = [px * STEPS_PER_MM, py * STEPS_PER_MM];
    for (let t = 0; t < corners.length; t += 3) {
      const [a, b, c] = [corners[t], corners[t + 1], corners[t + 2]];
      const side = (i: number, j: number): number => (x[j] - x[i]) * (qy - y[i]) - (y[j] - y[i]) * (qx - x[i]);
      const shares = [side(b, c), side(c, a), side(a, b)];
      if (shares.some((share) => share < 0)) continue;
      const whole = shares[0] + shares[1] + shares[2];
      return (shares[0] * distances[a] + shares[1] * distances[b] + shares[2] * distances[c]) / whole;
    }
    return NaN;
  }

  it('have the borders of where a mitre is first again behind something small', () => {
    // The tip of the square's mitre runs √2 times as fast as it grows, and comes out behind the post.
    const inner = [rectangle(20, 20), circle(11, 11.2, 0.3)];
    const run = 9;
    const outline = union(offset(inner, run, undefined, 'mitred'));
    const field = new GrowthField(outline, inner, run, 0.001);
    const parted = new GradedLetter(field).at([]);
    const brute = new Area(
      inner.map((ring) => Array.from({ length: ring.length / 2 }, (_, i) => [ring[2 * i], ring[2 * i + 1]] as const)),
    );
    let seen = 0;
    for (let i = 0; i < 40; i++)
      for (let j = 0; j < 40; j++) {
        const [x, y] = [10.013 + (i * 8.9) / 40, 10.017 + (j * 8.9) / 40];
        const exact = brute.contains(x, y) ? run : run - brute.mitredGrowth(x, y);
        if (!(exact > 0)) continue;
        seen++;
        expect(distanceOver(parted, x, y)).toBeCloseTo(exact, 2);
      }
    expect(seen).toBeGreaterThan(1000);
  });
});
