import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { productionOutlines } from '@plain-relief/core/drawing';
import { dxfFile, NothingToWriteError, OpenSolidError, svgFile } from '@plain-relief/core/format';
import { Evaluator } from '@plain-relief/core/relief';
import { type NestChoice } from '@plain-relief/core/nesting';
import {
  edgeOfPlate,
  laidOnSheets,
  sheetDrawing,
  type SheetItem,
  sheetMap,
  type List,
  ListError,
  listFile,
  matched,
  type Plate,
  plateOf,
  type PlateState,
  readList,
  repeated,
  type RowRemark,
  rowRemarks,
  rowValues,
  slotsInWords,
  unfilled,
  type Values,
} from '@plain-relief/core/runs';
import { fontsOf, readSign, type Sign } from '@plain-relief/core/sign';
import { solidOf } from '@plain-relief/core/solid';
import { openFontBook } from '../modules/fonts/font-files.js';
import { closedStl } from '../modules/production/solid-files.js';
import { readSettings } from '../platform/settings.js';
import { CommandError, readDocument, readArguments } from './command.js';

/** mm of a sheet's side. */
const LONGEST = 10_000;

/** How rows fit that are laid on sheets. */
const SOUND: ReadonlySet<PlateState> = new Set(['fits', 'fitted']);

const KINDS = ['svg', 'dxf', 'stl'] as const;
type Kind = (typeof KINDS)[number];

/** A run as it was made. */
export interface MadeRun {
  readonly rows: number;
  readonly states: Readonly<Partial<Record<PlateState, number>>>;
  /** Which column fills which slot. */
  readonly columns: Readonly<Record<string, string>>;
  /** What was told of the list, and of values that are there twice and may be once. */
  readonly notes: readonly string[];
  readonly files: readonly string[];
  /** Where every row is told of. */
  readonly report: string;
  /** Where plates lie on sheets, and rows that are on none because they do not fit their plate or lack something. */
  readonly sheets?: Sheets & { readonly held: readonly number[] };
}

/** Plates on sheets: how many sheets, how much of them is taken, how far up the last one, rows that no sheet is large enough for. */
interface Sheets {
  readonly count: number;
  readonly share: number;
  readonly lastMm: number;
  readonly left: readonly number[];
  readonly files: readonly string[];
}

/** Every row of a list as a plate: its outlines and its solid, and a report. @throws CommandError and what the core throws */
export async function runCommand(args: readonly string[], usage: string): Promise<MadeRun> {
  const text = { type: 'string' } as const;
  const parsed = readArguments(
    args,
    {
      list: text,
      out: text,
      files: text,
      rows: text,
      column: { type: 'string', multiple: true },
      sheet: text,
      margin: text,
      spacing: text,
      turns: text,
      order: text,
    },
    usage,
  );
  const { list: listPath, out, files = 'svg,stl', rows: only, column = [], sheet, ...ofSheets } = parsed.values;
  const [path, ...rest] = parsed.positionals;
  if (path === undefined || listPath === undefined || out === undefined || rest.length > 0) throw new CommandError(usage);
  const kinds = kindsFrom(files);
  const choice = sheet === undefined ? undefined : sheetChoice(sheet, ofSheets);
  const { fontsDir } = readSettings({ DATABASE_URL: 'none needed', ...process.env });
  const book = openFontBook(fontsDir);
  const sign = readSign(readDocument(path), book.catalogue);
  if (slotsInWords(sign).length === 0)
    throw new CommandError(`${path} has no words with a slot: declare it in slots and write {name} where its value goes.`);
  const list = listAt(listPath);
  const matching = new Map([...matched(sign, list.columns), ...column.map((each) => columnFrom(each, sign, list))]);
  const lacking = unfilled(sign, matching);
  if (lacking.length > 0)
    throw new CommandError(`Nothing fills ${lacking.join(', ')}: the list has ${list.columns.join(', ')}. Match them by --column "SLOT=COLUMN".`); // prettier-ignore
  const values = rowValues(sign, list, matching);
  const chosen = rowsFrom(only, list.rows.length);
  const remarks = rowRemarks(values);
  const twice = twiceIn(sign, values);
  await book.need(fontsOf(sign));
  const evaluator = new Evaluator(book);
  mkdirSync(out, { recursive: true });
  const written: string[] = [];
  const told: string[][] = [];
  const states: Partial<Record<PlateState, number>> = {};
  const items: SheetItem[] = [];
  const held: number[] = [];
  for (const i of chosen) {
    const plate = plateOf(sign, values[i], evaluator);
    states[plate.state] = (states[plate.state] ?? 0) + 1;
    const { names, trouble } = filesOf(plate, i, kinds, out);
    written.push(...names);
    // Letters that run over an edge would run into the next plate.
    if (choice && plate.evaluation && !SOUND.has(plate.state)) held.push(i + 1);
    else if (choice && plate.evaluation)
      items.push({ name: String(i + 1), edge: edgeOfPlate(plate.evaluation), drawing: productionOutlines(plate.evaluation) });
    told.push(reported(i, plate, [...trouble, ...remarksOf(remarks[i]), ...(twice.get(i) ?? [])], list));
  }
  const report = 'report.csv';
  writeFileSync(join(out, report), listFile(['row', 'state', 'narrowed to %', 'title', 'remarks', ...list.columns], told));
  const notes = [...list.notes, ...[...twice].map(([row, texts]) => `Row ${row + 1}: ${texts.join(', ')}.`)];
  const sheets = choice && { ...sheetsOf(items, choice, kinds, sign, out), held };
  const columns = Object.fromEntries(matching);
  return { rows: chosen.length, states, columns, notes, files: written, report, ...(sheets && { sheets }) };
}

