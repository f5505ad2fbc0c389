import { type EnvelopePiece, POWERS, type Weights } from './envelope.js';

/** The longest mitre, in times the growth, as of `offset`: longer ones are cut off across. */
export const MITRE_LIMIT = 4;

/** A strip beside an edge, or a sector about a corner, with the stretches over which what it meets first is the same. */
export interface MitredSite {
  readonly isCorner: boolean;
  readonly pieces: readonly EnvelopePiece[];
  /** The point of the edge from which a parameter's ray leaves. */
  footAt(t: number): readonly [number, number];
  /** How far the ray goes for each mm of growth. */
  rayAt(t: number): readonly [number, number];
  /** The growth at which something else comes to the ray, at most `maxDistance`. */
  growthAt(piece: EnvelopePiece, t: number): number;
}

/** A site while it is worked out: the line that its growth is measured from, and the half planes in which it is. */
export interface Sector extends MitredSite {
  pieces: readonly EnvelopePiece[];
  /** Point on the line, and its unit normal outwards. */
  readonly x: number;
  readonly y: number;
  readonly nx: number;
  readonly ny: number;
  /** a + b·x + c·y is at least 0 where the site is, for each. */
  readonly bounds: readonly Weights[];
  readonly from: number;
  readonly to: number;
  readonly box: Box;
  /** The longest ray in times the growth. */
  readonly mitre: number;
  /** What its line is: an edge of the outline, or that of a mitre that is cut off. */
  readonly line: object;
  /** Strips of the edges that it meets at inner corners. */
  readonly across: Sector[];
  /** mm by which its growth counts for more, so that of sites on one line one is ahead ({@link settleTies}). */
  bias: number;
  /** Foot and ray at 0, and what is added to either at 1. */
  readonly foot: readonly [number, number];
  readonly footStep: readonly [number, number];
  readonly ray: readonly [number, number];
  readonly rayStep: readonly [number, number];
}

/** Least x and y, greatest x and y. */
export type Box = readonly [number, number, number, number];

/** mm by which a site reaches over its bounds, so that rounding leaves no hair between it and its neighbour. */
export const HAIR = 1e-8;
const STRAIGHT = 1e-7;

/** The strips and sectors of a ring, as the line of equal growth is run. */
export function sectorsOf(contour: Float64Array): Sector[] {
  const edges: Edge[] = [];
  const n = contour.length / 2;
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    const [dx, dy] = [contour[2 * j] - contour[2 * i], contour[2 * j + 1] - contour[2 * i + 1]];
    const length = Math.hypot(dx, dy);
    if (length > 0) edges.push({ x: contour[2 * i], y: contour[2 * i + 1], tx: dx / length, ty: dy / length, length });
  }
  if (edges.length < 3) return [];
  // Against the run of the ring, with the outside on the left as the line of equal growth is run.
  edges.reverse();
  const sides = edges.map(edgeSector);
  return sides.flatMap((side, i) => {
    const next = (i + 1) % edges.length;
    const turned = turnOf(edges[next], edges[i]);
    if (turned < 0) {
      side.across.push(sides[next]);
      sides[next].across.push(side);
    }
    return [side, ...(turned > STRAIGHT ? cornerSectors(edges[next], edges[i], turned) : [])];
  });
}

/** An edge of an outline: where it begins, its direction, and its length. */
interface Edge {
  readonly x: number;
  readonly y: number;
  readonly tx: number;
  readonly ty: number;
  readonly length: number;
}

function edgeSector(edge: Edge): Sector {
  const { x, y, tx, ty, length } = edge;
  const [nx, ny] = [ty, -tx];
  const [endX, endY] = [x + length * tx, y + length * ty];
  return {
    isCorner: false,
    pieces: [],
    x: endX,
    y: endY,
    nx,
    ny,
    bounds: [
      [-(x * tx + y * ty), tx, ty],
      [endX * tx + endY * ty, -tx, -ty],
    ],
    from: 0,
    to: length,
    box: [Math.min(x, endX), Math.min(y, endY), Math.max(x, endX), Math.max(y, endY)],
    mitre: 1,
    line: edge,
    across: [],
    bias: 0,
    foot: [endX, endY],
    footStep: [-tx, -ty],
    ray: [nx, ny],
    rayStep: [0, 0],
    footAt: (t) => [endX - t * tx, endY - t * ty],
    rayAt: () => [nx, ny],
    growthAt: ({ weights }, t) => Math.max(0, POWERS.value(weights, t)),
  };
}

/** Radians by which the outline turns from an edge to the next, to the left above 0. */
const turnOf = (before: Edge, after: Edge): number =>
  Math.atan2(before.tx * after.ty - before.ty * after.tx, before.tx * after.tx + before.ty * after.ty);

/** The sectors about the corner between two edges, from the normal of the later one to that of the earlier one. */
function cornerSectors(before: Edge, after: Edge, turned: number): Sector[] {
  const [x, y] = [after.x, after.y];
  const first = Math.atan2(after.ty, after.tx) - Math.PI / 2;
  const normals = [0, turned];
  if (Math.cos(turned / 2) * MITRE_LIMIT < 1) normals.splice(1, 0, turned / 2);
  return normals.map((aside, k) => {
    // Clockwise from the normal of the edge after the corner; each sector ends half-way to the next normal.
    const from = k === 0 ? 0 : (normals[k - 1] + aside) / 2;
    const to = k === normals.length - 1 ? turned : (aside + normals[k + 1]) / 2;
    const angle = first - aside;
    const [nx, ny] = [Math.cos(angle), Math.sin(angle)];
    // Along the line, the way the sector is run.
    const [tx, ty] = [ny, -nx];
    const [low, high] = [Math.tan(from - aside), Math.tan(to - aside)];
    // p = corner + growth · (n + s·t): s at least low and at most high.
    const bound = (s: number, sign: number): Weights => {
      const [b, c] = [sign * (tx - s * nx), sign * (ty - s * ny)];
      return [-(b * x + c * y), b, c];
    };
    return {
      isCorner: true,
      pieces: [],
      x,
      y,
      nx,
      ny,
      bounds: [bound(low, 1), bound(high, -1), [-(nx * x + ny * y), nx, ny]],
      from: low,
      to: high,
      box: [x, y, x, y],
      mitre: Math.hypot(1, Math.max(-low, high)),
      line: k === 0 ? after : k === normals.length - 1 ? before : {},
      across: [],
      bias: 0,
      foot: [x, y],
      footStep: [0, 0],
      ray: [nx, ny],
      rayStep: [tx, ty],
      footAt: () => [x, y],
      rayAt: (s) => [nx + s * tx, ny + s * ty],
      growthAt: ({ weights }, s) => -1 / POWERS.value(weights, s),
    };
  });
}
