import type { CrossSection, ManifoldToplevel } from 'manifold-3d';
import { Area, type Ring } from './brute-area.js';
import { crossSection } from './referee.js';

/** The rings of what the general library has. */
export const ringsOf = (section: CrossSection): Ring[] => section.toPolygons() as unknown as Ring[];

export const areaOf = (section: CrossSection): Area => new Area(ringsOf(section));

/** mm² that a ring encloses, above 0 where it runs anticlockwise. */
export const signedArea = (ring: Ring): number =>
  ring.reduce((sum, [x, y], i) => {
    const [nextX, nextY] = ring[(i + 1) % ring.length];
    return sum + x * nextY - nextX * y;
  }, 0) / 2;

/** Its largest ring; a square millimetre where there is none. */
export function largestRing(section: CrossSection): Ring {
  const rings = ringsOf(section).filter((ring) => signedArea(ring) > 0);
  const [first] = rings.sort((a, b) => signedArea(b) - signedArea(a));
  return first ?? [[-0.5, -0.5], [0.5, -0.5], [0.5, 0.5], [-0.5, 0.5]]; // prettier-ignore
}

/** A step of the grid, in mm: what is narrower has no area on it. */
const NARROWEST = 1 / 8000;

/** What the grid can hold of an outline: rings that are no narrower, on the whole, than its steps. */
export function thickEnough(m: ManifoldToplevel, outline: CrossSection): CrossSection {
  const rings = ringsOf(outline);
  const thick = rings.filter((ring) => (2 * Math.abs(signedArea(ring))) / lengthOf(ring) >= NARROWEST);
  return thick.length === rings.length ? outline : crossSection(m, thick.map((ring) => Float64Array.from(ring.flat()))); // prettier-ignore
}

const lengthOf = (ring: Ring): number =>
  ring.reduce((sum, [x, y], i) => {
    const [nextX, nextY] = ring[(i + 1) % ring.length];
    return sum + Math.hypot(nextX - x, nextY - y);
  }, 0);

/** mm from the middle of the blank that parts may reach. */
const FARTHEST = (2 ** 25 - 1) / 8000;

/** Whether a box of least and greatest coordinates reaches further. */
export const isBeyond = (box: readonly number[]): boolean => box.some((value) => Math.abs(value) > FARTHEST);
