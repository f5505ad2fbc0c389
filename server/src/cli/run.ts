import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import {
  filled,
  isOptionOfList,
  type List,
  ListError,
  matched,
  PLATE_FILES,
  type PlateFile,
  type PlateState,
  readList,
  repeatedValues,
  reportFile,
  type RowRemark,
  rowRemarks,
  rowValues,
  signOfRun,
  takesLists,
  unfilled,
} from '@plain-relief/core/runs';
import { readSign, type Sign } from '@plain-relief/core/sign';
import { Piscina } from 'piscina';
import { openFontBook } from '../modules/fonts/font-files.js';
import { threadFile } from '../platform/http/threads.js';
import { readSettings } from '../platform/settings.js';
import { CommandError, readArguments, readDocument } from './command.js';
import madeRows, { type MadeRow, type RowsOrder } from './run-rows.js';
import { stateBelow } from '../modules/production/plate-picture.js';
import { contactPdf } from '../modules/production/run-pdf.js';
import { type ContactPlate } from '../modules/production/contact-grid.js';
import { judgeAsked, type ProgramsAsked, programsOfSheets, type SheetPrograms } from './run-programs.js';
import { sheetChoice, type Sheets, sheetsOf } from './run-sheets.js';

const MOST_WORKERS = 32;
/** To the day: who makes a run twice has the same bytes. */
const today = (): Date => new Date(new Date().toISOString().slice(0, 10));
const CONTACT = 'contact sheet.pdf';

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
  /** A picture of every plate, as a PDF, where it is asked for. */
  readonly contact?: string;
  /** Where plates lie on sheets, and rows that are on none because they do not fit their plate or lack something. */
  readonly sheets?: Sheets & { readonly held: readonly number[] };
  /** Programs of every sheet, where a shop with tools is named. */
  readonly programs?: readonly SheetPrograms[];
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
      effort: text,
      order: text,
      offcuts: text,
      workers: text,
      contact: { type: 'boolean' },
      option: text,
      ...{ shop: text, machine: text, material: text, tools: text, choice: text, cell: text },
    },
    usage,
  );
  const {
    list: listPath,
    out,
    files = 'svg,stl',
    rows: only,
    column = [],
    workers: threads,
    sheet,
    contact,
    option,
    shop,
    machine,
    material,
    tools,
    choice: cutting,
    cell,
    ...ofSheets
  } = parsed.values;
  const [path, ...rest] = parsed.positionals;
  if (path === undefined || listPath === undefined || out === undefined || rest.length > 0) throw new CommandError(usage);
  const asked: ProgramsAsked = { shop, machine, material, tools, choice: cutting, cell };
  judgeAsked(asked, sheet !== undefined);
  const kinds = kindsFrom(files);
  const workers = workersFrom(threads);
  const choice = sheet === undefined ? undefined : sheetChoice(sheet, ofSheets);
  const { fontsDir } = readSettings({ DATABASE_URL: 'none needed', ...process.env });
  const book = openFontBook(fontsDir);
  const plain = readSign(readDocument(path), book.catalogue);
  const sign = option === undefined ? plain : madeAs(plain, option);
  if (!takesLists(plain))
    throw new CommandError(`${path} has no words with a slot: declare it in slots and write {name} where its value goes.`);
  const list = listAt(listPath);
  const matching = new Map([...matched(sign, list.columns), ...column.map((each) => columnFrom(each, sign, list))]);
  const lacking = unfilled(sign, matching);
  if (lacking.length > 0)
    throw new CommandError(`Nothing fills ${lacking.join(', ')}: the list has ${list.columns.join(', ')}. Match them by --column "SLOT=COLUMN".`); // prettier-ignore
  const values = rowValues(sign, list, matching);
  const chosen = rowsFrom(only, list.rows.length);
  const remarks = rowRemarks(values);
  const twice = repeatedValues(sign, values);
  mkdirSync(out, { recursive: true });
  const order = { sign, kinds, out: resolve(out), fontsDir, forSheets: choice !== undefined, forContact: contact === true };
  const made = await madeBy(
    workers,
    order,
    chosen.map((row) => ({ row, values: values[row] })),
  );
  const states: Partial<Record<PlateState, number>> = {};
  for (const { state } of made) states[state] = (states[state] ?? 0) + 1;
  const items = made.flatMap(({ item }) => item ?? []);
  const held = made.filter(({ item }) => choice && !item).map(({ row }) => row + 1);
  const reported = made.map((each) => ({
    ...each,
    told: [...each.told, ...remarksOf(remarks[each.row]), ...(twice.get(each.row) ?? [])],
    values: list.rows[each.row],
  }));
  const written = made.flatMap(({ files }) => files);
  const report = 'report.csv';
  writeFileSync(join(out, report), reportFile(list.columns, reported));
  const notes = [...list.notes, ...[...twice].map(([row, texts]) => `Row ${row + 1}: ${texts.join(', ')}.`)];
  // What the plates have in common.
  const { title } = filled(sign, new Map()).sign;
  const laid = choice && (await sheetsOf(items, choice, kinds, { ...sign, title }, out, today(), fontsDir));
  const programs = laid && shop !== undefined ? await programsOfSheets({ sign: { ...sign, title }, items, values, nest: laid.nest, choice }, asked, out, book) : undefined; // prettier-ignore
  const sheets = laid && { ...laid.told, held };
  if (contact) {
    const plates = made.map(({ row, title, state, narrowed, picture }): ContactPlate => ({ row, title, state: stateBelow({ state, narrowed }), ...(picture && { picture }) })); // prettier-ignore
    writeFileSync(join(out, CONTACT), await contactPdf(plates, title, today(), fontsDir));
  }
  const columns = Object.fromEntries(matching);
  return {
    rows: chosen.length,
    states,
    columns,
    notes,
    files: written,
    report,
    ...(contact && { contact: CONTACT }),
    ...(sheets && { sheets }),
    ...(programs && { programs }),
  };
}

