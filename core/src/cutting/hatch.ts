import { bounds, type Contour, type Outline } from '../geometry/index.js';
import { Border } from './border.js';

/** A stretch of a straight line within a region, in the turned plan: at a height, from left to right. */
interface Interval {
  readonly y: number;
  readonly left: number;
  readonly right: number;
}

/**
 * Straight lines over a region, to and fro, as polylines of which each is gone along without leaving the region.
 * @param angle of the lines from level, in degrees
 * @param step mm from line to line at most
 */
export function hatched(region: Outline, angle: number, step: number): Contour[] {
  const turn = (angle * Math.PI) / 180;
  const level = region.map((ring) => turnedBy(ring, -turn));
  const box = bounds(level);
  if (!box) return [];
  const border = new Border(level);
  const count = Math.max(1, Math.ceil((box.maxY - box.minY) / step));
  const rows = Array.from({ length: count }, (_, i) =>
    intervalsAt(level, box.minY + ((i + 0.5) * (box.maxY - box.minY)) / count),
  );
  const isDone = new Set<Interval>();
  const lines: Contour[] = [];
  rows.forEach((row, first) => {
    for (const begin of row) {
      if (isDone.has(begin)) continue;
      const points: number[] = [];
      let isForth = true;
      for (let at = first, next: Interval | undefined = begin; next;) {
        isDone.add(next);
        const { y, left, right } = next;
        points.push(...(isForth ? [left, y, right, y] : [right, y, left, y]));
        isForth = !isForth;
        const [x0, y0] = points.slice(-2);
        next = rows[++at]?.find((each) => !isDone.has(each) && border.isWithin(x0, y0, isForth ? each.left : each.right, each.y));
      }
      lines.push(turnedBy(Float64Array.from(points), turn));
    }
  });
  return lines;
}

/** Where a level line lies within a region. */
function intervalsAt(region: Outline, y: number): Interval[] {
  const crossings: number[] = [];
  for (const ring of region)
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const [y0, y1] = [ring[j + 1], ring[i + 1]];
      if (y0 > y !== y1 > y) crossings.push(ring[j] + ((y - y0) / (y1 - y0)) * (ring[i] - ring[j]));
    }
  crossings.sort((a, b) => a - b);
  const out: Interval[] = [];
  for (let i = 0; i + 1 < crossings.length; i += 2) out.push({ y, left: crossings[i], right: crossings[i + 1] });
  return out;
}

function turnedBy(points: Contour, angle: number): Contour {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const out = new Float64Array(points.length);
  for (let i = 0; i < points.length; i += 2) {
    out[i] = points[i] * cos - points[i + 1] * sin;
    out[i + 1] = points[i] * sin + points[i + 1] * cos;
  }
  return out;
}
