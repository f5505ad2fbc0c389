import {
  areasByLabel,
  arrange,
  type Arrangement,
  bounds,
  type Box,
  type Contour,
  contains,
  contourArea,
  CoordinateError,
  gapBetween,
  type Outline,
  ringsOf,
  type Stroke,
  type Windings,
} from '../outline/index.js';
import {
  baseLevels,
  fontsOf,
  outlinesUsed,
  type Part,
  type ShapePart,
  type Sign,
  type TextPart,
  THROUGH,
  type Tier,
  tierLevel,
} from '../sign/index.js';
import { type FontBook, type LetterGap, letterGaps, openUp, type OpenedUp, setBlock } from '../type/index.js';
import { type Note, note } from './notes.js';
import {
  blankOutline,
  copied,
  isSwallowed,
  type PlacedPart,
  placeShape,
  placeText,
  radiusNote,
  type Surroundings,
  textChoice,
  type TextMeasures,
  tierArea,
  trackOf,
} from './part-outline.js';
import { outlinedText, splitText, TextPartsError } from './text-parts.js';

/** Labels of the relief's plan: outside the blank, cut through, and from 2 on the levels. */
export const OUTSIDE = 0;
export const HOLE = 1;
const FIRST_LEVEL = 2;

/** Whether a label of the plan is a place with material. */
export const isSolid = (label: number): boolean => label >= FIRST_LEVEL;

/** A level of the relief: a flat place of the sign. */
export interface Level {
  /** Label of its places in the plan. */
  readonly label: number;
  /** mm above the face, negative below. */
  readonly z: number;
  readonly areaMm2: number;
}

/** A tier that is on, with the level that it makes. */
export interface Rung {
  readonly part: string;
  readonly tier: string;
  /** mm above the face; −Infinity for a cut through. */
  readonly z: number;
}

/** A part as the evaluation placed it. */
export interface PartPlan {
  readonly id: string;
  readonly ink?: Box;
  readonly frame: Float64Array;
  readonly letters: number;
  readonly contours: readonly Contour[];
  readonly strokes: readonly Stroke[];
  /** Sizes of a text as it was set. */
  readonly text?: TextMeasures;
  /** Of a text, the box from the cap line of its first to the baseline of its last line. */
  readonly caps?: Box;
}

/** The one relief that plan, section, model, proof, files and checks are read off. */
export interface Evaluation {
  readonly sign: Sign;
  readonly blank: Contour;
  readonly arrangement: Arrangement;
  /** From the highest to the lowest. */
  readonly levels: readonly Level[];
  readonly rungs: readonly Rung[];
  readonly parts: readonly PartPlan[];
  readonly notes: readonly Note[];
}

/** Level of a label of the plan in mm; the back of the blank where there is no material. */
export function levelOf(evaluation: Evaluation, label: number): number {
  return evaluation.levels.find((level) => level.label === label)?.z ?? -evaluation.sign.blank.thickness;
}

/** Rings of one level, or of several as one. */
export const regionOf = (evaluation: Evaluation, ...labels: readonly number[]): Outline =>
  ringsOf(evaluation.arrangement, (label) => labels.includes(label));

const byId = (parts: readonly PartPlan[]): ReadonlyMap<string, PartPlan> => new Map(parts.map((part) => [part.id, part]));

/** Levels nearer than this are one: it is far below what any machine can make. */
const LEVEL_STEP = 1e-6;
const THIN_FLOOR_MM = 1;
const MOST_REMEMBERED = 1000;

interface Layer {
  readonly part: Part;
  readonly tier: Tier;
  readonly z: number;
  readonly contours: readonly Contour[];
}

/**
 * Evaluates signs. It keeps the outlines of parts from one evaluation to the next, so that an edit works out again only
 * the part it touches; results do not depend on what is kept.
 */
export class Evaluator {
  private remembered = new Map<string, PlacedPart>();
  private blank: { readonly key: string; readonly contour: Contour } | undefined;

  constructor(private readonly book: FontBook) {}

  /** Loads the fonts of a sign, then evaluates it. The sign is not changed. */
  async evaluate(sign: Sign): Promise<Evaluation> {
    await this.book.need(fontsOf(sign));
    return this.evaluateLoaded(sign);
  }