/** Rows that a thread is given at a time: so few that none waits long for the last. */
const LOT = 12;

/** Rows in the order in which they are asked for, made by as many threads. */
async function madeBy(workers: number, order: Omit<RowsOrder, 'rows'>, rows: RowsOrder['rows']): Promise<MadeRow[]> {
  if (workers === 1) return madeRows({ ...order, rows });
  const threads = new Piscina({
    filename: threadFile('./run-rows.js', import.meta.url),
    minThreads: workers,
    maxThreads: workers,
  });
  try {
    const lots: Promise<MadeRow[]>[] = [];
    for (let at = 0; at < rows.length; at += LOT)
      lots.push(threads.run({ ...order, rows: rows.slice(at, at + LOT) }) as Promise<MadeRow[]>);
    return (await Promise.all(lots)).flat();
  } finally {
    await threads.destroy();
  }
}

function workersFrom(text = '1'): number {
  const count = Number(text);
  if (Number.isInteger(count) && count >= 1 && count <= MOST_WORKERS) return count;
  throw new CommandError(`--workers ${text} is no number of 1 to ${MOST_WORKERS}.`);
}

/** The sign with its plates made as one of its options, by its name or id. @throws CommandError */
function madeAs(sign: Sign, wanted: string): Sign {
  const { options = [] } = sign;
  if (isOptionOfList(sign)) throw new CommandError(`--option ${wanted}: a column of the list chooses the option of every plate.`);
  const option = options.find(({ id, name }) => id === wanted || name.toLowerCase() === wanted.toLowerCase());
  if (option) return signOfRun(sign, { option: option.id });
  const known = options.length === 0 ? 'the sign has none' : `the sign has ${options.map(({ name }) => name).join(', ')}`;
  throw new CommandError(`--option ${wanted} is no option: ${known}.`);
}

function kindsFrom(text: string): PlateFile[] {
  return text.split(',').map((each) => {
    const kind = PLATE_FILES.find((known) => known === each.trim());
    if (kind) return kind;
    throw new CommandError(`--files ${text}: ${each} is none of ${PLATE_FILES.join(', ')}.`);
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

const remarksOf = (remarks: readonly RowRemark[]): string[] => remarks.map(({ text }) => text);
