import { type Arrangement, type ContourSet, type Inset, ringsOf } from '../../arrangement/index.js';
import { type Box, type Contour, type Outline, STEPS_PER_MM, type Stroke } from '../../geometry/index.js';
import { type Side, sideOf, type Sign } from '../../sign/index.js';
import { type SupportPlane } from '../../support/index.js';
import { isInPlane, LEAST_LEFT, type LevelInPlane, type Surface } from './relief-function.js';
import { type SideBand } from './side-bands.js';
import { type Standing } from './laying.js';
import { FIRST_PLACE } from './plan-labels.js';
import { type Layer } from '../placing/layers.js';
import { type Note } from '../../notes/index.js';
import { type LetterGroup, type TextMeasures } from '../placing/part-outline.js';
import { type SlotFrame } from '../placing/slot-frames.js';
import { type PlacedSlopeMesh } from '../slopes/slope-mesh.js';
import { type StudPlace } from '../placing/studs.js';
import { type Swallowed } from '../placing/tier-area.js';
import { heightOn } from '../slopes/embedded-slopes.js';

/** Places of the plan with one surface over them, and what it is made by. */
export interface Place {
  /** Label in the plan. */
  readonly label: number;
  readonly surface: Surface;
  /** Of the side that is turned away. */
  readonly under: Surface;
  /** What its upright sides are made by, from below; undefined where all of them look as what made its surface. */
  readonly sides?: readonly SideBand[];
  /** Its height, or for a slope that in the middle of its band. */
  readonly z: number;
  readonly areaMm2: number;
}

/** A level of the relief: its flat places. */
export interface Level {
  /** Labels of its places in the plan. */
  readonly labels: readonly number[];
  /** mm above the face, or from its plane; negative below. */
  readonly z: number;
  /** Where it lies in a plane, which has no one height above the face. */
  readonly plane?: SupportPlane;
  readonly areaMm2: number;
}

/** A tier that is on, with the level that it makes. */
export interface Rung {
  readonly part: string;
  readonly tier: string;
  readonly side: Side;
  /** mm above the face of its own side; −Infinity for a cut through. */
  readonly z: number;
  /** The level that its strokes let it come to, where that is another. */
  readonly reached?: number;
  /** The heights that it comes to where strokes are too narrow for its slope. */
  readonly short?: Short;
  /** What its area loses by growing or shrinking so far. */
  readonly swallowed?: Swallowed & { readonly reach: number };
}

/** Heights that a slope comes to, in mm: above its base at its lowest letter, above the face at its highest. */
export interface Short {
  readonly lowest: number;
  readonly highest: number;
  readonly full: number;
}

/** What became of a part: it is made, others are made from it, it is not shown, or it lies where nothing can be made. */
export type PartRole = 'made' | 'source' | 'hidden' | 'too far';

/** A part as the evaluation placed it. */
export interface PartPlan {
  readonly id: string;
  readonly ink?: Box;
  readonly frame: Float64Array;
  readonly letters: number;
  readonly area: ContourSet;
  readonly strokes: readonly Stroke[];
  /** Where single letters are made otherwise than the others: all of them by how they are. */
  readonly groups?: readonly LetterGroup[];
  /** Sizes of a text as it was set. */
  readonly text?: TextMeasures;
  /** Of a text, the box from the cap line of its first to the baseline of its last line. */
  readonly caps?: Box;
  /** Where names of slots stand for what a list puts there. */
  readonly slots?: readonly SlotFrame[];
  readonly role: PartRole;
  /** What was told while it was placed. */
  readonly notes: readonly Note[];
}

/** The one relief that plan, section, model, proof, files and checks are read off. */
export interface Evaluation {
  readonly sign: Sign;
  /** The side that is turned to the reader: x and z are as seen from there, z = 0 is the face of that side. */
  readonly side: Side;
  readonly blank: Contour;
  /** What is kept of a blank that letters are cut from. */
  readonly kept?: Outline;
  /** The middles of the stud holes of such letters. */
  readonly studs?: readonly StudPlace[];
  readonly arrangement: Arrangement;
  /** Every place with material, by label from {@link FIRST_PLACE} on. */
  readonly places: readonly Place[];
  /** Flat places from the highest to the lowest, the level tops of slopes among them. */
  readonly levels: readonly Level[];
  /** The least and the greatest height. */
  readonly lowest: number;
  readonly highest: number;
  /** The least height of the side that is turned away. */
  readonly rearmost: number;
  /** The least height that anything is carved to, and how thick the material is at its thinnest, both without the edge forms of the blank. */
  readonly deepest: number;
  readonly thinnest: number;
  readonly layers: readonly Layer[];
  /** The slopes of letters that keep them to themselves. */
  readonly slopeMeshes: ReadonlyMap<Inset, PlacedSlopeMesh>;
  readonly rungs: readonly Rung[];
  readonly parts: readonly PartPlan[];
  /** What became of the layers, by their numbers. */
  readonly standing: Standing;
  /** What was told of letters that are cut from the blank, and of what is behind them. */
  readonly cutNotes: readonly Note[];
}

/** The place that a label stands for; undefined where there is no material. */
export const placeOf = ({ places }: Evaluation, label: number): Place | undefined => places[label - FIRST_PLACE];

/** Height of a surface in mm over a grid point that lies in, or on the edge of, its places. */
export function heightOf(surface: Surface, x: number, y: number): number {
  switch (surface.kind) {
    case 'level':
      return isInPlane(surface) ? heightInPlane(surface, x, y) : surface.z;
    case 'embedded':
      return heightOn(surface.embedded, x, y);
    case 'profile':
      // Only its edge lies in the plan itself.
      return surface.profile.start;
  }
}

function heightInPlane({ z, beside, isUnder, plane }: LevelInPlane, x: number, y: number): number {
  const height = plane.heightAt(x / STEPS_PER_MM, y / STEPS_PER_MM, z);
  if (!beside) return height;
  const other = heightOf(beside, x, y);
  return isUnder ? Math.min(height, other - LEAST_LEFT) : Math.max(height, other + LEAST_LEFT);
}

/** The parts of the side that is turned to the reader. */
export function partsSeen({ parts, sign, side }: Evaluation): PartPlan[] {
  const own = new Set(sign.parts.filter((part) => sideOf(part) === side).map(({ id }) => id));
  return parts.filter(({ id }) => own.has(id));
}

/** The layer of the insert that a place is part of; undefined where it is of the blank's own material. */
export const insertAt = ({ layers }: Pick<Evaluation, 'layers'>, { surface, under }: Place): number | undefined =>
  [under.layer, surface.layer].find((layer) => layers[layer]?.operation === 'insert');

/** Rings of one label, or of several as one. */
export const regionOf = (evaluation: Evaluation, ...labels: readonly number[]): Outline =>
  ringsOf(evaluation.arrangement, (label) => labels.includes(label));
