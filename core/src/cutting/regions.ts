import { covered, union } from '../arrangement/index.js';
import {
  bounds,
  type Box,
  boxRing,
  type Contour,
  contourArea,
  type Outline,
  polygonsOf,
  reversed,
  simplified,
  snap,
  snapRing,
  squareToSegment,
} from '../geometry/index.js';
import { DistanceField } from '../medial-axis/index.js';

/** mm by which paths may leave the curves that they stand for. */
export const PATH_TOLERANCE = 0.005;

/** Every place of a region at least so far from its edge, as the line of equal distance. */
export function shrunk(region: Outline, by: number): Outline {
  return region.length === 0 ? [] : new DistanceField(region, by, PATH_TOLERANCE).lines([by])[0];
}

/** A box as a contour on the grid. */
export const boxContour = (box: Box): Contour => boxRing(box).map(snap);

/** Every place no farther than so from a region: what lies within the line of equal distance around it. */
export function grown(region: Outline, by: number): Outline {
  const box = bounds(region);
  if (!box) return [];
  // Far enough outside for its own line to be told apart.
  const [low, high] = [-3 * by - 1, 3 * by + 1];
  const frame = boxContour({ minX: box.minX + low, minY: box.minY + low, maxX: box.maxX + high, maxY: box.maxY + high });
  const lines = new DistanceField([frame, ...region.map(reversed)], by, PATH_TOLERANCE).lines([by])[0];
  const own = lines.filter((ring) => bounds([ring])!.minX > box.minX + low + by + 0.5);
  return own.map(reversed);
}

/** mm between points of a ring that are one, and by which a point may miss the straight way between its neighbours. */
const REPEAT = 0.003;
const STRAIGHT = 0.0005;

/** Rings of a region, with the distance from its edge that they lie at; the region's inside is on their left. */
export interface Ring {
  readonly points: Contour;
  readonly depth: number;
}

/**
 * The region's own rings, and those at equal distances inside: `first` from the edge, then `step` from one to the next, as deep as there
 * are places. A disc with at least the radius of a step that runs along all of them covers the whole region.
 */
export function ringsIn(region: Outline, step: number, first = step): Ring[] {
  if (region.length === 0) return [];
  const edge = region.map((points) => ({ points, depth: 0 }));
  const field = new DistanceField(region, LAYER * Math.max(step, first), PATH_TOLERANCE);
  return [...edge, ...ringsOf(field, first, step)].filter(isRing);
}

/** mm by which ways that finish nothing may leave the curves that they stand for. */
const INNER_TOLERANCE = 0.02;
/** Steps within which a region's own edge tells the rings. */
const LAYER = 3;

/**
 * Rings at distances from the edge of a field's outline, the first at `first` and each `step` from the one before, as deep as there are
 * places. Beyond what the field knows they are those of its innermost ring, and so on: far from an edge its details tell no longer.
 */
export function ringsOf(field: DistanceField, first: number, step: number): Ring[] {
  const rings: Ring[] = [];
  let [inner, base, level] = [field, 0, first];
  for (;;) {
    const levels: number[] = [];
    const deepest = inner.deepest;
    for (; level - base < deepest; level += step) levels.push(level);
    const lines = inner
      .lines(levels.map((each) => each - base))
      .map((each) => each.map(tidied).filter((ring) => ring.length >= 6));
    lines.forEach((line, i) => rings.push(...line.map((points) => ({ points, depth: levels[i] }))));
    const innermost = lines.at(-1);
    if (deepest < inner.maxDistance - INNER_TOLERANCE || !innermost || innermost.length === 0) return rings;
    base = levels[levels.length - 1];
    const outline = covered(innermost.map((ring) => snapRing(simplified(ring, INNER_TOLERANCE / 2))));
    inner = new DistanceField(outline, Math.max(2 * inner.maxDistance, LAYER * step), INNER_TOLERANCE);
  }
}

/** The same with distances that are told from ring to ring. @param stepAfter mm from the rings of a distance to the next ones, above 0 */
export function ringsBySteps(region: Outline, stepAfter: (rings: readonly Contour[]) => number): Ring[] {
  let rings: readonly Contour[] = region;
  const all: Ring[] = region.map((points) => ({ points, depth: 0 }));
  const field = fieldOf(region, 1);
  if (!field) return [];
  for (let level = stepAfter(rings); level < field.deepest; level += stepAfter(rings)) {
    const at = level;
    rings = field.lines([at])[0];
    if (rings.length === 0) break;
    all.push(...rings.map((points) => ({ points: tidied(points), depth: at })));
  }
  return all.filter(isRing);
}

const isRing = ({ points }: Ring): boolean => points.length >= 6;

/** A ring without points that all but repeat the one before them, where lines of two flanks meet, and without those of straight runs. */
function tidied(ring: Contour): Contour {
  const out: number[] = [];
  const apart = (x: number, y: number, at: number): number => Math.hypot(x - out[at], y - out[at + 1]);
  const add = (x: number, y: number): void => {
    const last = out.length - 2;
    if (last >= 0 && apart(x, y, last) < REPEAT) return;
    if (last >= 2 && squareToSegment(out[last - 2], out[last - 1], x, y, out[last], out[last + 1]) < STRAIGHT ** 2)
      out.length -= 2;
    out.push(x, y);
  };
  for (let i = 0; i < ring.length; i += 2) add(ring[i], ring[i + 1]);
  while (out.length > 2 && apart(out[0], out[1], out.length - 2) < REPEAT) out.length -= 2;
  return Float64Array.from(out);
}

function fieldOf(region: Outline, more: number): DistanceField | undefined {
  const box = bounds(region);
  if (!box) return undefined;
  const most = Math.min(box.maxX - box.minX, box.maxY - box.minY) / 2 + more;
  return new DistanceField(region, most, PATH_TOLERANCE);
}

/** What a region covers with all that lies within its outer rings. */
export function filled(region: Outline): Outline {
  const outer = region.filter((ring) => contourArea(ring) > 0);
  // One may lie in a window of another.
  return outer.length > 1 ? union(outer) : outer;
}

/** Connected pieces of a region, each as an outline. */
export const piecesOf = (region: Outline): Outline[] => polygonsOf(region).map(({ outer, holes }) => [outer, ...holes]);
