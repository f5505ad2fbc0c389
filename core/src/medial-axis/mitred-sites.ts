import Flatbush from 'flatbush';
import { difference } from '../arrangement/index.js';
import { contourArea, type Contour, type Outline } from '../geometry/index.js';
import { Envelope, type EnvelopePiece, POWERS, type Weights } from './envelope.js';
import { FREE } from './sites.js';

/**
 * How far an outline has to grow, its outer corners mitred, until it covers a place outside of it, taken apart by what covers it first:
 * the strip beside an edge, or one of the sectors about a corner, in each of which the growth is the distance from a straight line. Where
 * two strips or sectors come to a place at once lies on the borders between them, which are straight everywhere.
 */

/** The longest mitre, in times the growth, as of `offset`: longer ones are cut off across. */
const MITRE_LIMIT = 4;

/** A strip beside an edge, or a sector about a corner, with the stretches over which what it meets first is the same. */
export interface MitredSite {
  readonly isCorner: boolean;
  readonly pieces: readonly EnvelopePiece[];
  /** The point of the edge from which a parameter's ray leaves. */
  footAt(t: number): readonly [number, number];
  /** How far the ray goes for each mm of growth. */
  rayAt(t: number): readonly [number, number];
  /** The growth at which something else comes to the ray, at most the run. */
  growthAt(piece: EnvelopePiece, t: number): number;
}

/** A site while it is worked out: the line that its growth is measured from, and the half planes in which it is. */
interface Sector extends MitredSite {
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
type Box = readonly [number, number, number, number];

/** Sectors whose rays are no longer than `mitre` times the growth, by the boxes of their feet. */
interface Reachable {
  readonly mitre: number;
  readonly owners: readonly number[];
  readonly boxes: Flatbush;
}

/** Mitres up to this one are looked for in a small neighbourhood: all edges, and the corners of curves. */
const MILD = 1.1;

/** mm by which a site reaches over its bounds, so that rounding leaves no hair between it and its neighbour. */
const HAIR = 1e-8;
/** Fronts whose normals differ by less than this, and whose lines by so many mm, are on one line. */
const PARALLEL = 1e-9;
const ON_LINE = 2e-6;
/** mm by which of two sites on one line the later one is behind. */
const BIAS = 2e-7;
/** mm by which a growth may come out below 0 for that, as at an inner corner. */
const BEHIND = 1e-4;
const STRAIGHT = 1e-7;
/** mm of an edge, or part of a sector, below which a stretch is one of rounding. */
const LEAST_STRETCH = 4e-6;

/** A stretch of the border of a place where a mitre comes to the fore again, with the growths at its ends. */
export interface ReturnBorder {
  readonly from: GrowthPoint;
  readonly to: GrowthPoint;
}

interface GrowthPoint {
  readonly x: number;
  readonly y: number;
  readonly d: number;
}

/** Growth of an outline with its outer corners mitred. */
export class MitredGrowth {
  readonly sites: readonly MitredSite[];
  /**
   * Where mitres come to the fore again beyond what came to their rays first, which the pieces of sites do not tell: the tip of a mitre
   * runs ahead of its growth, and behind something small the growth about that falls back behind the mitre's.
   */
  readonly returns: readonly ReturnBorder[];
  private readonly sectors: readonly Sector[];
  private readonly index: readonly Reachable[] = [];

  /**
   * @param outline rings with the inside on their left
   * @param run mm; growth beyond it is not told apart
   */
  constructor(
    private readonly outline: Outline,
    private readonly run: number,
  ) {
    this.sites = this.sectors = outline.flatMap(sectorsOf);
    this.index = [MILD, MITRE_LIMIT].flatMap((mitre, k) => {
      const owners = this.sectors.flatMap((sector, i) => (sector.mitre > MILD === (k === 1) ? [i] : []));
      if (owners.length === 0) return [];
      const boxes = new Flatbush(owners.length);
      for (const i of owners) boxes.add(...this.sectors[i].box);
      boxes.finish();
      return [{ mitre, owners, boxes }];
    });
    settleTies(this.sectors);
    this.limitAll(wedgesOf(outline));
    this.returns = this.sectors.flatMap((sector, self) => this.returnsOf(sector, self));
  }

