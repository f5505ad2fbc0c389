import Flatbush from 'flatbush';
import type { Outline } from './contour.js';
import { Envelope, type EnvelopePiece, POWERS, type Weights } from './envelope.js';
import { FREE } from './fronts.js';

/**
 * How far an outline has to grow, its outer corners mitred, until it covers a place outside of it, taken apart by what covers it first:
 * the strip beside an edge, or one of the sectors about a corner, in each of which the growth is the distance from a straight line. Where
 * two strips or sectors come to a place at once lies on the borders between them, which are straight everywhere.
 */

/** The longest mitre, in times the growth, as of `offset`: longer ones are cut off across. */
const MITRE_LIMIT = 4;

/** A strip beside an edge, or a sector about a corner, with the stretches over which what it meets first is the same. */
export interface MitredFront {
  readonly isCorner: boolean;
  readonly pieces: readonly EnvelopePiece[];
  /** The point of the edge from which a parameter's ray leaves. */
  footAt(t: number): readonly [number, number];
  /** How far the ray goes for each mm of growth. */
  rayAt(t: number): readonly [number, number];
  /** The growth at which something else comes to the ray, at most the run. */
  growthAt(piece: EnvelopePiece, t: number): number;
}

/** A front while it is worked out: the line that its growth is measured from, and the half planes in which it is. */
interface Sector extends MitredFront {
  pieces: readonly EnvelopePiece[];
  /** Point on the line, and its unit normal outwards. */
  readonly x: number;
  readonly y: number;
  readonly nx: number;
  readonly ny: number;
  /** a + b·x + c·y is at least 0 where the front is, for each. */
  readonly bounds: readonly Weights[];
  readonly from: number;
  readonly to: number;
  readonly box: readonly [number, number, number, number];
}

/** mm by which a front reaches over its bounds, so that rounding leaves no hair between it and its neighbour. */
const HAIR = 1e-6;
const STRAIGHT = 1e-7;
/** mm of an edge, or part of a sector, below which a stretch is one of rounding. */
const LEAST_STRETCH = 1e-9;

/**
 * @param outline rings with the inside on their left
 * @param run mm; growth beyond it is not told apart
 */
export function mitredFrontsOf(outline: Outline, run: number): MitredFront[] {
  const fronts = outline.flatMap(sectorsOf);
  if (fronts.length === 0) return fronts;
  const index = new Flatbush(fronts.length);
  for (const { box } of fronts) index.add(...box);
  index.finish();
  const asked = new Int32Array(fronts.length).fill(-1);
  let near = 0;
  fronts.forEach((front, self) => {
    const envelope = new Envelope(POWERS, front.from, front.to, front.isCorner ? [-1 / run, 0, 0] : [run, 0, 0], FREE);
    const [minX, minY, maxX, maxY] = front.box;
    // What covers the end of a ray lies within the longest mitre of it; growths of neighbours are about alike.
    const far = MITRE_LIMIT + (front.isCorner ? MITRE_LIMIT : 1);
    for (let reach = Math.min(far * run, Math.max(near * far * 1.1, 1e-3)); ;) {
      for (const other of index.search(minX - reach, minY - reach, maxX + reach, maxY + reach)) {
        if (other === self || asked[other] === self) continue;
        asked[other] = self;
        limit(front, fronts[other], other, envelope);
      }
      near = Math.max(
        ...envelope.pieces.flatMap((piece) => [front.growthAt(piece, piece.from), front.growthAt(piece, piece.to)]),
      );
      if (far * near <= reach * (1 + 1e-9)) break;
      reach = Math.min(far * near, 3 * reach);
    }
    // What is left of others by rounding, as at the end of an edge, is not there.
    front.pieces = envelope.pieces.filter((piece) => piece.to - piece.from > LEAST_STRETCH);
  });
  return fronts;
}

