import { difference } from '../arrangement/index.js';
import { contourArea, type Contour, type Outline } from '../geometry/index.js';
import { type Weights } from './envelope.js';
import { HAIR, type Sector } from './mitre-sectors.js';
import { FREE } from './sites.js';

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
/** mm of growth along a ray, or that a mitre is ahead by, from which on a return counts. */
const LEAST_RETURN = 0.005;
/** mm by which places of neighbours overlap, so that rounding to the grid leaves no gap between them. */
const OVERLAP = 5e-4;
/** mm between the ends of the rays on which returns are looked for, and how many of them there are at most. */
const BETWEEN_RAYS = 0.3;
const MOST_RAYS = 40;

/** A growth, and how far it is told apart. */
interface Grown {
  readonly outline: Outline;
  readonly maxDistance: number;
}

/**
 * The borders of what a site covers first beyond what limits its rays.
 * @param near visits all other sites that may come to its rays
 */
export function returnBorders(
  site: Sector,
  { outline, maxDistance }: Grown,
  near: (visit: (other: Sector) => void) => void,
): ReturnBorder[] {
  // Only rays longer than the growth can be ahead again; by less than this nothing is seen of it.
  if (!site.isCorner || (site.mitre - 1) * maxDistance < LEAST_RETURN) return [];
  if (site.pieces.every(({ owner }) => owner === FREE)) return [];
  const cone: Contour = Float64Array.from([
    site.x,
    site.y,
    ...rayEnd(site, site.from, maxDistance),
    ...rayEnd(site, site.to, maxDistance),
  ]);
  const others: Sector[] = [];
  near((other) => {
    if (meets(other, cone)) others.push(other);
  });
  if (!returnsAnywhere(site, others, maxDistance)) return [];
  const taken = others.flatMap((other) => coveredOf(site, other, cone));
  return difference(difference([cone], taken), outline).flatMap((ring) =>
    Array.from({ length: ring.length / 2 }, (_, i) => {
      const j = (2 * i + 2) % ring.length;
      return { from: growthPoint(site, ring[2 * i], ring[2 * i + 1]), to: growthPoint(site, ring[j], ring[j + 1]) };
    }).filter(({ from, to }) => isBeyondLimit(site, (from.x + to.x) / 2, (from.y + to.y) / 2)),
  );
}

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
function returnsAnywhere(site: Sector, others: readonly Sector[], maxDistance: number): boolean {
  const width = site.to - site.from;
  const count = Math.min(MOST_RAYS, Math.max(3, Math.ceil((width * maxDistance) / BETWEEN_RAYS)));
  for (let k = 0; k < count; k++) {
    const s = site.from + ((k + 0.5) / count) * width;
    const limit = limitOn(site, s);
    if (limit >= maxDistance - LEAST_RETURN) continue;
    const spans: Span[] = [];
    for (const other of others) {
      const span = coveredAlong(site, other, s, limit, maxDistance);
      if (span) spans.push(span);
    }
    spans.push(...insideAlong(site, others, s, maxDistance));
    spans.sort((one, other) => one.from - other.from);
    let covered = limit;
    for (const { from, to } of spans) {
      if (from > covered + LEAST_RETURN) break;
      covered = Math.max(covered, to);
    }
    if (covered < maxDistance - LEAST_RETURN) return true;
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
function coveredAlong(site: Sector, other: Sector, s: number, limit: number, maxDistance: number): Span | undefined {
  const { x, y } = site;
  // The ray of s, as rayAt has it.
  const [rx, ry] = [site.nx + s * site.ny, site.ny - s * site.nx];
  const ahead = (other.x - x) * other.nx + (other.y - y) * other.ny;
  let low = 0;
  let high = maxDistance;
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
function insideAlong(site: Sector, others: readonly Sector[], s: number, maxDistance: number): Span[] {
  const [rx, ry] = site.rayAt(s);
  const passed: { h: number; isIn: boolean }[] = [];
  for (const { isCorner, x, y, nx, ny, bounds } of others) {
    const speed = rx * nx + ry * ny;
    if (isCorner || Math.abs(speed) < 1e-12) continue;
    const h = ((x - site.x) * nx + (y - site.y) * ny) / speed;
    if (h <= LEAST_RETURN / 2 || h >= maxDistance) continue;
    const isOnEdge = bounds.every(([a, b, c]) => a + b * (site.x + h * rx) + c * (site.y + h * ry) >= -HAIR);
    if (isOnEdge) passed.push({ h, isIn: speed < 0 });
  }
  passed.sort((one, other) => one.h - other.h);
  return passed.flatMap(({ h, isIn }, i): Span[] => (isIn ? [{ from: h, to: passed[i + 1]?.h ?? maxDistance }] : []));
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
