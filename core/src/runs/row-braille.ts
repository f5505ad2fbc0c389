import { type BrailleShape, isStale, saidBy, type Sign, withCells } from '../sign/index.js';
import { type Correction, filled, type Values } from './slots.js';

/** Cells of words by a table, where they are known. */
export type CellsOf = (words: string, table: string) => string | undefined;

/** Words of a row that are to become cells. */
interface AskedWords {
  readonly words: string;
  readonly table: string;
}

/** Letters that a translator is asked for at once. */
const MOST_LETTERS = 3800;

/** Braille that follows its words: what was corrected by hand says what it says. */
const follows = (sign: Sign, shape: BrailleShape): boolean => !shape.corrected && isStale(sign, shape);

/** A sign whose braille has the cells of what it says by now, as far as they are known. */
export function withBraille(sign: Sign, cellsOf: CellsOf): Sign {
  const parts = sign.parts.map((part) => {
    if (part.kind !== 'shape' || part.shape.kind !== 'braille' || !follows(sign, part.shape)) return part;
    const words = saidBy(sign, part.shape);
    const cells = words === '' ? '' : cellsOf(words, part.shape.table);
    return cells === undefined ? part : { ...part, shape: withCells(part.shape, words, cells) };
  });
  return { ...sign, parts };
}

/**
 * Has the braille of rows translated: many words in one question, each once.
 * @param ask what brings cells, a line for each line of words; where it throws the words stay as they are, which is noted
 * @param known what is known already, by table and words; what is learnt is added
 */
export async function brailleOfRows(
  sign: Sign,
  rows: readonly { readonly values: Values; readonly corrections?: readonly Correction[] }[],
  ask: (words: string, table: string) => Promise<string>,
  known = new Map<string, string>(),
): Promise<CellsOf> {
  const cellsOf: CellsOf = (words, table) => known.get(`${table}\n${words}`);
  for (const [table, lots] of lotsOf(askedOf(sign, rows, cellsOf))) {
    for (const lot of lots) {
      let lines: string[];
      try {
        lines = (await ask(lot.join('\n'), table)).split('\n');
      } catch {
        continue;
      }
      for (const words of lot) known.set(`${table}\n${words}`, lines.splice(0, words.split('\n').length).join('\n'));
    }
  }
  return cellsOf;
}

function askedOf(
  sign: Sign,
  rows: readonly { readonly values: Values; readonly corrections?: readonly Correction[] }[],
  known: CellsOf,
): AskedWords[] {
  if (!sign.parts.some((part) => part.kind === 'shape' && part.shape.kind === 'braille')) return [];
  const asked = new Map<string, AskedWords>();
  for (const { values, corrections } of rows) {
    const { sign: own } = filled(sign, values, corrections);
    for (const part of own.parts) {
      if (part.kind !== 'shape' || part.shape.kind !== 'braille' || !follows(own, part.shape)) continue;
      const [words, { table }] = [saidBy(own, part.shape), part.shape];
      if (words !== '' && words.length <= MOST_LETTERS && known(words, table) === undefined) asked.set(`${table}\n${words}`, { words, table }); // prettier-ignore
    }
  }
  return [...asked.values()];
}

/** By table, words that are asked for together. */
function lotsOf(asked: readonly AskedWords[]): Map<string, string[][]> {
  const found = new Map<string, string[][]>();
  for (const { words, table } of asked) {
    const lots = found.get(table) ?? [];
    found.set(table, lots);
    const last = lots.at(-1);
    const letters = last?.reduce((sum, each) => sum + each.length + 1, 0) ?? Infinity;
    if (last && letters + words.length <= MOST_LETTERS) last.push(words);
    else lots.push([words]);
  }
  return found;
}
