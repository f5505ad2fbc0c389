import Flatbush from 'flatbush';
import { type Outline } from '../geometry/index.js';
import { Envelope, type EnvelopePiece, POWERS, WAVES, type Weights } from './envelope.js';

/**
 * The distance from the edge of an outline, taken apart by where on the edge the nearest point lies.
 *
 * The inside of an outline is swept by discs that touch its edge. From a point of an edge the disc grows inwards until it touches
 * something else; the middle of the largest one lies on the medial axis. How large it becomes is, along an edge, the least of
 * parabolas (one for every corner that may be touched) and of straight lines (one for every other edge), and in the fan of a
 * corner that points inwards the least of conics: both in closed form, so that nothing is sampled.
 * (The shrinking disc is that of J. Ma, S. Bae, S. Choi, "3D medial axis point approximation", 2012; the envelopes are ours.)
 */

/** A stretch of the outline's edge with what lies inside nearest to it. */
export type Site = EdgeSite | VertexSite;

/** A straight edge, run with the inside on its left. */
export interface EdgeSite {
  readonly kind: 'edge';
  readonly x: number;
  readonly y: number;
  /** Unit vector along the edge; the inward normal is (−ty, tx). */
  readonly tx: number;
  readonly ty: number;
  readonly length: number;
  pieces: readonly EnvelopePiece[];
}

/** A corner that points inwards, with the fan of directions between the normals of its edges. */
export interface VertexSite {
  readonly kind: 'corner';
  readonly x: number;
  readonly y: number;
  /** Radians; the fan runs anticlockwise from `from` to `to`, the outline's edge the other way. */
  readonly from: number;
  readonly to: number;
  /** Its edges among the sites. */
  readonly before: number;
  readonly after: number;
  pieces: readonly EnvelopePiece[];
}

/** Owner of the pieces on which the disc reaches the size that was asked for without touching anything. */
export const FREE = -1;

/** mm by which an edge counts as longer at both ends, so that rounding leaves no hair between it and its neighbour. */
const HAIR = 1e-6;

/** Turns smaller than this, in radians, are straight on. */
const STRAIGHT = 1e-7;

/**
 * The sites of an outline in the order of its contours, each with the pieces of its largest discs.
 * @param outline rings with the inside on their left, that meet in corners at most
 * @param maxDistance mm; discs need not grow beyond this radius
 */
export function sitesOf(outline: Outline, maxDistance: number): Site[] {
  const sites: Site[] = [];
  for (const contour of outline) addFronts(contour, sites);
  if (sites.length === 0) return sites;
  const index = new Flatbush(sites.length);
  for (const site of sites) {
    const [x, y] = endOf(site);
    index.add(Math.min(site.x, x), Math.min(site.y, y), Math.max(site.x, x), Math.max(site.y, y));
  }
  index.finish();
  const asked = new Int32Array(sites.length).fill(-1);
  let near = 0;
  let touched: readonly EnvelopePiece[] = [];
  sites.forEach((site, self) => {
    const envelope = emptyEnvelope(site, maxDistance);
    let most = maxDistance;
    const limit = (owner: number): void => {
      if (asked[owner] === self || owner === self) return;
      asked[owner] = self;
      const other = sites[owner];
      const isLimited =
        site.kind === 'edge' ? limitEdge(site, other, owner, most, envelope) : limitCorner(site, other, owner, most, envelope);
      if (isLimited) most = largestDisc(site, envelope.pieces);
    };
    // What the discs of the neighbour touch, so that little else has to be looked at closely.
    for (const { owner } of touched) if (owner !== FREE) limit(owner);
    const [minX, minY, maxX, maxY] = feetAndNormals(site);
    for (let reach = Math.min(most, Math.max(near * 1.1, site.kind === 'edge' ? site.length / 8 : 0, 1e-3)); ;) {
      // Discs of that radius that touch the site, and nothing beside them.
      index.search(
        minX.foot + reach * (minX.normal - 1),
        minY.foot + reach * (minY.normal - 1),
        maxX.foot + reach * (maxX.normal + 1),
        maxY.foot + reach * (maxY.normal + 1),
        (owner) => {
          limit(owner);
          return false;
        },
      );
      near = most;
      if (most <= reach * (1 + 1e-9)) break;
      reach = Math.min(most, reach * 3);
    }
    site.pieces = touched = envelope.pieces;
  });
  return sites;
}

