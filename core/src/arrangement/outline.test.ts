import { beforeAll, describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { ManifoldToplevel } from 'manifold-3d';
import { crossSection, referee } from '../../testing/referee.js';
import {
  area,
  bounds,
  chordsInCircle,
  circle,
  type Contour,
  contains,
  contourArea,
  CoordinateError,
  flatten,
  LARGEST_MM,
  perimeter,
  placement,
  placePolyline,
  polygonsOf,
  readPathData,
  rectangle,
  reversed,
  snap,
  snapRing,
} from '../geometry/index.js';
import { areasByLabel, arrange, type Arrangement, visitEdges } from './arrangement.js';
import { difference, union, intersection } from './combine.js';
import { ContourSet } from './contour-set.js';
import { offset, strokeArea } from './offset.js';
import { ringsOf } from './rings.js';

let m: ManifoldToplevel;
beforeAll(async () => {
  m = await referee();
});

/** A regular polygon of n sides of length a, about the origin. */
function regular(n: number, a: number): Contour {
  const r = a / (2 * Math.sin(Math.PI / n));
  return snapRing(
    Array.from({ length: n }, (_, i) => [r * Math.cos((2 * Math.PI * i) / n), r * Math.sin((2 * Math.PI * i) / n)]).flat(),
  );
}

describe('measures', () => {
  it('gives the textbook area of a regular octagon: 2(1+√2)a²', () => {
    expect(contourArea(regular(8, 10))).toBeCloseTo(2 * (1 + Math.SQRT2) * 100, 1);
    expect(perimeter([regular(8, 10)])).toBeCloseTo(80, 2);
    // Across flats (1+√2)a, with flats level: turned by an eighth of the angle between corners.
    const turned = placePolyline(regular(8, 10), placement({ turn: 22.5 }));
    const box = bounds([turned])!;
    expect(box.maxX - box.minX).toBeCloseTo((1 + Math.SQRT2) * 10, 2);
  });

  it('gives the textbook area of a stadium: w·h + πh²/4', () => {
    const outline = [rectangle(60, 20, 10, 'rounded', 0.0005)];
    expect(area(outline)).toBeCloseTo(40 * 20 + (Math.PI * 400) / 4, 1);
  });

  it('takes holes off and knows inside from outside', () => {
    const ring = difference([circle(0, 0, 10)], [circle(0, 0, 5)]);
    expect(ring).toHaveLength(2);
    expect(area(ring)).toBeCloseTo(area([circle(0, 0, 10)]) - area([circle(0, 0, 5)]), 6);
    expect(contains(ring, 7, 0)).toBe(true);
    expect(contains(ring, 0, 0)).toBe(false);
    expect(contains(ring, 11, 0)).toBe(false);
  });

  it('keeps a circle within the chord tolerance', () => {
    for (const [r, tolerance] of [
      [5, 0.02],
      [300, 0.02],
      [0.4, 0.001],
    ]) {
      const n = chordsInCircle(r, tolerance);
      expect(r * (1 - Math.cos(Math.PI / n))).toBeLessThanOrEqual(tolerance);
    }
  });
});

describe('flatten', () => {
  it('stays within the tolerance of the curve', () => {
    // A quarter circle as a cubic, which strays from the circle by 0.027 % of the radius (textbook).
    const k = 0.5522847498;
    const path = readPathData(`M100,0 C100,${100 * k} ${100 * k},100 0,100`);
    for (const tolerance of [1, 0.1, 0.02]) {
      const [{ points }] = flatten(path, tolerance);
      for (let i = 0; i + 3 < points.length; i += 2) {
        const middle = Math.hypot((points[i] + points[i + 2]) / 2, (points[i + 1] + points[i + 3]) / 2);
        expect(Math.abs(middle - 100)).toBeLessThanOrEqual(tolerance + 0.028);
      }
    }
  });

  it('reads relative commands, shorthands and arcs as SVG 1.1 has them (8.3.2 to 8.3.8), with y up', () => {
    expect(readPathData('m1 2h10v5l-3 1z')).toEqual(readPathData('M1 2H11V7L8 8Z'));
    expect(readPathData('M0 0c1 2 3 4 5 6s2 2 4 4')).toEqual(readPathData('M0 0C1 2 3 4 5 6C7 8 7 8 9 10'));
    expect(readPathData('M0 0Q1 2 3 0T6 0')).toEqual(readPathData('M0 0Q1 2 3 0Q5 -2 6 0'));
    // A half circle from (10, 0) anticlockwise over the top to (−10, 0), and the whole circle.
    const half = flatten(readPathData('M10 0A10 10 0 0 1 -10 0'), 0.001)[0].points;
    for (let i = 0; i < half.length; i += 2) {
      expect(Math.hypot(half[i], half[i + 1])).toBeCloseTo(10, 2);
      expect(half[i + 1]).toBeGreaterThan(-1e-6);
    }
    const circle = flatten(readPathData('M10 0a10 10 0 0 1-20 0a10 10 0 0 1 20 0z'), 0.001)[0].points;
    expect(area([Float64Array.from(circle)])).toBeCloseTo(100 * Math.PI, 0);
  });

  it('refuses commands it does not know and tolerances that are none', () => {
    expect(() => readPathData('M0,0 B1,1')).toThrow('Path command “B”');
    expect(() => readPathData('M0,0 A1,1')).toThrow('cannot be read: missed param');
    expect(() => readPathData('M0')).toThrow('needs 2 numbers');
    expect(() => flatten([], 0)).toThrow('not above 0');
  });
});

const ringOf = (reach: number) =>
  fc
    .array(fc.tuple(fc.double({ min: -reach, max: reach, noNaN: true }), fc.double({ min: -reach, max: reach, noNaN: true })), {
      minLength: 3,
      maxLength: 10,
    })
    .map((points) => snapRing(points.flat()));

describe('join, cut, keep common', () => {
  it('agree with manifold-3d on any rings', () => {
    const rings = fc.array(ringOf(20), { minLength: 1, maxLength: 3 });
    fc.assert(
      fc.property(rings, rings, (a, b) => {
        const [p, q] = [crossSection(m, a), crossSection(m, b)];
        const pairs: [number, number][] = [
          [area(union(a, b)), p.add(q).area()],
          [area(difference(a, b)), p.subtract(q).area()],
          [area(intersection(a, b)), p.intersect(q).area()],
        ];
        // manifold-3d drops slivers up to about 0.02 mm wide, which ours keeps.
        const most = 0.02 * perimeter([...a, ...b]);
        for (const [ours, theirs] of pairs) expect(Math.abs(ours - theirs)).toBeLessThan(most + 1e-6);
      }),
      { numRuns: 150 },
    );
  });

  it('obey |A| + |B| = |A∪B| + |A∩B| exactly where nothing is rounded', () => {
    const box = fc
      .tuple(
        fc.integer({ min: -40, max: 40 }),
        fc.integer({ min: -40, max: 40 }),
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 40 }),
      )
      .map(([x, y, w, h]) => placePolyline(rectangle(w, h), placement({ x: x / 2, y: y / 2 })));
    fc.assert(
      fc.property(box, box, (a, b) => {
        expect(area(union([a], [b])) + area(intersection([a], [b]))).toBeCloseTo(area([a]) + area([b]), 9);
      }),
    );
  });

  it('keep islands, whichever way the rings are drawn', () => {
    const o = [circle(0, 0, 10), reversed(circle(0, 0, 6))];
    expect(area(union(o))).toBeCloseTo(area([circle(0, 0, 10)]) - area([circle(0, 0, 6)]), 9);
    expect(polygonsOf(union(o, [circle(0, 0, 2)]))).toHaveLength(2);
    const withIsland = polygonsOf(union(o));
    expect(withIsland).toHaveLength(1);
    expect(withIsland[0].holes).toHaveLength(1);
  });

  it('give simple rings where corners touch', () => {
    const rings = union([rectangle(10, 10)], [placePolyline(rectangle(10, 10), placement({ x: 10, y: 10 }))]);
    expect(rings).toHaveLength(2);
    for (const ring of rings) expect(contourArea(ring)).toBeCloseTo(100, 9);
  });

  it('leave nothing of nothing', () => {
    expect(union([])).toEqual([]);
    expect(difference([rectangle(5, 5)], [rectangle(9, 9)])).toEqual([]);
    expect(union([Float64Array.of(0, 0, 5, 5, 0, 0)])).toEqual([]);
  });
});

