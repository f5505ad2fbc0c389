import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { notesOf } from '@plain-relief/core/checks';
import {
  type CheckCode,
  CHECKS,
  Dictionary,
  HINTS,
  type Finding,
  inspect,
  judged,
  type ClauseResult,
  type Limits,
  type Standard,
  limitsOf,
  meets,
  STANDARDS,
  standardOf,
  told,
  USUAL_LIMITS,
} from '@plain-relief/core/inspection';
import { type Note } from '@plain-relief/core/notes';
import { Evaluator } from '@plain-relief/core/relief';
import { readShop } from '@plain-relief/core/shop';
import { readSign } from '@plain-relief/core/sign';
import { openFontBook } from '../modules/fonts/font-files.js';
import { readSettings } from '../platform/settings.js';
import { CommandError, readArguments, readDocument, sideFrom } from './command.js';

/** A standard as a sign meets it. */
interface CheckedStandard {
  readonly id: string;
  readonly name: string;
  readonly source: string;
  readonly passes: boolean;
  readonly clauses: readonly { readonly number: string; readonly title: string; readonly asks: string; readonly limit: string; readonly verdict: string; readonly measured: string; readonly value?: number; readonly part?: string }[]; // prettier-ignore
}

/** A sign as it was checked. */
export interface CheckedSign {
  readonly passes: boolean;
  readonly limits: Limits;
  readonly findings: readonly (Finding & (typeof CHECKS)[CheckCode])[];
  /** Of checks that the sign is not told of. */
  readonly off: readonly { readonly check: CheckCode; readonly reason: string; readonly text: string }[];
  readonly notes: readonly Note[];
  readonly standard?: CheckedStandard;
}

const require = createRequire(import.meta.url);

/** The dictionaries that come with the application. */
function dictionary(): Dictionary {
  const files = ['dictionary-en', 'dictionary-en-au'].map((name) => {
    const read = (file: string) => readFileSync(join(dirname(require.resolve(name)), file), 'utf8');
    return { aff: read('index.aff'), dic: read('index.dic') };
  });
  return new Dictionary(files);
}

/** What is measured of a sign, and whether all of it is as it should be. @throws CommandError and what the core throws */
export async function checkCommand(args: readonly string[], usage: string): Promise<CheckedSign> {
  const text = { type: 'string' } as const;
  const parsed = readArguments(args, { shop: text, distance: text, side: text, standard: text }, usage);
  const { shop, distance, side, standard: asked } = parsed.values;
  const [path, ...rest] = parsed.positionals;
  if (path === undefined || rest.length > 0) throw new CommandError(usage);
  const { fontsDir } = readSettings({ DATABASE_URL: 'none needed', ...process.env });
  const book = openFontBook(fontsDir);
  const sign = readSign(readDocument(path), book.catalogue);
  const lists = shop === undefined ? undefined : readShop(readDocument(shop));
  const known = lists ? limitsOf(lists, sign.blank.material) : USUAL_LIMITS;
  const read = distance === undefined ? sign.checks?.distance : metresFrom(distance);
  const limits = { ...known, ...(read !== undefined && { distance: read }) };
  const standard = standardFrom(asked ?? sign.checks?.standard);
  const evaluator = new Evaluator(book);
  const evaluation = await evaluator.evaluate(sign, sideFrom(side));
  const words = dictionary().learn(lists?.words ?? []);
  const { findings: found, off } = told(evaluation, inspect(evaluation, limits, words));
  const findings = found.map((finding) => ({ ...finding, ...CHECKS[finding.check] }));
  const results = standard && judged(standard, evaluation, evaluator);
  const notes = notesOf(evaluation);
  const passes =
    findings.every(({ check }) => HINTS.has(check)) &&
    notes.every(({ weight }) => weight === 'said') &&
    (!results || meets(results));
  const left = off.map(({ finding: { check, text: words }, reason }) => ({ check, reason, text: words }));
  return { passes, limits, findings, off: left, notes, ...(standard && results && { standard: checkedBy(standard, results) }) };
}

/** @throws CommandError */
function standardFrom(id: string | undefined): Standard | undefined {
  if (id === undefined || standardOf(id)) return standardOf(id);
  throw new CommandError(`--standard ${id} is none that is known: choose one of ${STANDARDS.map((each) => each.id).join(', ')}.`);
}

const checkedBy = ({ id, name, source }: Standard, results: readonly ClauseResult[]): CheckedStandard => ({
  id,
  name,
  source,
  passes: meets(results),
  clauses: results.map(({ clause: { number, title, asks, limit }, verdict, measured, worst }) => ({
    number,
    title,
    asks,
    limit,
    verdict,
    measured,
    ...(worst && Number.isFinite(worst.value) && { value: worst.value }),
    ...(worst?.part !== undefined && { part: worst.part }),
  })),
});

/** @throws CommandError */
function metresFrom(text: string): number {
  const metres = Number(text);
  if (metres > 0 && metres <= 1000) return metres;
  throw new CommandError(`--distance ${text} is no distance from 0 to 1000 m.`);
}