/** The least and the greatest coordinate among the feet of a site's discs and among their normals: of x and y, least first. */
function feetAndNormals(site: Site): readonly { foot: number; normal: number }[] {
  const [x, y] = endOf(site);
  if (site.kind === 'edge') {
    const [nx, ny] = [-site.ty, site.tx];
    return [
      { foot: Math.min(site.x, x), normal: nx },
      { foot: Math.min(site.y, y), normal: ny },
      { foot: Math.max(site.x, x), normal: nx },
      { foot: Math.max(site.y, y), normal: ny },
    ];
  }
  /** Whether the fan has a direction in it. */
  const has = (angle: number): boolean => angle + 2 * Math.PI * Math.ceil((site.from - angle) / (2 * Math.PI)) <= site.to;
  const [cos, sin] = [Math.cos, Math.sin].map((of) => [of(site.from), of(site.to)]);
  return [
    { foot: x, normal: has(Math.PI) ? -1 : Math.min(...cos) },
    { foot: y, normal: has(-Math.PI / 2) ? -1 : Math.min(...sin) },
    { foot: x, normal: has(0) ? 1 : Math.max(...cos) },
    { foot: y, normal: has(Math.PI / 2) ? 1 : Math.max(...sin) },
  ];
}

const endOf = (site: Site): readonly [number, number] =>
  site.kind === 'edge' ? [site.x + site.tx * site.length, site.y + site.ty * site.length] : [site.x, site.y];

function addFronts(contour: Float64Array, sites: Site[]): void {
  const n = contour.length / 2;
  if (n < 3) return;
  const first = sites.length;
  let count = 0;
  const edges: EdgeSite[] = [];
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    const [dx, dy] = [contour[2 * j] - contour[2 * i], contour[2 * j + 1] - contour[2 * i + 1]];
    const length = Math.hypot(dx, dy);
    if (length === 0) continue;
    edges.push({ kind: 'edge', x: contour[2 * i], y: contour[2 * i + 1], tx: dx / length, ty: dy / length, length, pieces: [] });
  }
  // Where each edge will stand among the sites, and how far the outline turns after it: to the right at inner corners.
  const places: number[] = [];
  const turns = edges.map((edge, i) => {
    const next = edges[(i + 1) % edges.length];
    const turned = Math.atan2(edge.tx * next.ty - edge.ty * next.tx, edge.tx * next.tx + edge.ty * next.ty);
    places.push(first + count);
    count += turned < -STRAIGHT ? 2 : 1;
    return turned;
  });
  edges.forEach((edge, i) => {
    sites.push(edge);
    if (turns[i] >= -STRAIGHT) return;
    const after = (i + 1) % edges.length;
    const { x, y } = edges[after];
    const to = Math.atan2(edge.tx, -edge.ty);
    sites.push({ kind: 'corner', x, y, from: to + turns[i], to, before: places[i], after: places[after], pieces: [] });
  });
}

const emptyEnvelope = (site: Site, maxDistance: number): Envelope =>
  site.kind === 'edge'
    ? new Envelope(POWERS, 0, site.length, [maxDistance, 0, 0], FREE)
    : new Envelope(WAVES, site.from, site.to, [-1 / maxDistance, 0, 0], FREE);

/** Radius of the disc that touches a site at t, under a piece's function. */
export const maximalDiscAt = (site: Site, { weights }: Pick<EnvelopePiece, 'weights'>, t: number): number =>
  site.kind === 'edge' ? Math.max(0, POWERS.value(weights, t)) : -1 / WAVES.value(weights, t);

function largestDisc(site: Site, pieces: readonly EnvelopePiece[]): number {
  let most = 0;
  for (const piece of pieces) most = Math.max(most, maximalDiscAt(site, piece, piece.from), maximalDiscAt(site, piece, piece.to));
  return most;
}

/**
 * Discs on an edge, limited by another site. Coordinates along the edge u and inwards v.
 * @param most radius that none of them is above so far
 */
