import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { CommandError, dateFrom, readDocument, readArguments, sideFrom } from './command.js';
import { cellFrom, machineOf, signAndShop } from './dry-run.js';
import { type CutChoice, USUAL } from '@plain-relief/core/cutting';
import { proposedToolsOf, readCutChoice } from '@plain-relief/core/making';
import { type Evaluation } from '@plain-relief/core/relief';
import { materialFor, rotaryOf, type Shop } from '@plain-relief/core/shop';
import { laidPlan } from '../modules/making/laid-plan.js';

/** A shop with no more tools than this that cut has all of them allowed where none are named. */
const FEW_TOOLS = 6;

/** Lays the cuts of a sign, writes their programs, proves them by a dry run, and tells all of it. @throws CommandError and what the core throws */
export async function cutsCommand(args: readonly string[], usage: string): Promise<object> {
  const text = { type: 'string' } as const;
  const ofCuts = { machine: text, material: text, tools: text, choice: text, side: text, face: text };
  const options = { shop: text, out: text, cell: text, date: text, ...ofCuts };
  const parsed = readArguments(args, options, usage);
  const { shop: shopPath, machine, material, tools, out, cell = '0.1', choice, face, date } = parsed.values;
  const side = sideFrom(parsed.values.side);
  const [path, ...rest] = parsed.positionals;
  if (path === undefined || shopPath === undefined || out === undefined || rest.length > 0) throw new CommandError(usage);
  const { evaluation, shop, book, fontsDir } = await signAndShop(path, shopPath, side, face);
  const device = machineOf(shop, machine);
  const rotary = rotaryOf(evaluation.sign, device);
  const asked: CutChoice = {
    ...USUAL,
    cutsOut:
      side === 'front' &&
      face === undefined &&
      !(rotary && evaluation.sign.support?.kind === 'cylinder' && evaluation.sign.support.round),
    ...(choice === undefined ? {} : readCutChoice(readDocument(choice))),
    machine: device,
    ...(rotary && { rotary }),
    material: materialOf(shop, material ?? evaluation.sign.blank.material, material !== undefined),
    tools: tools === undefined ? usualTools([evaluation], shop) : toolsOf(shop, tools),
  };
  const subject = { shop: '', customer: '', job: { number: '', title: '' }, revision: 0, date: dateFrom(date) };
  const laying = { cell: cellFrom(cell), rates: shop.rates, subject, book, fontsDir };
  const { outcome, programs, sheet, picture } = await laidPlan(evaluation, asked, laying);
  const { cuts, run: dryRun, left, ...told } = outcome;
  const figures = {
    ...told,
    left: left.map(({ areaMm2, volumeMm3, deepestMm, reason }) => ({ areaMm2, volumeMm3, deepestMm, reason })),
  };
  try {
    mkdirSync(out, { recursive: true });
    for (const { name, text: program } of programs) writeFileSync(join(out, name), program);
    const { machine: on, material: of, tools: used, ...settings } = asked;
    const made = {
      sign: evaluation.sign.title,
      choice: settings,
      machine: on,
      material: of,
      tools: used,
      cuts,
      ...figures,
      dryRun,
    };
    writeFileSync(join(out, 'plan.json'), `${JSON.stringify(made, null, 2)}\n`);
    writeFileSync(join(out, 'setup-sheet.pdf'), sheet);
    writeFileSync(join(out, 'dry-run.png'), picture);
  } catch (error) {
    throw new CommandError(`${out} cannot be written to: ${(error as Error).message}.`);
  }
  return figures;
}

/** All tools of a shop that has few; of one that has many those that suit the sign. */
export function usualTools(evaluations: readonly Evaluation[], shop: Shop): Shop['tools'] {
  const kept = shop.tools.filter(({ form, left }) => form.kind !== 'drill' && left > 0);
  return kept.length <= FEW_TOOLS ? kept : proposedToolsOf(evaluations, shop);
}

/** The shop's material of an id or of words. @throws CommandError */
export function materialOf(shop: Shop, words: string, isAsked: boolean): Shop['materials'][number] {
  const found = materialFor(shop, words);
  if (found) return found;
  const known = shop.materials.map(({ id }) => id).join(', ') || 'none';
  throw new CommandError(
    isAsked
      ? `--material ${words} is none of the shop's: it has ${known}.`
      : `The sign's material, “${words}”, is none of the shop's: name one of them by --material (${known}).`,
  );
}

/** Tools of a shop by their ids or places; all where none are named. @throws CommandError */
export function toolsOf(shop: Shop, text: string | undefined): Shop['tools'] {
  if (text === undefined) return shop.tools;
  return text.split(',').map((id) => {
    const tool = shop.tools.find((each) => each.id === id || String(each.number) === id);
    if (tool) return tool;
    throw new CommandError(
      `--tools ${text}: ${id} is no tool of the shop; it has ${shop.tools.map((each) => each.id).join(', ')}.`,
    );
  });
}
