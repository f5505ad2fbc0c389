import { union } from '../arrangement/index.js';
import { area, contourArea } from '../geometry/index.js';
import { facetNormals, unitNormals, BACK, belongsTo, type ReliefMesh, volume } from '../mesh/index.js';
import {
  BACK_LAYER,
  type Evaluation,
  insertAt,
  insertMaterial,
  placeOf,
  type SurfaceFinish,
  surfaceFinishOf,
} from '../relief/index.js';
import { bareFinish, type Finish, finishNamed, finishOf } from '../sign/index.js';
import { surfaceOf } from '../support/index.js';
import { inSpaceOrFlat, type SpaceMesh } from './in-space.js';
import { removedInSpace } from './removed.js';

/** What a triangle of a relief is seen as. */
export type Side = 'top' | 'side' | 'back';

export interface Appearance {
  /** That of a tier or of the blank; of bare material the one that its laminate, or nothing, gives it. */
  readonly finish: Finish;
  readonly side: Side;
}

/** A cap whose normal leans less than this from straight up is level. */
const LEVEL = 1 - 1e-9;

/** How every triangle of a relief's mesh looks: finishes of tiers and blank, level tops and sides apart; slopes are sides. */
export function appearancesOf(evaluation: Evaluation, mesh: ReliefMesh): Appearance[] {
  const { positions: p, triangles, belongs } = mesh;
  const named = new Map<string, Appearance>();
  const look = (worn: SurfaceFinish, side: Side): Appearance => {
    const key = `${worn.finish ?? worn.bare} ${worn.material ?? ''} ${side}`;
    let one = named.get(key);
    if (!one) named.set(key, (one = { finish: finishOfSurface(evaluation, worn), side }));
    return one;
  };
  const normals = unitNormals(p, triangles);
  const back = -evaluation.sign.blank.thickness;
  const lookAt = (value: number, isUpright: boolean, z: number): Appearance => {
    if (value === BACK) return look(surfaceFinishOf(evaluation, { layer: BACK_LAYER }, false, back), 'back');
    const { label, isWall, isBehind } = belongsTo(value);
    const { surface, under, sides } = placeOf(evaluation, label!)!;
    const isLevel = !isWall && isUpright;
    const made = isWall && sides ? (sides.find(({ to }) => z < to) ?? sides[sides.length - 1]) : isBehind ? under : surface;
    const worn = surfaceFinishOf(evaluation, made, !isLevel, z);
    return look(worn, !isLevel ? 'side' : isBehind && under.layer === BACK_LAYER ? 'back' : 'top');
  };
  // Only the plies of a laminate, and sides made in steps, lie at heights; else all of one kind look alike.
  const isPlied = evaluation.sign.blank.laminate !== undefined || evaluation.places.some(({ sides }) => sides);
  const known = new Map<number, Appearance>();
  const appearances = new Array<Appearance>(belongs.length);
  for (let f = 0; f < belongs.length; f++) {
    const isUpright = Math.abs(normals[3 * f + 2]) > LEVEL;
    const key = 2 * belongs[f] + (isUpright ? 1 : 0);
    let one = isPlied ? undefined : known.get(key);
    if (!one) {
      const z = (p[3 * triangles[3 * f] + 2] + p[3 * triangles[3 * f + 1] + 2] + p[3 * triangles[3 * f + 2] + 2]) / 3;
      known.set(key, (one = lookAt(belongs[f], isUpright, z)));
    }
    appearances[f] = one;
  }
  return appearances;
}

/** The finish that is seen where this is worn. */
export function finishOfSurface({ sign }: Evaluation, { finish, bare, material }: SurfaceFinish): Finish {
  const { laminate } = sign.blank;
  const chosen = finishOf(sign, finish);
  if (chosen) return chosen;
  if (material !== undefined) return bareFinish(material, false);
  if (!laminate || bare === 'bare') return bareFinish(sign.blank.material);
  return finishNamed(bare === 'cap' ? laminate.capColour : laminate.coreColour);
}

/** Areas that wear a finish. */
export interface FinishArea {
  readonly finish: Finish;
  readonly topMm2: number;
  readonly sidesMm2: number;
}

/** An insert of another material. */
export interface Insert {
  readonly part: string;
  readonly material: string;
  readonly volumeMm3: number;
}

/** What a relief measures. */
export interface Figures {
  /** Of the blank's material, without inserts. */
  readonly volumeMm3: number;
  readonly inserts: readonly Insert[];
  /** Taken out of the blank: below the face, and through. */
  readonly removedMm3: number;
  /** Of the face and of every finish; the back is left out. */
  readonly areas: readonly FinishArea[];
}

/** The inserts of a relief. */
function insertsOf(evaluation: Evaluation): Insert[] {
  const { places, layers, sign } = evaluation;
  const found = new Map<number, Insert>();
  for (const place of places) {
    const index = insertAt(evaluation, place);
    if (index === undefined) continue;
    const layer = layers[index];
    const before = found.get(index)?.volumeMm3 ?? 0;
    found.set(index, {
      part: layer.part,
      material: insertMaterial(sign, layer),
      volumeMm3: before + place.areaMm2 * (layer.z - layer.under!),
    });
  }
  return [...found.values()];
}

