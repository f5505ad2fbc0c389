import { Op, type Transaction } from 'sequelize';
import type { Database } from '../../platform/database/database.js';
import type { ProofState } from '../../platform/database/models/proofs.js';

/** Where a sign stands with the customer: the newest proof of it that counts. */
export interface SignProof {
  readonly letter: string;
  readonly state: ProofState;
  /** The revision that the proof shows. */
  readonly revision: number;
}

/** Of every sign of some jobs the newest proof that holds it and was neither withdrawn nor replaced, by the sign's id. */
export async function signProofs(
  db: Pick<Database, 'Proof'>,
  jobIds: readonly string[],
  transaction?: Transaction,
): Promise<Map<string, SignProof>> {
  const proofs = await db.Proof.findAll({
    where: { jobId: [...jobIds], state: { [Op.in]: ['open', 'approved', 'changes asked'] } },
    attributes: ['letter', 'state', 'covers'],
    order: [['createdAt', 'ASC']],
    transaction,
  });
  const newest = new Map<string, SignProof>();
  for (const { letter, state, covers } of proofs)
    for (const { signId, revision } of covers ?? []) newest.set(signId, { letter, state, revision });
  return newest;
}