function kindsFrom(text: string): Kind[] {
  return text.split(',').map((each) => {
    const kind = KINDS.find((known) => known === each.trim());
    if (kind) return kind;
    throw new CommandError(`--files ${text}: ${each} is none of ${KINDS.join(', ')}.`);
  });
}

function listAt(path: string): List {
  let bytes: Uint8Array;
  try {
    bytes = new Uint8Array(readFileSync(path === '-' ? 0 : path));
  } catch (error) {
    throw new CommandError(`${path} cannot be read: ${(error as Error).message}.`);
  }
  try {
    return readList(bytes);
  } catch (error) {
    if (error instanceof ListError) throw new CommandError(`${path}: ${error.message}`);
    throw error;
  }
}

/** “SLOT=COLUMN”. */
function columnFrom(text: string, { slots = [] }: Sign, { columns }: List): [string, string] {
  const at = text.indexOf('=');
  const [slot, column] = [text.slice(0, at), text.slice(at + 1)];
  if (!slots.some(({ name }) => name === slot))
    throw new CommandError(`--column ${text}: the sign has no slot “${slot}”; it has ${slots.map(({ name }) => name).join(', ')}.`); // prettier-ignore
  if (!columns.includes(column)) throw new CommandError(`--column ${text}: the list has no column “${column}”; it has ${columns.join(', ')}.`); // prettier-ignore
  return [slot, column];
}

/** Rows by their numbers from 1, as 3,7-9; all where none are named. */
function rowsFrom(text: string | undefined, count: number): number[] {
  if (text === undefined) return Array.from({ length: count }, (_, i) => i);
  const rows = text.split(',').flatMap((each) => {
    const [, first, last = first] = /^\s*(\d+)\s*(?:-\s*(\d+)\s*)?$/u.exec(each) ?? [];
    const [from, to] = [Number(first), Number(last)];
    if (!(from >= 1 && to >= from && to <= count))
      throw new CommandError(`--rows ${text}: ${each} is no row of the list, which has ${count}: write them as 3,7-9.`);
    return Array.from({ length: to - from + 1 }, (_, i) => from - 1 + i);
  });
  return [...new Set(rows)].sort((a, b) => a - b);
}

/** Rows, from 0, that have a value which is to be there once, with where it is besides. */
function twiceIn({ slots = [] }: Sign, values: readonly Values[]): Map<number, string[]> {
  const found = new Map<number, string[]>();
  for (const { name, once } of slots) {
    if (!once) continue;
    for (const [value, rows] of repeated(values, name)) {
      for (const row of rows) {
        const others = rows.filter((each) => each !== row).map((each) => each + 1);
        found.set(row, [...(found.get(row) ?? []), `${name} “${value}” is in row ${others.slice(0, 5).join(', ')}, too`]);
      }
    }
  }
  return found;
}

