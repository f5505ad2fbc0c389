import { type Sign, withOption } from '@plain-relief/core/sign';
import type { Proof } from '../../platform/database/models/proofs.js';

/**
 * A sign that is made by a run as its first plate has it: its own words are names of columns.
 * @param option that it is looked at as; where none is named the one that the run names
 */
export function sampleOf({ runs = [] }: Pick<Proof, 'runs'>, signId: string, option?: string): Sign | undefined {
  const run = runs.find((each) => each.signId === signId);
  return run?.sample ? withOption(run.sample, option ?? run.option ?? undefined) : undefined;
}

/** The signs of a proof as they are shown on its sheet. */
export const shownSigns = ({ contents, runs }: Pick<Proof, 'contents' | 'runs'>): Sign[] =>
  contents.map(({ signId, document }) => sampleOf({ runs }, signId) ?? document);
