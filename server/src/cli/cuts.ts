import { createHash } from 'node:crypto';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { CommandError, readDocument } from './command.js';
import { cellFrom, machineOf, sideFrom, signAndShop } from './dry-run.js';
import { type CutChoice, USUAL } from '@plain-relief/core/cutting';
import { type Cost, costOf, readCutChoice, writtenPlan, type WrittenPlan } from '@plain-relief/core/making';
import { type Evaluation } from '@plain-relief/core/relief';
import { figuresOf, solidOf } from '@plain-relief/core/solid';
import { materialFor, type Shop } from '@plain-relief/core/shop';

/** Lays the cuts of a sign, writes their programs, proves them by a dry run, and tells all of it. @throws CommandError and what the core throws */
export async function cutsCommand(args: readonly string[], usage: string): Promise<object> {
  const text = { type: 'string' } as const;
  let parsed;
  try {
    const options = { shop: text, machine: text, material: text, tools: text, out: text, cell: text, choice: text, side: text };
    parsed = parseArgs({ args: [...args], allowPositionals: true, options });
  } catch (error) {
    throw new CommandError(`${(error as Error).message}\n\n${usage}`);
  }
  const { shop: shopPath, machine, material, tools, out, cell = '0.1', choice, side = 'front' } = parsed.values;
  const [path, ...rest] = parsed.positionals;
  if (path === undefined || shopPath === undefined || out === undefined || rest.length > 0) throw new CommandError(usage);
  const { evaluation, shop } = await signAndShop(path, shopPath, sideFrom(side));
  const asked: CutChoice = {
    ...USUAL,
    cutsOut: side === 'front',
    ...(choice === undefined ? {} : readCutChoice(readDocument(choice))),
    machine: machineOf(shop, machine),
    material: materialOf(shop, material ?? evaluation.sign.blank.material, material !== undefined),
    tools: toolsOf(shop, tools),
  };
  const written = writtenPlan(evaluation, asked, { cell: cellFrom(cell) });
  const { plan, programs, run: found, files, ...figures } = written;
  const cost = costOfSign(evaluation, written, shop);
  try {
    mkdirSync(out, { recursive: true });
    for (const { name, text: program } of programs) writeFileSync(join(out, name), program);
    const { machine: on, material: of, tools: used, ...settings } = plan.choice;
    const made = {
      sign: evaluation.sign.title,
      choice: settings,
      machine: on,
      material: of,
      tools: used,
      files,
      ...figures,
      dryRun: found,
    };
    writeFileSync(join(out, 'plan.json'), `${JSON.stringify(made, null, 2)}\n`);
  } catch (error) {
    throw new CommandError(`${out} cannot be written to: ${(error as Error).message}.`);
  }
  const hashes = new Map(programs.map(({ name, text: program }) => [name, createHash('sha256').update(program).digest('hex')]));
  return { files: files.map((file) => ({ ...file, sha256: hashes.get(file.name) })), ...figures, cost };
}

function costOfSign(evaluation: Evaluation, { plan, minutes, files }: WrittenPlan, { rates }: Shop): Cost {
  const { box, top, bottom } = plan.stock;
  const finished = new Map<string, number>();
  for (const { finish, topMm2, sidesMm2 } of figuresOf(evaluation, solidOf(evaluation)).areas) {
    const isApplied = evaluation.sign.finishes?.some(({ id }) => id === finish.id);
    if (isApplied) finished.set(finish.gloss, (finished.get(finish.gloss) ?? 0) + topMm2 + sidesMm2);
  }
  return costOf(
    {
      machineMinutes: minutes,
      toolChanges: files.length,
      width: box.maxX - box.minX,
      height: box.maxY - box.minY,
      thickness: top - bottom,
      material: plan.choice.material,
      finished,
    },
    rates,
  );
}

function materialOf(shop: Shop, words: string, isAsked: boolean): Shop['materials'][number] {
  const found = materialFor(shop, words);
  if (found) return found;
  const known = shop.materials.map(({ id }) => id).join(', ') || 'none';
  throw new CommandError(
    isAsked
      ? `--material ${words} is none of the shop's: it has ${known}.`
      : `The sign's material, “${words}”, is none of the shop's: name one of them by --material (${known}).`,
  );
}

function toolsOf(shop: Shop, text: string | undefined): Shop['tools'] {
  if (text === undefined) return shop.tools;
  return text.split(',').map((id) => {
    const tool = shop.tools.find((each) => each.id === id || String(each.number) === id);
    if (tool) return tool;
    throw new CommandError(
      `--tools ${text}: ${id} is no tool of the shop; it has ${shop.tools.map((each) => each.id).join(', ')}.`,
    );
  });
}
