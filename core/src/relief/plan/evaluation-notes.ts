import { type Arrangement, ringsOf } from '../../arrangement/index.js';
import { type Box, bounds, type Contour, contains, contourArea, gapBetween } from '../../geometry/index.js';
import { type Part, type Side, type Sign, THROUGH } from '../../sign/index.js';
import { cutToNote } from './cut-to.js';
import { type Evaluation } from './evaluation.js';
import { LEVEL_STEP } from './relief-function.js';
import { isSolid, type Laid } from './laying.js';
import { type Layer, type TierLayer } from '../placing/layers.js';
import { type Note, note } from '../../notes/index.js';
import { type PlacedPart } from '../placing/part-outline.js';
import { reachOf, type TierAreas } from '../placing/tier-area.js';

const THIN_FLOOR_MM = 1;

/** Heights that a slope comes to, in mm: above its base at its lowest letter, above the face at its highest. */
export interface Short {
  readonly lowest: number;
  readonly highest: number;
  readonly full: number;
}

/** mm by which a slope may stay below its height before that is told. */
export const LEAST_SHORT = 0.01;

/** What is told of a tier by itself. */
export function tierNotes(
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
export function edgeNotes(part: Part, { contours }: PlacedPart, blank: Contour, { unit }: Sign): Note[] {
  if (part.kind !== 'shape' || !part.tiers.some(({ on, action }) => on && action.kind === 'cut-through')) return [];
  const { shape } = part;
  if (shape.kind !== 'circle' && shape.kind !== 'fixings') return [];
  const inside = contours.filter((hole) => contains([blank], hole[0], hole[1]));
  const left = Math.min(...inside.map((hole) => gapBetween([hole], [blank], 'edges')));
  return left > 0 && left < shape.diameter ? [note('near-edge', { part: part.id }, part.name, left, shape.diameter, unit)] : [];
}

/** What is told of layers that lie outside, make no difference, or meet one of the other side. */
export function layerNotes(
  sign: Sign,
  { side, rungs }: Pick<Evaluation, 'side' | 'rungs'>,
  blank: Contour,
  layers: readonly Layer[],
  laid: Laid,
): Note[] {
  const { onBlank, overhanging, effective, met } = laid;
  const notes: Note[] = [];
  const blankBox = bounds([blank])!;
  const nameOf = (id: string): string | undefined => sign.parts.find((part) => part.id === id)?.name;
  layers.forEach((layer, index) => {
    if (layer.contours.length === 0 || layer.part === '') return;
    const at = { part: layer.part, tier: layer.tier };
    const name = nameOf(layer.part) ?? layer.part;
    if (!onBlank.has(index)) notes.push(note('off-blank', at, name));
    else if (overhanging.has(index)) {
      const by = overhang(bounds(layer.contours)!, blankBox);
      notes.push(note('over-edge', at, name, by, sign.unit));
    }
    if (onBlank.has(index) && !effective.has(index)) {
      const rung = rungs.find(({ part, tier }) => part === layer.part && tier === layer.tier);
      notes.push(note('not-seen', at, name, rung?.reached ?? rung?.z ?? layer.z, laid.grounds.get(index), sign.unit));
    }
  });
  notes.push(...buriedNotes(layers, laid, nameOf));
  for (const pair of met) {
    // The nearer one of a pair is on the side that is turned to the reader.
    const [front, back] = (side === 'front' ? pair : [...pair].reverse()).map((index) => layers[index]);
    const at = { part: front.part || back.part, tier: front.tier };
    notes.push(note('depths-meet', at, nameOf(front.part), nameOf(back.part), sign.blank.thickness, sign.unit));
  }
  return notes;
}

/** Parts of which nothing is left, since others that are built after them take their place. */
function buriedNotes(layers: readonly Layer[], { effective, seen }: Laid, nameOf: (id: string) => string | undefined): Note[] {
  const byPart = new Map<string, number[]>();
  layers.forEach(({ part, operation }, index) => {
    if (effective.has(index) && part !== '' && operation !== 'keep' && operation !== 'back up')
      byPart.set(part, [...(byPart.get(part) ?? []), index]);
  });
  return [...byPart].flatMap(([part, own]) => {
    if (own.some((index) => seen.has(index) || layers[index].operation === 'through')) return [];
    const box = bounds(own.flatMap((index) => layers[index].contours))!;
    const over = layers.findIndex(
      (layer, index) =>
        index > own[own.length - 1] && layer.part !== part && effective.has(index) && liesIn(box, bounds(layer.contours)),
    );
    if (over < 0) return [];
    const after = layers[over].part;
    return [note('buried', { part, remedy: 'later', after }, nameOf(part) ?? part, nameOf(after) ?? after)];
  });
}

/** What stands higher than is allowed. */
export function heightNotes({ heightLimit, unit }: Sign, side: Side, { highest }: Pick<Evaluation, 'highest'>): Note[] {
  if (heightLimit === undefined || side !== 'front' || !(highest > heightLimit + LEVEL_STEP)) return [];
  return [note('too-high', {}, highest, heightLimit, unit)];
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

/** What is told of all the material that is left. */
export function materialNotes(
  sign: Sign,
  arrangement: Arrangement,
  layers: readonly Layer[],
  isThere: boolean,
  floor: number,
): Note[] {
  if (!isThere) return [note('no-material', {})];
  const out: Note[] = [];
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
    const layer = [...layers]
      .reverse()
      .find(({ operation, contours }) => operation === 'through' && liesIn(box, bounds(contours)));
    const part = sign.parts.find(({ id }) => id === layer?.part);
    if (sign.blank.cutTo) return [...out, cutToNote(sign.blank.cutTo, pieces.length, place)];
    const mend = part && !part.bridges ? ({ part: part.id, remedy: 'bridges' } as const) : { part: part?.id };
    out.push(note('loose-pieces', { ...place, ...mend }, loose.length, loose[0].size, sign.unit));
  }
  return out;
}
