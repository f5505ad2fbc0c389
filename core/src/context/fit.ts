import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { dot, minus, unit, type Vector, weightedSum } from '../geometry/index.js';
import { type Mesh, facetNormals } from '../mesh/index.js';
import { ContextError } from './context-error.js';
import {
  awayFrom,
  distanceTo,
  refined,
  roughCylinder,
  type RoundSurface,
  sumOfSquares,
  type WeightedPlaces,
} from './round-fit.js';

/** How far the corners of the chosen triangles lie from what was fitted to them, in mm. */
export interface FitError {
  readonly rms: number;
  readonly most: number;
}

export interface FittedPlane extends FitError {
  readonly kind: 'plane';
  /** The middle of what it was fitted to. */
  readonly at: Vector;
  /** Towards the side that the object is seen from. */
  readonly normal: Vector;
}

/** A cylinder, or a cone. */
export interface FittedRound extends FitError {
  readonly kind: 'cylinder' | 'cone';
  /** On the axis, beside the middle of what it was fitted to. */
  readonly at: Vector;
  readonly axis: Vector;
  /** Beside `at`. */
  readonly radius: number;
  /** mm that the radius grows by for each mm along the axis: 0 of a cylinder. */
  readonly slope: number;
  /** Whether the object is seen from outside of it, or from within. */
  readonly facing: 'outside' | 'inside';
}

export type Fit = FittedPlane | FittedRound;
export type FitKind = Fit['kind'];

/** Corners of triangles, each once, with a third of the area of the triangles around it. */
interface Samples extends WeightedPlaces {
  readonly middle: Vector;
  /** Of the triangles, of length 1, with their areas. */
  readonly normals: readonly Vector[];
  readonly areas: readonly number[];
  readonly centres: readonly Vector[];
}

/** Radii beyond which what was fitted is flat, in times the extent of the triangles. */
const FLAT = 200;
/** Least cosine, in the mean, of the angle between triangles and what is fitted to them: corners alone may lie on strange things. */
const LEAST_AGREEMENT = 0.9;

/**
 * What comes nearest to the corners of some triangles, by least squares of their distances, each weighted by the area around it.
 * Cylinders and cones from axes that the normals tell.
 * @param chosen numbers of triangles
 * @throws ContextError where they are too few, or too flat, for it
 */
export function fitted(kind: FitKind, mesh: Mesh, chosen: Iterable<number>): Fit {
  const samples = samplesOf(mesh, chosen);
  if (kind === 'plane') return planeOf(samples);
  const least = kind === 'cylinder' ? 5 : 6;
  if (samples.places.length < least)
    throw new ContextError(
      `The chosen triangles have ${samples.places.length} corners, and a ${kind} needs ${least}: choose more of them.`,
    );
  const found = nearestRound(kind, samples);
  if (!found || !(found.radius < FLAT * extentOf(samples)))
    throw new ContextError(`The chosen triangles are too flat for a ${kind}: choose more of them, or take a plane.`);
  return found;
}

/** Corners, areas and normals of triangles. @throws ContextError where there are none with an area */
function samplesOf(mesh: Mesh, chosen: Iterable<number>): Samples {
  const { positions: p, triangles } = mesh;
  const twice = facetNormals(p, triangles);
  const placeOf = (corner: number): Vector => [p[3 * corner], p[3 * corner + 1], p[3 * corner + 2]];
  const weightOf = new Map<number, number>();
  const [normals, areas, centres]: [Vector[], number[], Vector[]] = [[], [], []];
  for (const t of chosen) {
    const normal: Vector = [twice[3 * t], twice[3 * t + 1], twice[3 * t + 2]];
    const area = Math.hypot(...normal) / 2;
    if (!(area > 0)) continue;
    const corners = [triangles[3 * t], triangles[3 * t + 1], triangles[3 * t + 2]];
    for (const corner of corners) weightOf.set(corner, (weightOf.get(corner) ?? 0) + area / 3);
    normals.push(unit(normal));
    areas.push(area);
    const third = 1 / 3;
    centres.push(weightedSum(...corners.map((corner) => [third, placeOf(corner)] as const)));
  }
  if (normals.length === 0) throw new ContextError('No triangles are chosen: click a face of the object.');
  const places = [...weightOf.keys()].map(placeOf);
  const weights = [...weightOf.values()];
  return { places, weights, middle: mean(places, weights), normals, areas, centres };
}

function mean(places: readonly Vector[], weights: readonly number[]): Vector {
  const all = weights.reduce((sum, weight) => sum + weight, 0);
  return sumOf(
    places,
    weights.map((weight) => weight / all),
  );
}

function sumOf(vectors: readonly Vector[], weights: readonly number[]): Vector {
  let [x, y, z] = [0, 0, 0];
  vectors.forEach((vector, i) => {
    x += weights[i] * vector[0];
    y += weights[i] * vector[1];
    z += weights[i] * vector[2];
  });
  return [x, y, z];
}

