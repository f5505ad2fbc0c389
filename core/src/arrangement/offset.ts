import { arrange } from './arrangement.js';
import { difference, union } from './combine.js';
import {
  bounds,
  type Contour,
  contourArea,
  type Outline,
  perimeter,
  reversed,
  snapRing,
  type Stroke,
  CHORD_TOLERANCE,
  chordsInCircle,
} from '../geometry/index.js';
import { ringsOf } from './rings.js';

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
 *
 * Every ring is drawn once at the distance, around the corners that open to that side and by way of the corner itself at the others.
 * How often that ring winds around a place is how often the outline does, and once more (less) for every strip beside an edge and every
 * fan about a corner that covers the place: what is wanted are the places where that is above 0.
 * @param outline rings that do not cross, outer ones anticlockwise
 */
export function offset(outline: Outline, by: number, tolerance = CHORD_TOLERANCE, corners: CornerForm = 'round'): Outline {
  if (by === 0) return outline;
  const edges = outline.map((points) => ({ points, closed: true }));
  if (corners === 'round' && isWide(edges, Math.abs(by))) {
    const band = strokeArea(edges, 2 * Math.abs(by), tolerance);
    return by > 0 ? union(outline, band) : difference(outline, band);
  }
  return covered(
    outline.flatMap((ring) => {
      // Nothing is left of an outer ring that is narrower than what is taken from both sides.
      if (by < 0 && contourArea(ring) > 0 && narrowest(ring) <= -2 * by) return [];
      return [snapRing(sideOf(ring, true, by, tolerance, corners))];
    }),
  );
}

/**
 * A grown outline without holes, or a shrunk one without pieces, that are narrower than the tolerance: chords of round corners leave such in places
 * that circles would just cover.
 */
export function withoutSliverRings(outline: Outline, by: number, tolerance = CHORD_TOLERANCE): Outline {
  // Twice its area by its perimeter is no less than the radius of the largest circle in a ring that is convex.
  const isSliver = (ring: Contour): boolean =>
    contourArea(ring) > 0 !== by > 0 && 2 * Math.abs(contourArea(ring)) < tolerance * perimeter([ring]);
  return outline.some(isSliver) ? outline.filter((ring) => !isSliver(ring)) : outline;
}

function narrowest(ring: Contour): number {
  const { minX, minY, maxX, maxY } = bounds([ring])!;
  return Math.min(maxX - minX, maxY - minY);
}

/** The area within `width` / 2 of the strokes, with round ends and corners. */
export function strokeArea(strokes: readonly Stroke[], width: number, tolerance = CHORD_TOLERANCE): Outline {
  const radius = width / 2;
  if (isWide(strokes, radius)) {
    const pieces = strokes.flatMap(inShortRuns).map((polyline) => strokeRings([polyline], radius, tolerance));
    return joinedByPairs(pieces.map(covered));
  }
  return covered(strokeRings(strokes, radius, tolerance));
}

/** Edges in a short polyline. */
const SHORT_RUN = 6;
/** Strokes this many times as wide as their edges are long cover each of their places many times over. */
const WIDE = 8;

/** Whether strokes are so wide that each short polyline of them is better worked out first: drawn as one, nearly all edges would cross. */
function isWide(strokes: readonly Stroke[], radius: number): boolean {
  let [count, length] = [0, 0];
  for (const { points } of strokes) {
    for (let i = 2; i < points.length; i += 2) {
      count++;
      length += Math.hypot(points[i] - points[i - 2], points[i + 1] - points[i - 1]);
    }
  }
  return count > 4 * SHORT_RUN && radius * count > WIDE * length;
}

/** A stroke as open polylines of a few edges, each from the end of the one before. */
function inShortRuns({ points, closed }: Stroke): Stroke[] {
  const polyline = withoutRepeats(points, closed);
  const whole = closed ? [...polyline, polyline[0], polyline[1]] : [...polyline];
  const out: Stroke[] = [];
  for (let from = 0; from + 2 < whole.length; from += 2 * SHORT_RUN)
    out.push({ points: Float64Array.from(whole.slice(from, from + 2 * SHORT_RUN + 2)), closed: false });
  return out.length > 0 ? out : [{ points: polyline, closed: false }];
}

/** Everything that any of the outlines covers, joined by pairs of neighbours, then those by pairs, and so on. */
export function joinedByPairs(outlines: readonly Outline[]): Outline {
  let level = outlines;
  while (level.length > 1)
    level = Array.from({ length: Math.ceil(level.length / 2) }, (_, i) =>
      2 * i + 1 < level.length ? union(level[2 * i], level[2 * i + 1]) : level[2 * i],
    );
  return level[0] ?? [];
}

/** Rings that wind around the area of strokes. */
function strokeRings(strokes: readonly Stroke[], radius: number, tolerance: number): Contour[] {
  const rings: Contour[] = [];
  for (const { points, closed } of strokes) {
    const polyline = withoutRepeats(points, closed);
    const n = polyline.length;
    if (n === 2) {
      rings.push(snapRing(fan(polyline[0], polyline[1], 0, 2 * Math.PI, radius, tolerance)));
      continue;
    }
    if (n < 4) continue;
    const right = sideOf(polyline, closed, radius, tolerance, 'round');
    const left = [...reversed(Float64Array.from(sideOf(polyline, closed, -radius, tolerance, 'round')))];
    if (closed) {
      rings.push(snapRing(right), snapRing(left));
      continue;
    }
    const end = Math.atan2(polyline[n - 1] - polyline[n - 3], polyline[n - 2] - polyline[n - 4]) - Math.PI / 2;
    const begin = Math.atan2(polyline[3] - polyline[1], polyline[2] - polyline[0]) + Math.PI / 2;
    const cap = (x: number, y: number, from: number) => fan(x, y, from, Math.PI, radius, tolerance);
    rings.push(
      snapRing([...right, ...cap(polyline[n - 2], polyline[n - 1], end), ...left, ...cap(polyline[0], polyline[1], begin)]),
    );
  }
  return rings;
}

