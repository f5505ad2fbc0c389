import type { SignProof } from '@plain-relief/api';
import { type Side, type Sign } from '@plain-relief/core/sign';
import type { SaveState } from './autosave';
import type { ShownPlate } from './plate-of-run';

export interface SignJob {
  readonly id: string;
  readonly number: string;
  readonly title: string;
  readonly customer: string;
}

export interface BenchState {
  readonly id: string;
  readonly job: SignJob;
  /** The newest proof that shows the sign, as it was when the sign was opened. */
  readonly proof?: SignProof;
  /** The plate of a run that is shown in place of the sign; nothing of it can be changed here. */
  readonly plate?: ShownPlate;
  /** As the shown option is. */
  readonly sign: Sign;
  /** Id of the option that is shown, and edited; undefined for the sign as it stands. */
  readonly option: string | undefined;
  /** The side that is turned to the reader. */
  readonly side: Side;
  /** Ids of the chosen parts; the last is the one that the ticket shows. */
  readonly chosen: readonly string[];
  readonly selected: string | undefined;
  readonly undoLabel: string | undefined;
  readonly redoLabel: string | undefined;
  readonly save: SaveState;
  /** A draft of the browser was found and taken up. */
  readonly restored: boolean;
}
