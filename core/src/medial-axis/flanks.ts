import { type EnvelopePiece } from './envelope.js';
import { FREE, maximalDiscAt, type Site } from './sites.js';

/** A point at which a disc that touches the edge can grow no more. */
export interface AxisPoint {
  readonly x: number;
  readonly y: number;
  /** Its distance from the edge. */
  readonly d: number;
  /** The disc has grown to `maxDistance` without touching anything else. */
  readonly isFree: boolean;
  /** The point of the edge that it was grown from, with the direction in which it grew. */
  readonly footX: number;
  readonly footY: number;
  readonly nx: number;
  readonly ny: number;
}

/** A site with its axis points, as the edge is run. */
export interface Flank {
  readonly isCorner: boolean;
  readonly points: readonly AxisPoint[];
}

/** How the discs of a site end, from point to point of its stretch of the edge. @param tolerance mm by which distances may be off in the middle of chords */
export function flankOf(site: Site, sites: readonly Site[], tolerance: number): Flank {
  const points: AxisPoint[] = [];
  const isCorner = site.kind === 'corner';
  // A corner's fan runs anticlockwise, the outline's edge clockwise about it.
  const pieces = isCorner ? [...site.pieces].reverse() : site.pieces;
  const add = (piece: EnvelopePiece, t: number) => {
    const d = maximalDiscAt(site, piece, t);
    const [footX, footY, nx, ny] =
      site.kind === 'edge'
        ? [site.x + t * site.tx, site.y + t * site.ty, -site.ty, site.tx]
        : [site.x, site.y, Math.cos(t), Math.sin(t)];
    points.push({ x: footX + d * nx, y: footY + d * ny, d, isFree: piece.owner === FREE, footX, footY, nx, ny });
  };
  pieces.forEach((piece, i) => {
    const [from, to] = isCorner ? [piece.to, piece.from] : [piece.from, piece.to];
    const cuts = cutsOf(site, piece, from, to, sites, tolerance);
    // A piece begins where the last one ended.
    if (i === 0) add(piece, from);
    for (const t of cuts) add(piece, t);
    add(piece, to);
  });
  return { isCorner, points };
}

/**
 * Where a piece is parted so that distances over its chords are off by no more than the tolerance; the same places from either side of
 * the axis. Far from the two that it lies between they look in almost the same direction, and chords may be long.
 */
function cutsOf(site: Site, piece: EnvelopePiece, from: number, to: number, sites: readonly Site[], tolerance: number): number[] {
  const other = piece.owner === FREE ? undefined : sites[piece.owner];
  if (site.kind === 'edge') {
    if (other?.kind !== 'corner') return [];
    const [dx, dy] = [other.x - site.x, other.y - site.y];
    const foot = dx * site.tx + dy * site.ty;
    return alongParabola(from - foot, to - foot, dy * site.tx - dx * site.ty, tolerance).map((u) => u + foot);
  }
  if (!other) return evenly(from, to, Math.sqrt((8 * tolerance) / maximalDiscAt(site, piece, from)));
  if (other.kind === 'edge') {
    // As seen from the edge.
    const { x, y, tx, ty } = other;
    const height = (y - site.y) * -tx - (x - site.x) * -ty;
    const foot = (site.x - x) * tx + (site.y - y) * ty;
    const aside = (t: number): number => {
      const r = maximalDiscAt(site, piece, t);
      return (site.x + r * Math.cos(t) - x) * tx + (site.y + r * Math.sin(t) - y) * ty - foot;
    };
    return alongParabola(aside(from), aside(to), height, tolerance).map((u) => {
      const [along, d] = [u + foot, middle(u, height)];
      return near(from, to, Math.atan2(y + along * ty + d * tx - site.y, x + along * tx - d * ty - site.x));
    });
  }
  // Along the line between two corners' discs, measured from the middle between them.
  const [dx, dy] = [other.x - site.x, other.y - site.y];
  const half = Math.hypot(dx, dy) / 2;
  const towards = Math.atan2(dy, dx);
  return alongBisector(Math.tan(from - towards), Math.tan(to - towards), half, tolerance).map((v) =>
    near(from, to, towards + Math.atan(v)),
  );
}

/**
 * Places of a parabola about a corner at `height` over an edge, as distances aside from below the corner. A chord of length δ, seen along
 * the edge, gives distances that are off by δ²/8d where d is the distance itself, (u² + height²)/2·height at u: evenly in asinh(u/height).
 */
function alongParabola(from: number, to: number, height: number, tolerance: number): number[] {
  const step = Math.sqrt((4 * tolerance) / height);
  return byTheMiddle(Math.asinh(from / height), Math.asinh(to / height), step).map((w) => height * Math.sinh(w));
}

/**
 * Places of the line between two corners that are twice `half` apart, as multiples v of `half` from the middle between them. Distances
 * √(1 + v²)·half ask for steps in v that grow with (1 + v²)^¾, which (1 + |v|)^1.5 / 1.69 stays below.
 */
function alongBisector(from: number, to: number, half: number, tolerance: number): number[] {
  const most = 2 * 1.69;
  const evened = (v: number): number => Math.sign(v) * most * (1 - 1 / Math.sqrt(1 + Math.abs(v)));
  const back = (w: number): number => Math.sign(w) * ((1 - Math.abs(w) / most) ** -2 - 1);
  return byTheMiddle(evened(from), evened(to), Math.sqrt((8 * tolerance) / half)).map(back);
}

/** Values strictly between two as {@link evenly} gives them, and 0 where it lies between: there distances turn, however near the corners are. */
function byTheMiddle(from: number, to: number, step: number): number[] {
  if (from * to >= 0) return evenly(from, to, step);
  return [...evenly(from, 0, step), 0, ...evenly(0, to, step)];
}

/** Height above a line of the point that is as far from it as from a corner at `height`, at `aside` from below the corner. */
const middle = (aside: number, height: number): number => (aside * aside + height * height) / (2 * height);

const MOST_CUTS = 400;

/** Values strictly between two, evenly, no further apart than `step`. */
function evenly(from: number, to: number, step: number): number[] {
  const n = Math.min(MOST_CUTS, Math.ceil(Math.abs(to - from) / step - 1e-6));
  return Array.from({ length: Math.max(0, n - 1) }, (_, i) => from + ((to - from) * (i + 1)) / n);
}

/** The same direction with as many turns as lies between the two. */
function near(from: number, to: number, angle: number): number {
  const half = (from + to) / 2;
  return angle + 2 * Math.PI * Math.round((half - angle) / (2 * Math.PI));
}
