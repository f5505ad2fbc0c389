import type { Action, BlankEdge, Edge } from '../sign/index.js';
import { Ramp } from './ramp.js';

/** mm by which the chords of a round edge may be too high or too low. */
const ROUND_TOLERANCE = 0.012;

/** Where a round edge is nearly upright, chords this wide, in mm, are as good as upright. */
const UPRIGHT_WIDTH = 0.003;

/** The distance that a ridge without a cap may run: more than half of the widest sign. */
const UNCAPPED_RUN = 4200;

/** Slopes narrower than this, in mm, are upright: no line fits beside the edge. */
const NARROWEST = 0.002;

const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/**
 * How a tier rises (or sinks) from the edge of its area: the height above its foot as a function of the distance from that edge.
 *
 * @param edge undefined for upright
 * @param amount mm that it rises in all, 0 or more
 */
export function edgeRamp(edge: Edge | BlankEdge | undefined, amount: number): Ramp {
  const ramp = rampOf(edge, amount);
  return ramp.run < NARROWEST ? Ramp.level(ramp.end) : ramp;
}

function rampOf(edge: Edge | BlankEdge | undefined, amount: number): Ramp {
  if (!edge || (amount === 0 && !(edge.kind === 'ridged' && !edge.capped))) return Ramp.level(amount);
  switch (edge.kind) {
    case 'sloped':
      return new Ramp([0, amount * Math.tan(radians(edge.angle))], [0, amount]);
    case 'ridged': {
      const slope = Math.tan(radians(edge.angle / 2));
      return edge.capped ? new Ramp([0, amount * slope], [0, amount]) : new Ramp([0, UNCAPPED_RUN], [0, UNCAPPED_RUN / slope]);
    }
    case 'chamfered': {
      const height = Math.min(edge.height, amount);
      return new Ramp([0, edge.width], [amount - height, amount]);
    }
    case 'rounded': {
      const r = Math.min(edge.radius, amount);
      return quarter(r, (d) => amount - r + Math.sqrt(Math.max(0, r * r - (r - d) ** 2)));
    }
    case 'cove': {
      const r = Math.min(edge.radius, amount);
      return quarter(r, (d) => amount - Math.sqrt(Math.max(0, r * r - d * d)));
    }
  }
}

/** A quarter circle in as few chords as keep to the tolerance, from its start at d = 0 to its end at the radius. */
function quarter(radius: number, height: (d: number) => number): Ramp {
  const distances = [0];
  for (let from = 0; from < radius;) {
    let [low, high] = [Math.min(radius, from + UPRIGHT_WIDTH), radius];
    if (strayOf(height, from, high) <= ROUND_TOLERANCE) low = high;
    while (high - low > radius * 1e-4) {
      const middle = (low + high) / 2;
      if (strayOf(height, from, middle) <= ROUND_TOLERANCE) low = middle;
      else high = middle;
    }
    // A last chord too short to be worth a line goes with the one before.
    from = radius - low < UPRIGHT_WIDTH ? radius : low;
    distances.push(from);
  }
  return new Ramp(distances, distances.map(height));
}

/** The greatest difference in height between a function and its chord, at a few places between. */
function strayOf(height: (d: number) => number, from: number, to: number): number {
  const [a, b] = [height(from), height(to)];
  let most = 0;
  for (let i = 1; i < STRAY_PLACES; i++) {
    // Closer together towards both ends, where a circle may be steep.
    const t = (1 - Math.cos((Math.PI * i) / STRAY_PLACES)) / 2;
    most = Math.max(most, Math.abs(height(from + t * (to - from)) - (a + t * (b - a))));
  }
  return most;
}

const STRAY_PLACES = 24;

/**
 * The same, exactly: what {@link edgeRamp} follows in chords. The quarter circles are textbook; a slope of α from upright rises
 * d / tan α over the distance d.
 */
export function exactRise(edge: Edge | BlankEdge | undefined, amount: number, d: number): number {
  if (edge?.kind === 'rounded') {
    const r = Math.min(edge.radius, amount);
    return d >= r ? amount : amount - r + Math.sqrt(Math.max(0, r * r - (r - d) ** 2));
  }
  if (edge?.kind === 'cove') {
    const r = Math.min(edge.radius, amount);
    return d >= r ? amount : amount - Math.sqrt(r * r - d * d);
  }
  return edgeRamp(edge, amount).at(d);
}

/** Whether what an action makes has upright sides whatever is chosen. */
export const isUpright = ({ kind }: Action): boolean => kind === 'cut-through' || kind === 'mark' || kind === 'insert';

/** mm by which the foot of a slope that is sized at its other end lies outside of the outline: height × tan of the angle. */
export function growthOf(edge: Edge | undefined, amount: number, isCarved: boolean): number {
  if (edge?.kind !== 'sloped') return 0;
  const run = amount * Math.tan(radians(edge.angle));
  return (edge.sized === 'top') !== isCarved && run >= NARROWEST ? run : 0;
}
