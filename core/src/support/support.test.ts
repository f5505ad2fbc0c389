import { describe, expect, it } from '@jest/globals';
import { Random } from '../../testing/random.js';
import { TENT } from '../../testing/round-signs.js';
import { arcPiece, curvePlace, EllipseCurve, PieceCurve, straightPiece } from '../geometry/index.js';
import { bendAllowance, type Support, unrolledCone } from '../sign/index.js';
import { surfaceOfSupport } from './index.js';

const at = (support: Support, x: number, y: number, z: number, thickness = 5): number[] => {
  const out = new Float64Array(3);
  surfaceOfSupport(support, thickness).place(x, y, z, out, 0);
  return [...out];
};

const SUPPORTS: Readonly<Record<string, Support>> = {
  'a cylinder': { kind: 'cylinder', radius: 60, facing: 'outside' },
  'the inside of a cylinder': { kind: 'cylinder', radius: 300, facing: 'inside' },
  'a level cylinder': { kind: 'cylinder', radius: 80, facing: 'outside', axis: 'level' },
  'a cone that grows narrower': { kind: 'cone', bottom: 120, top: 80, height: 200, facing: 'outside' },
  'a cup': { kind: 'cone', bottom: 30, top: 45, height: 100, facing: 'outside' },
  'the inside of a cup': { kind: 'cone', bottom: 130, top: 145, height: 100, facing: 'inside' },
  'a bent sheet': {
    kind: 'bent',
    neutral: 40,
    pieces: [
      { kind: 'straight', length: 40 },
      { kind: 'arc', radius: 10, angle: 60, bends: 'away' },
      { kind: 'straight', length: 30 },
      { kind: 'arc', radius: 100, angle: 30, bends: 'towards' },
    ],
  },
  'a desk': {
    kind: 'swept',
    line: { kind: 'ellipse', width: 2400, depth: 600, bends: 'away' },
    profile: [{ kind: 'arc', radius: 1500, angle: 20, bends: 'away' }],
    stretch: 3,
  },
  'a hollow wall': {
    kind: 'swept',
    line: { kind: 'ellipse', width: 3000, depth: 500, bends: 'towards' },
    profile: [],
    stretch: 3,
  },
  'a dome': { kind: 'dome', radius: 200, facing: 'outside', stretch: 3 },
  'a bowl': { kind: 'dome', radius: 200, facing: 'inside', stretch: 3 },
};

