import { degrees } from '../../geometry/index.js';
import { type Blank } from '../document/schema-blank.js';
import { type Support } from '../document/schema-support.js';

/** A cone as it is given: the radii of the face below and above, and the height between. */
export interface ConeSize {
  readonly bottom: number;
  readonly top: number;
  readonly height: number;
}

/** A cone laid flat: the ring sector that it is unrolled to, whose middle is that of the plan. */
export interface UnrolledCone {
  /** mm from the apex to the middle of the slant; of the near and of the far edge. */
  readonly middle: number;
  readonly inner: number;
  readonly outer: number;
  /** Radians of the whole sector: 2π·sin α for half of the apex angle α. */
  readonly angle: number;
  /** Whether the apex is above: the cone grows narrower upwards. */
  readonly isApexAbove: boolean;
  /** y of the apex in the plan. */
  readonly apex: number;
  readonly slant: number;
}

/** The sector that a cone is unrolled to. Its radii are the slant heights, its angle is 2π·sin α. */
export function unrolledCone({ bottom, top, height }: ConeSize): UnrolledCone {
  const slant = Math.hypot(height, bottom - top);
  const sin = Math.abs(bottom - top) / slant;
  const [near, far] = [Math.min(bottom, top) / sin, Math.max(bottom, top) / sin];
  const middle = (near + far) / 2;
  const isApexAbove = top < bottom;
  return { middle, inner: near, outer: far, angle: 2 * Math.PI * sin, isApexAbove, apex: isApexAbove ? middle : -middle, slant };
}

/** The outline of a blank that goes all the way round a support: on a cylinder of this height; undefined where nothing goes round. */
export function blankAllRound(support: Support | undefined, height: number): Blank['outline'] | undefined {
  if (support?.kind === 'cylinder' && support.round)
    return { kind: 'rectangle', width: 2 * Math.PI * support.radius, height, cornerRadius: 0 };
  if (support?.kind !== 'cone' || !support.round || support.bottom === support.top) return undefined;
  const { middle, slant, angle, isApexAbove } = unrolledCone(support);
  return { kind: 'sector', radius: middle, height: slant, span: degrees(angle), apex: isApexAbove ? 'above' : 'below' };
}