describe('offset', () => {
  it('grows a convex outline by Steiner’s formula: A + P·r + π·r²', () => {
    for (const outline of [[rectangle(60, 25)], [regular(8, 12)], [regular(3, 40)]]) {
      const [a, p] = [area(outline), perimeter(outline)];
      for (const r of [0.5, 3, 11]) {
        const grown = area(offset(outline, r, 0.0005));
        expect(Math.abs(grown - (a + p * r + Math.PI * r * r))).toBeLessThan(0.002 * p + 0.01);
      }
    }
  });

  it('shrinks a rectangle to the rectangle inside', () => {
    expect(area(offset([rectangle(60, 25)], -5))).toBeCloseTo(50 * 15, 6);
    expect(offset([rectangle(60, 25)], -13)).toEqual([]);
  });

  it('agrees with manifold-3d on rings with holes', () => {
    fc.assert(
      fc.property(ringOf(20), fc.constantFrom(-2, -0.5, 0.5, 3), (ring, by) => {
        const outline = difference([ring], [circle(0, 0, 3)]);
        fc.pre(outline.length > 0);
        const theirs = crossSection(m, outline).offset(by, 'Round', 2, 256).area();
        const ours = area(offset(outline, by, 0.002));
        expect(Math.abs(ours - theirs)).toBeLessThan(0.005 * perimeter(outline) + 0.05);
      }),
      { numRuns: 60 },
    );
  });

  it('is kept inside by growing and shrinking again', () => {
    const outline = [rectangle(30, 12)];
    const back = offset(offset(outline, 2, 0.001), -2, 0.001);
    expect(area(back)).toBeCloseTo(area(outline), 1);
  });
});

