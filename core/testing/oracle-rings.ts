import type { CrossSection } from 'manifold-3d';
import { Area, type Ring } from './brute-area.js';

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

/** Two steps of the grid, in mm: what is narrower has no area on it. */
const NARROWEST = 2 / 8000;

/** What the grid can hold of an outline. */
export function thickEnough(outline: CrossSection): CrossSection | undefined {
  if (outline.isEmpty()) return undefined;
  const { min, max } = outline.bounds();
  return Math.min(max[0] - min[0], max[1] - min[1]) < NARROWEST ? undefined : outline;
}

/** mm from the middle of the blank that parts may reach. */
const FARTHEST = (2 ** 25 - 1) / 8000;

/** Whether a box of least and greatest coordinates reaches further. */
export const isBeyond = (box: readonly number[]): boolean => box.some((value) => Math.abs(value) > FARTHEST);
