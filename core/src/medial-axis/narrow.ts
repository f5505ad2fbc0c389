import { covered } from '../arrangement/index.js';
import {
  type Contour,
  type Outline,
  pointKey,
  snapRing,
  squareToSegment,
  STEPS_PER_MM,
  toStep,
  Weld,
} from '../geometry/index.js';
import { linked, polylinesOf, Strands } from './equal-distance.js';
import { type AxisPoint, type Flank } from './flanks.js';

/*
 * Where the largest disc that touches the edge at a place is smaller than a given one, that one does not come to the place. Along the edge
 * such places lie between two at which the largest disc is exactly as large as the given one; there an arc of it borders what it leaves.
 */

/** mm between ends that belong together: where outlines all but touch themselves the axis is told roughly. */
const GAP = 0.3;
/** Radii of a disc that lines to its middle are long which lead to nothing. */
const SPUR = 1.1;

/** Square of mm by which a point may be off the straight way between its neighbours and still is none. */
const STRAIGHT = 0.0005 ** 2;

/** Of a disc, in mm. */
export interface Middle {
  readonly x: number;
  readonly y: number;
}

/** mm up to which a disc is none: at the ends of edges that meet in an outer corner. */
const BARE = 1e-6;

/** A line of equal distance beside narrow places, in mm; the edge is on its right. */
export interface NarrowLine {
  readonly points: Contour;
  /** A ring, whose first point is not repeated. */
  readonly isClosed: boolean;
  /** Middle of the larger disc that touches the edge where it begins, and where it ends: it does so inside of that disc. */
  readonly begin?: Middle;
  readonly end?: Middle;
}

/**
 * Whether a stretch is one beside a corner so blunt that a disc which touches both of its edges comes as near to it as `least`: a corner
 * of chords of a curve, in which nothing is told as narrow. Both edges of it answer alike.
 */
function isBlunt(a: AxisPoint, b: AxisPoint, radius: number, least: number): boolean {
  if (Math.min(a.d, b.d) > BARE || Math.max(a.d, b.d) < radius) return false;
  const along = Math.hypot(b.footX - a.footX, b.footY - a.footY) * (radius / Math.max(a.d, b.d));
  return Math.hypot(radius, along) - radius < least;
}

/** Between two points of a flank the place at which the disc is as large as a radius, as share of the way. */
const shareAt = (a: AxisPoint, b: AxisPoint, radius: number): number => (radius - a.d) / (b.d - a.d);

const mixed = (a: number, b: number, share: number): number => a + share * (b - a);

/** Steps that a grid point may be off and still be the same. */
const welded = (tolerance: number): Weld => new Weld(Math.max(2, Math.round((tolerance / 2) * STEPS_PER_MM)));

/**
 * What discs of a radius leave of the inside of an outline, as rings; undefined where they do not close.
 * @param least mm that a corner has to reach beyond a disc in it to be told
 */
export function narrowPlaces(flanks: readonly Flank[], radius: number, tolerance: number, least: number): Outline | undefined {
  const weld = welded(tolerance);
  const strands = new Strands();
  /** Middles of discs, by their places on the grid. */
  const middles = new Map<number, Middle>();
  const footOf = ({ footX, footY }: AxisPoint): number => weld.place(footX, footY);
  for (const { points } of flanks) {
    for (let i = 0; i + 1 < points.length; i++) {
      const [a, b] = [points[i], points[i + 1]];
      const [isFrom, isTo] = [a.d < radius, b.d < radius];
      if ((!isFrom && !isTo) || isBlunt(a, b, radius, least)) continue;
      if (isFrom && isTo) {
        strands.step(footOf(a), footOf(b));
        continue;
      }
      const share = shareAt(a, b, radius);
      const foot = weld.place(mixed(a.footX, b.footX, share), mixed(a.footY, b.footY, share));
      const [x, y] = [mixed(a.x, b.x, share), mixed(a.y, b.y, share)];
      const middle = weld.place(x, y);
      middles.set(middle, { x, y });
      if (isTo) {
        strands.step(middle, foot);
        strands.step(foot, footOf(b));
      } else {
        strands.step(footOf(a), foot);
        strands.step(foot, middle);
      }
    }
  }
  // Where an edge is shorter than the grid tells, a disc may touch one edge of a corner and not be found at the other.
  const rings = linked(strands.all, GAP * STEPS_PER_MM, (SPUR * radius + GAP) * STEPS_PER_MM)?.rings;
  if (!rings) return undefined;
  const [plain, crossed]: [Contour[], Contour[]] = [[], []];
  for (const ring of rings) {
    const discs = Array.from({ length: ring.length / 2 }, (_, i) => middles.get(keyOf(ring, 2 * i)));
    if (isBlunted(ring, discs, radius, least)) continue;
    const bordered = straightened(withArcs(ring, discs, radius, tolerance));
    if (bordered.length >= 6) (overlap(discs, radius) ? crossed : plain).push(bordered);
  }
  // Between two discs that overlap there are two places, one at either wall.
  return crossed.length === 0 ? plain : [...plain, ...covered(crossed.map(snapRing))];
}

