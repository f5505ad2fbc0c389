import { type Part, planeHosts, type Side, sideOf, type Sign, isFlat, type Tier } from '../../sign/index.js';
import { SupportPlane, surfaceOf } from '../../support/index.js';
import { anchorsOf } from '../placing/part-outline.js';

/** The plane that a tier's levels are measured from; undefined where that is the face. */
export type PlaneOf = (part: Part, tier: Tier) => SupportPlane | undefined;

/**
 * The planes of a sign's flat levels, each square to the surface at the places of the part that brings it.
 * @param seen the side that is turned to the reader
 */
export function planesOfSign(sign: Sign, seen: Side): PlaneOf {
  const surface = sign.support?.kind === 'block' ? undefined : surfaceOf(sign);
  if (!surface || !sign.parts.some(({ tiers }) => tiers.some(isFlat))) return () => undefined;
  const hosts = planeHosts(sign);
  const planes = new Map<string, SupportPlane>();
  return ({ id }, tier) => {
    const host = hosts.get(id) ?? (isFlat(tier) ? id : undefined);
    if (host === undefined) return undefined;
    let plane = planes.get(host);
    if (!plane) {
      const part = sign.parts.find((other) => other.id === host)!;
      const sides = { own: sideOf(part), seen, thickness: sign.blank.thickness };
      planes.set(host, (plane = new SupportPlane(host, surface, anchorsOf(part), sides)));
    }
    return plane;
  };
}
