import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Laid, type NestChoice } from '@plain-relief/core/nesting';
import { filesOfSheet, type PlateFile, type SheetItem } from '@plain-relief/core/runs';
import { type Sign } from '@plain-relief/core/sign';
import { type ProgramsOrder, programsOn, type SheetPrograms } from './run-programs.js';

/** A sheet of a run, as a thread is asked for it. */
export interface SheetOrder {
  /** Counted from 0. */
  readonly sheet: number;
  /** What lies on it, and where. */
  readonly items: readonly SheetItem[];
  readonly nest: { readonly laid: readonly Laid[] };
  readonly choice: NestChoice;
  /** With what its plates have in common for a title. */
  readonly sign: Sign;
  readonly kinds: readonly PlateFile[];
  readonly out: string;
  /** Where it is cut by programs. */
  readonly programs?: ProgramsOrder;
}

/** A sheet whose files are written. */
export interface MadeSheet {
  readonly files: readonly string[];
  /** Undefined where none are wanted, or nothing lies on it. */
  readonly programs?: SheetPrograms;
}

/** Makes a sheet and writes its files, here or in a thread of its own. */
export default async function madeSheet(order: SheetOrder): Promise<MadeSheet> {
  const { sheet, items, nest, choice, sign, kinds, out } = order;
  const { map, outlines } = filesOfSheet(items, nest, sheet, choice, sign, kinds);
  const files = [...outlines, map];
  for (const { name, content } of files) writeFileSync(join(out, name), content);
  const programs = order.programs && (await programsOn(order, order.programs));
  return { files: files.map(({ name }) => name), ...(programs && { programs }) };
}
