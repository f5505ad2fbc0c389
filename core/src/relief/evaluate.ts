import {
  apart,
  area,
  areasByLabel,
  type Arrangement,
  bounds,
  type Box,
  type Contour,
  contains,
  contourArea,
  CoordinateError,
  gapBetween,
  type Inset,
  type Outline,
  ringsOf,
  type Stroke,
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
  tierLevel,
} from '../sign/index.js';
import { type FontBook, type LetterGap, letterGaps, openUp, type OpenedUp, setBlock } from '../type/index.js';
import { LEVEL_STEP, middleHeight, type Surface } from './fold.js';
import { FIRST_PLACE, isSolid, type Laid, layOut } from './laying.js';
import { blankLayer, type Layer, layersOf, type TierLayer } from './layers.js';
import { type Note, note } from './notes.js';
import {
  blankOutline,
  copied,
  type PlacedPart,
  placeShape,
  placeText,
  radiusNote,
  type Surroundings,
  textChoice,
  type TextMeasures,
  trackOf,
} from './part-outline.js';
import { Patches, type PlacedPatch, topOfPatch } from './patches.js';
import { outlinedText, splitText, TextPartsError } from './text-parts.js';
import { reachOf, TierAreas } from './tier-area.js';
import { Fields, heightOn, insideLeft } from './weave.js';

/** Places of the plan with one surface over them, and what it is made by. */
export interface Place {
  /** Label in the plan. */
  readonly label: number;
  readonly surface: Surface;
  /** Its height, or for a slope that in the middle of its band. */
  readonly z: number;
  readonly areaMm2: number;
}

/** A level of the relief: its flat places. */
export interface Level {
  /** Labels of its places in the plan. */
  readonly labels: readonly number[];
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
  /** The level that its strokes let it come to, where that is another. */
  readonly reached?: number;
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
  /** Every place with material, by label from {@link FIRST_PLACE} on. */
  readonly places: readonly Place[];
  /** Flat places from the highest to the lowest, the level tops of slopes among them. */
  readonly levels: readonly Level[];
  /** The least and the greatest height. */
  readonly lowest: number;
  readonly highest: number;
  readonly layers: readonly Layer[];
  /** The slopes of letters that keep them to themselves. */
  readonly patches: ReadonlyMap<Inset, PlacedPatch>;
  readonly rungs: readonly Rung[];
  readonly parts: readonly PartPlan[];
  readonly notes: readonly Note[];
}

/** The place that a label stands for; undefined where there is no material. */
export const placeOf = ({ places }: Evaluation, label: number): Place | undefined => places[label - FIRST_PLACE];

/** Height of the surface in mm over a grid point that lies in, or on the edge of, the places of a label. */
export function heightAt(evaluation: Evaluation, label: number, x: number, y: number): number {
  const surface = placeOf(evaluation, label)?.surface;
  switch (surface?.kind) {
    case undefined:
      return -evaluation.sign.blank.thickness;
    case 'level':
      return surface.z;
    case 'woven':
      return heightOn(surface.woven, x, y);
    case 'ramp':
      // Only its edge lies in the plan itself.
      return surface.ramp.start;
  }
}

/** Rings of one label, or of several as one. */
export const regionOf = (evaluation: Evaluation, ...labels: readonly number[]): Outline =>
  ringsOf(evaluation.arrangement, (label) => labels.includes(label));

const byId = (parts: readonly PartPlan[]): ReadonlyMap<string, PartPlan> => new Map(parts.map((part) => [part.id, part]));

const THIN_FLOOR_MM = 1;
const MOST_REMEMBERED = 1000;

/**
 * Evaluates signs. It keeps the outlines of parts from one evaluation to the next, so that an edit works out again only
 * the part it touches; results do not depend on what is kept.
 */
