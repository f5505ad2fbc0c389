import { type Arc, type ArcPlane, type Place, PLANES } from './motion.js';

/** mm by which the radii at both ends of an arc may differ (RS274/NGC, section 3.5.3: 0.0002 in, or 0.002 mm). */
const RADIUS_TOLERANCE = 0.002;
const FULL = 2 * Math.PI;

export interface ArcWords {
  readonly plane: ArcPlane;
  readonly isClockwise: boolean;
  /** Radius in mm, below 0 for an arc of more than half a circle; or the centre, by the plane's two axes. */
  readonly by: { readonly radius: number } | { readonly centre: readonly [number, number] };
}

/** The arc between two places, or a sentence that says why there is none (RS274/NGC, sections 3.5.3.1 and 3.5.3.2). */
export function arcBetween(from: Place, to: Place, { plane, isClockwise, by }: ArcWords): Arc | string {
  const { first, second } = PLANES[plane];
  const start = [from[first], from[second]] as const;
  const end = [to[first], to[second]] as const;
  const centre = 'centre' in by ? by.centre : centreOf(start, end, by.radius, isClockwise);
  if (typeof centre === 'string') return centre;
  const [radius, other] = [start, end].map((at) => Math.hypot(at[0] - centre[0], at[1] - centre[1]));
  if (radius < 1e-9) return 'the centre of this arc is where it begins.';
  if (Math.abs(radius - other) > RADIUS_TOLERANCE)
    return `this arc does not close: it begins ${shown(radius)} mm from its centre and ends ${shown(other)} mm from it.`;
  const [begins, ends] = [start, end].map((at) => Math.atan2(at[1] - centre[1], at[0] - centre[0]));
  let sweep = ends - begins;
  // An arc that ends where it begins is a full circle.
  const isFull = Math.hypot(start[0] - end[0], start[1] - end[1]) < 1e-9;
  if (isClockwise) sweep = isFull ? -FULL : sweep >= 0 ? sweep - FULL : sweep;
  else sweep = isFull ? FULL : sweep <= 0 ? sweep + FULL : sweep;
  return { plane, centre, radius, sweep };
}

/** The centre of an arc of a radius: of the two that there are the one that makes it less than half a circle, or more. */
function centreOf(
  start: readonly [number, number],
  end: readonly [number, number],
  radius: number,
  isClockwise: boolean,
): readonly [number, number] | string {
  const [dx, dy] = [end[0] - start[0], end[1] - start[1]];
  const chord = Math.hypot(dx, dy);
  if (chord < 1e-9) return 'an arc by its radius cannot end where it begins: give its centre by I and J.';
  if (chord / 2 > Math.abs(radius) + RADIUS_TOLERANCE)
    return `no arc of radius ${shown(Math.abs(radius))} mm reaches over ${shown(chord)} mm.`;
  const rise = Math.sqrt(Math.max(0, radius ** 2 - (chord / 2) ** 2));
  const side = isClockwise === radius > 0 ? 1 : -1;
  return [start[0] + dx / 2 + (side * rise * dy) / chord, start[1] + dy / 2 - (side * rise * dx) / chord];
}

const shown = (mm: number): string => String(Number(mm.toFixed(4)));
