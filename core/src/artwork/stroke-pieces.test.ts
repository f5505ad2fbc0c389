import { beforeAll, describe, expect, it } from '@jest/globals';
import type { CrossSection, ManifoldToplevel } from 'manifold-3d';
import { Random } from '../../testing/random.js';
import { referee } from '../../testing/referee.js';
import { TURNED_BACK, turnedBy, withoutSpikes } from '../arrangement/index.js';
import { type Outline, perimeter } from '../geometry/index.js';
import { importArtwork } from './artwork.js';

type Point = readonly [number, number];

const JOINS = ['miter', 'round', 'bevel'] as const;
const CAPS = ['butt', 'round', 'square'] as const;

const stroked = (d: string, width: number, join: string, cap: string) =>
  importArtwork(
    'svg',
    `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100"><path d="${d}" fill="none" stroke="#000" stroke-width="${width}" stroke-linejoin="${join}" stroke-linecap="${cap}"/></svg>`,
    { speck: 0 },
  ).colours[0];

/** Corners at which an outline turns back on itself. */
const spikesOf = (outline: Outline): Point[] =>
  outline.flatMap((ring) => {
    const n = ring.length;
    const spikes: Point[] = [];
    for (let i = 0; i < n; i += 2) {
      const [before, after] = [(i + n - 2) % n, (i + 2) % n];
      const degrees = turnedBy(ring[before], ring[before + 1], ring[i], ring[i + 1], ring[after], ring[after + 1]);
      if (degrees > TURNED_BACK) spikes.push([ring[i], ring[i + 1]]);
    }
    return spikes;
  });

/** The area of a stroked polyline of straight edges as SVG 2, chapter 13.5, has it, put together by manifold-3d's cross-sections. */
function referenceArea(m: ManifoldToplevel, points: readonly Point[], width: number, join: string, cap: string): number {
  const r = width / 2;
  const hull = (corners: Point[]): CrossSection => m.CrossSection.hull([[corners.map(([x, y]): [number, number] => [x, y])]]);
  const disc = ([x, y]: Point) => m.CrossSection.circle(r, 720).translate([x, y]);
  const unit = ([ax, ay]: Point, [bx, by]: Point): Point => {
    const length = Math.hypot(bx - ax, by - ay);
    return [(bx - ax) / length, (by - ay) / length];
  };
  const pieces: CrossSection[] = [];
  points.forEach((at, i) => {
    const next = points[i + 1];
    if (!next) return;
    const [ux, uy] = unit(at, next);
    // A square cap goes on by half the width, a round one is a disc.
    const [back, on] = [i === 0, i + 2 === points.length].map((isEnd) => (isEnd && cap === 'square' ? r : 0));
    const [ax, ay, bx, by] = [at[0] - back * ux, at[1] - back * uy, next[0] + on * ux, next[1] + on * uy];
    pieces.push(
      hull([
        [ax - r * uy, ay + r * ux],
        [ax + r * uy, ay - r * ux],
        [bx - r * uy, by + r * ux],
        [bx + r * uy, by - r * ux],
      ]),
    );
    const after = points[i + 2];
    if (!after) return;
    if (join === 'round') return pieces.push(disc(next));
    const [vx, vy] = unit(next, after);
    const side = ux * vy - uy * vx > 0 ? -1 : 1;
    const [p, q]: Point[] = [
      [next[0] - side * r * uy, next[1] + side * r * ux],
      [next[0] - side * r * vy, next[1] + side * r * vx],
    ];
    pieces.push(hull([next, p, q]));
    // The miter is 1/sin(θ/2) widths long, θ the angle between the edges.
    const ratio = 1 / Math.sin(Math.acos(Math.max(-1, Math.min(1, -(ux * vx + uy * vy)))) / 2);
    if (join === 'miter' && ratio <= 4) {
      const [mx, my] = unit(next, [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2]);
      pieces.push(hull([p, q, [next[0] + r * ratio * mx, next[1] + r * ratio * my]]));
    }
  });
  if (cap === 'round') pieces.push(disc(points[0]), disc(points[points.length - 1]));
  return m.CrossSection.union(pieces).area();
}

