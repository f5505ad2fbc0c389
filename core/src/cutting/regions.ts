import { difference, union } from '../arrangement/index.js';
import {
  bounds,
  type Box,
  type Contour,
  contourArea,
  type Outline,
  polygonsOf,
  reversed,
  snap,
  squareToSegment,
} from '../geometry/index.js';
import { DistanceField, type LineChoice } from '../medial-axis/index.js';

/** mm by which paths may leave the curves that they stand for. */
export const PATH_TOLERANCE = 0.005;
/** mm by which what is reached is taken for more: chords of curves leave slivers that nothing is cut for. */
const SLIVER = 0.015;

/** Every place of a region at least so far from its edge, as the line of equal distance. */
export function shrunk(region: Outline, by: number): Outline {
  return region.length === 0 ? [] : new DistanceField(region, by, PATH_TOLERANCE).lines([by])[0];
}

/** A box as a contour on the grid. */
export const boxContour = ({ minX, minY, maxX, maxY }: Box): Contour =>
  Float64Array.of(minX, minY, maxX, minY, maxX, maxY, minX, maxY).map(snap);

/**
 * Every place no farther than so from a region: what lies within the line of equal distance around it.
 * @param choice what that line is where it does not close by itself
 */
export function grown(region: Outline, by: number, choice?: LineChoice): Outline {
  const box = bounds(region);
  if (!box) return [];
  // Far enough outside for its own line to be told apart.
  const [low, high] = [-3 * by - 1, 3 * by + 1];
  const frame = boxContour({ minX: box.minX + low, minY: box.minY + low, maxX: box.maxX + high, maxY: box.maxY + high });
  const lines = new DistanceField([frame, ...region.map(reversed)], by, PATH_TOLERANCE).lines([by], choice)[0];
  const own = lines.filter((ring) => bounds([ring])!.minX > box.minX + low + by + 0.5);
  return own.map(reversed);
}

/** mm between ends of a line that is no path. */
const ROUGH_GAP = 0.3;
/** mm between points of a ring that are one, and by which a point may miss the straight way between its neighbours. */
const REPEAT = 0.003;
const STRAIGHT = 0.0005;

/** Where the axis of a tool goes, and what it leaves of what it is to clear. */
export interface Reach {
  readonly centres: Outline;
  readonly left: Outline;
}

/**
 * Where the axis of a tool may go to clear a region without coming nearer to what stands than its radius, and what it leaves of the
 * region: of a flat tool all but the opening of the region by it.
 * @param keepOut what stands, rings with the inside on their left
 * @param flat radius of the flat that clears; less than the radius of a cone
 */
export function reachOf(needed: Outline, keepOut: Outline, radius: number, flat = radius): Reach {
  if (needed.length === 0) return { centres: [], left: [] };
  const forbidden = keepOut.length === 0 ? [] : grown(keepOut, radius);
  const inside = forbidden.length === 0 ? needed : difference(needed, forbidden);
  const left = leftBy(needed, inside, flat);
  if (left.length === 0) return { centres: inside, left };
  // What lies beside something that stands is reached from outside of the region, where there is room.
  const aside = difference(grown(left, flat), forbidden);
  const beyond = shrunk(difference(aside, needed), SLIVER);
  if (beyond.length === 0) return { centres: inside, left };
  return { centres: union(inside, aside), left: leftBy(left, aside, flat) };
}

/** What a tool leaves of a region, up to 0.015 mm too much of it beside what stands. Nothing is led along it: its lines may be rough. */
function leftBy(needed: Outline, centres: Outline, radius: number): Outline {
  if (centres.length === 0) return needed;
  const left = difference(needed, grown(centres, radius + SLIVER, { gap: ROUGH_GAP }));
  return grown(left, SLIVER, { gap: ROUGH_GAP, otherwise: () => left.map(reversed) });
}

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
  const edge = region.map((points) => ({ points, depth: 0 }));
  const field = fieldOf(region, step);
  if (!field) return [];
  const levels: number[] = [];
  for (let level = first; level < field.deepest; level += step) levels.push(level);
  const inner = field.lines(levels).flatMap((rings, i) => rings.map((points) => ({ points: tidied(points), depth: levels[i] })));
  return [...edge, ...inner].filter(isRing);
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

/** The outer rings of a region: what it covers with what lies within. */
export const filled = (region: Outline): Outline => region.filter((ring) => contourArea(ring) > 0);

/** Connected pieces of a region, each as an outline. */
export const piecesOf = (region: Outline): Outline[] => polygonsOf(region).map(({ outer, holes }) => [outer, ...holes]);
