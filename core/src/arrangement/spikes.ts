import { type Contour, contourArea, degrees, type Outline, radians, snapRing } from '../geometry/index.js';

/** An outline that turns by more than this at a corner, in degrees, turns back on itself. */
export const TURNED_BACK = 179.5;

/** How far a contour turns in the corner between three points, in degrees: 0 where it goes straight on, 180 where it turns back. */
export function turnedBy(px: number, py: number, x: number, y: number, qx: number, qy: number): number {
  const [ux, uy, vx, vy] = [x - px, y - py, qx - x, qy - y];
  return degrees(Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy)));
}

/**
 * An outline without spikes that stand out of it and slits that lead into it, which a cutter would follow there and back: each ends
 * where it is as wide as the tolerance.
 * @param tolerance mm
 */
export function withoutSpikes(outline: Outline, tolerance: number): Outline {
  return outline.map((ring) => blunted(ring, tolerance)).filter((ring) => ring.length >= 6 && contourArea(ring) !== 0);
}

/** Corners that are cut off more than once are rounded down to nothing in time; this many times is enough for any. */
const MOST_CUTS = 1000;

function blunted(ring: Contour, tolerance: number): Contour {
  const points = Array.from({ length: ring.length / 2 }, (_, i) => [ring[2 * i], ring[2 * i + 1]] as const);
  let isChanged = false;
  let cuts = 0;
  for (let i = 0; i < points.length && points.length >= 3 && cuts < MOST_CUTS;) {
    const n = points.length;
    const [p, at, q] = [points[(i + n - 1) % n], points[i], points[(i + 1) % n]];
    if (turnedBy(...p, ...at, ...q) <= TURNED_BACK) {
      i++;
      continue;
    }
    isChanged = true;
    cuts++;
    const [before, after] = [Math.hypot(p[0] - at[0], p[1] - at[1]), Math.hypot(q[0] - at[0], q[1] - at[1])];
    const angle = radians(180 - turnedBy(...p, ...at, ...q));
    const back = tolerance / Math.max(2 * Math.sin(angle / 2), 1e-12);
    // An end is left where it is met on the way.
    const along = ([x, y]: readonly [number, number], length: number) =>
      back < length ? [[at[0] + ((x - at[0]) * back) / length, at[1] + ((y - at[1]) * back) / length] as const] : [];
    const ends = [...along(p, before), ...along(q, after)];
    points.splice(i, 1, ...ends);
    // What stands before it is a corner anew.
    i = Math.max(0, i - 1);
  }
  return isChanged ? snapRing(points.flat()) : ring;
}
