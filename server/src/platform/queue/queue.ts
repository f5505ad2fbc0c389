import PgBoss from 'pg-boss';
import { onceDatabaseAnswers } from '../database/trouble.js';

/** The queue of long work, kept in the same database. */
export const QUEUE = 'sign-files';

export interface TaskOrder {
  readonly taskId: string;
}

/** Opens the queue, as soon as the database answers; work that a dead worker left is handed out again after `expireInSeconds`. */
export const openQueue = (databaseUrl: string): Promise<PgBoss> => onceDatabaseAnswers(() => begun(databaseUrl));

/** A queue at work. One whose start has failed cannot be started again. */
async function begun(databaseUrl: string): Promise<PgBoss> {
  const boss = new PgBoss({ connectionString: databaseUrl, max: 4, schema: 'pgboss' });
  // Without a listener an interrupted connection would end the process; pg-boss connects again by itself.
  boss.on('error', (error) => console.error(`Queue: ${error.message}`));
  try {
    await boss.start();
    // Made once, by the migration: two processes that make it at the same moment would wait for each other.
    if (!(await boss.getQueue(QUEUE)))
      await boss.createQueue(QUEUE, { name: QUEUE, retryLimit: 3, retryDelay: 1, expireInSeconds: 600 });
    return boss;
  } catch (error) {
    await boss.stop({ graceful: false }).catch(() => undefined);
    throw error;
  }
}
