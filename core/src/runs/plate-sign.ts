import { type Sign } from '../sign/index.js';
import { brailleOfRows, withBraille } from './row-braille.js';
import { type Run, signOfRun, valuesOfRun } from './run.js';
import { filled } from './slots.js';

/** A row as the document that it is made of. */
export interface PlateSign {
  readonly sign: Sign;
  /** Of its row in the list, from 0. */
  readonly at: number;
  /** Ids of the rows before and after it. */
  readonly before?: number;
  readonly next?: number;
  /** Why it is refused, in sentences; its document is then as far as it comes. */
  readonly refused: readonly string[];
}

/**
 * The document that a row of a run is made of; undefined where the list has no such row. It has no options any more: it is made as one of them.
 * @param row its id
 * @param translate brings cells of braille, a line for each line of words
 */
export async function plateSign(
  sign: Sign,
  run: Run,
  row: number,
  translate: (words: string, table: string) => Promise<string>,
): Promise<PlateSign | undefined> {
  const at = run.rows.findIndex(({ id }) => id === row);
  if (at < 0) return undefined;
  const made = signOfRun(sign, run);
  const [values, { corrections }] = [valuesOfRun(made, run)[at], run.rows[at]];
  const { sign: said, refused, faults } = filled(made, values, corrections);
  const own = { ...withBraille(said, await brailleOfRows(made, [{ values, corrections }], translate)) };
  delete own.options;
  const [before, next] = [run.rows[at - 1]?.id, run.rows[at + 1]?.id];
  return {
    sign: own,
    at,
    ...(before !== undefined && { before }),
    ...(next !== undefined && { next }),
    refused: [...refused.map((slot) => `${slot} has no value.`), ...faults],
  };
}
