import { type Evaluation } from '../relief/index.js';
import { solidOf } from '../solid/index.js';
import { castingFindings } from './casting.js';
import { type Finding } from './finding.js';
import { fixingFindings } from './fixing.js';
import { hangingPieces } from './hanging.js';
import { type Limits } from './limits.js';
import { makingFindings } from './making.js';
import { readingFindings } from './reading.js';
import { scanningFindings } from './scanning.js';
import { settingFindings } from './setting.js';
import { sizeFindings } from './sizes.js';
import { waterFindings } from './water.js';
import { type Words, wordingFindings } from './wording.js';

/**
 * Measures a sign as it is seen, and tells what is beyond the limits.
 * @param words what its words are checked against
 * @param solid of the sign, where it was made already
 */
export function inspect(evaluation: Evaluation, limits: Limits, words: Words = {}, solid = solidOf(evaluation)): Finding[] {
  return [
    ...makingFindings(evaluation, solid, limits),
    ...hangingPieces(evaluation, limits),
    ...castingFindings(evaluation, solid, limits),
    ...waterFindings(evaluation, solid),
    ...sizeFindings(evaluation, limits),
    ...readingFindings(evaluation, solid, limits),
    ...scanningFindings(evaluation, solid, limits),
    ...settingFindings(evaluation),
    ...wordingFindings(evaluation.sign, words),
    ...fixingFindings(evaluation, limits),
  ];
}

/** Findings that are told, and those of checks that the sign says it is not told of, with why. */
export interface Told {
  readonly findings: readonly Finding[];
  readonly off: readonly { readonly finding: Finding; readonly reason: string }[];
}

/** Parts findings by what a sign says of its checks. */
export function told({ sign }: Pick<Evaluation, 'sign'>, findings: readonly Finding[]): Told {
  const reasonOf = ({ check }: Finding): string | undefined => sign.checks?.off?.find((each) => each.check === check)?.reason;
  return {
    findings: findings.filter((finding) => reasonOf(finding) === undefined),
    off: findings.flatMap((finding) => {
      const reason = reasonOf(finding);
      return reason === undefined ? [] : [{ finding, reason }];
    }),
  };
}