/**
 * Volume, what is taken out of the blank, and areas by finish: of a sign that is bent those in space; inserts, and what is taken out of letters that
 * a bent blank is cut to, by how much more, or less, all of it is there.
 * @param mesh the flat solid
 */
export function figuresOf(evaluation: Evaluation, mesh: ReliefMesh): Figures {
  const { positions: p, triangles } = mesh;
  const space = inSpaceOrFlat(evaluation, mesh);
  const flatVolume = volume(mesh);
  const solidVolume = volume(space.mesh);
  const isBlock = evaluation.sign.support?.kind === 'block' && space.mesh !== mesh;
  // The faces of a block are none of them stretched, but what is behind them is there once.
  const factor = !isBlock && evaluation.sign.support && flatVolume > 0 ? solidVolume / flatVolume : 1;
  const sizes = sizesByOrigin(space, mesh);
  const { thickness } = evaluation.sign.blank;
  const normals = facetNormals(p, triangles);
  const areas = new Map<string, { finish: Finish; topMm2: number; sidesMm2: number }>();
  let within = 0;
  appearancesOf(evaluation, mesh).forEach(({ finish, side }, f) => {
    const plan = normals[3 * f + 2] / 2;
    const heights = [0, 1, 2].map((k) => p[3 * triangles[3 * f + k] + 2]) as [number, number, number];
    within += plan * (thickness - meanBelow(...heights) + meanBelow(...shifted(heights, thickness)));
    if (side === 'back') return;
    const size = sizes ? sizes[f] : Math.hypot(normals[3 * f], normals[3 * f + 1], normals[3 * f + 2]) / 2;
    let sum = areas.get(finish.id);
    if (!sum) areas.set(finish.id, (sum = { finish, topMm2: 0, sidesMm2: 0 }));
    if (side === 'top') sum.topMm2 += size;
    else sum.sidesMm2 += size;
  });
  const inserts = insertsOf(evaluation);
  const inserted = inserts.reduce((sum, { volumeMm3 }) => sum + volumeMm3, 0);
  const blank = evaluation.kept ? area(union(evaluation.kept)) : contourArea(evaluation.blank);
  const surface = evaluation.sign.support && !isBlock && space.mesh !== mesh && !evaluation.kept ? surfaceOf(evaluation.sign) : undefined; // prettier-ignore
  const removed = surface ? removedInSpace(evaluation, space.laid, surface) : (blank * thickness - within) * factor;
  return {
    volumeMm3: isBlock ? solidVolume : (flatVolume - inserted) * factor,
    inserts,
    // Sums of many triangles: what nothing was taken out of comes to nothing.
    removedMm3: Math.max(0, removed + inserted * factor),
    areas: [...areas.values()].sort((a, b) => b.topMm2 + b.sidesMm2 - a.topMm2 - a.sidesMm2),
  };
}

/** Areas in space, in mm², by the triangles of the flat solid that they come from; undefined where that is the same. */
function sizesByOrigin({ mesh, from }: SpaceMesh, flat: ReliefMesh): Float64Array | undefined {
  if (mesh === flat) return undefined;
  const normals = facetNormals(mesh.positions, mesh.triangles);
  const sizes = new Float64Array(flat.belongs.length);
  for (let f = 0; f < from.length; f++)
    if (from[f] >= 0) sizes[from[f]] += Math.hypot(normals[3 * f], normals[3 * f + 1], normals[3 * f + 2]) / 2;
  return sizes;
}

const shifted = (heights: readonly [number, number, number], by: number): [number, number, number] =>
  heights.map((z) => z + by) as [number, number, number];

/** Mean of how far a triangle with these heights lies below 0: over its part below by similar triangles. */
function meanBelow(...heights: readonly [number, number, number]): number {
  const [a, b, c] = [...heights].sort((p, q) => p - q);
  if (c <= 0) return -(a + b + c) / 3;
  if (a >= 0) return 0;
  if (b >= 0) return (-a / 3) * (a / (a - b)) * (a / (a - c));
  // The part above is the smaller triangle at c.
  return -(a + b + c) / 3 + (c / 3) * (c / (c - a)) * (c / (c - b));
}

/** A mesh with the finishes that its triangles wear. */
export interface ColouredMesh {
  readonly mesh: ReliefMesh;
  readonly finishes: readonly Finish[];
  /** For every triangle the place of its finish in the list. */
  readonly wears: Int32Array;
  /** Of what is bent, for every triangle that faces the reader its height in the plan in mm; NaN of all others. */
  readonly heights?: Float64Array;
}

/** The finishes of a relief's mesh. */
export function coloured(evaluation: Evaluation, mesh: ReliefMesh): ColouredMesh {
  const finishes: Finish[] = [];
  const places = new Map<Appearance, number>();
  const placeIn = ({ finish }: Appearance): number => {
    const place = finishes.findIndex(({ id }) => id === finish.id);
    return place >= 0 ? place : finishes.push(finish) - 1;
  };
  const appearances = appearancesOf(evaluation, mesh);
  const wears = new Int32Array(appearances.length);
  for (let f = 0; f < appearances.length; f++) {
    let place = places.get(appearances[f]);
    if (place === undefined) places.set(appearances[f], (place = placeIn(appearances[f])));
    wears[f] = place;
  }
  return { mesh, finishes, wears };
}