function limitEdge(edge: EdgeSite, other: Site, owner: number, most: number, envelope: Envelope): boolean {
  const { x, y, tx, ty, length } = edge;
  const [dx, dy] = [other.x - x, other.y - y];
  const u = dx * tx + dy * ty;
  const v = dy * tx - dx * ty;
  if (other.kind === 'corner') {
    // Through a corner at (u, v): radius ((u − t)² + v²) / 2v.
    if (v <= 1e-9) return false;
    const aside = u < 0 ? u : u > length ? u - length : 0;
    if (aside * aside + v * v >= 2 * v * most) return false;
    return envelope.add([(u * u + v * v) / (2 * v), -u / v, 1 / (2 * v)], owner, 0, length);
  }
  const cos = tx * other.tx + ty * other.ty;
  const sin = tx * other.ty - ty * other.tx;
  // Tangent to a line: its inward distance from the foot at t, over 1 − the cosine between the normals.
  const share = 1 - cos;
  if (share < 1e-12) return false;
  const atZero = (x - other.x) * -other.ty + (y - other.y) * other.tx;
  const a = atZero / share;
  const b = -sin / share;
  const atEnd = a + b * length;
  if ((a >= most && atEnd >= most) || (a <= 0 && atEnd <= 0)) return false;
  // The disc's middle (t, a + b·t), as a foot along the other edge, must lie on it.
  const footA = -(dx * other.tx + dy * other.ty) + a * sin;
  const footB = cos + b * sin;
  let [from, to] = [0, length];
  if (Math.abs(footB) < 1e-12) {
    if (footA < -HAIR || footA > other.length + HAIR) return false;
  } else {
    const one = (-HAIR - footA) / footB;
    const end = (other.length + HAIR - footA) / footB;
    from = Math.max(from, Math.min(one, end));
    to = Math.min(to, Math.max(one, end));
  }
  if (from >= to) return false;
  // Only where the foot lies inside of the other line.
  if (Math.abs(b) > 1e-12) {
    const zero = -a / b - Math.sign(b) * HAIR;
    if (b > 0) from = Math.max(from, zero);
    else to = Math.min(to, zero);
  } else if (a < -HAIR) return false;
  // The neighbour beyond an inner corner lies behind the edge but for a hair.
  return a + (b * (from + to)) / 2 > 0 && envelope.add([a, b, 0], owner, from, to);
}

/**
 * Discs in the fan of a corner, limited by another site: as −1/radius.
 * @param most radius that none of them is above so far
 */
function limitCorner(corner: VertexSite, other: Site, owner: number, most: number, envelope: Envelope): boolean {
  const { x, y, from, to } = corner;
  if (other.kind === 'corner') {
    const [dx, dy] = [other.x - x, other.y - y];
    const square = dx * dx + dy * dy;
    // Through a corner at distance ρ: radius ρ / 2cos of the angle between.
    if (square <= 1e-12 || square >= 4 * most * most) return false;
    return envelope.add([0, (-2 * dx) / square, (-2 * dy) / square], owner, from, to);
  }
  if (owner === corner.before || owner === corner.after) return false;
  const away = (x - other.x) * -other.ty + (y - other.y) * other.tx;
  if (away < 1e-9 || away >= 2 * most) return false;
  // Tangent to a line at distance a, whose outward normal is (ty, −tx): radius a / (1 + cos of the angle between).
  const weights: Weights = [-1 / away, -other.ty / away, other.tx / away];
  const foot = (x - other.x) * other.tx + (y - other.y) * other.ty;
  // The angle at which the touched point is at s from the corner's own foot along the line.
  const out = Math.atan2(-other.tx, other.ty);
  const angleAt = (s: number): number => {
    // From the corner to the disc's middle, along the line and away from it.
    const inward = (s * s + away * away) / (2 * away) - away;
    return out + Math.atan2(s, -inward);
  };
  const low = angleAt(-HAIR - foot);
  const high = angleAt(other.length + HAIR - foot);
  let isLimited = false;
  for (let turns = -2 * Math.PI; turns < 7; turns += 2 * Math.PI)
    if (envelope.add(weights, owner, Math.max(from, low + turns), Math.min(to, high + turns))) isLimited = true;
  return isLimited;
}