/** The least growth by which any front covers a place; Infinity for one that none does. */
export function mitredGrowth(fronts: readonly MitredFront[], x: number, y: number): number {
  let best = Infinity;
  for (const each of fronts as readonly Sector[]) {
    const growth = (x - each.x) * each.nx + (y - each.y) * each.ny;
    if (growth >= best || growth < 0) continue;
    if (each.bounds.every(([a, b, c]) => a + b * x + c * y >= -HAIR)) best = growth;
  }
  return best;
}

function sectorsOf(contour: Float64Array): Sector[] {
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
  return edges.reverse().flatMap((edge, i) => [edgeSector(edge), ...cornerSectors(edges[(i + 1) % edges.length], edge)]);
}

/** An edge of an outline: where it begins, its direction, and its length. */
interface Edge {
  readonly x: number;
  readonly y: number;
  readonly tx: number;
  readonly ty: number;
  readonly length: number;
}

function edgeSector({ x, y, tx, ty, length }: Edge): Sector {
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
    footAt: (t) => [endX - t * tx, endY - t * ty],
    rayAt: () => [nx, ny],
    growthAt: ({ weights }, t) => Math.max(0, POWERS.value(weights, t)),
  };
}

/** The sectors about the corner between two edges, from the normal of the later one to that of the earlier one. */
function cornerSectors(before: Edge, after: Edge): Sector[] {
  const turned = Math.atan2(before.tx * after.ty - before.ty * after.tx, before.tx * after.tx + before.ty * after.ty);
  if (turned <= STRAIGHT) return [];
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
      footAt: () => [x, y],
      rayAt: (s) => [nx + s * tx, ny + s * ty],
      growthAt: ({ weights }, s) => -1 / POWERS.value(weights, s),
    };
  });
}

/** Limits the rays of a front by another one, where that comes to them first. */
function limit(front: Sector, other: Sector, owner: number, envelope: Envelope): void {
  const { from, to, isCorner } = front;
  /** A linear function of the plane on the rays of the front: without and with the growth as a factor, each linear in t. */
  const along = ([a, b, c]: Weights): readonly [number, number, number, number] => {
    const [x0, y0] = front.footAt(0);
    const [x1, y1] = front.footAt(1);
    const [rx0, ry0] = front.rayAt(0);
    const [rx1, ry1] = front.rayAt(1);
    const atFoot = a + b * x0 + c * y0;
    const onRay = b * rx0 + c * ry0;
    return [atFoot, b * (x1 - x0) + c * (y1 - y0), onRay, b * (rx1 - rx0) + c * (ry1 - ry0)];
  };
  const { nx, ny, x, y } = other;
  const [f0, f1, g0, g1] = along([-(nx * x + ny * y), nx, ny]);
  // Equal growth h: f + h·g = h. On an edge g is constant and f linear; at a corner f is constant and g linear.
  let weights: Weights;
  if (isCorner) {
    // The other lies behind, or comes nowhere.
    if (f0 <= 1e-9) return;
    weights = [-(1 - g0) / f0, g1 / f0, 0];
  } else {
    const share = 1 - g0;
    if (share < 1e-12) return;
    weights = [f0 / share, f1 / share, 0];
  }
  let [low, high] = [from, to];
  const keep = (p: number, q: number): void => {
    // p + q·t at least 0.
    if (Math.abs(q) < 1e-15) {
      if (p < 0) high = low - 1;
    } else if (q > 0) low = Math.max(low, -p / q);
    else high = Math.min(high, -p / q);
  };
  // Where the growth is above 0.
  if (isCorner) keep(-weights[0] - 1e-12, -weights[1]);
  else keep(weights[0], weights[1]);
  for (const bound of other.bounds) {
    const [p0, p1, q0, q1] = along(bound);
    // p + h·q at least −HAIR, with h linear, or 1/h.
    if (isCorner) keep((p0 + HAIR) * -weights[0] + q0, (p0 + HAIR) * -weights[1] + q1);
    else keep(p0 + HAIR + weights[0] * q0, p1 + weights[1] * q0);
  }
  if (high - low > LEAST_STRETCH) envelope.add(weights, owner, low, high);
}
