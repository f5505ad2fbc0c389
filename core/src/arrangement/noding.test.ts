import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { orient2d, PointSet } from '../geometry/index.js';
import { node, type Segments } from './noding.js';

type Line = readonly [number, number, number, number];

function noded(lines: readonly Line[]): { points: PointSet; segments: Segments } {
  const points = new PointSet(4);
  const segments: Segments = { from: [], to: [], tag: [] };
  lines.forEach(([ax, ay, bx, by], tag) => {
    const [a, b] = [points.add(ax, ay), points.add(bx, by)];
    if (a === b) return;
    segments.from.push(a);
    segments.to.push(b);
    segments.tag.push(tag);
  });
  return { points, segments: node(points, segments) };
}

/** Whether two segments meet anywhere but in shared ends (or are the same). */
function crosses(points: PointSet, s: readonly [number, number], t: readonly [number, number]): boolean {
  const { x, y } = points;
  const [a, b] = s;
  const [c, d] = t;
  const isOn = (p: number, [q, r]: readonly [number, number]) =>
    p !== q &&
    p !== r &&
    orient2d(x[q], y[q], x[r], y[r], x[p], y[p]) === 0 &&
    (x[p] - x[q]) * (x[p] - x[r]) <= 0 &&
    (y[p] - y[q]) * (y[p] - y[r]) <= 0;
  if (isOn(a, t) || isOn(b, t) || isOn(c, s) || isOn(d, s)) return true;
  const sides = [
    orient2d(x[a], y[a], x[b], y[b], x[c], y[c]),
    orient2d(x[a], y[a], x[b], y[b], x[d], y[d]),
    orient2d(x[c], y[c], x[d], y[d], x[a], y[a]),
    orient2d(x[c], y[c], x[d], y[d], x[b], y[b]),
  ];
  return sides[0] * sides[1] < 0 && sides[2] * sides[3] < 0;
}

/** Whether a line passes the inside of the grid square about a point (clipped by its sides; Liang and Barsky, ACM Transactions on Graphics 3(1), 1984). */
function isInside([ax, ay, bx, by]: Line, px: number, py: number): boolean {
  const half = 0.5 - 1e-9;
  let [low, high] = [0, 1];
  for (const [from, by1, middle] of [
    [ax, bx - ax, px],
    [ay, by - ay, py],
  ]) {
    if (by1 === 0) {
      if (Math.abs(from - middle) >= half) return false;
      continue;
    }
    const [one, other] = [(middle - half - from) / by1, (middle + half - from) / by1];
    low = Math.max(low, Math.min(one, other));
    high = Math.min(high, Math.max(one, other));
  }
  return high - low > 1e-9;
}

/** The grid point of the place where two lines cross, where they do so inside of both. */
function crossingOf([ax, ay, bx, by]: Line, [cx, cy, dx, dy]: Line): [number, number][] {
  const across = (bx - ax) * (dy - cy) - (by - ay) * (dx - cx);
  if (across === 0) return [];
  const t = ((cx - ax) * (dy - cy) - (cy - ay) * (dx - cx)) / across;
  const u = ((cx - ax) * (by - ay) - (cy - ay) * (bx - ax)) / across;
  if (!(t > 0 && t < 1 && u > 0 && u < 1)) return [];
  const [x, y] = [ax + t * (bx - ax), ay + t * (by - ay)];
  // Just between two squares it is a matter of the last digit.
  const isBetween = [x, y].some((v) => Math.abs(v - Math.floor(v) - 0.5) < 1e-9);
  return isBetween ? [] : [[Math.round(x), Math.round(y)]];
}

