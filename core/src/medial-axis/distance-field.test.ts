import { beforeAll, describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { ManifoldToplevel } from 'manifold-3d';
import { crossSection, referee } from '../../testing/referee.js';
import { arrange, difference, union, offset, triangulate } from '../arrangement/index.js';
import {
  area,
  circle,
  contains,
  type Contour,
  type Outline,
  rectangle,
  regularPolygon,
  STEPS_PER_MM,
} from '../geometry/index.js';
import { DistanceField } from './distance-field.js';

let m: ManifoldToplevel;
beforeAll(async () => {
  m = await referee();
});

/** Distance of a point from the nearest segment of all, one after the other. */
function bruteForce(outline: Outline, x: number, y: number): number {
  let best = Infinity;
  for (const ring of outline) {
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const [ax, ay, dx, dy] = [ring[j], ring[j + 1], ring[i] - ring[j], ring[i + 1] - ring[j + 1]];
      const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy)));
      best = Math.min(best, Math.hypot(ax + t * dx - x, ay + t * dy - y));
    }
  }
  return best;
}

/** The field as triangles with the distance at their corners: area, volume under the distance, worst error at random places. */
function measured(outline: Outline, maxDistance: number, levels: readonly number[], tolerance = 0.001) {
  const drawn = new DistanceField(outline, maxDistance, tolerance).drawn(levels);
  const inside = (label: number) => label === 1;
  const { edges } = arrange([outline.map((ring) => ring.slice())], (w) => (w.length > 0 ? 1 : 0), {
    segments: drawn.constraints,
    on: inside,
  });
  const { corners } = triangulate(edges, inside);
  const distances = Array.from(edges.x, (x, i) => drawn.distanceOfPoint(x, edges.y[i]));
  let [covered, volume, worst, seed] = [0, 0, 0, 7];
  const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
  for (let t = 0; t < corners.length; t += 3) {
    const [i, j, k] = corners.slice(t, t + 3);
    const [x, y] = [edges.x, edges.y];
    const size = ((x[j] - x[i]) * (y[k] - y[i]) - (y[j] - y[i]) * (x[k] - x[i])) / 2 / STEPS_PER_MM ** 2;
    covered += size;
    volume += (size * (distances[i] + distances[j] + distances[k])) / 3;
    let [u, v] = [random(), random()];
    if (u + v > 1) [u, v] = [1 - u, 1 - v];
    const w = 1 - u - v;
    const at = (values: ArrayLike<number>) => (u * values[i] + v * values[j] + w * values[k]) / STEPS_PER_MM;
    const linear = u * distances[i] + v * distances[j] + w * distances[k];
    worst = Math.max(worst, Math.abs(Math.min(maxDistance, bruteForce(outline, at(x), at(y))) - linear));
  }
  return { covered, volume, worst, drawn };
}

const star = (points: number, outer: number, inner: number): Contour =>
  Float64Array.from(
    Array.from({ length: 2 * points }, (_, i) => {
      const radius = i % 2 ? inner : outer;
      return [radius * Math.cos((Math.PI * i) / points), radius * Math.sin((Math.PI * i) / points)];
    }).flat(),
  );