describe('the area of a drawn line', () => {
  let m: ManifoldToplevel;
  beforeAll(async () => void (m = await referee()));

  it('is that of its edges, joins and caps together, by a general geometry library', () => {
    for (let seed = 1; seed <= 90; seed++) {
      const random = new Random(seed);
      const points = Array.from({ length: random.whole(2, 7) }, (): Point => [random.between(20, 80), random.between(20, 80)]);
      const [width, join, cap] = [10 ** random.between(-1, 1), JOINS[seed % 3], CAPS[Math.floor(seed / 3) % 3]];
      const { areaMm2, outline } = stroked(`M${points.map((point) => point.join(' ')).join('L')}`, width, join, cap);
      const wanted = referenceArea(m, points, width, join, cap);
      // Chords of round joins stray by 5 µm.
      const chords = join === 'round' || cap === 'round' ? 0.005 * Math.PI * width * points.length : 0;
      // Corners are rounded to a grid of 1/8000 mm.
      const grid = perimeter(outline) / 16000;
      expect({ seed, off: Math.max(0, Math.abs(areaMm2 - wanted) - chords - grid - 1e-4 * wanted) }).toEqual({ seed, off: 0 });
      expect([seed, ...spikesOf(outline)]).toEqual([seed]);
    }
  });

  it('has neither spikes nor slits, whatever is drawn', () => {
    for (let seed = 1; seed <= 120; seed++) {
      const random = new Random(seed);
      const c = () => random.between(0, 100).toFixed(random.chance(0.3) ? 0 : 3);
      const steps = Array.from({ length: random.whole(1, 5) }, () =>
        random.pick([
          `L${c()} ${c()}`,
          `C${c()} ${c()} ${c()} ${c()} ${c()} ${c()}`,
          `Q${c()} ${c()} ${c()} ${c()}`,
          `A40 60 0 ${random.whole(0, 1)} ${random.whole(0, 1)} ${c()} ${c()}`,
        ]),
      );
      const d = `M${c()} ${c()}${steps.join('')}${random.chance(0.3) ? 'Z' : ''}`;
      const { outline } = stroked(d, 10 ** random.between(-1, 1), JOINS[seed % 3], CAPS[Math.floor(seed / 3) % 3]);
      expect([seed, ...spikesOf(outline)]).toEqual([seed]);
    }
  });

  it('of a curve has two rings at most, one where it does not close', () => {
    expect(stroked('M20 50C20 20 80 20 80 50', 3, 'round', 'round').outline).toHaveLength(1);
    expect(stroked('M20 50C20 20 80 20 80 50S20 80 20 50Z', 3.2, 'round', 'butt').outline).toHaveLength(2);
  });
});

describe('withoutSpikes', () => {
  it('ends a slit where it is as wide as the tolerance, and a spike likewise', () => {
    // A slit of 8 mm, 0.02 mm wide at its mouth, and the same standing out.
    const slit = Float64Array.from([0, 0, 10, 0, 10, 5, 2, 5.01, 10, 5.02, 10, 10, 0, 10]);
    const [cut] = withoutSpikes([slit], 0.005);
    expect(spikesOf([cut])).toEqual([]);
    expect([...cut].slice(6, 10)).toEqual([4, 5.0075, 4, 5.0125].map((value) => expect.closeTo(value, 3)));
    const spike = Float64Array.from([0, 0, 10, 0, 10, 5, 18, 5.01, 10, 5.02, 10, 10, 0, 10]);
    expect(spikesOf(withoutSpikes([spike], 0.005))).toEqual([]);
    // One that is narrower than the tolerance all the way is gone.
    expect(withoutSpikes([spike], 0.03)[0].length).toBe(12);
  });

  it('leaves everything else as it is', () => {
    const needle = [Float64Array.from([0, 0, 10, 0.1, 0, 0.2])];
    expect(withoutSpikes(needle, 0.005)[0]).toBe(needle[0]);
  });
});
