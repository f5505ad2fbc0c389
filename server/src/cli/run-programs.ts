import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type CutChoice, PlanError, USUAL } from '@plain-relief/core/cutting';
import { troubleOf } from '@plain-relief/core/dry-run';
import { readCutChoice, sheetPlan, signToCut, type SheetWork } from '@plain-relief/core/making';
import { type Nest, type NestChoice, sizeOfSheet } from '@plain-relief/core/nesting';
import { type Evaluation, Evaluator } from '@plain-relief/core/relief';
import { filled, type SheetItem, tooNearOnSheet, tooNearWords, type Values, withBraille } from '@plain-relief/core/runs';
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
  const cell = cellFrom(asked.cell ?? '0.2');
  await book.need(fontsOf(sign));
  const evaluator = new Evaluator(book);
  const cellsOf = await rowBraille(sign, items.map(({ name }) => ({ values: values[Number(name) - 1] }))); // prettier-ignore
  const evaluationOf = ({ name }: SheetItem): Evaluation => evaluator.evaluateLoaded(signToCut(withBraille(filled(sign, values[Number(name) - 1]).sign, cellsOf))); // prettier-ignore
  const made: SheetPrograms[] = [];
  for (let sheet = 0; sheet < nest.sheets; sheet++) {
    const works = nest.laid
      .filter((laid) => laid.sheet === sheet)
      .map(({ item, x, y, turn }): SheetWork => ({ name: `plate ${items[item].name}`, evaluation: evaluationOf(items[item]), x, y, turn })); // prettier-ignore
    // An offcut that nothing fits on.
    if (works.length === 0) continue;
    const near = tooNearOnSheet(items, nest, sheet, choice);
    if (near.length > 0) {
      made.push({ sheet: sheet + 1, trouble: tooNearWords(near) });
      continue;
    }
    const tools = asked.tools === undefined ? usualTools(works[0].evaluation, shop) : toolsOf(shop, asked.tools);
    const how: CutChoice = { ...USUAL, ...chosen, machine, material, tools };
    try {
      const plan = sheetPlan(works, { ...sizeOfSheet(choice, sheet), spacing: choice.spacing }, how, `${sign.title}, sheet ${sheet + 1}`, { cell }); // prettier-ignore
      const folder = `sheet ${sheet + 1}`;
      mkdirSync(join(out, folder), { recursive: true });
      for (const { name, text } of plan.programs) writeFileSync(join(out, folder, name), text);
      const { files, minutes, lengthMm, run, isProven } = plan;
      const left = plan.works.flatMap(({ name, left: own }) => own.map((each) => ({ row: Number(name.slice('plate '.length)), ...each }))); // prettier-ignore
      const trouble = troubleOf(run);
      made.push({ sheet: sheet + 1, folder, files: files.map(({ name, minutes: own, lengthMm: length }) => ({ name, minutes: own, lengthMm: length })), minutes, lengthMm, gougeMm: run.gougeMm, isProven, ...(trouble !== '' && { trouble }), left }); // prettier-ignore
    } catch (error) {
      if (!(error instanceof PlanError)) throw error;
      made.push({ sheet: sheet + 1, trouble: error.message });
    }
  }
  return made;
}

/** @throws CommandError where options of programs are without a shop, or a shop without sheets */
export function judgeAsked({ shop, ...rest }: ProgramsAsked, hasSheets: boolean): void {
  const [stray] = Object.keys(rest).filter((name) => rest[name as keyof typeof rest] !== undefined);
  if (shop === undefined && stray !== undefined) throw new CommandError(`--${stray} says how programs are made: name the shop with its tools by --shop.`); // prettier-ignore
  if (shop !== undefined && !hasSheets) throw new CommandError('--shop makes programs by sheet: say how large a sheet is by --sheet, such as 1220x610.'); // prettier-ignore
}