describe('DistanceField', () => {
  it('is the roof of a square, a rectangle and a disc: A·s/6 for a pyramid, A·h/3 for a cone (textbook)', () => {
    expect(measured([rectangle(10, 10)], 1000, []).volume).toBeCloseTo((100 * 5) / 3, 6);
    // A hipped roof over w × h: h²·(3w − h)/12.
    expect(measured([rectangle(20, 10)], 1000, []).volume).toBeCloseTo((100 * (60 - 10)) / 12, 6);
    const disc = [circle(0, 0, 10)];
    // The inscribed circle of the chords stands for the radius.
    const apothem = 10 * Math.cos(Math.PI / (disc[0].length / 2));
    expect(measured(disc, 1000, []).volume).toBeCloseTo((area(disc) * apothem) / 3, 1);
  });

  it.each([
    ['an L, with an inner corner', [Float64Array.of(0, 0, 10, 0, 10, 4, 4, 4, 4, 10, 0, 10)]],
    ['a star', union([star(5, 20, 7)])],
    ['a polygon of 7 sides', [regularPolygon(7, 30, 'flat')]],
    ['a plate with two holes', difference([rectangle(60, 30, 4)], [circle(-15, 0, 6), circle(12, 3, 9)])],
    ['two plates that touch in a corner', [rectangle(10, 10), Float64Array.of(5, 5, 15, 5, 15, 15, 5, 15)]],
    [
      'a comb with thin teeth',
      union(
        [rectangle(30, 4)],
        ...Array.from({ length: 9 }, (_, i) => [
          Float64Array.of(3 * i - 13, 0, 3 * i - 12.6, 0, 3 * i - 12.6, 12, 3 * i - 13, 12),
        ]),
      ),
    ],
  ] as const)('meets the distance of %s everywhere and covers it once', (_, outline) => {
    const { covered, worst, drawn } = measured(outline, 1000, [0.3, 1]);
    expect(covered).toBeCloseTo(area(outline), 5);
    expect(worst).toBeLessThan(0.003);
    [0.3, 1].forEach((level, i) => {
      const theirs = crossSection(m, outline).offset(-level, 'Round', 2, 2000).area();
      expect(Math.abs(area(drawn.rings[i]) - theirs)).toBeLessThan(0.01 + 0.001 * theirs);
    });
  });

  it('ends at its run', () => {
    const outline = [rectangle(40, 20)];
    const { volume, worst, drawn } = measured(outline, 3, [3]);
    // A frustum-like tray: full height over the inner rectangle.
    expect(area(drawn.rings[0])).toBeCloseTo(34 * 14, 6);
    expect(volume).toBeCloseTo(34 * 14 * 3 + (2 * (34 + 14) * 9) / 2 + (4 * 27) / 3, 4);
    expect(worst).toBeLessThan(1e-6);
    expect(new DistanceField(outline, 3, 0.001).deepest).toBeCloseTo(3, 9);
    expect(new DistanceField(outline, 30, 0.001).deepest).toBeCloseTo(10, 9);
  });

  it('shrinks as offset does, for random joined shapes, and never loses area', () => {
    const piece = fc.record({
      x: fc.integer({ min: -20, max: 20 }),
      y: fc.integer({ min: -20, max: 20 }),
      size: fc.integer({ min: 3, max: 25 }),
      isRound: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(piece, { minLength: 1, maxLength: 5 }), fc.integer({ min: 1, max: 30 }), (pieces, tenths) => {
        const outline = union(
          ...pieces.map(({ x, y, size, isRound }) =>
            isRound
              ? [circle(x * 1.013, y * 0.987, size)]
              : [Float64Array.of(x, y, x + size, y, x + size, y + size / 2, x, y + size / 2)],
          ),
        );
        const level = tenths / 10;
        const { covered, worst, drawn } = measured(outline, 50, [level], 0.002);
        expect(Math.abs(covered - area(outline))).toBeLessThan(1e-4);
        expect(worst).toBeLessThan(0.006);
        expect(Math.abs(area(drawn.rings[0]) - area(offset(outline, -level, 0.001)))).toBeLessThan(0.05 + 0.001 * area(outline));
      }),
      { numRuns: 25, seed: 7 },
    );
  });

  it('answers for any point, and for none', () => {
    const outline = difference([rectangle(30, 20)], [circle(0, 0, 4)]);
    const field = new DistanceField(outline, 6, 0.001);
    for (let i = 0; i < 200; i++) {
      const [x, y] = [((i * 0.618) % 1) * 30 - 15, ((i * 0.755) % 1) * 20 - 10];
      if (contains(outline, x, y)) expect(field.distanceAt(x, y)).toBeCloseTo(Math.min(6, bruteForce(outline, x, y)), 9);
    }
    const empty = new DistanceField([], 5, 0.001);
    expect(empty.deepest).toBe(0);
    expect(empty.distanceAt(1, 1)).toBe(0);
    expect(empty.drawn([1]).constraints).toHaveLength(0);
  });
});