  /** The least growth by which any site covers a place outside of the outline; Infinity where none does, or only beyond the run. */
  at(x: number, y: number): number {
    const { sectors, run } = this;
    for (let growth = Math.min(run, 1); ; growth = Math.min(run, growth * 3)) {
      let best = Infinity;
      this.within([x, y, x, y], growth, (i) => {
        const each = sectors[i];
        const own = (x - each.x) * each.nx + (y - each.y) * each.ny;
        if (own < best && own >= 0 && each.bounds.every(([a, b, c]) => a + b * x + c * y >= -HAIR)) best = own;
      });
      if (best <= growth || growth >= run) return best;
    }
  }

  /** The sectors that can come to any place of a box when they have grown so far. */
  private within([minX, minY, maxX, maxY]: Box, growth: number, visit: (sector: number) => void): void {
    for (const { mitre, owners, boxes } of this.index) {
      const reach = mitre * growth;
      for (const i of boxes.search(minX - reach, minY - reach, maxX + reach, maxY + reach)) visit(owners[i]);
    }
  }

  /** The borders of what a site covers first beyond what limits its rays. */
  private returnsOf(site: Sector, self: number): ReturnBorder[] {
    const { sectors, run } = this;
    // Only rays longer than the growth can be ahead again; by less than this nothing is seen of it.
    if (!site.isCorner || (site.mitre - 1) * run < LEAST_RETURN) return [];
    if (site.pieces.every(({ owner }) => owner === FREE)) return [];
    const cone: Contour = Float64Array.from([site.x, site.y, ...rayEnd(site, site.from, run), ...rayEnd(site, site.to, run)]);
    const others: Sector[] = [];
    this.within(raysOf(site, run), run, (i) => {
      if (i !== self && meets(sectors[i], cone)) others.push(sectors[i]);
    });
    if (!returnsAnywhere(site, others, run)) return [];
    const taken = others.flatMap((other) => coveredOf(site, other, cone));
    return difference(difference([cone], taken), this.outline).flatMap((ring) =>
      Array.from({ length: ring.length / 2 }, (_, i) => {
        const j = (2 * i + 2) % ring.length;
        return { from: growthPoint(site, ring[2 * i], ring[2 * i + 1]), to: growthPoint(site, ring[j], ring[j + 1]) };
      }).filter(({ from, to }) => isBeyondLimit(site, (from.x + to.x) / 2, (from.y + to.y) / 2)),
    );
  }