describe('node', () => {
  it('splits two crossing segments in their crossing', () => {
    const { points, segments } = noded([
      [0, 0, 10, 10],
      [0, 10, 10, 0],
    ]);
    expect(segments.from).toHaveLength(4);
    expect([...segments.from, ...segments.to].filter((p) => points.x[p] === 5 && points.y[p] === 5)).toHaveLength(4);
    expect(segments.tag.sort()).toEqual([0, 0, 1, 1]);
  });

  it('settles where two segments cross in the corner of four grid squares', () => {
    // The diagonals of one square of the grid: each passes a corner of the squares about the other's ends.
    const { points, segments } = noded([
      [27232, 10534, 27231, 10535],
      [27232, 10535, 27231, 10534],
    ]);
    expect(segments.from).toHaveLength(3);
    expect(points.size).toBe(4);
  });

  it('splits where an end touches and where two run together', () => {
    expect(
      noded([
        [0, 0, 10, 0],
        [4, 0, 4, 9],
      ]).segments.from,
    ).toHaveLength(3);
    expect(
      noded([
        [0, 0, 10, 0],
        [4, 0, 14, 0],
      ]).segments.from,
    ).toHaveLength(4);
    expect(
      noded([
        [0, 0, 10, 0],
        [10, 0, 0, 0],
      ]).segments.from,
    ).toHaveLength(2);
    expect(
      noded([
        [0, 0, 5, 0],
        [5, 0, 2, 0],
      ]).segments.from,
    ).toHaveLength(3);
  });

  it('leaves what does not meet as it is', () => {
    expect(
      noded([
        [0, 0, 10, 0],
        [0, 1, 10, 1],
        [10, 0, 20, 5],
      ]).segments.from,
    ).toHaveLength(3);
    expect(noded([]).segments.from).toEqual([]);
  });

  it('leaves no crossing of any lines, near or far, short or long', () => {
    const near = fc.integer({ min: -12, max: 12 });
    const far = fc.integer({ min: -30_000_000, max: 30_000_000 });
    const line = fc.oneof(fc.tuple(near, near, near, near), fc.tuple(far, far, far, far), fc.tuple(near, far, near, far));
    fc.assert(
      fc.property(fc.array(line, { maxLength: 14 }), (lines) => {
        const { points, segments } = noded(lines);
        const pairs = segments.from.map((from, i) => [from, segments.to[i]] as const);
        for (let i = 0; i < pairs.length; i++)
          for (let j = i + 1; j < pairs.length; j++)
            if (crosses(points, pairs[i], pairs[j])) throw new Error(`${i} and ${j} cross.`);
      }),
      { numRuns: 40 },
    );
  });

  it('leads every segment through the middle of the grid squares that it passes and in which an end or a crossing lies', () => {
    const near = fc.integer({ min: -15, max: 15 });
    fc.assert(
      fc.property(fc.array(fc.tuple(near, near, near, near), { minLength: 2, maxLength: 14 }), (some) => {
        // Where no crossing is rounded nothing is bent: two that cross off the grid see to it.
        const lines: Line[] = [...some, [100, 100, 103, 101], [101, 102, 102, 99]];
        const { points, segments } = noded(lines);
        const { x, y } = points;
        const chains = lines.map(() => new Set<string>());
        segments.tag.forEach((tag, i) => {
          for (const p of [segments.from[i], segments.to[i]]) chains[tag].add(`${x[p]} ${y[p]}`);
        });
        const ends = lines.flatMap(([ax, ay, bx, by]) => [[ax, ay], [bx, by]]); // prettier-ignore
        const crossings = lines.flatMap((one, i) => lines.slice(i + 1).flatMap((other) => crossingOf(one, other)));
        for (const [px, py] of [...ends, ...crossings])
          lines.forEach((line, i) => {
            if (isInside(line, px, py) && chains[i].size > 0 && !chains[i].has(`${px} ${py}`))
              throw new Error(`${line.join(' ')} passes the square of ${px} ${py}.`);
          });
      }),
      { numRuns: 300 },
    );
  });
});

describe('PointSet', () => {
  it('gives every point one number, also when it grows', () => {
    const points = new PointSet(1);
    const numbers = Array.from({ length: 5000 }, (_, i) => points.add(i % 97, Math.floor(i / 97) - 20));
    expect(new Set(numbers).size).toBe(5000);
    expect(numbers.every((number, i) => points.add(i % 97, Math.floor(i / 97) - 20) === number)).toBe(true);
    expect([points.x[numbers[100]], points.y[numbers[100]]]).toEqual([3, -19]);
  });

  it('settles where many segments cross at slight angles, as beside the chords of a fine curve', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2_000, max: 40_000 }),
        fc.integer({ min: 1_000, max: 20_000 }),
        fc.integer({ min: 8, max: 60 }),
        fc.integer({ min: 0, max: 359 }),
        (radius, width, chords, turned) => {
          // Rectangles along the chords of half a circle, as a stroke is made of them.
          const lines: Line[] = [];
          const at = (i: number, r: number): [number, number] => {
            const angle = (Math.PI * i) / chords + turned;
            return [Math.round(r * Math.cos(angle)), Math.round(r * Math.sin(angle))];
          };
          for (let i = 0; i < chords; i++) {
            const [a, b, c, d] = [
              at(i, radius - width),
              at(i, radius + width),
              at(i + 1, radius + width),
              at(i + 1, radius - width),
            ];
            for (const [p, q] of [[a, b], [b, c], [c, d], [d, a]]) lines.push([...p, ...q]); // prettier-ignore
          }
          expect(() => noded(lines)).not.toThrow();
        },
      ),
      { numRuns: 40 },
    );
  });
});
