import { type Box, bounds, type Contour } from '../geometry/index.js';
import { type Note, note } from '../notes/index.js';
import { type Evaluation, type Layer } from '../relief/index.js';
import { type Round, surfaceOf } from '../support/index.js';
import { liesIn } from './boxes.js';

/** What is told of layers that lie outside, make no difference, or meet one of the other side. */
export function layerNotes({ sign, side, rungs, blank, layers, standing }: Evaluation): Note[] {
  const { onBlank, overhanging, effective, met, grounds } = standing;
  const notes: Note[] = [];
  const blankBox = bounds([blank])!;
  const round = surfaceOf(sign)?.round;
  const nameOf = (id: string): string | undefined => sign.parts.find((part) => part.id === id)?.name;
  layers.forEach((layer, index) => {
    if (layer.area.isEmpty || layer.part === '') return;
    const at = { part: layer.part, tier: layer.tier };
    const name = nameOf(layer.part) ?? layer.part;
    if (!onBlank.has(index)) notes.push(note('off-blank', at, name));
    else if (overhanging.has(index)) {
      const by = round ? beyondEnds(layer.area.contours, blank, round) : overhang(bounds(layer.area.contours)!, blankBox);
      if (by > 0 || !round) notes.push(note('over-edge', at, name, by, sign.unit));
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

/** How far contours reach up or down over the ends of what goes all the way round, in mm: sideways they come round. */
function beyondEnds(contours: readonly Contour[], blank: Contour, { up }: Round): number {
  const reach = (rings: readonly Contour[]): readonly [number, number] => {
    let [least, most] = [Infinity, -Infinity];
    for (const ring of rings) {
      for (let i = 0; i < ring.length; i += 2) {
        const at = up(ring[i], ring[i + 1]);
        [least, most] = [Math.min(least, at), Math.max(most, at)];
      }
    }
    return [least, most];
  };
  const [[low, high], [least, most]] = [reach([blank]), reach(contours)];
  const by = Math.max(low - least, most - high);
  return by < LEAST_BEYOND ? 0 : by;
}

/** mm that chords of a round edge lie beside it. */
const LEAST_BEYOND = 0.01;

/** How far a box reaches over another, in mm; at a rounded corner it may reach over by less than 0, said as 0. */
const overhang = (box: Box, over: Box): number =>
  Math.max(over.minX - box.minX, over.minY - box.minY, box.maxX - over.maxX, box.maxY - over.maxY, 0);