/** What rings wind around anticlockwise, all together. */
export const covered = (rings: readonly Contour[]): Outline =>
  ringsOf(
    arrange([rings], (windings) => (windings.length > 0 && windings[1] > 0 ? 1 : 0)),
    (label) => label === 1,
  );

/** A polyline without points that repeat the one before them. */
export function withoutRepeats(polyline: Float64Array, closed: boolean): Float64Array {
  const out: number[] = [];
  for (let i = 0; i < polyline.length; i += 2)
    if (out.length === 0 || out[out.length - 2] !== polyline[i] || out[out.length - 1] !== polyline[i + 1])
      out.push(polyline[i], polyline[i + 1]);
  if (closed) while (out.length > 2 && out[0] === out[out.length - 2] && out[1] === out[out.length - 1]) out.length -= 2;
  return Float64Array.from(out);
}

/**
 * A polyline at a distance, to its right for `by` above 0 and to its left below: along every edge, around the corners that open to that side,
 * and by way of the corner itself at the others.
 */
function sideOf(points: Float64Array, closed: boolean, by: number, tolerance: number, corners: CornerForm): number[] {
  const polyline = withoutRepeats(points, closed);
  const n = polyline.length / 2;
  const edges = n < 2 ? 0 : closed ? n : n - 1;
  const out: number[] = [];
  /** Whether the next edge begins where the last one ended. */
  let isMet = false;
  for (let i = 0; i < edges; i++) {
    const j = (i + 1) % n;
    const [ax, ay, bx, by_] = [polyline[2 * i], polyline[2 * i + 1], polyline[2 * j], polyline[2 * j + 1]];
    const length = Math.hypot(bx - ax, by_ - ay);
    // Unit normal to the right of the edge, times the offset.
    const nx = ((by_ - ay) / length) * by;
    const ny = (-(bx - ax) / length) * by;
    if (!isMet) out.push(ax + nx, ay + ny);
    out.push(bx + nx, by_ + ny);
    isMet = false;

    if (!closed && j === n - 1) continue;
    const k = (j + 1) % n;
    const [cx, cy] = [polyline[2 * k] - bx, polyline[2 * k + 1] - by_];
    const cross = (bx - ax) * cy - (by_ - ay) * cx;
    const dot = (bx - ax) * cx + (by_ - ay) * cy;
    if (cross === 0 && dot > 0) continue;
    if (cross * by < 0) {
      // Where both edges cover what lies between them the sides may as well end where they meet.
      const turned = Math.abs(Math.atan2(cross, dot));
      const reach = Math.abs(by) * Math.max(Math.tan(turned / 2), Math.sin(turned));
      if (dot > 0 && reach < Math.min(length, Math.hypot(cx, cy))) {
        const back = (Math.abs(by) * Math.tan(turned / 2)) / length;
        out.splice(-2, 2, bx + nx - back * (bx - ax), by_ + ny - back * (by_ - ay));
        isMet = true;
      } else out.push(bx, by_);
      continue;
    }
    // One that turns back on itself opens to either side.
    const turned = Math.sign(by) * Math.abs(Math.atan2(cross, dot));
    const normal = Math.atan2(ny, nx);
    const around =
      corners === 'round'
        ? fan(bx, by_, normal, turned, Math.abs(by), tolerance)
        : pointed(bx, by_, normal, turned, Math.abs(by), corners === 'mitred');
    // Its ends are those of the edges.
    out.push(...around.slice(2, -2));
  }
  if (isMet) out.splice(0, 2);
  return out;
}

/** A corner whose sides run on: until they meet, or to a cut across at the radius where that is asked for or would be too far. */
function pointed(x: number, y: number, from: number, through: number, radius: number, isMitred: boolean): number[] {
  const middle = from + through / 2;
  const at = (angle: number, distance: number) => [x + distance * Math.cos(angle), y + distance * Math.sin(angle)];
  const ends = [at(from, radius), at(from + through, radius)];
  const tip = radius / Math.cos(through / 2);
  if (isMitred && tip <= MITRE_LIMIT * radius && tip > 0) return [...ends[0], ...at(middle, tip), ...ends[1]];
  // Half of the cut lies as far along as the tangents of a quarter of the turn.
  const aside = through / 4;
  const reach = radius / Math.cos(aside);
  return [...ends[0], ...at(middle - aside, reach), ...at(middle + aside, reach), ...ends[1]];
}

/** Points of an arc about (x, y) from an angle through a sweep, both in radians, anticlockwise for one above 0. */
function fan(x: number, y: number, from: number, through: number, radius: number, tolerance: number): number[] {
  const steps = Math.max(1, Math.ceil((chordsInCircle(radius, tolerance) * Math.abs(through)) / (2 * Math.PI)));
  const points: number[] = [];
  for (let i = 0; i <= steps; i++) {
    const angle = from + (through * i) / steps;
    points.push(x + radius * Math.cos(angle), y + radius * Math.sin(angle));
  }
  return points;
}
