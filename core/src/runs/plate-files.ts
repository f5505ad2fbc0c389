import { type Drawing, productionOutlines } from '../drawing/index.js';
import { closedStl, dxfFile, NothingToWriteError, OpenSolidError, svgFile } from '../format/index.js';
import { type Nest, type NestChoice } from '../nesting/index.js';
import { type Evaluation } from '../relief/index.js';
import { type Sign } from '../sign/index.js';
import { spaceSolid } from '../solid/index.js';
import { SupportError } from '../support/index.js';
import { type Plate, type PlateState } from './plates.js';
import { edgeOfPlate, type SheetItem, sheetDrawing, sheetMap } from './sheets.js';

/** Files that are made of every plate: outlines, and the solid. */
export const PLATE_FILES = ['svg', 'dxf', 'stl'] as const;
export type PlateFile = (typeof PLATE_FILES)[number];

export interface NamedFile {
  readonly name: string;
  readonly content: string | Uint8Array;
}

/** What a plate's files are called: by its number and its title, of letters that every file system has. @param row from 0 */
export const plateFileName = (row: number, title: string): string =>
  `${String(row + 1).padStart(4, '0')} ${title.normalize('NFKD').replace(/[^\w -]/gu, '').trim().slice(0, 60)}`.trim(); // prettier-ignore

/** A plate as it is written. */
export interface WrittenPlate {
  readonly files: readonly NamedFile[];
  /** Why a file could not be written, in sentences. */
  readonly trouble: readonly string[];
  /** Of a plate that fits, what is laid on a sheet: letters that run over an edge would run into the next plate. */
  readonly item?: SheetItem;
}

/** Which states are laid on sheets. */
const SOUND: ReadonlySet<PlateState> = new Set(['fits', 'fitted']);

/** The files of a plate; none of one that is not made. @param row of the list, from 0 */
export function writtenPlate({ evaluation, sign, state }: Plate, row: number, kinds: readonly PlateFile[]): WrittenPlate {
  if (!evaluation) return { files: [], trouble: [] };
  const drawing = productionOutlines(evaluation);
  const files: NamedFile[] = [];
  const trouble: string[] = [];
  for (const kind of kinds) {
    try {
      files.push({ name: `${plateFileName(row, sign.title)}.${kind}`, content: contentOf(evaluation, drawing, sign, kind) });
    } catch (error) {
      const isTold = error instanceof OpenSolidError || error instanceof NothingToWriteError || error instanceof SupportError;
      if (!isTold) throw error;
      trouble.push(error.message);
    }
  }
  const item = { name: String(row + 1), edge: edgeOfPlate(evaluation), drawing };
  return { files, trouble, ...(SOUND.has(state) && { item }) };
}

function contentOf(evaluation: Evaluation, drawing: Drawing, { title, unit }: Sign, kind: PlateFile): string | Uint8Array {
  switch (kind) {
    case 'svg':
      return svgFile(drawing, { unit, title });
    case 'dxf':
      return dxfFile(drawing, unit);
    case 'stl':
      return closedStl(spaceSolid(evaluation), title);
  }
}

/** Files of a sheet: its map, in which plates have their names, and its outlines. */
export interface FilesOfSheet {
  readonly map: NamedFile & { readonly content: string };
  readonly outlines: readonly NamedFile[];
}

/** Files of every sheet. */
export const sheetFiles = (
  items: readonly SheetItem[],
  nest: Nest,
  choice: NestChoice,
  sign: Pick<Sign, 'title' | 'unit'>,
  kinds: readonly PlateFile[],
): FilesOfSheet[] => Array.from({ length: nest.sheets }, (_, sheet) => filesOfSheet(items, nest, sheet, choice, sign, kinds));

/** Files of one sheet, counted from 0; of `nest` only what lies on it need be there. */
export function filesOfSheet(
  items: readonly SheetItem[],
  nest: Pick<Nest, 'laid'>,
  sheet: number,
  choice: NestChoice,
  { title, unit }: Pick<Sign, 'title' | 'unit'>,
  kinds: readonly PlateFile[],
): FilesOfSheet {
  const name = `sheet ${sheet + 1}`;
  const svg = { unit, title: `${title}, ${name}` };
  const map = { name: `${name} map.svg`, content: svgFile(sheetMap(items, nest, sheet, choice), svg) };
  const outlines: NamedFile[] = [];
  if (kinds.includes('svg') || kinds.includes('dxf')) {
    const drawing = sheetDrawing(items, nest, sheet, choice);
    if (kinds.includes('svg')) outlines.push({ name: `${name}.svg`, content: svgFile(drawing, svg) });
    if (kinds.includes('dxf')) outlines.push({ name: `${name}.dxf`, content: dxfFile(drawing, unit) });
  }
  return { map, outlines };
}
