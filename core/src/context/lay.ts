import { cross, dot, minus, unit, type Vector, weightedSum } from '../geometry/index.js';
import { type Support } from '../sign/index.js';
import { ContextError } from './context-error.js';
import { type ContextMesh } from './context-mesh.js';
import { type Fit, type FittedRound } from './fit.js';
import { acrossOf } from './round-fit.js';

/** Where an object is beside the sign: three rows of four numbers, by which x, y, z and 1 of a place of the object give those in space. */
export type Placing = readonly number[];

/** A sign on an object: what it is bent around, nothing where it is flat, and where the object is. */
export interface Laid {
  readonly support?: Support;
  readonly place: Placing;
}

/** How a sign is laid on what was fitted. */
export interface Laying {
  /** The place of the object that the middle of the sign is beside. */
  readonly middle: Vector;
  /** mm that its face stands off the object: the sign's thickness where its back lies on it, 0 where its face is the object's. */
  readonly off: number;
  /** mm of the object along the axis that a cone is told by. */
  readonly height: number;
  readonly kind: ContextMesh['kind'];
}

/** Which way is up in a file, and to the reader: y and z in glTF (2.0, 3.4), z and −y elsewhere (common practice, no source). */
const UP: Readonly<Record<ContextMesh['kind'], Vector>> = { glb: [0, 1, 0], stl: [0, 0, 1] };
const FRONT: Readonly<Record<ContextMesh['kind'], Vector>> = { glb: [0, 0, 1], stl: [0, -1, 0] };
/** Cosine of the axis to what is up, below which it is level. */
const LEVEL = Math.SQRT1_2;
/** mm that a cone's radii differ by at least. */
const LEAST_CONE = 0.01;
/** Share of a cone's radius that its lesser one has at least. */
const LEAST_RADIUS = 0.05;

/** The least box around an object, in mm as in its file. */
export interface ObjectBox {
  readonly kind: ContextMesh['kind'];
  readonly min: readonly number[];
  readonly max: readonly number[];
}

/** An object as its file has it: upright, its middle behind that of a flat sign. @param back mm from the face of the sign to its back */
export function asItComes({ kind, min, max }: ObjectBox, back: number): Placing {
  const [y, z] = [UP[kind], FRONT[kind]];
  const middle: Vector = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, (min[2] + max[2]) / 2];
  const depth = Math.abs(dot(z, [max[0] - min[0], max[1] - min[1], max[2] - min[2]]));
  return placing(cross(y, z), y, z, weightedSum([1, middle], [depth / 2 + back, z]));
}

/**
 * Lays a sign on what was fitted to an object.
 * @throws ContextError where there is no room for it, or a cone is none
 */
export function laidOn(fit: Fit, laying: Laying): Laid {
  if (fit.kind !== 'plane') return laidRound(fit, laying);
  const { normal: z, at } = fit;
  const up = UP[laying.kind];
  const y = unit(acrossTo(Math.abs(dot(up, z)) > 0.99 ? weightedSum([-Math.sign(dot(up, z)), FRONT[laying.kind]]) : up, z));
  const foot = weightedSum([1, laying.middle], [laying.off - dot(minus(laying.middle, at), z), z]);
  return { place: placing(cross(y, z), y, z, foot) };
}

/** What of a vector is across a direction. */
const acrossTo = (vector: Vector, direction: Vector): Vector => weightedSum([1, vector], [-dot(vector, direction), direction]);

function laidRound(fit: FittedRound, { middle, off, height, kind }: Laying): Laid {
  const up = UP[kind];
  const isLevel = fit.kind === 'cylinder' && Math.abs(dot(fit.axis, up)) < LEVEL;
  const sense = isLevel ? 1 : dot(fit.axis, up) < 0 ? -1 : 1;
  const axis = weightedSum([sense, fit.axis]);
  const slope = sense * fit.slope;
  const from = minus(middle, fit.at);
  const away = acrossTo(from, axis);
  const radial = Math.hypot(...away) > 1e-6 * fit.radius ? unit(away) : acrossOf(axis)[0];
  const facing = fit.facing === 'outside' ? 1 : -1;
  const [sin, cos] = [slope / Math.hypot(1, slope), 1 / Math.hypot(1, slope)];
  const along = dot(from, axis) - facing * off * sin;
  const radius = fit.radius + slope * dot(from, axis) + facing * off * cos;
  if (!(radius > 0.1))
    throw new ContextError(`Within a radius of ${fit.radius.toFixed(1)} mm there is no room for a sign ${off} mm thick.`);
  const origin = weightedSum([1, fit.at], [along, axis], [radius, radial]);
  const z = weightedSum([facing, radial]);
  const facesOf = { facing: fit.facing };
  if (isLevel) {
    // What is up on the object is up on the sign.
    const x = dot(cross(z, axis), up) < 0 ? weightedSum([-1, axis]) : axis;
    return { support: { kind: 'cylinder', radius, ...facesOf, axis: 'level' }, place: placing(x, cross(z, x), z, origin) };
  }
  const place = placing(cross(axis, z), axis, z, origin);
  if (fit.kind === 'cylinder') return { support: { kind: 'cylinder', radius, ...facesOf }, place };
  const tall = Math.min(height, slope === 0 ? height : (2 * (1 - LEAST_RADIUS) * radius) / Math.abs(slope));
  const [bottom, top] = [radius - (slope * tall) / 2, radius + (slope * tall) / 2];
  if (Math.abs(bottom - top) < LEAST_CONE) throw new ContextError('Its radius is the same above and below: take a cylinder.');
  return { support: { kind: 'cone', bottom, top, height: tall, ...facesOf }, place };
}

const placing = (x: Vector, y: Vector, z: Vector, origin: Vector): Placing =>
  [x, y, z].flatMap((row) => [...row, 0 - dot(row, origin)]);

/** Where a place of an object is in space. */
export const placed = (m: Placing, [x, y, z]: Vector): Vector => [
  m[0] * x + m[1] * y + m[2] * z + m[3],
  m[4] * x + m[5] * y + m[6] * z + m[7],
  m[8] * x + m[9] * y + m[10] * z + m[11],
];

/** mm of some triangles along an axis. */
export function lengthAlong({ positions, triangles }: ContextMesh, chosen: Iterable<number>, axis: Vector): number {
  let [least, most] = [Infinity, -Infinity];
  for (const t of chosen)
    for (let k = 3 * t; k < 3 * t + 3; k++) {
      const at = 3 * triangles[k];
      const along = dot([positions[at], positions[at + 1], positions[at + 2]], axis);
      [least, most] = [Math.min(least, along), Math.max(most, along)];
    }
  return most - least;
}
