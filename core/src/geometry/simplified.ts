import { closestShare } from './segment.js';

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
