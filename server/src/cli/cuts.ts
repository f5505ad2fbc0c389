import { createHash } from 'node:crypto';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { CommandError, readDocument } from './command.js';
import { cellFrom, machineOf, sideFrom, signAndShop } from './dry-run.js';
import { type CutChoice, USUAL } from '@plain-relief/core/cutting';
import { costOfPlan, readCutChoice, writtenPlan } from '@plain-relief/core/making';
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
  const { plan, programs, run: found, files, cuts, left, ...told } = written;
  const figures = {
    ...told,
    left: left.map(({ areaMm2, volumeMm3, deepestMm, reason }) => ({ areaMm2, volumeMm3, deepestMm, reason })),
  };
  const cost = costOfPlan(evaluation, written, shop.rates);
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
      cuts,
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
