import { type CutChoice, laidOut, USUAL } from '@plain-relief/core/cutting';
import { type DryRun, dryRun, isProven } from '@plain-relief/core/dry-run';
import { readCutChoice, signToCut, stageOf } from '@plain-relief/core/making';
import { type Evaluation, Evaluator } from '@plain-relief/core/relief';
import { readShop, rotaryOf, type Shop, type ShopMachine } from '@plain-relief/core/shop';
import { facesOf, readSign, type Side, type Sign, signOfFace } from '@plain-relief/core/sign';
import { type FontBook } from '@plain-relief/core/type';
import { openFontBook } from '../modules/fonts/font-files.js';
import { readSettings } from '../platform/settings.js';
import { CommandError, readArguments, readDocument, readText, sideFrom } from './command.js';

/** Runs programs on the stock of a sign, and tells what comes of it. @throws CommandError and what the core throws */
export async function dryRunCommand(args: readonly string[], usage: string): Promise<object> {
  const text = { type: 'string' } as const;
  const options = { shop: text, machine: text, zero: text, cell: text, side: text, face: text, choice: text };
  const parsed = readArguments(withZero(args), options, usage);
  const { shop: shopPath, machine: id, zero = '0,0,0', cell = '0.1', side, face, choice } = parsed.values;
  const [path, ...programs] = parsed.positionals;
  if (path === undefined || shopPath === undefined || programs.length === 0) throw new CommandError(usage);
  const { evaluation, shop } = await signAndShop(path, shopPath, sideFrom(side), face);
  const machine = machineOf(shop, id);
  const rotary = rotaryOf(evaluation.sign, machine);
  const texts = programs.map((name) => ({ name, text: readText(name) }));
  const how: CutChoice = {
    ...USUAL,
    ...(choice === undefined ? {} : readCutChoice(readDocument(choice))),
    machine,
    tools: shop.tools,
    material: shop.materials[0],
    ...(rotary && { rotary }),
  };
  const { work, stock, pins } = laidOut(evaluation, how);
  const { target, workplace } = stageOf({ work, stock, pins, choice: how, zero: placeFrom(zero) });
  return figuresOf(dryRun(texts, target, workplace, { cell: cellFrom(cell) }), machine.toolChange);
}

/** The evaluation of a sign, seen from a side, and a shop, as files have them. @throws CommandError and what the core throws */
export async function signAndShop(
  path: string,
  shopPath: string,
  side: Side = 'front',
  face?: string,
): Promise<{ evaluation: Evaluation; shop: Shop; book: FontBook; fontsDir: string }> {
  const { fontsDir } = readSettings({ DATABASE_URL: 'none needed', ...process.env });
  const book = openFontBook(fontsDir);
  const sign = readSign(readDocument(path), book.catalogue);
  const shop = readShop(readDocument(shopPath));
  return { evaluation: await new Evaluator(book).evaluate(signToCut(faceFrom(sign, face)), side), shop, book, fontsDir };
}

/** What is cut of a sign: of a block the face that is asked for. @throws CommandError */
function faceFrom(sign: Sign, id: string | undefined): Sign {
  const faces = facesOf(sign.support);
  const face = faces.find((one) => one.id === id);
  if (face) return signOfFace(sign, face);
  const known = faces.map((one) => one.id).join(', ');
  if (id !== undefined) throw new CommandError(`--face ${id} is none of the sign's: it has ${known || 'none'}.`);
  if (faces.length > 0) throw new CommandError(`The sign is a block: say which face is meant by --face, one of ${known}.`);
  return sign;
}

/** What a dry run found, as it is printed. @param toolChange seconds */
export function figuresOf({ duration, ...found }: DryRun, toolChange: number): object {
  const seconds = duration.seconds + duration.toolChanges * toolChange;
  return {
    ...found,
    isProven: isProven(found),
    lengthMm: duration.lengthMm,
    rapidMm: duration.rapidMm,
    minutes: seconds / 60,
  };
}

/** @throws CommandError */
export function machineOf(shop: Shop, id: string | undefined): ShopMachine {
  const machine = id === undefined ? shop.machines[0] : shop.machines.find((each) => each.id === id);
  if (machine) return machine;
  const known = shop.machines.map((each) => each.id).join(', ');
  throw new CommandError(`--machine ${id ?? ''} is none of the shop's: it has ${known || 'none'}.`);
}

/** A place may begin with a minus, which would be taken for another option. */
const withZero = (args: readonly string[]): string[] =>
  args.flatMap((arg, i) => (arg === '--zero' ? [`--zero=${args[i + 1] ?? ''}`] : args[i - 1] === '--zero' ? [] : [arg]));

function placeFrom(text: string): { x: number; y: number; z: number } {
  const numbers = text.split(',').map(Number);
  if (numbers.length !== 3 || numbers.some((each) => !Number.isFinite(each)))
    throw new CommandError(`--zero ${text} is no place: write it as 0,0,0.`);
  const [x, y, z] = numbers;
  return { x, y, z };
}

/** @throws CommandError */
export function cellFrom(text: string): number {
  const value = Number(text);
  if (!(value >= 0.01 && value <= 10)) throw new CommandError(`--cell ${text} is no distance from 0.01 to 10 mm.`);
  return value;
}
