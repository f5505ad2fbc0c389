import { type Evaluation, type Evaluator } from '@plain-relief/core/relief';
import { readSign, type Sign, withOption } from '@plain-relief/core/sign';
import { type FontBook } from '@plain-relief/core/type';
import { readSettings } from '../platform/settings.js';
import { CommandError, readDocument, sideFrom } from './command.js';
import { keptEvaluator } from './kept-evaluator.js';

/** Options of a command that is about one sign. */
export const OF_SIGN = { option: { type: 'string' }, side: { type: 'string' } } as const;

/** A sign as it was read, and evaluated as the option and from the side that were asked for. */
export interface ReadSign {
  readonly sign: Sign;
  readonly evaluation: Evaluation;
  readonly evaluator: Evaluator;
  readonly book: FontBook;
  readonly fontsDir: string;
}

/** @throws CommandError and what the core throws of a document that is none */
export async function signFrom(
  path: string,
  { option, side }: { readonly option?: string; readonly side?: string },
): Promise<ReadSign> {
  const from = sideFrom(side);
  const { fontsDir } = readSettings({ DATABASE_URL: 'none needed', ...process.env });
  const { book, evaluator } = keptEvaluator(fontsDir);
  const sign = readSign(readDocument(path), book.catalogue);
  if (option !== undefined && !sign.options?.some(({ id }) => id === option))
    throw new CommandError(
      `--option ${option} is none of the sign's options: ${sign.options?.map(({ id }) => id).join(', ') ?? 'it has none'}.`,
    );
  const evaluation = await evaluator.evaluate(withOption(sign, option), from);
  return { sign, evaluation, evaluator, book, fontsDir };
}
