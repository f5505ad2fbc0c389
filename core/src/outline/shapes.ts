import { type Contour, snapRun } from './contour.js';
import { CHORD_TOLERANCE } from './grid.js';

/** Chords in a full circle of the given radius that stray by no more than the tolerance: 2π / (2·acos(1 − t/r)). */
export function chordsInCircle(radius: number, tolerance = CHORD_TOLERANCE): number {
  if (radius <= tolerance) return 8;
  return Math.max(8, Math.ceil(Math.PI / Math.acos(1 - tolerance / radius) / 4) * 4);
}

/** A circle about (x, y), anticlockwise, as chords that share its quarter points. */
export function circle(x: number, y: number, radius: number, tolerance = CHORD_TOLERANCE): Contour {
  const n = chordsInCircle(radius, tolerance);
  const points = new Float64Array(2 * n);
  for (let i = 0; i < n; i++) {
    const angle = (2 * Math.PI * i) / n;
    points[2 * i] = x + radius * Math.cos(angle);
    points[2 * i + 1] = y + radius * Math.sin(angle);
  }
  return snapRun(points, true);
}

/**
 * A rectangle about the origin with rounded corners, anticlockwise. A radius past half the shorter side becomes that half.
 */
export function rectangle(width: number, height: number, cornerRadius = 0, tolerance = CHORD_TOLERANCE): Contour {
  const r = Math.min(Math.max(cornerRadius, 0), width / 2, height / 2);
  const w = width / 2 - r;
  const h = height / 2 - r;
  const points: number[] = [];
  const steps = r > 0 ? chordsInCircle(r, tolerance) / 4 : 0;
  for (const [cx, cy, from] of [
    [w, h, 0],
    [-w, h, 1],
    [-w, -h, 2],
    [w, -h, 3],
  ]) {
    for (let i = 0; i <= steps; i++) {
      const angle = (Math.PI / 2) * (from + (steps === 0 ? 0 : i / steps));
      points.push(cx + r * Math.cos(angle), cy + r * Math.sin(angle));
    }
  }
  return snapRun(points, true);
}
