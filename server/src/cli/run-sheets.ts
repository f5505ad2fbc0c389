import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Nest, type NestChoice, type Size } from '@plain-relief/core/nesting';
import { EFFORT, laidOnSheets, type PlateFile, sheetFiles, type SheetItem } from '@plain-relief/core/runs';
import { type Sign } from '@plain-relief/core/sign';
import { CommandError } from './command.js';
import { mapsPdf } from '../modules/production/run-pdf.js';

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

/** Files of every sheet, and its map, in which plates have the numbers of their rows. */
export async function sheetsOf(
  items: readonly SheetItem[],
  choice: NestChoice,
  kinds: readonly PlateFile[],
  sign: Sign,
  out: string,
  date: Date,
  fontsDir: string,
): Promise<{ readonly nest: Nest; readonly told: Sheets }> {
  const nest = laidOnSheets(
    items.map(({ edge }) => edge),
    choice,
  );
  const files = sheetFiles(items, nest, choice, sign, kinds).flatMap(({ map, outlines }) => [...outlines, map]);
  for (const { name, content } of files) writeFileSync(join(out, name), content);
  writeFileSync(join(out, MAPS), await mapsPdf(items, nest, choice, sign.title, date, fontsDir));
  const { sheets: count, share, lastMm } = nest;
  const told = {
    count,
    share: Number(share.toFixed(4)),
    lastMm: Number(lastMm.toFixed(2)),
    left: nest.left.map((item) => Number(items[item].name)),
    files: [...files.map(({ name }) => name), MAPS],
  };
  return { nest, told };
}