/** Whether a place is what a single disc leaves of a corner of several chords, and reaches beyond it by less than `least`. */
function isBlunted(ring: Contour, discs: readonly Disc[], radius: number, least: number): boolean {
  const [one, ...others] = discs.filter((disc) => disc !== undefined);
  if (!one || others.some(({ x, y }) => x !== one.x || y !== one.y)) return false;
  for (let i = 0; i < ring.length; i += 2)
    if (!discs[i / 2] && Math.hypot(ring[i] - one.x, ring[i + 1] - one.y) >= radius + least) return false;
  return true;
}

const keyOf = (ring: Contour, i: number): number => pointKey(toStep(ring[i]), toStep(ring[i + 1]));

type Disc = Middle | undefined;

function overlap(discs: readonly Disc[], radius: number): boolean {
  const some = discs.filter((disc) => disc !== undefined);
  return some.some(({ x, y }, i) => some.slice(0, i).some((other) => Math.hypot(other.x - x, other.y - y) < 2 * radius));
}

/** A ring on which middles of discs stand for the arcs about them, from the point before to the point after, clockwise. */
function withArcs(ring: Contour, discs: readonly Disc[], radius: number, tolerance: number): number[] {
  const n = ring.length;
  const out: number[] = [];
  const mostTurn = 2 * Math.acos(Math.max(0, 1 - tolerance / radius));
  discs.forEach((middle, at) => {
    const i = 2 * at;
    if (!middle) {
      out.push(ring[i], ring[i + 1]);
      return;
    }
    // Two that stand for one are one.
    if (discs[(at + 1) % discs.length]) return;
    let before = (i + n - 2) % n;
    while (discs[before / 2] && before !== i) before = (before + n - 2) % n;
    const after = (i + 2) % n;
    const from = Math.atan2(ring[before + 1] - middle.y, ring[before] - middle.x);
    const to = Math.atan2(ring[after + 1] - middle.y, ring[after] - middle.x);
    const turn = from - to - 2 * Math.PI * Math.floor((from - to) / (2 * Math.PI));
    // Far more than half a turn: both are one place but for a hair.
    if (turn > 1.25 * Math.PI) return;
    const count = Math.ceil(turn / mostTurn);
    for (let k = 1; k < count; k++) {
      const angle = from - (turn * k) / count;
      out.push(middle.x + radius * Math.cos(angle), middle.y + radius * Math.sin(angle));
    }
  });
  return out;
}

/** A ring without the points that lie on the straight way between their neighbours. */
function straightened(ring: readonly number[]): Contour {
  const out: number[] = [];
  for (let i = 0; i < ring.length; i += 2) {
    const last = out.length - 2;
    if (last >= 2 && squareToSegment(out[last - 2], out[last - 1], ring[i], ring[i + 1], out[last], out[last + 1]) < STRAIGHT)
      out.length = last;
    out.push(ring[i], ring[i + 1]);
  }
  return Float64Array.from(out);
}

/** Lines of a distance beside places whose largest discs are smaller than `below`, but for corners that reach less than `least` mm beyond those. */
export function narrowLines(
  flanks: readonly Flank[],
  level: number,
  below: number,
  tolerance: number,
  least: number,
): NarrowLine[] {
  const weld = welded(tolerance);
  const strands = new Strands();
  /** Ends of stretches at which the disc is as large as `below`, with its middle. */
  const ends = new Map<number, Middle>();
  // In a fan distances do not change evenly with the direction: that of the axis point tells.
  const onRay = (a: AxisPoint, b: AxisPoint, share: number): number => {
    const [footX, footY] = [mixed(a.footX, b.footX, share), mixed(a.footY, b.footY, share)];
    const [nx, ny] = [mixed(a.x, b.x, share) - footX, mixed(a.y, b.y, share) - footY];
    const along = level / Math.hypot(nx, ny);
    return weld.place(footX + along * nx, footY + along * ny);
  };
  for (const { points } of flanks) {
    for (let i = 0; i + 1 < points.length; i++) {
      const [a, b] = [points[i], points[i + 1]];
      let [from, to] = [0, 1];
      const [rises, falls] = [b.d > a.d, b.d < a.d];
      if (Math.max(a.d, b.d) <= level || Math.min(a.d, b.d) >= below || isBlunt(a, b, below, least)) continue;
      const [low, high] = [shareAt(a, b, level), shareAt(a, b, below)];
      if (a.d < level) from = low;
      if (b.d < level) to = low;
      const [beginsAtEnd, endsAtEnd] = [falls && a.d > below, rises && b.d > below];
      if (beginsAtEnd) from = high;
      if (endsAtEnd) to = high;
      const placed = (share: number): number =>
        share === low && share > 0 && share < 1 ? weld.place(mixed(a.x, b.x, share), mixed(a.y, b.y, share)) : onRay(a, b, share);
      const [begin, end] = [placed(from), placed(to)];
      if (beginsAtEnd || endsAtEnd) ends.set(beginsAtEnd ? begin : end, { x: mixed(a.x, b.x, high), y: mixed(a.y, b.y, high) });
      strands.step(begin, end);
    }
  }
  const middleAt = (points: Contour, i: number): Middle | undefined => ends.get(keyOf(points, i));
  return polylinesOf(strands.all).map(({ points, isClosed }) => {
    if (isClosed) return { points, isClosed };
    const [begin, end] = [middleAt(points, 0), middleAt(points, points.length - 2)];
    return { points, isClosed, ...(begin && { begin }), ...(end && { end }) };
  });
}
