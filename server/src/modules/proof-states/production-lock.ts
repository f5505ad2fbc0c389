import { changesBetween } from '@plain-relief/core/sign';
import { type FontEntry } from '@plain-relief/core/type';
import type { Database } from '../../platform/database/database.js';
import type { SignRow } from '../../platform/database/models/signs.js';
import type { Proof } from '../../platform/database/models/proofs.js';

/** Whether a sign may be made. */
export interface Clearance {
  readonly isCleared: boolean;
  /** Why not, in a sentence. */
  readonly reason: string;
  /** The approved proof that it is measured by. */
  readonly letter?: string;
  readonly changes: readonly string[];
}

/** Measures a sign, or an option of it, by the newest proof of it that was approved. */
export async function clearance(
  db: Database,
  sign: Pick<SignRow, 'id' | 'jobId' | 'revision' | 'document'>,
  option: string | undefined,
  catalogue: readonly FontEntry[],
): Promise<Clearance> {
  const approved = await db.Proof.findAll({ where: { jobId: sign.jobId, state: 'approved' }, order: [['createdAt', 'DESC']] });
  const holds = ({ contents }: Proof) => contents.find(({ signId }) => signId === sign.id);
  const proof = approved.find(holds);
  if (!proof) return { isCleared: false, reason: 'No proof of this sign has been approved.', changes: [] };
  const frozen = holds(proof)!;
  const { letter } = proof;
  const changes = frozen.revision === sign.revision ? [] : changesBetween(frozen.document, sign.document, catalogue);
  if (changes.length > 0)
    return { isCleared: false, reason: `The sign has changed since proof ${letter} was approved.`, letter, changes };
  const chosen = proof.choices?.[sign.id];
  if (chosen !== option) {
    const name = sign.document.options?.find(({ id }) => id === chosen)?.name ?? 'the sign as it stands';
    return { isCleared: false, reason: `The customer chose ${name} in proof ${letter}.`, letter, changes };
  }
  return { isCleared: true, reason: '', letter, changes };
}
