import { brailleTable } from '@plain-relief/core/braille';
import { brailleOfRows, type CellsOf, type Correction, type Values } from '@plain-relief/core/runs';
import { type Sign } from '@plain-relief/core/sign';
import { BrailleTranslator } from './translator.js';

/** Of this process, or of this thread: answers are kept. */
const translator = new BrailleTranslator(process.env.LOU_TRANSLATE || undefined);

/** What braille says on plates of a run; without a translator cells stay as they are, which is noted. */
export const rowBraille = (
  sign: Sign,
  rows: readonly { readonly values: Values; readonly corrections?: readonly Correction[] }[],
): Promise<CellsOf> =>
  brailleOfRows(sign, rows, async (words, id) => {
    const table = brailleTable(id);
    if (!table) throw new Error(`There is no table “${id}”.`);
    return (await translator.cellsOf(words, table)).cells;
  });