const extentOf = ({ places, middle }: Samples): number =>
  places.reduce((most, place) => Math.max(most, Math.hypot(...minus(place, middle))), 0);

/** Directions in which vectors spread, the least first. */
function spreads(vectors: readonly Vector[], weights: readonly number[], around: Vector): Vector[] {
  const moments = Matrix.zeros(3, 3);
  vectors.forEach((vector, i) => {
    const away = minus(vector, around);
    for (let row = 0; row < 3; row++)
      for (let column = 0; column < 3; column++)
        moments.set(row, column, moments.get(row, column) + weights[i] * away[row] * away[column]);
  });
  const { realEigenvalues, eigenvectorMatrix } = new EigenvalueDecomposition(moments, { assumeSymmetric: true });
  return [0, 1, 2]
    .sort((a, b) => realEigenvalues[a] - realEigenvalues[b])
    .map((i) => eigenvectorMatrix.getColumn(i) as unknown as Vector);
}

/** The plane through the middle across the direction of least spread (K. Pearson, 1901). */
function planeOf(samples: Samples): FittedPlane {
  const { places, weights, middle, normals, areas } = samples;
  if (places.length < 3) throw new ContextError('The chosen triangles have fewer than three corners: choose more of them.');
  const [least] = spreads(places, weights, middle);
  const seen = sumOf(normals, areas);
  const normal = dot(least, seen) < 0 ? weightedSum([-1, least]) : least;
  return { kind: 'plane', at: middle, normal, ...errorOf(samples, (place) => dot(minus(place, middle), normal)) };
}

function errorOf({ places, weights }: Samples, distance: (place: Vector) => number): FitError {
  let [squares, most, all] = [0, 0, 0];
  places.forEach((place, i) => {
    const d = distance(place);
    squares += weights[i] * d * d;
    most = Math.max(most, Math.abs(d));
    all += weights[i];
  });
  return { rms: Math.sqrt(squares / all), most };
}

/** Axes to begin from: what is across all normals, as of a cylinder; around which they turn, as of a cone; and where places spread. */
function axesOf({ normals, areas, places, weights, middle }: Samples): Vector[] {
  const [across] = spreads(normals, areas, [0, 0, 0]);
  const [around] = spreads(normals, areas, mean(normals, areas));
  return [across, around, ...spreads(places, weights, middle)];
}

/** So many places are enough to find about what lies nearest to them all. */
const ENOUGH = 3000;

/** The cylinder or cone that comes nearest; undefined where there is none that the triangles lie along. */
function nearestRound(kind: 'cylinder' | 'cone', samples: Samples): FittedRound | undefined {
  const scale = extentOf(samples);
  const some = everyNth(samples, Math.ceil(samples.places.length / ENOUGH));
  const [nearest] = axesOf(samples)
    .map((axis) => refined(kind, some, roughCylinder(some, samples.middle, axis), scale))
    .filter((surface) => surface.radius > 0 && seenFrom(some, surface).agreement >= LEAST_AGREEMENT)
    .map((surface) => ({ surface, squares: sumOfSquares(some, surface) }))
    .sort((a, b) => a.squares - b.squares);
  if (!nearest) return undefined;
  const surface = some === samples ? nearest.surface : refined(kind, samples, nearest.surface, scale);
  // Beside the middle, along the axis.
  const along = dot(minus(samples.middle, surface.at), surface.axis);
  const slope = Math.tan(surface.angle);
  return {
    kind,
    at: weightedSum([1, surface.at], [along, surface.axis]),
    axis: surface.axis,
    radius: surface.radius + along * slope,
    slope,
    facing: seenFrom(samples, surface).outwards < 0 ? 'inside' : 'outside',
    ...errorOf(samples, (place) => distanceTo(surface, place)),
  };
}

function everyNth(all: Samples, n: number): Samples {
  if (n === 1) return all;
  const some = <T>(list: readonly T[]): T[] => list.filter((_, i) => i % n === 0);
  const { places, weights, normals, areas, centres, middle } = all;
  return {
    places: some(places),
    weights: some(weights),
    normals: some(normals),
    areas: some(areas),
    centres: some(centres),
    middle,
  };
}

/** How far the normals of triangles point away from the axis, over all of them; and how far along that line at all, 0 to 1. */
function seenFrom(
  { normals, areas, centres }: Samples,
  surface: RoundSurface,
): { readonly outwards: number; readonly agreement: number } {
  let [outwards, along, all] = [0, 0, 0];
  const cos = Math.cos(surface.angle);
  normals.forEach((normal, i) => {
    const away = dot(normal, weightedSum([cos, awayFrom(surface, centres[i])], [-Math.sin(surface.angle), surface.axis]));
    outwards += areas[i] * away;
    along += areas[i] * Math.abs(away);
    all += areas[i];
  });
  return { outwards, agreement: along / all };
}
