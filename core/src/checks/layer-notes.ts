import { type Box, bounds } from '../geometry/index.js';
import { type Note, note } from '../notes/index.js';
import { type Evaluation, type Layer } from '../relief/index.js';
import { liesIn } from './boxes.js';

/** What is told of layers that lie outside, make no difference, or meet one of the other side. */
export function layerNotes({ sign, side, rungs, blank, layers, standing }: Evaluation): Note[] {
  const { onBlank, overhanging, effective, met, grounds } = standing;
  const notes: Note[] = [];
  const blankBox = bounds([blank])!;
  const nameOf = (id: string): string | undefined => sign.parts.find((part) => part.id === id)?.name;
  layers.forEach((layer, index) => {
    if (layer.area.isEmpty || layer.part === '') return;
    const at = { part: layer.part, tier: layer.tier };
    const name = nameOf(layer.part) ?? layer.part;
    if (!onBlank.has(index)) notes.push(note('off-blank', at, name));
    else if (overhanging.has(index)) {
      const by = overhang(bounds(layer.area.contours)!, blankBox);
      notes.push(note('over-edge', at, name, by, sign.unit));
    }
    if (onBlank.has(index) && !effective.has(index)) {
      const rung = rungs.find(({ part, tier }) => part === layer.part && tier === layer.tier);
      notes.push(note('not-seen', at, name, rung?.reached ?? rung?.z ?? layer.z, grounds.get(index), sign.unit));
    }
  });
  notes.push(...buriedNotes(layers, standing, nameOf));
  for (const pair of met) {
    // The nearer one of a pair is on the side that is turned to the reader.
    const [front, back] = (side === 'front' ? pair : [...pair].reverse()).map((index) => layers[index]);
    const at = { part: front.part || back.part, tier: front.tier };
    notes.push(note('depths-meet', at, nameOf(front.part), nameOf(back.part), sign.blank.thickness, sign.unit));
  }
  return notes;
}

/** Parts of which nothing is left, since others that are built after them take their place. */
function buriedNotes(
  layers: readonly Layer[],
  { effective, seen }: Evaluation['standing'],
  nameOf: (id: string) => string | undefined,
): Note[] {
  const byPart = new Map<string, number[]>();
  layers.forEach(({ part, operation }, index) => {
    if (effective.has(index) && part !== '' && operation !== 'keep' && operation !== 'back up')
      byPart.set(part, [...(byPart.get(part) ?? []), index]);
  });
  return [...byPart].flatMap(([part, own]) => {
    if (own.some((index) => seen.has(index) || layers[index].operation === 'through')) return [];
    const box = bounds(own.flatMap((index) => layers[index].area.contours))!;
    const over = layers.findIndex(
      (layer, index) =>
        index > own[own.length - 1] && layer.part !== part && effective.has(index) && liesIn(box, bounds(layer.area.contours)),
    );
    if (over < 0) return [];
    const after = layers[over].part;
    return [note('buried', { part, remedy: { kind: 'later', after } }, nameOf(part) ?? part, nameOf(after) ?? after)];
  });
}

/** How far a box reaches over another, in mm; at a rounded corner it may reach over by less than 0, said as 0. */
const overhang = (box: Box, over: Box): number =>
  Math.max(over.minX - box.minX, over.minY - box.minY, box.maxX - over.maxX, box.maxY - over.maxY, 0);
