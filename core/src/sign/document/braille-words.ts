import { saidWords } from '../../braille/index.js';
import { type BrailleShape, type Part, type Sign } from './schema.js';
import { readWords } from './slot-words.js';

/** The text whose words a part in braille says; undefined where it has its own. */
export const followedText = (sign: Pick<Sign, 'parts'>, shape: BrailleShape) =>
  sign.parts.find((part): part is Extract<Part, { kind: 'text' }> => part.kind === 'text' && part.id === shape.follows);

/** What a part in braille is to say, as it is translated. */
export const saidBy = (sign: Pick<Sign, 'parts' | 'slots'>, shape: BrailleShape): string =>
  saidWords(readWords(followedText(sign, shape)?.words ?? shape.words, sign.slots), shape.capitals === true);

/** Whether the cells are not those of the words: they have never been translated, or were from others, or by another table. */
export function isStale(sign: Pick<Sign, 'parts' | 'slots'>, shape: BrailleShape): boolean {
  const words = saidBy(sign, shape);
  const { translated } = shape;
  if (!translated) return words !== '' || shape.cells !== '';
  return translated.words !== words || translated.table !== shape.table;
}

/** The shape with cells that words were translated to. */
export const withCells = (shape: BrailleShape, words: string, cells: string): BrailleShape => ({
  ...shape,
  cells,
  translated: { words, table: shape.table },
});
