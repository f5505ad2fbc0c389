import { radians } from '../../geometry/index.js';
import { type BlankEdge, type Edge } from '../../sign/index.js';
import { HeightProfile } from './height-profile.js';

/** mm by which the chords of a round edge may stray from it to either side. */
const ROUND_TOLERANCE = 0.008;

/** The distance that a ridge without a cap may run: more than half of the widest sign. */
const UNCAPPED_RUN = 4200;

/** Slopes narrower than this, in mm, are upright: no line fits beside the edge. */
const NARROWEST = 0.002;

/**
 * How a tier rises (or sinks) from the edge of its area: the height above its foot as a function of the distance from that edge.
 *
 * @param edge undefined for upright
 * @param amount mm that it rises in all, 0 or more
 */
export function edgeProfile(edge: Edge | BlankEdge | undefined, amount: number): HeightProfile {
  const profile = rampOf(edge, amount);
  return profile.run < NARROWEST ? HeightProfile.level(profile.end) : profile;
}

function rampOf(edge: Edge | BlankEdge | undefined, amount: number): HeightProfile {
  if (!edge || (amount === 0 && !(edge.kind === 'ridged' && !edge.capped))) return HeightProfile.level(amount);
  switch (edge.kind) {
    case 'sloped':
      return new HeightProfile([0, amount * Math.tan(radians(edge.angle))], [0, amount]);
    case 'ridged': {
      const slope = Math.tan(radians(edge.angle / 2));
      return edge.capped
        ? new HeightProfile([0, amount * slope], [0, amount])
        : new HeightProfile([0, UNCAPPED_RUN], [0, UNCAPPED_RUN / slope]);
    }
    case 'chamfered': {
      const height = Math.min(edge.height, amount);
      return new HeightProfile([0, edge.width], [amount - height, amount]);
    }
    case 'rounded': {
      const r = Math.min(edge.radius, amount);
      return arc(r, 0, (across, up) => [r - across, amount - r + up]);
    }
    case 'domed': {
      const { radius, from } = domeOf(edge.width, amount);
      return arc(radius, from, (across, up) => [edge.width - across, amount - radius + up]);
    }
    case 'cove': {
      const r = Math.min(edge.radius, amount);
      return arc(r, 0, (across, up) => [up, amount - across]);
    }
  }
}

/** The arc of a dome: of a circle about a place under its top, from this angle to upright; one higher than wide is a quarter circle. */
function domeOf(width: number, amount: number): { readonly radius: number; readonly from: number } {
  const height = Math.min(width, amount);
  const radius = (width * width + height * height) / (2 * height);
  return { radius, from: Math.atan2(radius - height, width) };
}

/**
 * An arc of a circle up to its top in as few chords as keep to the tolerance. Its ends lie on it, the corners between a little outside and the middles
 * of the chords as much inside: a chord of angle φ between two corners at r + t dips to r − t where rφ²/8 = 2t, one from an end where
 * rφ²/8 = 1.5t.
 * @param from the angle at which it begins: 0 of a quarter circle
 * @param place distance and height of a point of the circle, across from its middle to the first end and up to the last
 */
function arc(radius: number, from: number, place: (across: number, up: number) => readonly [number, number]): HeightProfile {
  const most = Math.sqrt((16 * ROUND_TOLERANCE) / radius);
  const whole = Math.PI / 2 - from;
  const chords = Math.max(1, Math.ceil(whole / most + 2 * (1 - END_CHORD) - 1e-9));
  const angle = whole / (chords - 2 * (1 - END_CHORD));
  const corner = radius * (1 + angle ** 2 / 16);
  const places = Array.from({ length: chords + 1 }, (_, i) => {
    if (i === 0) return place(radius * Math.cos(from), radius * Math.sin(from));
    if (i === chords) return place(0, radius);
    const turned = from + angle * (i - 1 + END_CHORD);
    return place(corner * Math.cos(turned), corner * Math.sin(turned));
  });
  return new HeightProfile(
    places.map(([distance]) => distance),
    places.map(([, height]) => height),
  );
}

/** Angle of the first and the last chord as a share of the others'. */
const END_CHORD = 0.85;

/**
 * The same, exactly: what {@link edgeProfile} follows in chords. The quarter circles are textbook; a slope of α from upright rises
 * d / tan α over the distance d.
 */
export function exactRise(edge: Edge | BlankEdge | undefined, amount: number, d: number): number {
  if (edge?.kind === 'rounded') {
    const r = Math.min(edge.radius, amount);
    return d >= r ? amount : amount - r + Math.sqrt(Math.max(0, r * r - (r - d) ** 2));
  }
  if (edge?.kind === 'domed' && amount > 0) {
    const { radius } = domeOf(edge.width, amount);
    return d >= edge.width ? amount : amount - radius + Math.sqrt(Math.max(0, radius * radius - (edge.width - d) ** 2));
  }
  if (edge?.kind === 'cove') {
    const r = Math.min(edge.radius, amount);
    return d >= r ? amount : amount - Math.sqrt(r * r - d * d);
  }
  return edgeProfile(edge, amount).at(d);
}

/** mm by which the foot of a slope that is sized at its other end lies outside of the outline: height × tan of the angle. */
export function growthOf(edge: Edge | undefined, amount: number, isCarved: boolean): number {
  if (edge?.kind !== 'sloped') return 0;
  const run = amount * Math.tan(radians(edge.angle));
  return (edge.sized === 'top') !== isCarved && run >= NARROWEST ? run : 0;
}