  private limitAll(wedges: ReadonlyMap<string, readonly Wedge[]>): void {
    const { sectors, run } = this;
    const asked = new Int32Array(sectors.length).fill(-1);
    let near = 0;
    let touched: readonly EnvelopePiece[] = [];
    sectors.forEach((site, self) => {
      const envelope = new Envelope(POWERS, site.from, site.to, site.isCorner ? [-1 / run, 0, 0] : [run, 0, 0], FREE);
      let most = run;
      const limitBy = (other: number): void => {
        if (other === self || asked[other] === self) return;
        asked[other] = self;
        if (limit(site, sectors[other], other, most, envelope)) most = greatestOf(site, envelope.pieces);
      };
      for (const { owner } of touched) if (owner !== FREE) limitBy(owner);
      for (const wedge of (site.isCorner && wedges.get(`${site.x} ${site.y}`)) || [])
        if (limitByWedge(site, wedge, self, envelope)) most = greatestOf(site, envelope.pieces);
      // Growths of neighbours are about alike.
      for (let growth = Math.min(most, Math.max(near * 1.1, 1e-3)); ;) {
        this.within(raysOf(site, growth), growth, limitBy);
        near = most;
        if (most <= growth * (1 + 1e-9)) break;
        growth = Math.min(most, 3 * growth);
      }
      touched = envelope.pieces;
      // What is left of others by rounding, as at the end of an edge, is not there.
      site.pieces = envelope.pieces.filter((piece) => piece.to - piece.from > LEAST_STRETCH);
    });
  }
}

/** mm of growth along a ray, or that a mitre is ahead by, from which on a return counts. */
const LEAST_RETURN = 0.005;
/** mm by which places of neighbours overlap, so that rounding to the grid leaves no gap between them. */
const OVERLAP = 5e-4;
/** mm between the ends of the rays on which returns are looked for, and how many of them there are at most. */
const BETWEEN_RAYS = 0.3;
const MOST_RAYS = 40;

const rayEnd = ({ x, y, rayAt }: Sector, s: number, growth: number): [number, number] => {
  const [rx, ry] = rayAt(s);
  return [x + growth * rx, y + growth * ry];
};

/** Whether a site may come to a triangle: no bound of its own keeps it out of all three corners. */
function meets({ bounds }: Sector, [ax, ay, bx, by, cx, cy]: Contour): boolean {
  for (const [a, b, c] of bounds) {
    if (a + b * ax + c * ay < -HAIR && a + b * bx + c * by < -HAIR && a + b * cx + c * cy < -HAIR) return false;
  }
  return true;
}

/** The growth of a corner's mitre at a place. */
const growthPoint = ({ x: footX, y: footY, nx, ny }: Sector, x: number, y: number): GrowthPoint => ({
  x,
  y,
  d: (x - footX) * nx + (y - footY) * ny,
});

/** Whether a place of a corner's sector lies farther out than what comes to its ray first. */
function isBeyondLimit(site: Sector, x: number, y: number): boolean {
  const { d } = growthPoint(site, x, y);
  if (d < LEAST_RETURN) return false;
  const s = ((x - site.x) * site.ny - (y - site.y) * site.nx) / d;
  return d > limitOn(site, s) + LEAST_RETURN / 2;
}

/** Whether a corner is first again beyond its limit on one of some rays. */
function returnsAnywhere(site: Sector, others: readonly Sector[], run: number): boolean {
  const width = site.to - site.from;
  const count = Math.min(MOST_RAYS, Math.max(3, Math.ceil((width * run) / BETWEEN_RAYS)));
  for (let k = 0; k < count; k++) {
    const s = site.from + ((k + 0.5) / count) * width;
    const limit = limitOn(site, s);
    if (limit >= run - LEAST_RETURN) continue;
    const spans: Span[] = [];
    for (const other of others) {
      const span = coveredAlong(site, other, s, limit, run);
      if (span) spans.push(span);
    }
    spans.push(...insideAlong(site, others, s, run));
    spans.sort((one, other) => one.from - other.from);
    let covered = limit;
    for (const { from, to } of spans) {
      if (from > covered + LEAST_RETURN) break;
      covered = Math.max(covered, to);
    }
    if (covered < run - LEAST_RETURN) return true;
  }
  return false;
}

/** Growths along a ray. */
interface Span {
  readonly from: number;
  readonly to: number;
}

/** The growth at which something else first comes to the ray of a parameter. */
function limitOn(site: Sector, s: number): number {
  const piece = site.pieces.find(({ to }) => s <= to) ?? site.pieces[site.pieces.length - 1];
  return site.growthAt(piece, s);
}

/** Growths of a corner's ray at which another site is ahead, if it is at any beyond a limit. */
function coveredAlong(site: Sector, other: Sector, s: number, limit: number, run: number): Span | undefined {
  const { x, y } = site;
  // The ray of s, as rayAt has it.
  const [rx, ry] = [site.nx + s * site.ny, site.ny - s * site.nx];
  const ahead = (other.x - x) * other.nx + (other.y - y) * other.ny;
  let low = 0;
  let high = run;
  // p + q·h at least 0.
  let p = ahead + HAIR;
  let q = 1 - (rx * other.nx + ry * other.ny);
  for (let k = 0; ; k++) {
    if (q > 1e-15) low = Math.max(low, -p / q);
    else if (q < -1e-15) high = Math.min(high, -p / q);
    else if (p < 0) return undefined;
    if (low >= high || high <= limit) return undefined;
    if (k === other.bounds.length) return { from: low, to: high };
    const [a, b, c] = other.bounds[k];
    p = a + b * x + c * y + HAIR;
    q = b * rx + c * ry;
  }
}

/** Growths between which a corner's ray runs inside of the outline. */
function insideAlong(site: Sector, others: readonly Sector[], s: number, run: number): Span[] {
  const [rx, ry] = site.rayAt(s);
  const passed: { h: number; isIn: boolean }[] = [];
  for (const { isCorner, x, y, nx, ny, bounds } of others) {
    const speed = rx * nx + ry * ny;
    if (isCorner || Math.abs(speed) < 1e-12) continue;
    const h = ((x - site.x) * nx + (y - site.y) * ny) / speed;
    if (h <= LEAST_RETURN / 2 || h >= run) continue;
    const isOnEdge = bounds.every(([a, b, c]) => a + b * (site.x + h * rx) + c * (site.y + h * ry) >= -HAIR);
    if (isOnEdge) passed.push({ h, isIn: speed < 0 });
  }
  passed.sort((one, other) => one.h - other.h);
  return passed.flatMap(({ h, isIn }, i): Span[] => (isIn ? [{ from: h, to: passed[i + 1]?.h ?? run }] : []));
}

/** a + b·x + c·y is at least 0 where another site's growth is not above a corner's. */
const aheadOf = (site: Sector, { x, y, nx, ny }: Sector): Weights => [
  nx * x + ny * y - (site.nx * site.x + site.ny * site.y),
  site.nx - nx,
  site.ny - ny,
];

/** What of a corner's cone another site is ahead in, as a ring or none. */
function coveredOf(site: Sector, other: Sector, cone: Contour): Contour[] {
  let ring = clipped(cone, aheadOf(site, other), HAIR);
  for (const bound of other.bounds) {
    if (ring.length < 6) return [];
    ring = clipped(ring, bound, OVERLAP);
  }
  if (ring.length < 6) return [];
  return Math.abs(contourArea(ring)) > 0 ? [ring] : [];
}

/** What of a convex ring lies where a + b·x + c·y is at least 0, to within a distance (Sutherland and Hodgman 1974). */
function clipped(ring: Contour, [a, b, c]: Weights, within: number): Contour {
  const out: number[] = [];
  const n = ring.length;
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
    const [before, after] = [a + b * ring[j] + c * ring[j + 1] + within, a + b * ring[i] + c * ring[i + 1] + within];
    if (before >= 0 !== after >= 0) {
      const t = before / (before - after);
      out.push(ring[j] + t * (ring[i] - ring[j]), ring[j + 1] + t * (ring[i + 1] - ring[j + 1]));
    }
    if (after >= 0) out.push(ring[i], ring[i + 1]);
  }
  return Float64Array.from(out);
}

