import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { productionOutlines } from '@plain-relief/core/drawing';
import { dxfFile, NothingToWriteError, OpenSolidError, svgFile } from '@plain-relief/core/format';
import { Evaluator } from '@plain-relief/core/relief';
import {
  edgeOfPlate,
  type Plate,
  plateFileName,
  plateOf,
  type PlateState,
  type SheetItem,
  type Values,
} from '@plain-relief/core/runs';
import { fontsOf, type Sign } from '@plain-relief/core/sign';
import { solidOf } from '@plain-relief/core/solid';
import { type FontBook } from '@plain-relief/core/type';
import { openFontBook } from '../modules/fonts/font-files.js';
import { closedStl } from '../modules/production/solid-files.js';

export const FILE_KINDS = ['svg', 'dxf', 'stl'] as const;
export type FileKind = (typeof FILE_KINDS)[number];

/** Some rows of a run, as a thread is asked for them. */
export interface RowsOrder {
  readonly sign: Sign;
  /** By their places in the list, from 0. */
  readonly rows: readonly { readonly row: number; readonly values: Values }[];
  readonly kinds: readonly FileKind[];
  readonly out: string;
  readonly fontsDir: string;
  /** Whether plates that fit are laid on sheets after. */
  readonly forSheets: boolean;
}

/** A row whose files are written. */
export interface MadeRow {
  readonly row: number;
  readonly state: PlateState;
  readonly title: string;
  readonly narrowed?: number;
  /** What is refused, noted, and what could not be written. */
  readonly told: readonly string[];
  readonly files: readonly string[];
  /** Of a plate that fits, where it is laid on a sheet. */
  readonly item?: SheetItem;
}

/** How rows fit that are laid on sheets: letters that run over an edge would run into the next plate. */
const SOUND: ReadonlySet<PlateState> = new Set(['fits', 'fitted']);

/** Of this thread, with the fonts of the sign: kept from one lot of rows to the next. */
let kept: { readonly fontsDir: string; readonly book: FontBook; readonly evaluator: Evaluator } | undefined;

/** Makes rows and writes their files, here or in a thread of its own. */
export default async function madeRows({ sign, rows, kinds, out, fontsDir, forSheets }: RowsOrder): Promise<MadeRow[]> {
  if (kept?.fontsDir !== fontsDir) {
    const book = openFontBook(fontsDir);
    kept = { fontsDir, book, evaluator: new Evaluator(book) };
  }
  const { book, evaluator } = kept;
  await book.need(fontsOf(sign));
  return rows.map(({ row, values }): MadeRow => {
    const plate = plateOf(sign, values, evaluator);
    const { evaluation, narrowed, notes, refused, state } = plate;
    const { names: files, trouble } = filesOf(plate, row, kinds, out);
    const item =
      forSheets && evaluation && SOUND.has(state)
        ? { name: String(row + 1), edge: edgeOfPlate(evaluation), drawing: productionOutlines(evaluation) }
        : undefined;
    const told = [...refused, ...notes.map(({ text }) => text), ...trouble];
    return {
      row,
      state,
      title: plate.sign.title,
      told,
      files,
      ...(narrowed !== undefined && { narrowed }),
      ...(item && { item }),
    };
  });
}

function filesOf(
  plate: Plate,
  row: number,
  kinds: readonly FileKind[],
  out: string,
): { readonly names: string[]; readonly trouble: string[] } {
  const { evaluation, sign } = plate;
  if (!evaluation) return { names: [], trouble: [] };
  const names: string[] = [];
  const trouble: string[] = [];
  for (const kind of kinds) {
    const name = `${plateFileName(row, sign.title)}.${kind}`;
    try {
      const content =
        kind === 'stl'
          ? closedStl(solidOf(evaluation), sign.title)
          : kind === 'svg'
            ? svgFile(productionOutlines(evaluation), { unit: sign.unit, title: sign.title })
            : dxfFile(productionOutlines(evaluation), sign.unit);
      writeFileSync(join(out, name), content);
      names.push(name);
    } catch (error) {
      if (!(error instanceof OpenSolidError) && !(error instanceof NothingToWriteError)) throw error;
      trouble.push(error.message);
    }
  }
  return { names, trouble };
}
