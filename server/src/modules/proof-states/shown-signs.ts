import { type Sign } from '@plain-relief/core/sign';
import type { Proof } from '../../platform/database/models/proofs.js';

/** A sign that is made by a run as its first plate has it: its own words are names of columns. */
export const sampleOf = ({ runs = [] }: Pick<Proof, 'runs'>, signId: string): Sign | undefined =>
  runs.find((run) => run.signId === signId)?.sample ?? undefined;

/** The signs of a proof as they are shown on its sheet. */
export const shownSigns = ({ contents, runs }: Pick<Proof, 'contents' | 'runs'>): Sign[] =>
  contents.map(({ signId, document }) => sampleOf({ runs }, signId) ?? document);
