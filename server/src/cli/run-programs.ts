import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { USUAL } from '@plain-relief/core/cutting';
import {
  evaluationsToCut,
  filesOfPrograms,
  programsOfSheet,
  readCutChoice,
  SHEET_CELL,
  sheetFolder,
  type SheetMeans,
} from '@plain-relief/core/making';
import { type Nest, type NestChoice } from '@plain-relief/core/nesting';
import { Evaluator } from '@plain-relief/core/relief';
import { filled, type SheetItem, type Values, withBraille } from '@plain-relief/core/runs';
import { rowBraille } from '../modules/braille/row-braille.js';
import { readShop } from '@plain-relief/core/shop';
import { fontsOf, type Sign } from '@plain-relief/core/sign';
import { type FontBook } from '@plain-relief/core/type';
import { CommandError, readDocument } from './command.js';
import { materialOf, toolsOf, usualTools } from './cuts.js';
import { cellFrom, machineOf } from './dry-run.js';

/** What programs of sheets are asked for with, as the options of the command have it. */
export interface ProgramsAsked {
  readonly shop?: string;
  readonly machine?: string;
  readonly material?: string;
  readonly tools?: string;
  readonly choice?: string;
  readonly cell?: string;
}

/** The programs of a sheet in the order in which they run, and what their dry run showed; or why there are none. */
export type SheetPrograms =
  | {
      readonly sheet: number;
      readonly folder: string;
      readonly files: readonly { readonly name: string; readonly minutes: number; readonly lengthMm: number }[];
      readonly minutes: number;
      readonly lengthMm: number;
      readonly gougeMm: number;
      readonly isProven: boolean;
      /** Why it is not. */
      readonly trouble?: string;
      /** By plates, what no tool takes away. */
      readonly left: readonly { readonly row: number; readonly areaMm2: number; readonly reason: string }[];
    }
  | { readonly sheet: number; readonly trouble: string };

/** What plates lie on sheets, and how. */
export interface LaidRun {
  readonly sign: Sign;
  readonly items: readonly SheetItem[];
  /** By the places of rows in the list, from 0. */
  readonly values: readonly Values[];
  readonly nest: Nest;
  readonly choice: NestChoice;
}

/** Programs of every sheet in a folder of its own. What cannot be laid is told, and keeps no other sheet from being made. @throws CommandError */
export async function programsOfSheets(
  { sign, items, values, nest, choice }: LaidRun,
  asked: ProgramsAsked,
  out: string,
  book: FontBook,
): Promise<SheetPrograms[]> {
  const shop = readShop(readDocument(asked.shop!));
  const machine = machineOf(shop, asked.machine);
  const material = materialOf(shop, asked.material ?? sign.blank.material, asked.material !== undefined);
  const chosen = asked.choice === undefined ? {} : readCutChoice(readDocument(asked.choice));
  const cell = cellFrom(asked.cell ?? String(SHEET_CELL));
  await book.need(fontsOf(sign));
  const evaluator = new Evaluator(book);
  const cellsOf = await rowBraille(sign, items.map(({ name }) => ({ values: values[Number(name) - 1] }))); // prettier-ignore
  const evaluationOf = evaluationsToCut(evaluator, (item) => withBraille(filled(sign, values[Number(items[item].name) - 1]).sign, cellsOf)); // prettier-ignore
  const tools = asked.tools === undefined ? undefined : toolsOf(shop, asked.tools);
  const means: SheetMeans = { ...USUAL, ...chosen, machine, material, tools: tools ?? ((plates) => usualTools(plates, shop)) };
  const made: SheetPrograms[] = [];
  for (let sheet = 0; sheet < nest.sheets; sheet++) {
    const { plan, trouble = '' } = programsOfSheet({ title: sign.title, items, nest, choice, evaluationOf }, sheet, means, cell);
    if (!plan) {
      if (trouble !== '') made.push({ sheet: sheet + 1, trouble });
      continue;
    }
    const folder = sheetFolder(sheet);
    mkdirSync(join(out, folder), { recursive: true });
    for (const { name, content } of filesOfPrograms(plan, sheet)) writeFileSync(join(out, name), content);
    const { files, minutes, lengthMm, run, isProven } = plan;
    const left = plan.works.flatMap(({ name, left: own }) => own.map((each) => ({ row: Number(name.slice('plate '.length)), ...each }))); // prettier-ignore
    made.push({ sheet: sheet + 1, folder, files: files.map(({ name, minutes: own, lengthMm: length }) => ({ name, minutes: own, lengthMm: length })), minutes, lengthMm, gougeMm: run.gougeMm, isProven, ...(trouble !== '' && { trouble }), left }); // prettier-ignore
  }
  return made;
}

/** @throws CommandError where options of programs are without a shop, or a shop without sheets */
export function judgeAsked({ shop, ...rest }: ProgramsAsked, hasSheets: boolean): void {
  const [stray] = Object.keys(rest).filter((name) => rest[name as keyof typeof rest] !== undefined);
  if (shop === undefined && stray !== undefined) throw new CommandError(`--${stray} says how programs are made: name the shop with its tools by --shop.`); // prettier-ignore
  if (shop !== undefined && !hasSheets) throw new CommandError('--shop makes programs by sheet: say how large a sheet is by --sheet, such as 1220x610.'); // prettier-ignore
}
