import type { Database } from '../../platform/database/database.js';

/** How the proofs of one job went. */
export interface JobTurnaround {
  readonly number: string;
  readonly title: string;
  readonly customer: string;
  /** Proofs that were sent. */
  readonly rounds: number;
  readonly firstSentAt: Date;
  /** When the first of them was approved; null where none is. */
  readonly approvedAt: Date | null;
  /** Days from sending to the answer of every proof that was answered, oldest first. */
  readonly daysToAnswer: readonly number[];
}

const DAY_MS = 86_400_000;
const MOST_JOBS = 200;

/** The jobs of which proofs were sent, those sent last first. */
export async function turnaround(db: Database): Promise<JobTurnaround[]> {
  const proofs = await db.Proof.findAll({
    attributes: ['jobId', 'state', 'createdAt', 'endedAt'],
    include: [{ association: 'job', required: true, include: [{ association: 'customer' }] }],
    order: [['createdAt', 'ASC']],
  });
  const byJob = new Map<string, (typeof proofs)[number][]>();
  for (const proof of proofs) byJob.set(proof.jobId, [...(byJob.get(proof.jobId) ?? []), proof]);
  const answered = (state: string): boolean => state === 'approved' || state === 'changes asked';
  const jobs = [...byJob.values()].map((round): JobTurnaround => {
    const [{ job, createdAt }] = round;
    return {
      number: job?.number ?? '',
      title: job?.title ?? '',
      customer: job?.customer?.name ?? '',
      rounds: round.length,
      firstSentAt: createdAt,
      approvedAt: round.find(({ state }) => state === 'approved')?.endedAt ?? null,
      daysToAnswer: round
        .filter(({ state, endedAt }) => answered(state) && endedAt)
        .map(({ createdAt: sent, endedAt }) => (endedAt!.getTime() - sent.getTime()) / DAY_MS),
    };
  });
  return jobs.sort((a, b) => b.firstSentAt.getTime() - a.firstSentAt.getTime()).slice(0, MOST_JOBS);
}
