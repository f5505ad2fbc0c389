import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { type Edge } from '../../sign/index.js';
import { edgeProfile, exactRise, growthOf } from './edge-form.js';
import { higher, lower, HeightProfile } from './height-profile.js';

const EDGES: readonly Edge[] = [
  { kind: 'sloped', angle: 10, sized: 'foot' },
  { kind: 'sloped', angle: 60, sized: 'top' },
  { kind: 'rounded', radius: 1.5 },
  { kind: 'chamfered', width: 2, height: 1 },
  { kind: 'cove', radius: 3 },
  { kind: 'ridged', angle: 90, capped: true },
  { kind: 'ridged', angle: 60, capped: false },
];

describe('the edge forms', () => {
  it('rise as their names say', () => {
    // A slope of α over height h moves the edge h·tan α (textbook).
    expect(edgeProfile(EDGES[0], 2).run).toBeCloseTo(2 * Math.tan(Math.PI / 18), 12);
    // A groove of included angle θ and width w is (w/2)/tan(θ/2) deep.
    expect(edgeProfile(EDGES[6], 2).at(3 / 2)).toBeCloseTo(1.5 / Math.tan(Math.PI / 6), 9);
    expect(edgeProfile(EDGES[5], 2).end).toBe(2);
    expect(edgeProfile(EDGES[3], 4)).toEqual(new HeightProfile([0, 2], [3, 4]));
    expect(edgeProfile(undefined, 4).isLevel).toBe(true);
    expect(edgeProfile(EDGES[0], 0).isLevel).toBe(true);
  });

  it.each(EDGES)('%o follows its exact form, and never falls', (edge) => {
    for (const amount of [0.4, 2, 7]) {
      const profile = edgeProfile(edge, amount);
      expect(profile.start).toBeCloseTo(exactRise(edge, amount, 0), 12);
      let before = -Infinity;
      for (let i = 0; i <= 2000; i++) {
        const d = (i / 2000) * Math.min(8, profile.run * 1.1);
        const z = profile.at(d);
        expect(z).toBeGreaterThanOrEqual(before - 1e-12);
        before = z;
        // Within the tolerance aside or upwards.
        const [low, high] = [exactRise(edge, amount, Math.max(0, d - 0.009)), exactRise(edge, amount, d + 0.009)];
        expect(z).toBeGreaterThan(low - 0.009);
        expect(z).toBeLessThan(high + 0.009);
      }
    }
  });

  it('strays from a quarter circle by as much to either side, and by no more than 0.008 mm', () => {
    for (const radius of [0.02, 0.1, 0.4, 1, 3.3, 20, 200]) {
      for (const [kind, x, y] of [
        ['rounded', radius, 1],
        ['cove', 0, radius + 1],
      ] as const) {
        // prettier-ignore
        const { distances, heights } = edgeProfile({ kind, radius }, radius + 1);
        let [inside, outside] = [0, 0];
        for (let i = 1; i < distances.length; i++) {
          for (let t = 0; t <= 1; t += 1 / 64) {
            const [d, z] = [
              distances[i - 1] + t * (distances[i] - distances[i - 1]),
              heights[i - 1] + t * (heights[i] - heights[i - 1]),
            ];
            const off = Math.hypot(d - x, z - y) - radius;
            [inside, outside] = [Math.max(inside, -off), Math.max(outside, off)];
          }
        }
        expect([radius, kind, inside < 0.00805, outside < 0.00805]).toEqual([radius, kind, true, true]);
        if (radius >= 0.1) expect(Math.abs(inside - outside)).toBeLessThan(0.001);
        // The area between circle and chords: without corners outside it would be 2/3 of the sagitta along the arc.
        const area = distances
          .slice(1)
          .reduce((sum, d, i) => sum + ((heights[i] + heights[i + 1]) / 2 - 1) * (d - distances[i]), 0);
        const exact = (kind === 'rounded' ? Math.PI / 4 : 1 - Math.PI / 4) * radius ** 2;
        if (radius >= 1) expect(Math.abs(area - exact)).toBeLessThan(0.003 * (Math.PI / 2) * radius);
      }
    }
  });

  it('begins its foot outside where it is sized by its other end', () => {
    expect(growthOf(EDGES[1], 2, false)).toBeCloseTo(2 * Math.tan(Math.PI / 3), 12);
    expect(growthOf(EDGES[0], 2, false)).toBe(0);
    // A carve is widest at its top.
    expect(growthOf(EDGES[1], 2, true)).toBe(0);
    expect(growthOf(EDGES[0], 2, true)).toBeGreaterThan(0);
    expect(growthOf(EDGES[2], 2, true)).toBe(0);
  });
});

const hundredths = (min: number, max: number) => fc.integer({ min, max }).map((n) => n / 100);

describe('Ramp', () => {
  const profile = fc
    .array(fc.tuple(hundredths(10, 500), hundredths(-900, 900)), {
      minLength: 1,
      maxLength: 6,
    })
    .map((steps) => {
      let d = 0;
      const distances = [0, ...steps.slice(1).map(([step]) => (d += step))];
      return new HeightProfile(
        distances,
        steps.map(([, z]) => z),
      );
    });

  it('is the higher or the lower of two everywhere', () => {
    fc.assert(
      fc.property(profile, profile, (a, b) => {
        const [top, bottom] = [higher(a, b), lower(a, b)];
        for (let d = 0; d < 30; d += 0.37) {
          expect(top.at(d)).toBeCloseTo(Math.max(a.at(d), b.at(d)), 6);
          expect(bottom.at(d)).toBeCloseTo(Math.min(a.at(d), b.at(d)), 6);
        }
        expect(higher(a, a).key).toBe(higher(higher(a, a), a).key);
      }),
    );
  });

  it('knows where it comes to a height', () => {
    const slope = new HeightProfile([0, 2, 4], [0, 3, 4]);
    expect(slope.reaches(1.5)).toBe(1);
    expect(slope.reaches(3.5)).toBe(3);
    expect(slope.reaches(5)).toBeUndefined();
    expect(slope.at(-1)).toBe(0);
    expect(slope.at(99)).toBe(4);
    expect(slope.steepest).toBe(1.5);
  });
});
