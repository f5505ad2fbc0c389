import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import type { Database } from '../../platform/database/database.js';

/** How the shop itself stands in a job's history. */
export const SHOP = 'the shop';

/** Adds a line to the history of a job, in the transaction of what it tells. */
export async function record(
  db: Database,
  jobId: string,
  who: string,
  text: string,
  transaction?: Transaction,
  at: Date = new Date(),
): Promise<void> {
  await db.JobEvent.create({ id: randomUUID(), jobId, who, text, at }, { transaction });
}
