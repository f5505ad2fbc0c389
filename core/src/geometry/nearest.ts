import { closestShare } from './segment.js';
import { radians } from './angle.js';
/** A place on a polyline. */
export interface OnPolyline {
  /** Index of the polyline among those that were asked. */
  readonly polyline: number;
  readonly x: number;
  readonly y: number;
  readonly distance: number;
  /** From the first point along the polyline, in mm, and the whole length of it. */
  readonly along: number;
  readonly length: number;
  /** The polyline turns sharply here. */
  readonly isCorner: boolean;
}

interface Polyline {
  readonly points: ArrayLike<number>;
  readonly closed: boolean;
}

/** The cosine of the turn from which a vertex is a corner and no chord of a curve: 20°. */
const SHARP = Math.cos(radians(20));

/** The place on several polylines that is nearest to (x, y); a corner within reach goes before the edges beside it. */
export function nearestOn(polylines: readonly Polyline[], x: number, y: number, reach: number): OnPolyline | undefined {
  let best: { polyline: number; x: number; y: number; distance: number; along: number; isCorner: boolean } | undefined;
  const lengths: number[] = [];
  polylines.forEach(({ points, closed }, polyline) => {
    const n = points.length / 2;
    const edges = closed ? n : n - 1;
    let along = 0;
    for (let i = 0; i < edges; i++) {
      const [a, b] = [2 * i, 2 * ((i + 1) % n)];
      const [dx, dy] = [points[b] - points[a], points[b + 1] - points[a + 1]];
      const length = Math.hypot(dx, dy);
      const t = closestShare(points[a], points[a + 1], dx, dy, x, y);
      const [px, py] = [points[a] + t * dx, points[a + 1] + t * dy];
      const distance = Math.hypot(px - x, py - y);
      if (distance <= reach && !best?.isCorner && distance < (best?.distance ?? Infinity))
        best = { polyline, x: px, y: py, distance, along: along + t * length, isCorner: false };
      const toCorner = Math.hypot(points[a] - x, points[a + 1] - y);
      if (toCorner <= reach && (!best?.isCorner || toCorner < best.distance) && isCorner(points, i, n, closed))
        best = { polyline, x: points[a], y: points[a + 1], distance: toCorner, along, isCorner: true };
      along += length;
    }
    // The end of an open polyline is a corner, too.
    if (!closed && n > 0) {
      const toEnd = Math.hypot(points[2 * n - 2] - x, points[2 * n - 1] - y);
      if (toEnd <= reach && (!best?.isCorner || toEnd < best.distance))
        best = { polyline, x: points[2 * n - 2], y: points[2 * n - 1], distance: toEnd, along, isCorner: true };
    }
    lengths.push(along);
  });
  return best && { ...best, length: lengths[best.polyline] };
}

function isCorner(points: ArrayLike<number>, i: number, n: number, closed: boolean): boolean {
  if (!closed && i === 0) return true;
  const [a, b, c] = [2 * ((i - 1 + n) % n), 2 * i, 2 * ((i + 1) % n)];
  const [ux, uy] = [points[b] - points[a], points[b + 1] - points[a + 1]];
  const [vx, vy] = [points[c] - points[b], points[c + 1] - points[b + 1]];
  const reach = Math.hypot(ux, uy) * Math.hypot(vx, vy);
  return reach > 0 && (ux * vx + uy * vy) / reach < SHARP;
}