  /** The same where the fonts are loaded. @throws FontError where one is not */
  evaluateLoaded(sign: Sign): Evaluation {
    const notes: Note[] = [];
    const blank = this.blankOf(sign);
    notes.push(...radiusNote(sign.blank.outline, 'The blank', sign));

    const bases = baseLevels(sign);
    const layers: Layer[] = [];
    const rungs: Rung[] = [];
    const parts: PartPlan[] = [];
    const placedParts = new Map<string, PlacedPart>();
    const keys = new Map<string, string>();
    const sources = new Set(sign.parts.flatMap((part) => outlinesUsed(part).map(({ id }) => id)));
    for (const part of sign.parts) {
      try {
        const placed = this.place(part, { sign, blank, placed: placedParts }, keys);
        placedParts.set(part.id, placed);
        if (part.tiers.every(({ on }) => !on) && sources.has(part.id)) {
          // Others are made from it: that it makes nothing itself is as it should be.
          notes.push(...placed.notes);
          parts.push({ id: part.id, ...placed });
          continue;
        }
        if (part.hidden) {
          notes.push(note('hidden', { part: part.id }, part.name));
          parts.push({ id: part.id, ...placed, ink: undefined });
          continue;
        }
        const made = this.layersOf(part, sign, placed, bases.get(part.id) ?? 0);
        notes.push(...placed.notes, ...made.notes, ...edgeNotes(part, placed, blank, sign));
        parts.push({ id: part.id, ...placed });
        layers.push(...made.layers);
        rungs.push(...made.layers.map(({ tier, z }) => ({ part: part.id, tier: tier.id, z })));
      } catch (error) {
        if (!(error instanceof CoordinateError)) throw error;
        notes.push(note('too-far', { part: part.id }, part.name));
        parts.push({ id: part.id, frame: new Float64Array(), letters: 0, contours: [], strokes: [] });
      }
    }
    return finish(sign, blank, layers, { rungs, parts, notes });
  }

  /** The gaps between the letters of a text part, from left to right in each line. */
  gaps({ sign, parts }: Evaluation, id: string): LetterGap[] {
    const part = sign.parts.find((other) => other.id === id);
    if (part?.kind !== 'text' || !this.book.entry(part.font)) return [];
    return letterGaps(setBlock(this.book, textChoice(part, this.book), trackOf(part.path, byId(parts))));
  }

  /** What opening a text part up for a tool takes; undefined where no gap can open. */
  openUp({ sign, parts }: Evaluation, id: string, diameter: number): OpenedUp | undefined {
    const part = sign.parts.find((other) => other.id === id);
    if (part?.kind !== 'text' || !this.book.entry(part.font)) return undefined;
    return openUp(this.book, textChoice(part, this.book), diameter, trackOf(part.path, byId(parts)));
  }

  /** A text part as the parts of its lines or words. @throws TextPartsError */
  split({ sign }: Evaluation, id: string, into: 'lines' | 'words'): TextPart[] {
    return splitText(sign, textPart(sign, id), into, this.book);
  }

  /** The letters of a text part as plain outlines. @throws TextPartsError */
  outlined({ sign, parts }: Evaluation, id: string): ShapePart[] {
    return outlinedText(sign, textPart(sign, id), this.book, byId(parts));
  }

  private layersOf(part: Part, sign: Sign, placed: PlacedPart, base: number): { layers: Layer[]; notes: Note[] } {
    const tiers = part.tiers.filter((tier) => tier.on);
    if (tiers.length === 0) return { layers: [], notes: [note('no-tiers', { part: part.id }, part.name)] };
    const layers = tiers.map((tier) => ({ part, tier, z: tierLevel(tier, base), contours: tierArea(placed, tier) }));
    return { layers, notes: layers.flatMap(({ tier, z, contours }) => tierNotes(sign, part, tier, z, placed, contours)) };
  }

  private blankOf(sign: Sign): Contour {
    const key = JSON.stringify(sign.blank.outline);
    if (this.blank?.key !== key) this.blank = { key, contour: blankOutline(sign.blank) };
    return this.blank.contour;
  }

  /** @param keys what each earlier part was remembered by; a part that follows others changes with them */
  private place(part: Part, around: Surroundings, keys: Map<string, string>): PlacedPart {
    const { sign } = around;
    const followed = outlinesUsed(part).map(({ id }) => keys.get(id));
    const followsBlank =
      part.kind === 'shape' && ((part.shape.kind === 'border' && part.shape.of === 'blank') || part.shape.kind === 'fixings');
    const key = JSON.stringify([
      sign.unit,
      { ...part, tiers: 0, sitsOn: 0, group: 0, locked: 0 },
      followed,
      followsBlank ? sign.blank.outline : 0,
    ]);
    keys.set(part.id, key);
    let placed = this.remembered.get(key);
    if (placed) this.remembered.delete(key);
    else {
      const one = part.kind === 'text' ? placeText(part, this.book, around) : placeShape(part, around);
      placed = copied(one, part.copies, part.place);
    }
    // The newest last: the oldest goes first when there are too many.
    this.remembered.set(key, placed);
    if (this.remembered.size > MOST_REMEMBERED) this.remembered.delete(this.remembered.keys().next().value!);
    return placed;
  }
}

function textPart(sign: Sign, id: string): TextPart {
  const part = sign.parts.find((other) => other.id === id);
  if (part?.kind !== 'text') throw new TextPartsError('Only words can be taken apart or turned into outlines.');
  return part;
}

function tierNotes(sign: Sign, part: Part, tier: Tier, z: number, placed: PlacedPart, contours: readonly Contour[]): Note[] {
  const at = { part: part.id, tier: tier.id };
  const out: Note[] = [];
  const { thickness } = sign.blank;
  if (z !== THROUGH && z <= -thickness) out.push(note('through-back', at, part.name, -z, thickness, sign.unit));
  if (placed.strokes.length > 0 && tier.action.kind !== 'line') out.push(note('open-strokes', at, part.name));
  if (tier.area.kind === 'offset' && tier.area.by < 0 && isSwallowed(placed, contours))
    out.push(note('offset-swallowed', at, part.name, tier.area.by, sign.unit));
  return out;
}