/** The box of all rays of a site when they have grown so far. */
function raysOf({ box: [minX, minY, maxX, maxY], rayAt, from, to }: Sector, growth: number): Box {
  const [[ax, ay], [bx, by]] = [rayAt(from), rayAt(to)];
  return [
    minX + growth * Math.min(0, ax, bx),
    minY + growth * Math.min(0, ay, by),
    maxX + growth * Math.max(0, ax, bx),
    maxY + growth * Math.max(0, ay, by),
  ];
}

function greatestOf(site: Sector, pieces: readonly EnvelopePiece[]): number {
  let most = 0;
  for (const piece of pieces) most = Math.max(most, site.growthAt(piece, piece.from), site.growthAt(piece, piece.to));
  return most;
}

/**
 * Edges of several places that lie on one line, as the feet of the letters of a word do, come everywhere at once: in what both reach
 * rounding would decide, here so and there otherwise. One of them is made to be a hair ahead.
 */
function settleTies(sectors: readonly Sector[]): void {
  const angleOf = ({ nx, ny }: Sector): number => {
    const angle = Math.atan2(ny, nx);
    return angle < PARALLEL - Math.PI ? angle + 2 * Math.PI : angle;
  };
  const all = sectors.map((sector) => ({ sector, angle: angleOf(sector), away: sector.x * sector.nx + sector.y * sector.ny }));
  all.sort((one, other) => one.angle - other.angle);
  for (const parallel of inGroups(all, ({ angle }) => angle, PARALLEL)) {
    parallel.sort((one, other) => one.away - other.away);
    for (const group of inGroups(parallel, ({ away }) => away, ON_LINE)) {
      const ranks = new Map<object, number>();
      const [{ away: least }] = group;
      for (const { sector, away } of group) {
        if (!ranks.has(sector.line)) ranks.set(sector.line, ranks.size);
        // As if all lay on the first one.
        sector.bias = away - least + BIAS * ranks.get(sector.line)!;
      }
    }
  }
}

