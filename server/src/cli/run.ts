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
import { type NestChoice } from '@plain-relief/core/nesting';
import { readSign, type Sign } from '@plain-relief/core/sign';
import { readSettings } from '../platform/settings.js';
import { CommandError, readArguments, readDocument, today } from './command.js';
import { stateBelow } from '../modules/production/plate-picture.js';
import { contactPdf } from '../modules/production/run-pdf.js';
import { type ContactPlate } from '../modules/production/contact-grid.js';
import { keptEvaluator } from './kept-evaluator.js';
import { judgeAsked, type ProgramsAsked, programsFrom, type SheetPrograms } from './run-programs.js';
import { sheetChoice, type Sheets, type SheetsOrder, sheetsOf } from './run-sheets.js';
import { RunThreads, workersFrom } from './run-threads.js';

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
    workers: count,
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
  const choice = sheet === undefined ? undefined : sheetChoice(sheet, ofSheets);
  const { fontsDir } = readSettings({ DATABASE_URL: 'none needed', ...process.env });
  // They load while files are read.
  const threads = new RunThreads(workersFrom(count));
  try {
    const plain = readSign(readDocument(path), keptEvaluator(fontsDir).book.catalogue);
    const sign = option === undefined ? plain : madeAs(plain, option);
    if (!takesLists(plain))
      throw new CommandError(`${path} has no words with a slot: declare it in slots and write {name} where its value goes.`);
    const list = listAt(listPath);
    const matching = new Map([...matched(sign, list.columns), ...column.map((each) => columnFrom(each, sign, list))]);
    const lacking = unfilled(sign, matching);
    if (lacking.length > 0)
      throw new CommandError(`Nothing fills ${lacking.join(', ')}: the list has ${list.columns.join(', ')}. Match them by --column "SLOT=COLUMN".`); // prettier-ignore
    const rows = rowsFrom(only, list.rows.length);
    const programs = programsFrom(asked, sign, fontsDir);
    return await makeRun({ sign, list, matching, rows, kinds, out: resolve(out), fontsDir, choice, programs, contact: contact === true }, threads); // prettier-ignore
  } finally {
    await threads.close();
  }
}

/** A run as the command has read it. */
interface AskedRun extends Pick<SheetsOrder, 'sign' | 'kinds' | 'out' | 'fontsDir' | 'programs'> {
  readonly list: List;
  /** Which column fills which slot. */
  readonly matching: ReadonlyMap<string, string>;
  /** By their places in the list, from 0. */
  readonly rows: readonly number[];
  /** How plates are laid on sheets, where they are. */
  readonly choice: NestChoice | undefined;
  /** Whether a contact sheet is wanted. */
  readonly contact: boolean;
}

async function makeRun(
  { sign, list, matching, rows, choice, programs, contact, ...means }: AskedRun,
  threads: RunThreads,
): Promise<MadeRun> {
  const { out, fontsDir } = means;
  const values = rowValues(sign, list, matching);
  const remarks = rowRemarks(values);
  const twice = repeatedValues(sign, values);
  mkdirSync(out, { recursive: true });
  const order = { ...means, sign, forSheets: choice !== undefined, forContact: contact };
  const made = await threads.rows(order, rows.map((row) => ({ row, values: values[row] }))); // prettier-ignore
  const states: Partial<Record<PlateState, number>> = {};
  for (const { state } of made) states[state] = (states[state] ?? 0) + 1;
  const reported = made.map((each) => ({
    ...each,
    told: [...each.told, ...remarksOf(remarks[each.row]), ...(twice.get(each.row) ?? [])],
    values: list.rows[each.row],
  }));
  const report = 'report.csv';
  writeFileSync(join(out, report), reportFile(list.columns, reported));
  // What the plates have in common.
  const { title } = filled(sign, new Map()).sign;
  const items = made.flatMap(({ item }) => item ?? []);
  const laid = choice && (await sheetsOf(items, values, { ...means, sign: { ...sign, title }, choice, programs }, threads));
  const held = made.filter(({ item }) => !item).map(({ row }) => row + 1);
  if (contact) {
    const plates = made.map(({ row, title, state, narrowed, picture }): ContactPlate => ({ row, title, state: stateBelow({ state, narrowed }), ...(picture && { picture }) })); // prettier-ignore
    writeFileSync(join(out, CONTACT), await contactPdf(plates, title, today(), fontsDir));
  }
  return {
    rows: rows.length,
    states,
    columns: Object.fromEntries(matching),
    notes: [...list.notes, ...[...twice].map(([row, texts]) => `Row ${row + 1}: ${texts.join(', ')}.`)],
    files: made.flatMap(({ files }) => files),
    report,
    ...(contact && { contact: CONTACT }),
    ...(laid && { sheets: { ...laid.told, held } }),
    ...(programs && laid && { programs: laid.programs }),
  };
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
