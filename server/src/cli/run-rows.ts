import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type PlateFile, plateOf, type SheetItem, type Values, writtenPlate } from '@plain-relief/core/runs';
import { fontsOf, type Sign } from '@plain-relief/core/sign';
import { rowBraille } from '../modules/braille/row-braille.js';
import type { MadeRow as ToldRow } from '../platform/database/models/lots.js';
import { pictureOfPlate } from '../modules/production/plate-picture.js';
import { keptEvaluator } from './kept-evaluator.js';

/** Some rows of a run, as a thread is asked for them. */
export interface RowsOrder {
  readonly sign: Sign;
  /** By their places in the list, from 0. */
  readonly rows: readonly { readonly row: number; readonly values: Values }[];
  readonly kinds: readonly PlateFile[];
  readonly out: string;
  readonly fontsDir: string;
  /** Whether plates that fit are laid on sheets after. */
  readonly forSheets: boolean;
  /** Whether a picture of each is wanted. */
  readonly forContact: boolean;
}

/** A row whose files are written. */
export interface MadeRow extends ToldRow {
  readonly files: readonly string[];
  /** Of a plate that fits, where it is laid on a sheet. */
  readonly item?: SheetItem;
  /** A PNG. */
  readonly picture?: Uint8Array;
}

/** Makes rows and writes their files, here or in a thread of its own. */
export default async function madeRows({
  sign,
  rows,
  kinds,
  out,
  fontsDir,
  forSheets,
  forContact,
}: RowsOrder): Promise<MadeRow[]> {
  const { book, evaluator } = keptEvaluator(fontsDir);
  await book.need(fontsOf(sign));
  const cellsOf = await rowBraille(sign, rows);
  return rows.map(({ row, values }): MadeRow => {
    const plate = plateOf(sign, values, evaluator, [], cellsOf);
    const { narrowed, notes, refused, state } = plate;
    const { files, trouble, item } = writtenPlate(plate, row, kinds);
    for (const { name, content } of files) writeFileSync(join(out, name), content);
    const told = [...refused, ...notes.map(({ text }) => text), ...trouble];
    return {
      row,
      state,
      title: plate.sign.title,
      told,
      files: files.map(({ name }) => name),
      ...(narrowed !== undefined && { narrowed }),
      ...(forSheets && item && { item }),
      ...(forContact && plate.evaluation && { picture: pictureOfPlate(plate.evaluation) }),
    };
  });
}