describe('strokeArea', () => {
  it('is a stadium around a straight stroke: w·h + πh²/4', () => {
    const band = strokeArea([{ points: Float64Array.of(-20, 0, 20, 0), closed: false }], 6, 0.0005);
    expect(area(band)).toBeCloseTo(40 * 6 + (Math.PI * 36) / 4, 1);
  });

  it('is a ring around a closed stroke: its length times its width', () => {
    const ring = circle(0, 0, 20, 0.0005);
    const band = strokeArea([{ points: ring, closed: true }], 3, 0.0005);
    expect(area(band)).toBeCloseTo(2 * Math.PI * 20 * 3, 0);
    expect(polygonsOf(band)[0].holes).toHaveLength(1);
  });
});

describe('the grid', () => {
  it('refuses what lies outside it', () => {
    expect(() => snap(LARGEST_MM + 1)).toThrow(CoordinateError);
    expect(() => snap(Number.NaN)).toThrow(CoordinateError);
    expect(snap(0.1)).toBeCloseTo(0.1, 3);
  });

  it('holds three decimals of a millimetre and 64ths of an inch as they are', () => {
    fc.assert(
      fc.property(fc.integer({ min: -4_000_000, max: 4_000_000 }), (n) => {
        expect(snap(n / 1000)).toBe(n / 1000);
        expect(snap((n % 8000) * 0.396875)).toBeCloseTo((n % 8000) * 0.396875, 12);
      }),
    );
  });
});

describe('arrange', () => {
  it('labels every place by what covers it', () => {
    const plan = arrange([[rectangle(100, 100)], [circle(20, 0, 40)]], (w) =>
      w.length === 0 ? 0 : w.length === 4 ? 3 : w[0] + 1,
    );
    const both = area(ringsOf(plan, (label) => label === 3));
    expect(both).toBeCloseTo(area(intersection([rectangle(100, 100)], [circle(20, 0, 40)])), 9);
    expect(area(ringsOf(plan, (label) => label > 0))).toBeCloseTo(area(union([rectangle(100, 100)], [circle(20, 0, 40)])), 9);
  });

  /** Every edge by its ends and labels, as the two ways of reading a plan give them. */
  const edgesOf = (plan: Arrangement): string[] => {
    const { x, y, lo, hi, left, right } = plan.edges;
    const all = Array.from(lo, (_, e) => `${[x[lo[e]], y[lo[e]], x[hi[e]], y[hi[e]], left[e], right[e]].join()}`).sort();
    const visited: string[] = [];
    visitEdges(plan, () => true, (ax, ay, bx, by, l, r) => {
      const isUp = ay < by || (ay === by && ax < bx);
      visited.push((isUp ? [ax, ay, bx, by, l, r] : [bx, by, ax, ay, r, l]).join());
    }); // prettier-ignore
    expect(visited.sort()).toEqual(all);
    return all;
  };

  it('gives the same plan whether glyphs are known as such or not', () => {
    const ring = (x: number): Contour[] => [circle(x, 0, 6), reversed(circle(x, 0, 3))];
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -40, max: 40 }), { maxLength: 6 }), fc.boolean(), (places, hasBand) => {
        const label = (w: readonly number[]) => (w.length === 0 ? 0 : w.length / 2 + 10 * w[0]);
        const build = (isKnown: boolean) => {
          const rings = places.map((x) => ring(x));
          return arrange(
            [[rectangle(90, 40)], isKnown ? ContourSet.of(rings) : rings.flat(), hasBand ? [rectangle(20, 3)] : []],
            label,
          );
        };
        const [known, plain] = [build(true), build(false)];
        const labels = areasByLabel(plain);
        expect([...areasByLabel(known).keys()].sort()).toEqual([...labels.keys()].sort());
        for (const [label, size] of labels) {
          expect(areasByLabel(known).get(label)).toBeCloseTo(size, 9);
          expect(area(ringsOf(known, (other) => other === label))).toBeCloseTo(size, 9);
        }
        expect(edgesOf(known)).toEqual(edgesOf(plain));
      }),
    );
  });

  it('takes a thousand crossing lines in any direction', () => {
    const star = Array.from({ length: 41 }, (_, i) => {
      const angle = (2 * Math.PI * i * 20) / 41;
      return [100 * Math.cos(angle), 100 * Math.sin(angle)];
    }).flat();
    const ring = snapRing(star);
    expect(Math.abs(area(union([ring])) - crossSection(m, [ring]).area())).toBeLessThan(0.05);
  });
});

describe('circles', () => {
  it('keep their area to a thousandth where they are small, and their width exactly', () => {
    for (const diameter of [0.5, 1, 6.35, 7, 12, 19.9]) {
      const ring = circle(0, 0, diameter / 2);
      const wanted = (Math.PI * diameter * diameter) / 4;
      expect(Math.abs(area([ring]) / wanted - 1)).toBeLessThan(1e-3);
      expect(Math.max(...ring)).toBeCloseTo(diameter / 2, 3);
    }
  });
});
