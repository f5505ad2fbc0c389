import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import type { Database } from '../../platform/database/database.js';

/** How the shop itself stands in a job's history. */
export const SHOP = 'the shop';

/** What happened to a job. */
export interface Happening {
  readonly jobId: string;
  readonly who: string;
  readonly text: string;
  /** Now, where nothing is said. */
  readonly at?: Date;
}

/** Adds a line to the history of a job, in the transaction of what it tells. */
export async function record(
  db: Database,
  { jobId, who, text, at = new Date() }: Happening,
  transaction?: Transaction,
): Promise<void> {
  await db.JobEvent.create({ id: randomUUID(), jobId, who, text, at }, { transaction });
}
