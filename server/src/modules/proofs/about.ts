import type { NewProof } from '@plain-relief/api';
import { EVERYTHING } from '@plain-relief/core/sheet';
import { changesBetween } from '@plain-relief/core/sign';
import { type FontEntry } from '@plain-relief/core/type';
import type { Transaction } from 'sequelize';
import type { Database } from '../../platform/database/database.js';
import type { Job } from '../../platform/database/models/jobs.js';
import { shopCard } from '../shop/card.js';
import { weighedMaterials } from '../shop/library.js';
import type { ProofAbout, ProofSign, Revision } from '../../platform/database/models/proofs.js';

/** More changes than these are counted. */
const MOST_CHANGES = 12;

interface Subject {
  readonly job: Job;
  readonly letter: string;
  readonly contents: readonly ProofSign[];
  readonly wanted: NewProof;
  readonly now: Date;
  readonly catalogue: readonly FontEntry[];
}

const dayOf = (date: Date): string => date.toISOString().slice(0, 10);

/** What the sheets of a proof say besides its signs, as it stands at the moment of freezing. */
export async function aboutOf(
  db: Database,
  { job, letter, contents, wanted, now, catalogue }: Subject,
  transaction: Transaction,
): Promise<ProofAbout> {
  const customer = await db.Customer.findByPk(job.customerId, { transaction });
  const earlier = await db.Proof.findAll({ where: { jobId: job.id }, order: [['createdAt', 'ASC']], transaction });
  const revisions: Revision[] = earlier.map((proof, i) => ({
    letter: proof.letter,
    date: dayOf(proof.createdAt),
    state: proof.state,
    changes: i === 0 ? [] : changesOf(earlier[i - 1].contents, proof.contents, catalogue),
  }));
  if (earlier.length > 0) {
    const changes = changesOf(earlier[earlier.length - 1].contents, contents, catalogue);
    revisions.push({ letter, date: dayOf(now), state: 'this proof', changes });
  }
  return {
    shop: await shopCard(db, transaction),
    layout: wanted.layout ?? EVERYTHING,
    brief: { contact: customer?.contact ?? '', quantity: job.quantity, dueOn: job.dueOn },
    revisions,
    materials: await weighedMaterials(db, transaction),
  };
}

/** What is otherwise in a proof than in the one before it. */
function changesOf(before: readonly ProofSign[], after: readonly ProofSign[], catalogue: readonly FontEntry[]): string[] {
  const changes = after.flatMap(({ signId, title, document }) => {
    const was = before.find((sign) => sign.signId === signId);
    if (!was) return [`${title}: new`];
    return changesBetween(was.document, document, catalogue).map((change) => (after.length > 1 ? `${title}: ${change}` : change));
  });
  const gone = before.filter(({ signId }) => !after.some((sign) => sign.signId === signId));
  const all = [...changes, ...gone.map(({ title }) => `${title}: left out`)];
  return all.length > MOST_CHANGES ? [...all.slice(0, MOST_CHANGES), `and ${all.length - MOST_CHANGES} more`] : all;
}
