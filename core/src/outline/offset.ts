import { cut, join } from './combine.js';
import { type Contour, type Outline, snapRun, type Stroke } from './contour.js';
import { CHORD_TOLERANCE } from './grid.js';
import { chordsInCircle } from './shapes.js';

/**
 * How the corners of a grown outline are made: round; mitred, the sides run on until they meet, at most {@link MITRE_LIMIT} times
 * the growth from the corner; or square, cut off across at the distance of the growth, as longer mitres are too.
 */
export type CornerForm = 'round' | 'mitred' | 'square';

/** The longest mitre, in times the growth (4 is what SVG 1.1 sets stroke-miterlimit to, W3C). */
export const MITRE_LIMIT = 4;

/**
 * The outline grown outwards (`by` above 0) or shrunk (`by` below 0). With round corners: every place no further than
 * `by` from the outline, or no nearer than −`by` to its edge; exact but for the chords of the corners.
 */
export function offset(outline: Outline, by: number, tolerance = CHORD_TOLERANCE, corners: CornerForm = 'round'): Outline {
  if (by === 0) return outline;
  const band: Contour[] = [];
  for (const contour of outline) sideBand(contour, true, by, tolerance, band, corners);
  return by > 0 ? join(outline, band) : cut(outline, join(band));
}

/** The area within `width` / 2 of the strokes, with round ends and corners. */
export function strokeArea(strokes: readonly Stroke[], width: number, tolerance = CHORD_TOLERANCE): Outline {
  const pieces: Contour[] = [];
  for (const { points, closed } of strokes) {
    sideBand(points, closed, width / 2, tolerance, pieces);
    sideBand(points, closed, -width / 2, tolerance, pieces);
    if (closed) continue;
    const n = points.length;
    if (n === 2) pieces.push(wedge(points[0], points[1], 0, 2 * Math.PI, width / 2, tolerance));
    if (n < 4) continue;
    const begin = Math.atan2(points[3] - points[1], points[2] - points[0]);
    const end = Math.atan2(points[n - 1] - points[n - 3], points[n - 2] - points[n - 4]);
    pieces.push(wedge(points[0], points[1], begin + Math.PI / 2, Math.PI, width / 2, tolerance));
    pieces.push(wedge(points[n - 2], points[n - 1], end - Math.PI / 2, Math.PI, width / 2, tolerance));
  }
  return join(pieces);
}

/**
 * The band beside a run, to its right for `by` above 0 and to its left below, as overlapping anticlockwise pieces: a
 * rectangle for every edge and a wedge for every corner that opens to that side.
 */
function sideBand(
  run: Float64Array,
  closed: boolean,
  by: number,
  tolerance: number,
  into: Contour[],
  corners: CornerForm = 'round',
): void {
  const n = run.length / 2;
  const edges = closed ? n : n - 1;
  const reach = Math.abs(by);
  for (let i = 0; i < edges; i++) {
    const j = (i + 1) % n;
    const [ax, ay, bx, by_] = [run[2 * i], run[2 * i + 1], run[2 * j], run[2 * j + 1]];
    const length = Math.hypot(bx - ax, by_ - ay);
    if (length === 0) continue;
    // Unit normal to the right of the edge, times the offset.
    const nx = ((by_ - ay) / length) * by;
    const ny = (-(bx - ax) / length) * by;
    const strip =
      by > 0 ? [ax, ay, ax + nx, ay + ny, bx + nx, by_ + ny, bx, by_] : [bx, by_, bx + nx, by_ + ny, ax + nx, ay + ny, ax, ay];
    into.push(snapRun(strip, true));

    if (!closed && j === n - 1) continue;
    const k = (j + 1) % n;
    const turned = Math.atan2(
      (bx - ax) * (run[2 * k + 1] - by_) - (by_ - ay) * (run[2 * k] - bx),
      (bx - ax) * (run[2 * k] - bx) + (by_ - ay) * (run[2 * k + 1] - by_),
    );
    if (by > 0 ? turned <= 0 : turned >= 0) continue;
    const normal = Math.atan2(ny, nx);
    const from = by > 0 ? normal : normal + turned;
    into.push(
      corners === 'round'
        ? wedge(bx, by_, from, Math.abs(turned), reach, tolerance)
        : pointed(bx, by_, from, Math.abs(turned), reach, corners === 'mitred'),
    );
  }
}

/** A corner whose sides run on: until they meet, or to a cut across at the radius where that is asked for or would be too far. */
function pointed(x: number, y: number, from: number, through: number, radius: number, isMitred: boolean): Contour {
  const middle = from + through / 2;
  const at = (angle: number, distance: number) => [x + distance * Math.cos(angle), y + distance * Math.sin(angle)];
  const ends = [at(from, radius), at(from + through, radius)];
  const tip = radius / Math.cos(through / 2);
  if (isMitred && tip <= MITRE_LIMIT * radius && tip > 0)
    return snapRun([x, y, ...ends[0], ...at(middle, tip), ...ends[1]], true);
  // Half of the cut lies as far along as the tangents of a quarter of the turn.
  const aside = through / 4;
  const reach = radius / Math.cos(aside);
  return snapRun([x, y, ...ends[0], ...at(middle - aside, reach), ...at(middle + aside, reach), ...ends[1]], true);
}

/** A piece of a disc about (x, y) from an angle through a sweep, both in radians, anticlockwise. */
function wedge(x: number, y: number, from: number, through: number, radius: number, tolerance: number): Contour {
  const steps = Math.max(1, Math.ceil((chordsInCircle(radius, tolerance) * through) / (2 * Math.PI)));
  const points = [x, y];
  for (let i = 0; i <= steps; i++) {
    const angle = from + (through * i) / steps;
    points.push(x + radius * Math.cos(angle), y + radius * Math.sin(angle));
  }
  return snapRun(points, true);
}
