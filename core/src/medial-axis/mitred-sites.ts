import Flatbush from 'flatbush';
import { type Outline } from '../geometry/index.js';
import { Envelope, type EnvelopePiece, POWERS, type Weights } from './envelope.js';
import { type ReturnBorder, returnBorders } from './mitre-returns.js';
import { type Box, HAIR, MITRE_LIMIT, type MitredSite, type Sector, sectorsOf } from './mitre-sectors.js';
import { FREE } from './sites.js';

/**
 * How far an outline has to grow, its outer corners mitred, until it covers a place outside of it, taken apart by what covers it first:
 * the strip beside an edge, or one of the sectors about a corner, in each of which the growth is the distance from a straight line. Where
 * two strips or sectors come to a place at once lies on the borders between them, which are straight everywhere.
 */

/** Sectors whose rays are no longer than `mitre` times the growth, by the boxes of their feet. */
interface Reachable {
  readonly mitre: number;
  readonly owners: readonly number[];
  readonly boxes: Flatbush;
}

/** Mitres up to this one are looked for in a small neighbourhood: all edges, and the corners of curves. */
const MILD = 1.1;

/** Sites whose normals differ by less than this, and whose lines by so many mm, are on one line. */
const PARALLEL = 1e-9;
const ON_LINE = 2e-6;
/** mm by which of two sites on one line the later one is behind. */
const BIAS = 2e-7;
/** mm by which a growth may come out below 0 for that, as at an inner corner. */
const BEHIND = 1e-4;
/** mm of an edge, or part of a sector, below which a stretch is one of rounding. */
const LEAST_STRETCH = 4e-6;

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
   * @param maxDistance mm; growth beyond it is not told apart
   */
  constructor(
    private readonly outline: Outline,
    private readonly maxDistance: number,
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

  /** The least growth by which any site covers a place outside of the outline; Infinity where none does, or only beyond `maxDistance`. */
  at(x: number, y: number): number {
    const { sectors, maxDistance } = this;
    for (let growth = Math.min(maxDistance, 1); ; growth = Math.min(maxDistance, growth * 3)) {
      let best = Infinity;
      this.within([x, y, x, y], growth, (i) => {
        const each = sectors[i];
        const own = (x - each.x) * each.nx + (y - each.y) * each.ny;
        if (own < best && own >= 0 && each.bounds.every(([a, b, c]) => a + b * x + c * y >= -HAIR)) best = own;
      });
      if (best <= growth || growth >= maxDistance) return best;
    }
  }

  /** The sectors that can come to any place of a box when they have grown so far. */
  private within([minX, minY, maxX, maxY]: Box, growth: number, visit: (sector: number) => void): void {
    for (const { mitre, owners, boxes } of this.index) {
      const reach = mitre * growth;
      for (const i of boxes.search(minX - reach, minY - reach, maxX + reach, maxY + reach)) visit(owners[i]);
    }
  }

  private returnsOf(site: Sector, self: number): ReturnBorder[] {
    const { sectors, maxDistance, outline } = this;
    return returnBorders(site, { outline, maxDistance }, (visit) =>
      this.within(raysOf(site, maxDistance), maxDistance, (i) => {
        if (i !== self) visit(sectors[i]);
      }),
    );
  }

  private limitAll(wedges: ReadonlyMap<string, readonly Wedge[]>): void {
    const { sectors, maxDistance } = this;
    const asked = new Int32Array(sectors.length).fill(-1);
    let near = 0;
    let touched: readonly EnvelopePiece[] = [];
    sectors.forEach((site, self) => {
      const envelope = new Envelope(
        POWERS,
        site.from,
        site.to,
        site.isCorner ? [-1 / maxDistance, 0, 0] : [maxDistance, 0, 0],
        FREE,
      );
      let most = maxDistance;
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
