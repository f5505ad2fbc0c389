import { STEPS_PER_MM } from './grid.js';
import { closestShare, squareToSegment } from './segment.js';

/** A closed line with fewer points, none of those left out further than `stray` from it (Douglas and Peucker, 1973). */
export function simplified(line: ArrayLike<number>, stray: number): number[] {
  const n = line.length / 2;
  if (n < 4) return Array.from(line);
  // It is halved at the point furthest from the first.
  let far = 0;
  let farthest = 0;
  for (let i = 1; i < n; i++) {
    const d = Math.hypot(line[2 * i] - line[0], line[2 * i + 1] - line[1]);
    if (d > farthest) [far, farthest] = [i, d];
  }
  const keep = new Uint8Array(n);
  keep[0] = keep[far] = 1;
  const spans: [number, number][] = [[0, far], [far, n]]; // prettier-ignore
  for (let span = spans.pop(); span; span = spans.pop()) {
    const [from, to] = span;
    const [ax, ay, b] = [line[2 * from], line[2 * from + 1], to % n];
    const [dx, dy] = [line[2 * b] - ax, line[2 * b + 1] - ay];
    let worst = -1;
    let most = stray;
    for (let i = from + 1; i < to; i++) {
      const [x, y] = [line[2 * i] - ax, line[2 * i + 1] - ay];
      const along = closestShare(0, 0, dx, dy, x, y);
      const d = Math.hypot(x - along * dx, y - along * dy);
      if (d > most) [worst, most] = [i, d];
    }
    if (worst < 0) continue;
    keep[worst] = 1;
    spans.push([from, worst], [worst, to]);
  }
  const out: number[] = [];
  for (let i = 0; i < n; i++) if (keep[i]) out.push(line[2 * i], line[2 * i + 1]);
  return out;
}

/** mm off a straight line that points on it may be by being snapped to the grid. */
const ON_LINE = 1 / STEPS_PER_MM;

/**
 * A ring by its corners alone: without points that lie on the straight way between others, beginning at the leftmost of them, the lowest
 * where there are several. So the same ring elsewhere has the same points in the same order.
 */
export function cornersOf(ring: ArrayLike<number>): Float64Array {
  let first = 0;
  for (let i = 2; i < ring.length; i += 2)
    if (ring[i] < ring[first] || (ring[i] === ring[first] && ring[i + 1] < ring[first + 1])) first = i;
  const out: number[] = [ring[first], ring[first + 1]];
  // Each between the corner before it and the point after it: halving a ring would keep points of sides that lie along a diagonal.
  for (let i = 2; i < ring.length; i += 2) {
    const [at, next] = [(first + i) % ring.length, (first + i + 2) % ring.length];
    const [ax, ay] = [out[out.length - 2], out[out.length - 1]];
    if (squareToSegment(ax, ay, ring[next], ring[next + 1], ring[at], ring[at + 1]) > ON_LINE * ON_LINE)
      out.push(ring[at], ring[at + 1]);
  }
  return Float64Array.from(out);
}
