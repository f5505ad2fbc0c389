import { squareToSegment } from './segment.js';
import { contains, type Outline } from './contour.js';
import { orient2d } from './grid.js';

type Segments = Float64Array;

function segmentsOf(outline: Outline, closed: boolean): Segments {
  const out: number[] = [];
  for (const polyline of outline) {
    const n = polyline.length;
    if (n === 2) out.push(polyline[0], polyline[1], polyline[0], polyline[1]);
    for (let i = closed ? 0 : 2, j = closed ? n - 2 : 0; i < n; j = i, i += 2)
      out.push(polyline[j], polyline[j + 1], polyline[i], polyline[i + 1]);
  }
  return Float64Array.from(out);
}

/** Those of segments whose boxes are no farther from the box around others. */
function segmentsNear(segments: Segments, others: Segments, within: number): Segments {
  if (within === Infinity) return segments;
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < others.length; i += 2) {
    [minX, minY] = [Math.min(minX, others[i] - within), Math.min(minY, others[i + 1] - within)];
    [maxX, maxY] = [Math.max(maxX, others[i] + within), Math.max(maxY, others[i + 1] + within)];
  }
  const near: number[] = [];
  for (let i = 0; i < segments.length; i += 4) {
    const [ax, ay, bx, by] = [segments[i], segments[i + 1], segments[i + 2], segments[i + 3]];
    if (Math.max(ax, bx) >= minX && Math.min(ax, bx) <= maxX && Math.max(ay, by) >= minY && Math.min(ay, by) <= maxY)
      near.push(ax, ay, bx, by);
  }
  return Float64Array.from(near);
}

/** Square of the distance of a point from a segment. */
const reach = (s: Segments, i: number, x: number, y: number): number => squareToSegment(s[i], s[i + 1], s[i + 2], s[i + 3], x, y);

/** What polylines are: areas with an inside, nothing but their closed edges, or open strokes. */
export type Kind = 'areas' | 'edges' | 'strokes';

/**
 * The least distance between two outlines in mm, 0 where they meet or one area lies in the other. Exact for the segments given.
 * @param within mm that are of interest: what is farther apart may be told as Infinity, which takes less time
 */
export function gapBetween(a: Outline, b: Outline, kind: Kind = 'areas', within = Infinity): number {
  if (a.length === 0 || b.length === 0) return Infinity;
  const closed = kind !== 'strokes';
  if (kind === 'areas' && (a.some(([x, y]) => contains(b, x, y)) || b.some(([x, y]) => contains(a, x, y)))) return 0;
  const all = segmentsOf(a, closed);
  const q = segmentsNear(segmentsOf(b, closed), all, within);
  const p = segmentsNear(all, q, within);
  let best = Infinity;
  for (let i = 0; i < p.length; i += 4) {
    const [minX, maxX] = p[i] < p[i + 2] ? [p[i], p[i + 2]] : [p[i + 2], p[i]];
    const [minY, maxY] = p[i + 1] < p[i + 3] ? [p[i + 1], p[i + 3]] : [p[i + 3], p[i + 1]];
    for (let k = 0; k < q.length; k += 4) {
      const across = Math.max(minX - Math.max(q[k], q[k + 2]), Math.min(q[k], q[k + 2]) - maxX, 0);
      if (across * across >= best) continue;
      const up = Math.max(minY - Math.max(q[k + 1], q[k + 3]), Math.min(q[k + 1], q[k + 3]) - maxY, 0);
      if (across * across + up * up >= best) continue;
      if (across === 0 && up === 0 && areCrossed(p, i, q, k)) return 0;
      best = Math.min(
        best,
        reach(p, i, q[k], q[k + 1]),
        reach(p, i, q[k + 2], q[k + 3]),
        reach(q, k, p[i], p[i + 1]),
        reach(q, k, p[i + 2], p[i + 3]),
      );
    }
  }
  return Math.sqrt(best);
}

function areCrossed(p: Segments, i: number, q: Segments, k: number): boolean {
  const side = (s: Segments, at: number, x: number, y: number) => orient2d(s[at], s[at + 1], s[at + 2], s[at + 3], x, y) > 0;
  return (
    side(p, i, q[k], q[k + 1]) !== side(p, i, q[k + 2], q[k + 3]) && side(q, k, p[i], p[i + 1]) !== side(q, k, p[i + 2], p[i + 3])
  );
}
