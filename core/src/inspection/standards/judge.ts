import { type Evaluation, type Evaluator } from '../../relief/index.js';
import { formatLength, type LengthUnit } from '../../units/index.js';
import { ADA_703 } from './ada-703.js';
import { type Measured, Tactile } from './measures.js';
import { type Clause, MEASURES, type Standard } from './standard.js';

/** The standards that a sign can be asked to meet, each a file of its own. */
export const STANDARDS: readonly Standard[] = [ADA_703];

export const standardOf = (id: string | undefined): Standard | undefined => STANDARDS.find((each) => each.id === id);

/** `unknown`: the sign has nothing of it, or does not say what has to be known; `look`: somebody has to judge it. */
export type Verdict = 'passes' | 'fails' | 'look' | 'unknown';

/** A clause with what was measured. */
export interface ClauseResult {
  readonly clause: Clause;
  readonly verdict: Verdict;
  /** What was measured, in words. */
  readonly measured: string;
  /** The value that is farthest beyond the limits, or nearest to them. */
  readonly worst?: Measured;
  /** All that are beyond them. */
  readonly beyond: readonly Measured[];
}

/** Every clause of a standard, measured on the relief of the side that is turned to the reader. */
export function judged(standard: Standard, evaluation: Evaluation, evaluator: Evaluator): ClauseResult[] {
  const tactile = new Tactile(evaluation, evaluator);
  const hasRaised = tactile.of('raised-height').length > 0;
  return standard.clauses.map((clause) => {
    const values = tactile.of(clause.measure);
    // A sign that stands for touch has raised letters.
    if (values.length === 0 && clause.measure === 'raised-height' && !hasRaised)
      return { clause, verdict: 'fails', measured: 'no letter is raised', beyond: [] };
    return resultOf(clause, values, evaluation.sign.unit);
  });
}

/** Whether nothing of a standard fails; what nobody could tell does not. */
export const meets = (results: readonly ClauseResult[]): boolean => results.every(({ verdict }) => verdict !== 'fails');

/** By how much a value is beyond the limits of a clause: above 0 where it is. */
const excess = ({ least = -Infinity, most = Infinity }: Clause, value: number): number => Math.max(least - value, value - most);

/** Rounding of sections that were measured, in mm or percent. */
const SAME = 1e-6;

function resultOf(clause: Clause, values: readonly Measured[], unit: LengthUnit): ClauseResult {
  if (values.length === 0) return { clause, verdict: 'unknown', measured: clause.measure === 'height-on-wall' ? 'not told how high it hangs' : 'nothing of it', beyond: [] }; // prettier-ignore
  const worst = values.reduce((a, b) => (excess(clause, b.value) > excess(clause, a.value) ? b : a));
  const beyond = values
    .filter(({ value }) => excess(clause, value) > SAME)
    .sort((a, b) => excess(clause, b.value) - excess(clause, a.value));
  const verdict = beyond.length === 0 ? 'passes' : clause.isForPeople ? 'look' : 'fails';
  const range = rangeWords(clause, values, unit);
  const measured = verdict === 'passes' || !worst.of ? range : `${range}; ${worst.of}`;
  return { clause, verdict, measured, worst, beyond };
}

function valueWords({ measure }: Clause, value: number, unit: LengthUnit): string {
  const kind = MEASURES[measure];
  if (value === Infinity) return 'none near';
  if (value === 0 && !['mm', '%', 'strokes'].includes(kind)) return 'none';
  if (kind === 'mm') return formatLength(Number(value.toFixed(2)), unit);
  if (kind === '%') return `${Number(value.toFixed(2))} %`;
  if (kind === 'strokes') return `${Number(value.toFixed(2))} strokes`;
  return `${value} ${value === 1 ? kind.replace(/s$/u, '') : kind}`;
}

function rangeWords(clause: Clause, values: readonly Measured[], unit: LengthUnit): string {
  const all = values.map(({ value }) => value);
  const isCount = !['mm', '%', 'strokes'].includes(MEASURES[clause.measure]);
  if (isCount) return valueWords(clause, all.reduce((a, b) => a + b, 0), unit); // prettier-ignore
  const [least, most] = [Math.min(...all), Math.max(...all)].map((value) => valueWords(clause, value, unit));
  return least === most
    ? least
    : clause.least === undefined
      ? `up to ${most}`
      : clause.most === undefined
        ? `from ${least}`
        : `${least} to ${most}`;
}
