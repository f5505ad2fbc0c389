import { type ContourSet } from '../../arrangement/index.js';
import { type Contour, reversed } from '../../geometry/index.js';

const known = new WeakMap<ContourSet, ContourSet>();

/** Contours as they are seen from the other side, x counted the other way; the same ones for the same ones. */
export function mirrored(contours: ContourSet): ContourSet {
  let turned = known.get(contours);
  if (!turned) known.set(contours, (turned = contours.map(mirroredRing)));
  return turned;
}

/** A ring with x counted the other way, and still with its inside on the same hand. */
export const mirroredRing = (ring: Contour): Contour => reversed(ring.map((value, i) => (i % 2 === 0 ? -value : value)));
