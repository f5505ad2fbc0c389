import type { SignProof } from '@plain-relief/api';
import { COUNTING_PROOF_STATES } from '@plain-relief/api/states';
import { Op, type Transaction } from 'sequelize';
import type { Database } from '../../platform/database/database.js';

/** Of every sign of some jobs the newest proof that holds it and was neither withdrawn nor replaced, by the sign's id. */
export async function signProofs(
  db: Pick<Database, 'Proof'>,
  jobIds: readonly string[],
  transaction?: Transaction,
): Promise<Map<string, SignProof>> {
  const proofs = await db.Proof.findAll({
    where: { jobId: [...jobIds], state: { [Op.in]: COUNTING_PROOF_STATES } },
    attributes: ['letter', 'state', 'covers'],
    order: [['createdAt', 'ASC']],
    transaction,
  });
  const newest = new Map<string, SignProof>();
  for (const { letter, state: own, covers } of proofs) {
    const state = COUNTING_PROOF_STATES.find((each) => each === own);
    if (state) for (const { signId, revision } of covers ?? []) newest.set(signId, { letter, state, revision });
  }
  return newest;
}