describe('where a plan is in space', () => {
  it.each(Object.entries(SUPPORTS))(
    'on %s begins in its middle, facing the reader, and is raised along its normal',
    (_, support) => {
      expect(at(support, 0, 0, 0).map((v) => Math.abs(v) < 1e-9)).toEqual([true, true, true]);
      const surface = surfaceOfSupport(support, 5);
      const random = new Random(7);
      const [normal, p, q] = [new Float64Array(3), new Float64Array(3), new Float64Array(3)];
      for (let i = 0; i < 200; i++) {
        const [x, y, z] = [random.between(-60, 60), random.between(-40, 40), random.between(-5, 5)];
        surface.normal(x, y, normal, 0);
        expect(Math.hypot(...normal)).toBeCloseTo(1, 9);
        surface.place(x, y, 0, p, 0);
        surface.place(x, y, z, q, 0);
        for (let k = 0; k < 3; k++) expect(q[k]).toBeCloseTo(p[k] + z * normal[k], 8);
        // Its stretches are the singular values of the derivative of the map, and it is not turned over.
        const [along, up] = [difference(surface, x, y, z, 1e-4, 0), difference(surface, x, y, z, 0, 1e-4)];
        const [e, f, g] = [dot(along, along), dot(along, up), dot(up, up)];
        const [mean, apart] = [(e + g) / 2, Math.hypot((e - g) / 2, f)];
        const told = [...surface.stretch(x, y, z)].sort((a, b) => a - b);
        expect(told[0]).toBeCloseTo(Math.sqrt(mean - apart), 5);
        expect(told[1]).toBeCloseTo(Math.sqrt(mean + apart), 5);
        expect(dot(cross(along, up), [...normal])).toBeGreaterThan(0);
      }
    },
  );

  it('lies R·θ round a cylinder (arc length), and is (R + h)/R as long at h above it', () => {
    const [x, y, z] = at(SUPPORTS['a cylinder'], (60 * Math.PI) / 2, 12, 3);
    expect([x, y, z].map((v) => Number(v.toFixed(9)))).toEqual([63, 12, -60]);
    expect(surfaceOfSupport(SUPPORTS['a cylinder'], 5).stretch(10, 0, 3)).toEqual([63 / 60, 1]);
  });

  it('unrolls a cone to a sector of 2π·sin α whose radii are slant heights (worked by hand: 3, 4, 5)', () => {
    // Half of the apex angle has the sine 3/5: a cone 60 wide and 40 high below its apex, cut off half-way up.
    const unrolled = unrolledCone({ bottom: 30, top: 15, height: 20 });
    expect(unrolled.angle).toBeCloseTo(2 * Math.PI * 0.6, 12);
    expect([unrolled.inner, unrolled.outer, unrolled.slant].map((v) => Number(v.toFixed(9)))).toEqual([25, 50, 25]);
    expect(unrolled.isApexAbove).toBe(true);
    // What is level stays level: a circle about the apex is a circle about the axis.
    const cone: Support = { kind: 'cone', bottom: 30, top: 15, height: 20, facing: 'outside' };
    for (const turn of [-0.5, -0.2, 0.3, 0.9]) {
      const [x, y, z] = at(cone, 40 * Math.sin(turn), unrolled.middle - 40 * Math.cos(turn), 0);
      expect(y).toBeCloseTo((unrolled.middle - 40) * 0.8, 9);
      expect(Math.hypot(x, z + 22.5)).toBeCloseTo(24, 9);
    }
  });

  it('gives bends their length in the flat: angle · (inside radius + K · thickness)', () => {
    // Common practice, no source: K from 0.33 in tight bends to 0.5 in wide ones. A right angle of 3 mm inside in 2 mm sheet, K 0.4: 5.969 mm.
    expect(bendAllowance(3, 90, 2, 40)).toBeCloseTo(5.969, 3);
    const half = bendAllowance(3, 90, 2, 40) / 2;
    const surface = surfaceOfSupport(TENT, 2);
    expect(surface.stretch(0, 0, 0)[0]).toBeCloseTo(5 / 3.8, 12);
    expect(surface.stretch(half + 1, 0, 0)).toEqual([1, 1]);
    // Both legs stand square to each other, and the inside has the radius 3.
    const [a, b] = [at(TENT, half, 0, 0, 2), at(TENT, half + 100, 0, 0, 2)];
    expect(b[0] - a[0]).toBeCloseTo(100 * Math.SQRT1_2, 9);
    expect(a[2] - b[2]).toBeCloseTo(100 * Math.SQRT1_2, 9);
    const [left, right] = [at(TENT, -half, 0, -2, 2), at(TENT, half, 0, -2, 2)];
    expect(Math.hypot(right[0] - left[0], right[2] - left[2])).toBeCloseTo(3 * Math.SQRT2, 9);
  });

  it('measures ellipses by complete elliptic integrals of the second kind (Abramowitz and Stegun, table 17.1)', () => {
    // E(m) for m = 1 − b²/a²: a quarter of an ellipse with the semi-axis 1 is as long as that.
    const published = [
      [0.5, 1.350643881],
      [0.75, 1.2110560276],
      [0.9, 1.1047747327],
    ] as const;
    for (const [m, quarter] of published) {
      const b = Math.sqrt(1 - m);
      expect(new EllipseCurve(100, 100 * b, 'away').to / 100).toBeCloseTo(quarter, 8);
      expect(new EllipseCurve(100 * b, 100, 'towards').to / 100).toBeCloseTo(quarter, 8);
    }
    // A circle, and the curvature a/b² at its vertex.
    expect(new EllipseCurve(50, 50, 'away').to).toBeCloseTo(25 * Math.PI, 9);
    const place = curvePlace();
    new EllipseCurve(100, 40, 'away').at(0, place);
    expect(place.bend).toBeCloseTo(40 / 100 ** 2, 12);
  });

  it('goes along a curve by its length', () => {
    const curves = [
      new EllipseCurve(120, 50, 'away'),
      new EllipseCurve(80, 150, 'towards'),
      new PieceCurve([straightPiece(20), arcPiece(30, 80, 'away'), arcPiece(50, 40, 'towards'), straightPiece(5)], 33),
    ];
    const [a, b] = [curvePlace(), curvePlace()];
    for (const curve of curves) {
      for (let s = curve.from - 10; s < curve.to + 10; s += 0.37) {
        curve.at(s, a);
        curve.at(s + 1e-3, b);
        expect(Math.hypot(b.across - a.across, b.out - a.out)).toBeCloseTo(1e-3, 7);
        expect(Math.atan2(b.out - a.out, b.across - a.across)).toBeCloseTo((a.turned + b.turned) / 2, 4);
      }
    }
  });

  it('says of a dome sin θ / θ for what lies θ from its middle', () => {
    const [round, out] = surfaceOfSupport(SUPPORTS['a dome'], 5).stretch(100, 0, 0);
    expect(round).toBeCloseTo(Math.sin(0.5) / 0.5, 12);
    expect(out).toBe(1);
  });
});

type V = readonly number[];
const dot = (a: V, b: V): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: V, b: V): V => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];

function difference(surface: ReturnType<typeof surfaceOfSupport>, x: number, y: number, z: number, dx: number, dy: number): V {
  const [p, q] = [new Float64Array(3), new Float64Array(3)];
  surface.place(x - dx / 2, y - dy / 2, z, p, 0);
  surface.place(x + dx / 2, y + dy / 2, z, q, 0);
  return [...q].map((v, k) => (v - p[k]) / (dx + dy));
}
