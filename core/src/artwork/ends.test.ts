import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { area, type Contour, regularPolygon, snapStroke, snapRing } from '../geometry/index.js';
import { crossings } from './crossings.js';
import { paletteColour, trueColour } from './dxf-colours.js';
import { joinEnds } from './ends.js';
import { Findings } from './findings.js';

const line = (...points: number[]): Contour => Float64Array.from(points);

/** A regular polygon cut into polylines at its corners, some turned round, in any order, each end moved by up to `gap`. */
function pieces(sides: number, seed: number, gap: number): Contour[] {
  const ring = regularPolygon(sides, 100, 'flat');
  const random = (i: number) => Math.abs(Math.sin(seed * 99.7 + i * 12.9898) * 43_758.5453) % 1;
  return Array.from({ length: sides }, (_, i) => {
    const [a, b] = [2 * i, 2 * ((i + 1) % sides)];
    const polyline = [ring[a], ring[a + 1], ring[b] + gap * random(i) * 0.7, ring[b + 1] + gap * random(i + 50) * 0.7];
    return snapStroke(random(i + 9) < 0.5 ? polyline : [polyline[2], polyline[3], polyline[0], polyline[1]]);
  }).sort((p, q) => random(p[0]) - random(q[0]));
}

describe('ends joined', () => {
  it('make a ring of its pieces again, in whatever order and direction they are drawn, over any gap that is allowed', () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 40 }), fc.nat(1000), fc.constantFrom(0, 0.05, 0.2), (sides, seed, gap) => {
        const { rings, open, joints } = joinEnds(pieces(sides, seed, gap), 0.25);
        expect([rings.length, open.length]).toEqual([1, 0]);
        // A regular polygon in a circle of radius r has the area n/2 · r² · sin(2π/n).
        const exact = (sides / 2) * 2500 * Math.sin((2 * Math.PI) / sides);
        expect(Math.abs(Math.abs(area(rings)) / exact - 1)).toBeLessThan(gap === 0 ? 1e-4 : 0.02);
        expect(joints.every((joint) => joint.gap > 0 && joint.gap <= 0.25)).toBe(true);
        if (gap === 0) expect(joints).toEqual([]);
      }),
    );
  });

  it('stay open where they are further apart, and tell their ends', () => {
    const { rings, open, ends } = joinEnds([line(0, 0, 10, 0), line(10.3, 0, 10, 10)], 0.25);
    expect([rings.length, open.length]).toEqual([0, 2]);
    expect(ends).toHaveLength(4);
    expect(joinEnds([line(0, 0, 10, 0), line(10.3, 0, 10, 10)], 0.4).open).toHaveLength(1);
  });

  it('join the nearest first, each end once', () => {
    const { open, joints } = joinEnds([line(0, 0, 10, 0), line(10.1, 0, 20, 0), line(10.02, 0, 10, 20)], 0.2);
    expect(joints.map(({ gap }) => gap)).toEqual([expect.closeTo(0.02, 6)]);
    expect(open).toHaveLength(2);
  });

  it('take the same line once, whichever way it is drawn, and leave out what is only a point', () => {
    const { open, doubles } = joinEnds([line(0, 0, 5, 5, 9, 0), line(9, 0, 5, 5, 0, 0), line(0, 0, 5, 5, 9, 0), line(1, 1)], 0);
    expect([open.length, doubles]).toEqual([1, 3]);
    expect(joinEnds([], 1)).toEqual({ rings: [], open: [], joints: [], ends: [], doubles: 0 });
  });
});

describe('crossings', () => {
  it('of a star polygon {n/2} are as many as it has points (each chord crosses two others)', () => {
    for (const n of [5, 7, 9, 11]) {
      const star = snapRing(Array.from({ length: n }, (_, i) => [50 * Math.cos((4 * Math.PI * i) / n), 50 * Math.sin((4 * Math.PI * i) / n)]).flat()); // prettier-ignore
      const spots = crossings([star], 100);
      expect(spots).toHaveLength(n);
      // They lie on a circle: a chord at distance r·cos(2π/n) from the middle meets its neighbours there.
      const radius = (50 * Math.cos((2 * Math.PI) / n)) / Math.cos(Math.PI / n);
      for (const { x, y } of spots) expect(Math.hypot(x, y)).toBeCloseTo(radius, 2);
    }
  });

  it('of outlines that only touch are none, and no more are told than are asked for', () => {
    const square = (x: number) => line(x, 0, x + 10, 0, x + 10, 10, x, 10);
    expect(crossings([square(0), square(10)], 100)).toEqual([]);
    expect(crossings([square(0), line(5, -5, 15, -5, 15, 5, 5, 5)], 100)).toHaveLength(2);
    expect(crossings([square(0), line(5, -5, 15, -5, 15, 5, 5, 5)], 1)).toHaveLength(1);
  });
});

describe('colours and findings', () => {
  it('of the palette are those that drawings number: plain ones, hues by fifteen degrees, greys', () => {
    expect([1, 2, 3, 4, 5, 6].map(paletteColour)).toEqual(['#ff0000', '#ffff00', '#00ff00', '#00ffff', '#0000ff', '#ff00ff']);
    // Ten numbers a hue from 10 on: red, green and blue stand 80 apart.
    expect([10, 90, 170].map(paletteColour)).toEqual(['#ff0000', '#00ff00', '#0000ff']);
    for (let i = 0; i <= 255; i++) expect(paletteColour(i)).toMatch(/^#[0-9a-f]{6}$/u);
    expect([0x102030, 0].map(trueColour)).toEqual(['#102030', '#000000']);
  });

  it('are gathered by kind, with the greatest figure and no more places than can be shown', () => {
    const findings = new Findings();
    for (let i = 0; i < 500; i++) findings.add('joined', '', { x: i, y: 0 }, i / 1000);
    findings.add('text', 'Fernhollow', { x: NaN, y: 0 });
    const [joined, text] = findings.list();
    expect(joined.sentence).toBe('500 open ends joined over 0.5 mm at most.');
    expect(joined.spots).toHaveLength(200);
    expect(text.spots).toEqual([]);
  });
});
