import { parseArgs } from 'node:util';
import { notesOf } from '@plain-relief/core/checks';
import {
  type CheckCode,
  CHECKS,
  type Finding,
  inspect,
  type Limits,
  limitsOf,
  USUAL_LIMITS,
} from '@plain-relief/core/inspection';
import { type Note } from '@plain-relief/core/notes';
import { Evaluator } from '@plain-relief/core/relief';
import { readShop } from '@plain-relief/core/shop';
import { readSign } from '@plain-relief/core/sign';
import { openFontBook } from '../modules/fonts/font-files.js';
import { readSettings } from '../platform/settings.js';
import { CommandError, readDocument } from './command.js';
import { sideFrom } from './dry-run.js';

/** A sign as it was checked. */
export interface CheckedSign {
  readonly passes: boolean;
  readonly limits: Limits;
  readonly findings: readonly (Finding & (typeof CHECKS)[CheckCode])[];
  readonly notes: readonly Note[];
}

/** What is measured of a sign, and whether all of it is as it should be. @throws CommandError and what the core throws */
export async function checkCommand(args: readonly string[], usage: string): Promise<CheckedSign> {
  const text = { type: 'string' } as const;
  let parsed;
  try {
    parsed = parseArgs({ args: [...args], allowPositionals: true, options: { shop: text, distance: text, side: text } });
  } catch (error) {
    throw new CommandError(`${(error as Error).message}\n\n${usage}`);
  }
  const { shop, distance, side = 'front' } = parsed.values;
  const [path, ...rest] = parsed.positionals;
  if (path === undefined || rest.length > 0) throw new CommandError(usage);
  const { fontsDir } = readSettings({ DATABASE_URL: 'none needed', ...process.env });
  const book = openFontBook(fontsDir);
  const sign = readSign(readDocument(path), book.catalogue);
  const known = shop === undefined ? USUAL_LIMITS : limitsOf(readShop(readDocument(shop)), sign.blank.material);
  const limits = { ...known, ...(distance !== undefined && { distance: metresFrom(distance) }) };
  const evaluation = await new Evaluator(book).evaluate(sign, sideFrom(side));
  const findings = inspect(evaluation, limits).map((finding) => ({ ...finding, ...CHECKS[finding.check] }));
  const notes = notesOf(evaluation);
  const passes = findings.length === 0 && notes.every(({ weight }) => weight === 'said');
  return { passes, limits, findings, notes };
}

/** @throws CommandError */
function metresFrom(text: string): number {
  const metres = Number(text);
  if (metres > 0 && metres <= 1000) return metres;
  throw new CommandError(`--distance ${text} is no distance from 0 to 1000 m.`);
}
