import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { filesOfSheet, type PlateFile } from '@plain-relief/core/runs';
import { type LaidSheet, type ProgramsOrder, programsOn, type SheetPrograms } from './run-programs.js';

/** A sheet of a run, as a thread is asked for it. */
export interface SheetOrder extends LaidSheet {
  readonly kinds: readonly PlateFile[];
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