function sheetChoice(
  sheet: string,
  {
    margin = '10',
    spacing = '4',
    turns = '0,90',
    order = 'free',
  }: Readonly<Partial<Record<'margin' | 'spacing' | 'turns' | 'order', string>>>,
): NestChoice {
  const [, width, height] = (/^([\d.]+)\s*[x×]\s*([\d.]+)$/u.exec(sheet) ?? []).map(Number);
  if (!(width > 0 && height > 0 && width <= LONGEST && height <= LONGEST))
    throw new CommandError(`--sheet ${sheet} is no size of up to ${LONGEST} mm: write it in mm as 1220x610.`);
  const mm = (name: string, value: string): number => {
    const number = Number(value);
    if (value.trim() !== '' && number >= 0 && number <= 200) return number;
    throw new CommandError(`--${name} ${value} is no length of 0 to 200 mm.`);
  };
  const degrees = turns.split(',').map(Number);
  if (degrees.some((each) => !Number.isFinite(each)) || degrees.length > 36)
    throw new CommandError(`--turns ${turns} are no degrees: write those that plates may be turned by as 0,90.`);
  if (order !== 'free' && order !== 'kept') throw new CommandError(`--order ${order} is neither free nor kept.`);
  return {
    sheet: { width, height },
    margin: mm('margin', margin),
    spacing: mm('spacing', spacing),
    turns: degrees,
    keepsOrder: order === 'kept',
    tries: 8,
  };
}

/** Files of every sheet, and its map, in which plates have the numbers of their rows. */
function sheetsOf(
  items: readonly SheetItem[],
  choice: NestChoice,
  kinds: readonly Kind[],
  { unit, title }: Sign,
  out: string,
): Sheets {
  const nest = laidOnSheets(
    items.map(({ edge }) => edge),
    choice,
  );
  const files: string[] = [];
  const write = (name: string, content: string | Uint8Array): void => {
    writeFileSync(join(out, name), content);
    files.push(name);
  };
  for (let sheet = 0; sheet < nest.sheets; sheet++) {
    const name = `sheet ${sheet + 1}`;
    const drawing = sheetDrawing(items, nest, sheet, choice);
    if (kinds.includes('svg')) write(`${name}.svg`, svgFile(drawing, { unit, title: `${title}, ${name}` }));
    if (kinds.includes('dxf')) write(`${name}.dxf`, dxfFile(drawing, unit));
    write(`${name} map.svg`, svgFile(sheetMap(items, nest, sheet, choice), { unit, title: `${title}, ${name}` }));
  }
  const { sheets: count, share, lastMm } = nest;
  return {
    count,
    share: Number(share.toFixed(4)),
    lastMm: Number(lastMm.toFixed(2)),
    left: nest.left.map((item) => Number(items[item].name)),
    files,
  };
}

const remarksOf = (remarks: readonly RowRemark[]): string[] => remarks.map(({ text }) => text);

/** By number and title, of letters that every file system has. */
const nameOf = (row: number, { title }: Sign): string =>
  `${String(row + 1).padStart(4, '0')} ${title.normalize('NFKD').replace(/[^\w -]/gu, '').trim().slice(0, 60)}`.trim(); // prettier-ignore

function filesOf(
  plate: Plate,
  row: number,
  kinds: readonly Kind[],
  out: string,
): { readonly names: string[]; readonly trouble: string[] } {
  // prettier-ignore
  const { evaluation, sign } = plate;
  if (!evaluation) return { names: [], trouble: [] };
  const names: string[] = [];
  const trouble: string[] = [];
  for (const kind of kinds) {
    const name = `${nameOf(row, sign)}.${kind}`;
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

function reported(
  row: number,
  { narrowed, notes, refused, sign, state }: Plate,
  remarks: readonly string[],
  list: List,
): string[] {
  const told = [...refused, ...notes.map(({ text }) => text), ...remarks];
  const percent = narrowed === undefined ? '' : narrowed.toFixed(0);
  return [String(row + 1), state, percent, sign.title, told.join(' '), ...list.rows[row]];
}
