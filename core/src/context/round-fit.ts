import { cross, dot, minus, unit, type Vector, weightedSum } from '../geometry/index.js';
import { NormalEquations } from './normal-equations.js';

/** Places, and how often each counts. */
export interface WeightedPlaces {
  readonly places: readonly Vector[];
  readonly weights: readonly number[];
}

/** A place on an axis, the radius beside it, and the angle at which the surface opens along the axis: 0 of a cylinder. */
export interface RoundSurface {
  readonly at: Vector;
  readonly axis: Vector;
  readonly radius: number;
  readonly angle: number;
}

const MOST_STEPS = 100;
/** A step so small, in the size of what is fitted to, ends it. */
const DONE = 1e-12;

/**
 * The cylinder or cone that comes nearest, step by step from a guess: damped Gauss–Newton steps (D. Marquardt, 1963) that turn the axis
 * about both directions across it, move it along them, and change radius and angle (parameters after C. M. Shakarji, Journal of Research
 * of NIST 103, 1998).
 */
export function refined(kind: 'cylinder' | 'cone', among: WeightedPlaces, from: RoundSurface, scale: number): RoundSurface {
  let surface = from;
  let damping = 1e-3;
  let sum = sumOfSquares(among, surface);
  for (let step = 0; step < MOST_STEPS && damping < 1e12; step++) {
    const better = stepped(kind, among, surface, damping);
    const next = sumOfSquares(among, better);
    if (!(next <= sum)) {
      damping *= 10;
      continue;
    }
    const change = Math.hypot(...minus(better.at, surface.at)) + Math.abs(better.radius - surface.radius);
    [surface, sum, damping] = [better, next, Math.max(damping / 10, 1e-15)];
    if (change < DONE * scale) break;
  }
  return surface;
}

/** A cylinder to begin with: the circle across the axis that comes nearest in the squares of distances (I. Kåsa, 1976). */
export function roughCylinder({ places, weights }: WeightedPlaces, middle: Vector, axis: Vector): RoundSurface {
  const [u, v] = acrossOf(axis);
  const equations = new NormalEquations(3);
  places.forEach((place, i) => {
    const from = minus(place, middle);
    const [x, y] = [dot(from, u), dot(from, v)];
    equations.add([x, y, 1], x * x + y * y, weights[i]);
  });
  const [a, b, c] = equations.solved();
  const radius = Math.sqrt(Math.max(0, c + (a * a + b * b) / 4));
  return { at: weightedSum([1, middle], [a / 2, u], [b / 2, v]), axis, radius, angle: 0 };
}

function stepped(
  kind: 'cylinder' | 'cone',
  { places, weights }: WeightedPlaces,
  surface: RoundSurface,
  damping: number,
): RoundSurface {
  const { at, axis, radius, angle } = surface;
  const [u, v] = acrossOf(axis);
  const [sin, cos] = [Math.sin(angle), Math.cos(angle)];
  const equations = new NormalEquations(kind === 'cylinder' ? 5 : 6);
  places.forEach((place, i) => {
    const from = minus(place, at);
    const [qu, qv, along] = [dot(from, u), dot(from, v), dot(from, axis)];
    const away = Math.hypot(qu, qv) || Number.MIN_VALUE;
    const [du, dv] = [qu / away, qv / away];
    const distance = (away - radius) * cos - along * sin;
    const opened = -(away - radius) * sin - along * cos;
    const row = [-du * along * cos - qu * sin, -dv * along * cos - qv * sin, -du * cos, -dv * cos, -cos, opened];
    equations.add(row, -distance, weights[i]);
  });
  const [turnU, turnV, moveU, moveV, grow, open = 0] = equations.solved(damping);
  return {
    at: weightedSum([1, at], [moveU, u], [moveV, v]),
    axis: unit(weightedSum([1, axis], [turnU, u], [turnV, v])),
    radius: radius + grow,
    angle: angle + open,
  };
}

/** Of distances: what is least where a surface comes nearest. */
export const sumOfSquares = ({ places, weights }: WeightedPlaces, surface: RoundSurface): number =>
  places.reduce((sum, place, i) => sum + weights[i] * distanceTo(surface, place) ** 2, 0);

/** mm from the surface, outside of it above 0. */
export function distanceTo({ at, axis, radius, angle }: RoundSurface, place: Vector): number {
  const from = minus(place, at);
  const along = dot(from, axis);
  const away = Math.hypot(...weightedSum([1, from], [-along, axis]));
  return (away - radius) * Math.cos(angle) - along * Math.sin(angle);
}

/** Away from the axis, of length 1. */
export function awayFrom({ at, axis }: RoundSurface, place: Vector): Vector {
  const from = minus(place, at);
  return unit(weightedSum([1, from], [-dot(from, axis), axis]));
}

/** Two directions across one, and across each other. */
export function acrossOf(axis: Vector): readonly [Vector, Vector] {
  const least = [0, 1, 2].sort((a, b) => Math.abs(axis[a]) - Math.abs(axis[b]))[0];
  const u = unit(cross(axis, [Number(least === 0), Number(least === 1), Number(least === 2)]));
  return [u, cross(axis, u)];
}