/** Sorted values in groups of which each value is less than a gap above the one before it. */
function inGroups<T>(sorted: readonly T[], valueOf: (item: T) => number, gap: number): T[][] {
  const groups: T[][] = [];
  sorted.forEach((item, i) => {
    if (i > 0 && valueOf(item) - valueOf(sorted[i - 1]) < gap) groups[groups.length - 1].push(item);
    else groups.push([item]);
  });
  return groups;
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

/** Coefficients of a linear function of the plane on the rays of a site: at the foot and, times the growth, along the ray, each linear in t. */
type AlongRays = [atFoot: number, footTurn: number, onRay: number, rayTurn: number];

/** The functions that {@link limit} works with at the moment: it is asked so often that it makes nothing new. */
const onRays: AlongRays = [0, 0, 0, 0];

function alongRays({ foot, footStep, ray, rayStep }: Sector, a: number, b: number, c: number): void {
  onRays[0] = a + b * foot[0] + c * foot[1];
  onRays[1] = b * footStep[0] + c * footStep[1];
  onRays[2] = b * ray[0] + c * ray[1];
  onRays[3] = b * rayStep[0] + c * rayStep[1];
}

/**
 * Limits the rays of a site by another one, where that comes to them first.
 * @param most growth that none of them is above so far
 */
function limit(site: Sector, other: Sector, owner: number, most: number, envelope: Envelope): boolean {
  const { nx, ny, x, y } = other;
  alongRays(site, other.bias - site.bias - (nx * x + ny * y), nx, ny);
  const [f0, f1, g0, g1] = onRays;
  // Equal growth h: f + h·g = h. On an edge g is constant and f linear; at a corner f is constant and g linear.
  if (Math.abs(1 - g0) < PARALLEL && Math.abs(g1) < PARALLEL) return limitOnLine(site, other, owner, most, envelope);
  if (site.isCorner) {
    if (Math.abs(f0 - other.bias + site.bias) <= TOUCHING) return limitFromFoot(site, other, owner, envelope);
    // The other lies behind, or comes nowhere.
    return f0 > 0 && limitWithin(site, other, owner, most, envelope, -(1 - g0) / f0, g1 / f0);
  }
  const share = 1 - g0;
  return share >= 1e-12 && limitWithin(site, other, owner, most, envelope, f0 / share, f1 / share);
}

/** mm within which the foot of a corner lies on the line of another site: places of the outline meet there. */
const TOUCHING = 1e-9;
/** −1/growth where a ray is covered from its foot on. */
const COVERED: Weights = [-1e9, 0, 0];

/** The same by one that comes to the corner's own foot: all rays along which it is ahead are covered from there on. */
function limitFromFoot(site: Sector, other: Sector, owner: number, envelope: Envelope): boolean {
  let { from: low, to: high } = site;
  const keep = (p: number, q: number): void => {
    if (Math.abs(q) < 1e-15) {
      if (p < 0) high = low - 1;
    } else if (q > 0) low = Math.max(low, -p / q);
    else high = Math.min(high, -p / q);
  };
  alongRays(site, 0, other.nx, other.ny);
  keep(1 - PARALLEL - onRays[2], -onRays[3]);
  keep(onRays[2], onRays[3]);
  for (const [a, b, c] of other.bounds) {
    alongRays(site, a, b, c);
    const [p0, , q0, q1] = onRays;
    if (p0 < -HAIR) return false;
    // From a place on the bound rays must lead inwards.
    if (p0 < HAIR) keep(q0 - PARALLEL, q1);
  }
  return high - low > LEAST_STRETCH && envelope.add(COVERED, owner, low, high);
}

/** Between which directions a place of the outline lies about a corner of its edge, anticlockwise, in radians. */
interface Wedge {
  readonly from: number;
  readonly width: number;
}

/** The wedges about every corner at which several places of an outline meet, by its coordinates. */
function wedgesOf(outline: Outline): ReadonlyMap<string, readonly Wedge[]> {
  const all = new Map<string, Wedge[]>();
  for (const ring of outline) {
    const n = ring.length;
    for (let i = 0; i < n; i += 2) {
      const [before, after] = [(i + n - 2) % n, (i + 2) % n];
      const key = `${ring[i]} ${ring[i + 1]}`;
      const from = Math.atan2(ring[after + 1] - ring[i + 1], ring[after] - ring[i]);
      const to = Math.atan2(ring[before + 1] - ring[i + 1], ring[before] - ring[i]);
      const wedge = { from, width: (to - from + 4 * Math.PI) % (2 * Math.PI) };
      const known = all.get(key);
      if (known) known.push(wedge);
      else all.set(key, [wedge]);
    }
  }
  for (const [key, wedges] of all) if (wedges.length < 2) all.delete(key);
  return all;
}

/** Limits the rays of a corner that run into another place which meets the corner's own there. */
function limitByWedge(site: Sector, { from, width }: Wedge, owner: number, envelope: Envelope): boolean {
  const normal = Math.atan2(site.ny, site.nx);
  // Rays run clockwise as their parameter grows: the direction of parameter s is that of the normal less atan(s).
  const start = normal - from;
  let isLimited = false;
  for (let turn = -2; turn <= 2; turn++) {
    const high = Math.min(start + 2 * Math.PI * turn, Math.PI / 2 - 1e-9);
    const low = Math.max(start - width + 2 * Math.PI * turn, 1e-9 - Math.PI / 2);
    if (high <= low) continue;
    const [s0, s1] = [Math.max(site.from, Math.tan(low)), Math.min(site.to, Math.tan(high))];
    if (s1 - s0 > LEAST_STRETCH && envelope.add(COVERED, owner, s0, s1)) isLimited = true;
  }
  return isLimited;
}

/** The same by one that looks the same way: on the same line and ahead, it covers all from where the rays come to it; else nothing. */
function limitOnLine(site: Sector, other: Sector, owner: number, most: number, envelope: Envelope): boolean {
  const { isCorner } = site;
  if (other.line === site.line || other.bias >= site.bias) return false;
  alongRays(site, -(other.nx * other.x + other.ny * other.y), other.nx, other.ny);
  if (Math.abs(onRays[0]) > 4 * ON_LINE) return false;
  let isLimited = false;
  for (const [a, b, c] of other.bounds) {
    alongRays(site, a, b, c);
    const [p0, p1, q0, q1] = onRays;
    if (isCorner ? p0 >= -1e-9 : q0 <= 1e-9) continue;
    const [w0, w1] = isCorner ? [q0 / p0, q1 / p0] : [-p0 / q0, -p1 / q0];
    if (limitWithin(site, other, owner, most, envelope, w0, w1)) isLimited = true;
  }
  return isLimited;
}

/**
 * Limits the rays of a site where the growth at which they come to another one, given by its weights, is inside of that one's bounds.
 * @param w0 and w1: growth w0 + w1·t on an edge, −1/growth at a corner
 */
function limitWithin(
  site: Sector,
  other: Sector,
  owner: number,
  most: number,
  envelope: Envelope,
  w0: number,
  w1: number,
): boolean {
  const { from, to, isCorner } = site;
  const largest = isCorner ? -1 / most : most;
  if (w0 + w1 * from >= largest && w0 + w1 * to >= largest) return false;
  let low = from;
  let high = to;
  // p + q·t at least 0.
  const keep = (p: number, q: number): void => {
    if (Math.abs(q) < 1e-15) {
      if (p < 0) high = low - 1;
    } else if (q > 0) low = Math.max(low, -p / q);
    else high = Math.min(high, -p / q);
  };
  // Where the growth is above 0.
  if (isCorner) keep(-w0 - 1e-12, -w1);
  else keep(site.across.includes(other) ? w0 + BEHIND : w0, w1);
  for (const [a, b, c] of other.bounds) {
    if (high - low <= LEAST_STRETCH) return false;
    alongRays(site, a, b, c);
    const [p0, p1, q0, q1] = onRays;
    // p + h·q at least −HAIR, with h linear, or 1/h.
    if (isCorner) keep((p0 + HAIR) * -w0 + q0, (p0 + HAIR) * -w1 + q1);
    else keep(p0 + HAIR + w0 * q0, p1 + w1 * q0);
  }
  return high - low > LEAST_STRETCH && envelope.add([w0, w1, 0], owner, low, high);
}