/** A hole nearer to the edge than its own width may break out (common practice, no source). */
function edgeNotes(part: Part, { contours }: PlacedPart, blank: Contour, { unit }: Sign): Note[] {
  if (part.kind !== 'shape' || !part.tiers.some(({ on, action }) => on && action.kind === 'cut-through')) return [];
  const { shape } = part;
  if (shape.kind !== 'circle' && shape.kind !== 'fixings') return [];
  const inside = contours.filter((hole) => contains([blank], hole[0], hole[1]));
  const left = Math.min(...inside.map((hole) => gapBetween([hole], [blank])));
  return left > 0 && left < shape.diameter ? [note('near-edge', { part: part.id }, part.name, left, shape.diameter, unit)] : [];
}

/** The relief function on the places of the plan, and what follows from it. */
function finish(
  sign: Sign,
  blank: Contour,
  layers: readonly Layer[],
  found: { rungs: Rung[]; parts: PartPlan[]; notes: Note[] },
): Evaluation {
  const { thickness } = sign.blank;
  const { notes } = found;
  const zs: number[] = [];
  const labels = new Map<number, number>();
  const labelOf = (z: number): number => {
    const key = Math.round(z / LEVEL_STEP);
    let label = labels.get(key);
    if (label === undefined) {
      label = FIRST_LEVEL + zs.length;
      labels.set(key, label);
      zs.push(z);
    }
    return label;
  };
  const overhanging = new Set<number>();
  const onBlank = new Set<number>();
  const effective = new Set<number>();

  /** Build order is layer order, and windings list their layers in that order. */
  const relief = (windings: Windings): number => {
    if (windings.length === 0) return OUTSIDE;
    if (windings[0] !== 0) {
      for (let i = 0; i < windings.length; i += 2) overhanging.add(windings[i] - 1);
      return OUTSIDE;
    }
    let z = 0;
    for (let i = 2; i < windings.length; i += 2) {
      const index = windings[i] - 1;
      const layer = layers[index];
      onBlank.add(index);
      if (z === THROUGH) continue;
      const before = z;
      if (layer.tier.action.kind === 'raise') z = Math.max(z, layer.z);
      else if (layer.tier.action.kind === 'set') z = layer.z;
      else z = Math.min(z, layer.z);
      if (z <= -thickness) z = THROUGH;
      if (Math.abs(z - before) > LEVEL_STEP) effective.add(index);
    }
    return z === THROUGH ? HOLE : labelOf(z);
  };

  const arrangement = arrange([[blank], ...layers.map((layer) => layer.contours)], relief);
  const areas = areasByLabel(arrangement);
  const levels = zs
    .map((z, i) => ({ label: FIRST_LEVEL + i, z, areaMm2: areas.get(FIRST_LEVEL + i) ?? 0 }))
    .filter((level) => level.areaMm2 > 0)
    .sort((a, b) => b.z - a.z);

  const blankBox = bounds([blank])!;
  layers.forEach((layer, index) => {
    if (layer.contours.length === 0) return;
    const at = { part: layer.part.id, tier: layer.tier.id };
    if (!onBlank.has(index)) notes.push(note('off-blank', at, layer.part.name));
    else if (overhanging.has(index)) {
      const by = overhang(bounds(layer.contours)!, blankBox);
      notes.push(note('over-edge', at, layer.part.name, by, sign.unit));
    }
    if (onBlank.has(index) && !effective.has(index)) notes.push(note('not-seen', at, layer.part.name, layer.z, sign.unit));
  });
  notes.push(...materialNotes(sign, arrangement, levels));
  return { sign, blank, arrangement, levels, ...found };
}

/** How far a box reaches over another, in mm; at a rounded corner it may reach over by less than 0, said as 0. */
const overhang = (box: Box, over: Box): number =>
  Math.max(over.minX - box.minX, over.minY - box.minY, box.maxX - over.maxX, box.maxY - over.maxY, 0);

function materialNotes(sign: Sign, arrangement: Arrangement, levels: readonly Level[]): Note[] {
  if (levels.length === 0) return [note('no-material', {})];
  const out: Note[] = [];
  const floor = sign.blank.thickness + Math.min(...levels.map((level) => level.z));
  if (floor < Math.min(THIN_FLOOR_MM, sign.blank.thickness)) out.push(note('thin-floor', {}, floor, sign.unit));
  const pieces = ringsOf(arrangement, isSolid)
    .map((ring) => ({ ring, size: contourArea(ring) }))
    .filter(({ size }) => size > 0)
    .sort((a, b) => b.size - a.size);
  const loose = pieces.slice(1);
  if (loose.length > 0) {
    const box = bounds([loose[0].ring])!;
    const place = { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 };
    out.push(note('loose-pieces', place, loose.length, loose[0].size, sign.unit));
  }
  return out;
}
