import { brailleLayout, lineWidth, saidWords } from '../braille/index.js';
import { type Note, note } from '../notes/index.js';
import { type BrailleShape, isStale, type ShapePart, saidBy, type Sign } from '../sign/index.js';

/** What is told of braille by itself: that its cells are not those of its words, are too wide, or are read from behind. */
export function brailleNotes(part: ShapePart, shape: BrailleShape, sign: Sign): Note[] {
  const at = { part: part.id };
  const notes: Note[] = [];
  if (shape.corrected && shape.translated && isStale(sign, shape))
    notes.push(note('braille-stale', at, part.name, saidBy(sign, shape), true)); // prettier-ignore
  else if (isStale(sign, shape)) notes.push(note('braille-stale', at, part.name, saidBy(sign, shape), false));
  if (shape.cells === '' && saidWords(shape.words, false) === '' && shape.follows === undefined) notes.push(note('no-words', at, part.name)); // prettier-ignore
  if (part.place.mirror) notes.push(note('braille-mirrored', at, part.name));
  const { room } = shape;
  if (room === undefined) return notes;
  const sizes = { base: shape.ball ?? shape.base, dots: shape.dots, cells: shape.cell, lines: shape.line };
  const widest = Math.max(
    0,
    ...brailleLayout(shape.cells, sizes, shape.align, room).lines.map(({ length }) => lineWidth(length, sizes)),
  );
  if (widest > room + 1e-6) notes.push(note('braille-too-wide', at, part.name, widest, room, sign.unit));
  return notes;
}
