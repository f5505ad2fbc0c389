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
import { type Laid, type NestChoice } from '@plain-relief/core/nesting';
import { filled, type SheetItem, type Values, withBraille } from '@plain-relief/core/runs';
import { readShop, type Shop, type ShopMachine, type ShopMaterial, type ShopTool } from '@plain-relief/core/shop';
import { fontsOf, type Sign } from '@plain-relief/core/sign';
import { rowBraille } from '../modules/braille/row-braille.js';
import { CommandError, readDocument } from './command.js';
import { materialOf, toolsOf, usualTools } from './cuts.js';
import { cellFrom, machineOf } from './dry-run.js';
import { keptEvaluator } from './kept-evaluator.js';

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

/** A sheet of a run as plates lie on it. */
export interface LaidSheet {
  /** Counted from 0. */
  readonly sheet: number;
  /** What lies on it, and where. */
  readonly items: readonly SheetItem[];
  readonly nest: { readonly laid: readonly Laid[] };
  readonly choice: NestChoice;
  /** With what its plates have in common for a title. */
  readonly sign: Sign;
  readonly out: string;
}

/** What programs of a sheet are made from, beside what lies on it. */
export interface ProgramsOrder {
  readonly shop: Shop;
  readonly machine: ShopMachine;
  readonly material: ShopMaterial;
  /** Where some are named; those that suit the plates of a sheet where none are. */
  readonly tools?: readonly ShopTool[];
  readonly choice: Partial<SheetMeans>;
  readonly cell: number;
  /** Of the plates, in the order of the sheet's items. */
  readonly values: readonly Values[];
  readonly fontsDir: string;
}

/** What a shop's files and the command say that all sheets are cut with; undefined where no programs are wanted. @throws CommandError */
export function programsFrom(asked: ProgramsAsked, sign: Sign, fontsDir: string): Omit<ProgramsOrder, 'values'> | undefined {
  if (asked.shop === undefined) return undefined;
  const shop = readShop(readDocument(asked.shop));
  return {
    shop,
    machine: machineOf(shop, asked.machine),
    material: materialOf(shop, asked.material ?? sign.blank.material, asked.material !== undefined),
    ...(asked.tools !== undefined && { tools: toolsOf(shop, asked.tools) }),
    choice: asked.choice === undefined ? {} : readCutChoice(readDocument(asked.choice)),
    cell: cellFrom(asked.cell ?? String(SHEET_CELL)),
    fontsDir,
  };
}

/** Programs of a sheet in a folder of its own; undefined where nothing lies on it. What cannot be laid is told. */
export async function programsOn(
  { sign, items, nest, choice, sheet, out }: LaidSheet,
  { shop, values, fontsDir, choice: chosen, cell, ...order }: ProgramsOrder,
): Promise<SheetPrograms | undefined> {
  const { book, evaluator } = keptEvaluator(fontsDir);
  await book.need(fontsOf(sign));
  const cellsOf = await rowBraille(sign, values.map((each) => ({ values: each }))); // prettier-ignore
  const evaluationOf = evaluationsToCut(evaluator, (item) => withBraille(filled(sign, values[item]).sign, cellsOf));
  const means: SheetMeans = { ...USUAL, ...chosen, tools: (plates) => usualTools(plates, shop), ...order };
  const { plan, trouble = '' } = programsOfSheet({ title: sign.title, items, nest, choice, evaluationOf }, sheet, means, {
    cell,
  });
  if (!plan) return trouble === '' ? undefined : { sheet: sheet + 1, trouble };
  const folder = sheetFolder(sheet);
  mkdirSync(join(out, folder), { recursive: true });
  for (const { name, content } of filesOfPrograms(plan, sheet)) writeFileSync(join(out, name), content);
  const { minutes, lengthMm, run, isProven } = plan;
  const files = plan.files.map(({ name, minutes: own, lengthMm: length }) => ({ name, minutes: own, lengthMm: length }));
  const left = plan.works.flatMap(({ name, left: own }) => own.map((each) => ({ row: Number(name.slice('plate '.length)), ...each }))); // prettier-ignore
  return { sheet: sheet + 1, folder, files, minutes, lengthMm, gougeMm: run.gougeMm, isProven, ...(trouble !== '' && { trouble }), left }; // prettier-ignore
}

/** @throws CommandError where options of programs are without a shop, or a shop without sheets */
export function judgeAsked({ shop, ...rest }: ProgramsAsked, hasSheets: boolean): void {
  const [stray] = Object.keys(rest).filter((name) => rest[name as keyof typeof rest] !== undefined);
  if (shop === undefined && stray !== undefined) throw new CommandError(`--${stray} says how programs are made: name the shop with its tools by --shop.`); // prettier-ignore
  if (shop !== undefined && !hasSheets) throw new CommandError('--shop makes programs by sheet: say how large a sheet is by --sheet, such as 1220x610.'); // prettier-ignore
}
