import { placeView } from './frozen-places.js';
import { spellingOf } from '@plain-relief/core/sign';
import { type FontEntry } from '@plain-relief/core/type';
import type { ProofPlace } from '../../platform/database/models/places.js';
import type { CorrectionRow, FrozenRun } from '../../platform/database/models/runs.js';
import type { Proof, ProofRemark, ProofSign } from '../../platform/database/models/proofs.js';

export const remarkView = ({ id, signId, option, run, row, number, across, down, isFromShop, who, text, at }: ProofRemark) => ({
  id,
  signId,
  option,
  run,
  row,
  number,
  across,
  down,
  isFromShop,
  who,
  text,
  at,
});

const signView = ({ signId, title, revision, document }: ProofSign, catalogue: readonly FontEntry[]) => ({
  id: signId,
  title,
  revision,
  unit: document.unit,
  options: (document.options ?? []).map(({ id, name }) => ({ id, name })),
  spelling: spellingOf(document, catalogue),
});

const runView = ({ id, title, signId, rowCount, slots }: FrozenRun) => ({ id, title, signId, rows: rowCount, slots: [...slots] });

export const correctionView = ({ id, run, row, number, column, was, value, who, at, end }: CorrectionRow) => ({
  ...{ id, run, row, number, column, was, value, who },
  ...{ at, end },
});

/** Frozen runs, and what was corrected of them, in the order of the list. */
const runsOf = ({ runs = [], corrections = [] }: Proof) => ({
  runs: [...runs].sort((a, b) => a.position - b.position).map(runView),
  corrections: [...corrections].sort((a, b) => a.number - b.number || (a.column < b.column ? -1 : 1)).map(correctionView),
});

/** What the shop sees of a proof. */
export function shopView(proof: Proof, address: string | undefined, catalogue: readonly FontEntry[]) {
  const { id, jobId, letter, state, digest, message, recipient, createdAt, expiresAt, seenAt, endedAt } = proof;
  const { answeredBy, ticks, choices, wishes, remindAt } = proof;
  return {
    ...{ id, jobId, letter, state, digest, message, recipient, createdAt, expiresAt, seenAt, endedAt },
    ...{ answeredBy, ticks, choices, wishes, remindAt, address },
    signs: proof.contents.map((sign) => signView(sign, catalogue)),
    remarks: (proof.remarks ?? []).map(remarkView),
    ...runsOf(proof),
  };
}

/** What a customer sees of a proof besides itself. */
interface Beside {
  readonly isSheetReady: boolean;
  /** The proof that came in its place. */
  readonly newer?: Pick<Proof, 'letter' | 'token'>;
  readonly places: readonly ProofPlace[];
}

/** What a customer sees of a proof: nothing of the shop but this. */
export function customerView(proof: Proof, { isSheetReady, newer, places }: Beside, catalogue: readonly FontEntry[]) {
  const { letter, state, digest, message, createdAt, expiresAt, endedAt, answeredBy, choices, wishes, job } = proof;
  return {
    ...{ letter, state, digest, message, createdAt, expiresAt, endedAt, answeredBy, choices, wishes },
    shop: proof.about?.shop.name ?? '',
    customer: job?.customer?.name ?? '',
    job: job ? { number: job.number, title: job.title, quantity: job.quantity } : undefined,
    signs: proof.contents.map((sign) => signView(sign, catalogue)),
    remarks: (proof.remarks ?? []).map(remarkView),
    ...runsOf(proof),
    changes: changesOfThis(proof),
    isSheetReady,
    places: places.map(placeView),
    newer: newer && { letter: newer.letter, token: newer.token },
  };
}

/** What its sheet says was changed since the proof before: none in the first one. */
function changesOfThis({ about, letter }: Proof): { readonly since: string; readonly changes: readonly string[] } | undefined {
  const revisions = about?.revisions ?? [];
  const at = revisions.findIndex((revision) => revision.letter === letter);
  return at > 0 ? { since: revisions[at - 1].letter, changes: revisions[at].changes } : undefined;
}
