import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type NestChoice, type Size } from '@plain-relief/core/nesting';
import { EFFORT, laidOnSheets, onSheet, type SheetItem, type Values } from '@plain-relief/core/runs';
import { mapsPdf } from '../modules/production/run-pdf.js';
import { CommandError, today } from './command.js';
import type { ProgramsOrder, SheetPrograms } from './run-programs.js';
import type { SheetOrder } from './run-sheet.js';
import type { RunThreads } from './run-threads.js';

/** mm of a sheet's side. */
const LONGEST = 10_000;
/** How often plates may be looked at: some minutes. */
const MOST_EFFORT = 1_000_000;
const MAPS = 'sheets map.pdf';

/** Plates on sheets: how many sheets, how much of them is taken, how far up the last one, rows that no sheet is large enough for. */
export interface Sheets {
  readonly count: number;
  readonly share: number;
  readonly lastMm: number;
  readonly left: readonly number[];
  readonly files: readonly string[];
}

/** How plates are to lie, by the options of the command. @throws CommandError */
export function sheetChoice(
  sheet: string,
  {
    margin = '10',
    spacing = '4',
    turns = '0,90,180,270',
    order = 'free',
    effort = String(EFFORT.usual),
    offcuts = '',
  }: Readonly<Partial<Record<'margin' | 'spacing' | 'turns' | 'order' | 'effort' | 'offcuts', string>>>,
): NestChoice {
  const sizeOf = (option: string, text: string): Size => {
    const [, width, height] = (/^([\d.]+)\s*[x×]\s*([\d.]+)$/u.exec(text.trim()) ?? []).map(Number);
    if (width > 0 && height > 0 && width <= LONGEST && height <= LONGEST) return { width, height };
    throw new CommandError(`--${option} ${text} is no size of up to ${LONGEST} mm: write it in mm as 1220x610.`);
  };
  const mm = (name: string, value: string): number => {
    const number = Number(value);
    if (value.trim() !== '' && number >= 0 && number <= 200) return number;
    throw new CommandError(`--${name} ${value} is no length of 0 to 200 mm.`);
  };
  const degrees = turns.split(',').map(Number);
  if (degrees.some((each) => !Number.isFinite(each)) || degrees.length > 72)
    throw new CommandError(`--turns ${turns} are no degrees: write those that plates may be turned by as 0,90.`);
  const looks = Number(effort);
  if (!Number.isInteger(looks) || looks < 0 || looks > MOST_EFFORT)
    throw new CommandError(`--effort ${effort} is no whole number up to ${MOST_EFFORT}.`);
  if (order !== 'free' && order !== 'kept') throw new CommandError(`--order ${order} is neither free nor kept.`);
  return {
    sheet: sizeOf('sheet', sheet),
    offcuts: offcuts === '' ? [] : offcuts.split(',').map((each) => sizeOf('offcuts', each)),
    margin: mm('margin', margin),
    spacing: mm('spacing', spacing),
    turns: degrees,
    keepsOrder: order === 'kept',
    tries: 8,
    effort: looks,
  };
}

/** What all sheets of a run are made from. */
export interface SheetsOrder extends Pick<SheetOrder, 'choice' | 'sign' | 'kinds' | 'out'> {
  readonly programs?: Omit<ProgramsOrder, 'values'>;
  readonly fontsDir: string;
}

/** Files of every sheet, and its map, in which plates have the numbers of their rows. @param values of all rows of the list */
export async function sheetsOf(
  items: readonly SheetItem[],
  values: readonly Values[],
  { programs, fontsDir, ...order }: SheetsOrder,
  threads: RunThreads,
): Promise<{ readonly told: Sheets; readonly programs: SheetPrograms[] }> {
  const { choice, sign, out } = order;
  const nest = laidOnSheets(
    items.map(({ edge }) => edge),
    choice,
  );
  const orders = Array.from({ length: nest.sheets }, (_, sheet): SheetOrder => {
    const own = onSheet(items, nest, sheet);
    const rows = own.items.map(({ name }) => values[Number(name) - 1]);
    return { ...order, ...own, sheet, ...(programs && { programs: { ...programs, values: rows } }) };
  });
  // The maps of all are drawn here while threads are at the sheets.
  const making = threads.sheets(orders);
  const maps = mapsPdf(items, nest, choice, sign.title, today(), fontsDir);
  const [made, pdf] = await Promise.all([making, maps]);
  writeFileSync(join(out, MAPS), pdf);
  const { sheets: count, share, lastMm } = nest;
  const told = {
    count,
    share: Number(share.toFixed(4)),
    lastMm: Number(lastMm.toFixed(2)),
    left: nest.left.map((item) => Number(items[item].name)),
    files: [...made.flatMap(({ files }) => files), MAPS],
  };
  return { told, programs: made.flatMap((each) => each.programs ?? []) };
}