export class Evaluator {
  private remembered = new Map<string, PlacedPart>();
  private blank: { readonly key: string; readonly contour: Contour } | undefined;
  private readonly areas = new TierAreas();
  private readonly fields = new Fields();
  private readonly patches = new Patches(this.fields);

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
    const edge = blankLayer(sign, blank);
    const layers: Layer[] = edge ? [edge] : [];
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
        rungs.push(...made.rungs);
      } catch (error) {
        if (!(error instanceof CoordinateError)) throw error;
        notes.push(note('too-far', { part: part.id }, part.name));
        parts.push({ id: part.id, frame: new Float64Array(), letters: 0, contours: [], strokes: [] });
      }
    }
    return told(sign, blank, layers, { rungs, parts, notes }, layOut(sign, blank, layers, this.fields, this.patches));
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

  private layersOf(part: Part, sign: Sign, placed: PlacedPart, base: number): { layers: Layer[]; rungs: Rung[]; notes: Note[] } {
    const layers = layersOf(part, placed, base, this.areas);
    if (layers.length === 0) return { layers, rungs: [], notes: [note('no-tiers', { part: part.id }, part.name)] };
    const rungs: Rung[] = [];
    const notes: Note[] = [];
    for (const layer of layers) {
      if (layer.isMore) continue;
      const nominal = tierLevel(layer.of, base);
      const short = this.shortOf(layer, base);
      rungs.push({ part: part.id, tier: layer.tier, z: nominal, reached: short?.highest });
      notes.push(...tierNotes(sign, part, layer, nominal, placed, this.areas, short));
    }
    return { layers, rungs, notes };
  }

  /** Where strokes are too narrow for a slope to come to its height: the heights above the base that it comes to. */
  private shortOf({ ramp, contours }: Layer, base: number): Short | undefined {
    if (!ramp || contours.length === 0) return undefined;
    const heights = apart(contours).map((outline) =>
      Math.abs(ramp.at(this.fields.field(insideLeft(outline), ramp).field.deepest) - base),
    );
    const sign = ramp.end < base ? -1 : 1;
    const full = Math.abs(ramp.end - base);
    if (heights.every((height) => height > full - LEAST_SHORT)) return undefined;
    return { lowest: Math.min(...heights), highest: base + sign * Math.max(...heights), full };
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
      { ...part, tiers: 0, sitsOn: 0, group: 0, locked: 0, bridges: 0 },
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

/** Heights that a slope comes to, in mm: above its base at its lowest letter, above the face at its highest. */
interface Short {
  readonly lowest: number;
  readonly highest: number;
  readonly full: number;
}

/** mm by which a slope may stay below its height before that is told. */
const LEAST_SHORT = 0.01;

function tierNotes(
  sign: Sign,
  part: Part,
  { of: tier, contours }: TierLayer,
  z: number,
  placed: PlacedPart,
  areas: TierAreas,
  short: Short | undefined,
): Note[] {
  const at = { part: part.id, tier: tier.id };
  const out: Note[] = [];
  const { thickness } = sign.blank;
  const deepest = short ? short.highest : z;
  if (z !== THROUGH && tier.action.kind !== 'mark' && deepest <= -thickness)
    out.push(note('through-back', at, part.name, -deepest, thickness, sign.unit));
  if (placed.strokes.length > 0 && tier.action.kind !== 'line') out.push(note('open-strokes', at, part.name));
  const swallowed = areas.swallowed(placed, tier);
  if (swallowed) {
    const reach = reachOf(tier.area, placed);
    const where = { ...at, x: swallowed.x, y: swallowed.y };
    if (contours.length === 0) out.push(note('offset-swallowed', where, part.name, reach, swallowed.largest, sign.unit));
    else out.push(note('area-loses', where, part.name, reach, swallowed.count, swallowed.largest, sign.unit));
  }
  if (short && tier.edge?.kind === 'ridged' && !tier.edge.capped)
    out.push(note('ridge-height', at, part.name, short.highest, sign.unit));
  else if (short) out.push(note('slope-short', at, part.name, short.full, short.lowest, sign.unit));
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

/** The evaluation of what was laid, with the notes that follow. */
function told(
  sign: Sign,
  blank: Contour,
  layers: readonly Layer[],
  found: { rungs: Rung[]; parts: PartPlan[]; notes: Note[] },
  { arrangement, surfaces, patches, overhanging, onBlank, effective }: Laid,
): Evaluation {
  const { notes } = found;
  const areas = areasByLabel(arrangement);
  const places = surfaces.map((surface, i): Place => {
    const label = FIRST_PLACE + i;
    return { label, surface, z: middleHeight(surface), areaMm2: areas.get(label) ?? 0 };
  });
  const { levels, lowest, highest } = levelsOf(places, patches);

  const blankBox = bounds([blank])!;
  layers.forEach((layer, index) => {
    if (layer.contours.length === 0 || layer.part === '') return;
    const at = { part: layer.part, tier: layer.tier };
    const name = sign.parts.find(({ id }) => id === layer.part)?.name ?? layer.part;
    if (!onBlank.has(index)) notes.push(note('off-blank', at, name));
    else if (overhanging.has(index)) {
      const by = overhang(bounds(layer.contours)!, blankBox);
      notes.push(note('over-edge', at, name, by, sign.unit));
    }
    if (onBlank.has(index) && !effective.has(index)) {
      const rung = found.rungs.find(({ part, tier }) => part === layer.part && tier === layer.tier);
      notes.push(note('not-seen', at, name, rung?.reached ?? rung?.z ?? layer.z, sign.unit));
    }
  });
  notes.push(...materialNotes(sign, arrangement, layers, places.length > 0, lowest));
  return { sign, blank, arrangement, places, levels, lowest, highest, layers, patches, ...found };
}

/** Flat places by height, and the least and the greatest height of all places. */
function levelsOf(
  places: readonly Place[],
  patches: ReadonlyMap<Inset, PlacedPatch>,
): { levels: Level[]; lowest: number; highest: number } {
  const byHeight = new Map<number, { z: number; labels: number[]; areaMm2: number }>();
  let [lowest, highest] = [Infinity, -Infinity];
  const span = (...heights: number[]) => {
    lowest = Math.min(lowest, ...heights);
    highest = Math.max(highest, ...heights);
  };
  const add = (z: number, areaMm2: number, label?: number) => {
    const key = Math.round(z / LEVEL_STEP);
    let level = byHeight.get(key);
    if (!level) byHeight.set(key, (level = { z, labels: [], areaMm2: 0 }));
    level.areaMm2 += areaMm2;
    if (label !== undefined) level.labels.push(label);
  };
  for (const { label, surface, areaMm2 } of places) {
    if (areaMm2 <= 0) continue;
    if (surface.kind === 'level') {
      add(surface.z, areaMm2, label);
      span(surface.z);
    } else if (surface.kind === 'woven') {
      const { ramp, levels, pieces } = surface.woven;
      const { band } = surface;
      const deepest = band < levels.length ? levels[band] : Math.max(...pieces.map(({ drawn }) => drawn.field.deepest));
      span(ramp.at(band === 0 ? 0 : levels[band - 1]), ramp.at(deepest));
    }
  }
  for (const [inset, placed] of patches) {
    const { patch } = placed;
    const surface = places[inset.inside - FIRST_PLACE].surface;
    if (surface.kind !== 'ramp') continue;
    const { ramp } = surface;
    span(ramp.start, ramp.at(patch.deepest), ...ramp.heights.filter((_, i) => ramp.distances[i] <= patch.deepest));
    const top = topOfPatch(placed, ramp);
    if (top) add(ramp.end, area(top));
  }
  const levels = [...byHeight.values()].filter((level) => level.areaMm2 > 0).sort((a, b) => b.z - a.z);
  return { levels, lowest, highest };
}

/** How far a box reaches over another, in mm; at a rounded corner it may reach over by less than 0, said as 0. */
const overhang = (box: Box, over: Box): number =>
  Math.max(over.minX - box.minX, over.minY - box.minY, box.maxX - over.maxX, box.maxY - over.maxY, 0);

const liesIn = (inner: Box, outer: Box | undefined): boolean =>
  outer !== undefined &&
  inner.minX >= outer.minX &&
  inner.maxX <= outer.maxX &&
  inner.minY >= outer.minY &&
  inner.maxY <= outer.maxY;

function materialNotes(sign: Sign, arrangement: Arrangement, layers: readonly Layer[], isThere: boolean, lowest: number): Note[] {
  if (!isThere) return [note('no-material', {})];
  const out: Note[] = [];
  const floor = sign.blank.thickness + lowest;
  if (floor > 1e-6 && floor < Math.min(THIN_FLOOR_MM, sign.blank.thickness)) out.push(note('thin-floor', {}, floor, sign.unit));
  const pieces = ringsOf(arrangement, isSolid)
    .map((ring) => ({ ring, size: contourArea(ring) }))
    .filter(({ size }) => size > 0)
    .sort((a, b) => b.size - a.size);
  const loose = pieces.slice(1);
  if (loose.length > 0) {
    const box = bounds([loose[0].ring])!;
    const place = { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 };
    // Whose cut it is that has the piece in it.
    const layer = [...layers].reverse().find(({ does, contours }) => does === 'through' && liesIn(box, bounds(contours)));
    const part = sign.parts.find(({ id }) => id === layer?.part);
    const mend = part && !part.bridges ? ({ part: part.id, remedy: 'bridges' } as const) : { part: part?.id };
    out.push(note('loose-pieces', { ...place, ...mend }, loose.length, loose[0].size, sign.unit));
  }
  return out;
}
