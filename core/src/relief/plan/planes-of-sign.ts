import {
  isFlat,
  outlinesUsed,
  type Part,
  planeHosts,
  type Side,
  sideOf,
  type Sign,
  type Tier,
  tierLevel,
} from '../../sign/index.js';
import { SupportPlane, surfaceOf } from '../../support/index.js';
import { anchorsOf } from '../placing/part-outline.js';

/** The plane that a tier's levels are measured from; undefined where that is the face. */
export type PlaneOf = (part: Part, tier: Tier) => SupportPlane | undefined;

/** The plane that a part sits on, with the place that it touches nearest to the part's own; undefined of one that sits on none. */
export interface GroundPlane {
  readonly plane: SupportPlane;
  readonly at: { readonly x: number; readonly y: number };
  /** That of its first tier with one, at which its outline is true in the plane. */
  readonly level: number;
  /** What places of the part depend on besides. */
  readonly key: string;
}

/** The ground planes of parts, as their own sides see them; none of a part that follows other outlines, which lie where they lie. */
export function groundPlanes(
  sign: Sign,
  planeOf: PlaneOf,
  bases: ReadonlyMap<string, number>,
): (part: Part) => GroundPlane | undefined {
  const hosts = planeHosts(sign);
  return (part) => {
    const host = sign.parts.find(({ id }) => id === hosts.get(part.id));
    const plane = host && part.tiers.length > 0 && !isFollowing(part) ? planeOf(part, part.tiers[0]) : undefined;
    if (!host || !plane) return undefined;
    const base = bases.get(part.id) ?? 0;
    const level = part.tiers.flatMap((tier) => (tier.on ? [tierLevel(tier, base)] : [])).find(Number.isFinite) ?? base;
    const far = ([x, y]: readonly [number, number]): number => Math.hypot(x - part.place.x, y - part.place.y);
    const [x, y] = anchorsOf(host).reduce((near, other) => (far(other) < far(near) ? other : near));
    const key = JSON.stringify([sign.support, sign.blank.thickness, sideOf(host), anchorsOf(host), level]);
    return { plane, at: { x, y }, level, key };
  };
}

const isFollowing = (part: Part): boolean =>
  outlinesUsed(part).length > 0 || (part.kind === 'shape' && (part.shape.kind === 'border' || part.shape.kind === 'fixings'));

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
