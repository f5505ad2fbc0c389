import { insideLeft, type Outline } from '../../geometry/index.js';
import { intersection } from '../../arrangement/index.js';
import { type Evaluation, type Level, placeOf, regionOf } from './evaluation.js';
import { type Side, type Sign } from '../../sign/index.js';
import { FACE_LAYER, type Surface } from './relief-function.js';
import { type Layer } from '../placing/layers.js';
import { type HeightProfile } from '../profile/height-profile.js';
import { placedRings, topOfSlopeMesh } from '../slopes/slope-mesh.js';
import { linesOf, ringsAt } from '../slopes/embedded-slopes.js';

const SAME = 1e-6;

/** Colour tells this many heights apart between the face and the farthest level. */
const BANDS = 6;
const MOST_BANDS = 2 * BANDS;

/** Everything at a level, the level tops of sloped letters among it. */
export function levelOutline(evaluation: Evaluation, { z, labels }: Level): Outline {
  const tops = [...evaluation.slopeMeshes].flatMap(([{ inside }, placed]) => {
    const surface = placeOf(evaluation, inside)?.surface;
    if (surface?.kind !== 'profile' || Math.abs(surface.profile.end - z) >= SAME) return [];
    return placedRings(topOfSlopeMesh(placed, surface.profile) ?? [], placed);
  });
  return labels.length === 0 ? tops : [...regionOf(evaluation, ...labels), ...tops];
}

/** A part of a slope between two heights. */
export interface Band {
  /** A height in its middle. */
  readonly z: number;
  /** Its rings; of a letter's slopes the higher bands lie on the lower ones, to be painted in turn. */
  readonly outline: Outline;
  /** The layer that it is part of, and the one that coloured it since. */
  readonly layer: number;
  readonly marked?: number;
  /** Of a letter's slopes its place from the edge inwards; undefined for slopes that are places of the plan. */
  readonly rank?: number;
  /** Its level top. */
  readonly isTop: boolean;
}

/** All slopes in bands of height, in painting order. */
export function slopeBands(evaluation: Evaluation): Band[] {
  const bands: Band[] = [];
  const step = Math.max(1, -evaluation.lowest, evaluation.highest) / BANDS;
  for (const { label, surface, areaMm2 } of evaluation.places)
    if (surface.kind === 'embedded' && areaMm2 > 0) bands.push(...embeddedBands(surface, regionOf(evaluation, label), step));
  for (const [{ inside, contours }, placed] of evaluation.slopeMeshes) {
    const surface = placeOf(evaluation, inside)?.surface;
    if (surface?.kind !== 'profile') continue;
    const { slopeMesh } = placed;
    const { deepest } = slopeMesh.whole;
    const levels = bandLines(surface.profile, step, deepest);
    const rings = levels.length === slopeMesh.levels.length ? slopeMesh.rings : slopeMesh.whole.linesAt(levels);
    for (let k = 0; k <= levels.length; k++) {
      const from = k === 0 ? 0 : levels[k - 1];
      const to = k < levels.length ? levels[k] : deepest;
      const z = surface.profile.at((from + to) / 2);
      bands.push({
        z,
        outline: k === 0 ? insideLeft(contours) : placedRings(rings[k - 1], placed),
        layer: surface.layer,
        marked: surface.marked,
        rank: k,
        isTop: k > 0 && levels[k - 1] >= surface.profile.run,
      });
    }
  }
  return bands;
}

/** An embedded place in bands, the whole of it first. */
function embeddedBands(
  { embedded, band, layer, marked }: Surface & { kind: 'embedded' },
  outline: Outline,
  step: number,
): Band[] {
  const { profile, levels, pieces } = embedded;
  const from = band === 0 ? 0 : levels[band - 1];
  const deepest = Math.max(...pieces.map(({ drawn }) => drawn.field.deepest));
  const to = band < levels.length ? levels[band] : Math.min(deepest, profile.run);
  const lines = between(profile, from, to, step);
  const rings = ringsAt(pieces, lines);
  const marks = [from, ...lines, to];
  return marks.slice(1).map((next, k) => ({
    z: profile.at((marks[k] + next) / 2),
    outline: k === 0 ? outline : intersection(outline, rings[k - 1]),
    layer,
    marked,
    ...(lines.length > 0 && { rank: k }),
    isTop: false,
  }));
}

/** Distances that part a straight stretch of a profile into bands of about a step of height. */
function between(profile: HeightProfile, from: number, to: number, step: number): number[] {
  const parts = Math.min(MOST_BANDS, Math.round(Math.abs(profile.at(to) - profile.at(from)) / step));
  return Array.from({ length: Math.max(0, parts - 1) }, (_, k) => from + ((to - from) * (k + 1)) / parts);
}

/** Distances that part a profile where it breaks, and between into bands of about a step of height. */
function bandLines(profile: HeightProfile, step: number, deepest: number): number[] {
  const breaks = linesOf(profile, [], deepest);
  const marks = [0, ...breaks, ...(breaks.at(-1)! >= deepest ? [] : [deepest])];
  return [...breaks, ...marks.slice(1).flatMap((to, i) => between(profile, marks[i], to, step))].sort((a, b) => a - b);
}

/** What is bare is seen as: the material, or the cap or the core of a laminate. */
export type Bare = 'bare' | 'cap' | 'core';

/** What a surface wears: the id of a finish, or which bare material it shows. */
export interface SurfaceFinish {
  readonly finish?: string;
  readonly bare: Bare;
  /** What it is of, where that is another material than the blank's. */
  readonly material?: string;
}

/** The material of the insert that a layer is. */
export function insertMaterial(sign: Sign, { part, tier }: Pick<Layer, 'part' | 'tier'>): string {
  const action = sign.parts.find(({ id }) => id === part)?.tiers.find(({ id }) => id === tier)?.action;
  return action?.kind === 'insert' ? action.material : '';
}

/** The ply of a laminate at a height. */
function plyAt({ blank: { laminate, thickness } }: Sign, side: Side, z: number): Bare {
  if (!laminate) return 'bare';
  const { cap, bothSides } = laminate;
  const [near, far] = side === 'front' ? [cap, bothSides ? cap : 0] : [bothSides ? cap : 0, cap];
  return z < -near + SAME && z > far - thickness - SAME ? 'core' : 'cap';
}

/**
 * What a place wears.
 * @param made by which layers of the evaluation, less than 0 for the face of the blank
 * @param z of the place, which tells the plies of a laminate apart
 */
export function surfaceFinishOf(
  { layers, sign, side }: Evaluation,
  { layer, marked }: Pick<Surface, 'layer' | 'marked'>,
  isSloped: boolean,
  z: number,
): SurfaceFinish {
  const { finish: onBlank } = sign.blank;
  const own = layers[layer];
  const isInsert = own?.operation === 'insert';
  const bare = isInsert || own?.operation === 'back up' ? 'bare' : plyAt(sign, side, z);
  const material = isInsert ? insertMaterial(sign, own) : undefined;
  const isFace = (layer === FACE_LAYER) === (side === 'front');
  const top = layers[marked ?? -1]?.top ?? (own ? own.top : isFace ? onBlank?.face : onBlank?.back);
  if (!isSloped) return { finish: top, bare, material };
  if (!own) return { finish: onBlank?.sides, bare, material };
  return { finish: own.isRidged ? (top ?? own.sides) : own.sides, bare, material };
}
