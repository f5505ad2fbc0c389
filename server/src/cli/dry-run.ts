import { parseArgs } from 'node:util';
import { dryRun, type ToolForm } from '@plain-relief/core/dry-run';
import { Evaluator } from '@plain-relief/core/relief';
import { readShop, type Shop, type ShopTool } from '@plain-relief/core/shop';
import { readSign } from '@plain-relief/core/sign';
import { solidOf } from '@plain-relief/core/solid';
import { openFontBook } from '../modules/fonts/font-files.js';
import { readSettings } from '../platform/settings.js';
import { CommandError, readDocument, readText } from './command.js';

/** Runs programs on the stock of a sign, and tells what comes of it. @throws CommandError and what the core throws */
export async function dryRunCommand(args: readonly string[], usage: string): Promise<object> {
  const text = { type: 'string' } as const;
  let parsed;
  try {
    const options = { shop: text, machine: text, zero: text, cell: text };
    parsed = parseArgs({ args: [...args], allowPositionals: true, options });
  } catch (error) {
    throw new CommandError(`${(error as Error).message}\n\n${usage}`);
  }
  const { shop: shopPath, machine, zero = '0,0,0', cell = '0.1' } = parsed.values;
  const [path, ...programs] = parsed.positionals;
  if (path === undefined || shopPath === undefined || programs.length === 0) throw new CommandError(usage);
  const book = openFontBook(readSettings({ DATABASE_URL: 'none needed', ...process.env }).fontsDir);
  const sign = readSign(readDocument(path), book.catalogue);
  const shop = readShop(readDocument(shopPath));
  const { toolChange, ...limits } = machineOf(shop, machine);
  const evaluation = await new Evaluator(book).evaluate(sign);
  const target = {
    mesh: solidOf(evaluation),
    blank: evaluation.blank,
    top: Math.max(0, evaluation.highest),
    floor: -sign.blank.thickness,
  };
  const forms = new Map(shop.tools.map((tool) => [tool.number, formOf(tool)]));
  const texts = programs.map((name) => ({ name, text: readText(name) }));
  const run = dryRun(texts, target, { forms, limits, zero: placeFrom(zero) }, positive(cell, '--cell'));
  const { duration, ...found } = run;
  const seconds = duration.seconds + duration.toolChanges * toolChange;
  return { ...found, lengthMm: duration.lengthMm, rapidMm: duration.rapidMm, minutes: seconds / 60 };
}

function machineOf(shop: Shop, id: string | undefined): Shop['machines'][number] {
  const machine = id === undefined ? shop.machines[0] : shop.machines.find((each) => each.id === id);
  if (machine) return machine;
  const known = shop.machines.map((each) => each.id).join(', ');
  throw new CommandError(`--machine ${id ?? ''} is none of the shop's: it has ${known || 'none'}.`);
}

/** An engraving point and a drill cut as a cone does. */
function formOf({ form }: ShopTool): ToolForm {
  if (form.kind === 'drill') return { kind: 'vee', diameter: form.diameter, angle: form.angle, tip: 0 };
  return form.kind === 'point' ? { ...form, kind: 'vee' } : form;
}

function placeFrom(text: string): { x: number; y: number; z: number } {
  const numbers = text.split(',').map(Number);
  if (numbers.length !== 3 || numbers.some((each) => !Number.isFinite(each)))
    throw new CommandError(`--zero ${text} is no place: write it as 0,0,0.`);
  const [x, y, z] = numbers;
  return { x, y, z };
}

function positive(text: string, option: string): number {
  const value = Number(text);
  if (!(value >= 0.01 && value <= 10)) throw new CommandError(`${option} ${text} is no distance from 0.01 to 10 mm.`);
  return value;
}
