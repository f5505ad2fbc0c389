import { PLAN_KINDS } from '@plain-relief/api/states';
import PgBoss from 'pg-boss';
import { onceDatabaseAnswers } from '../database/trouble.js';

/** The queue of long work, kept in the same database. */
export const QUEUE = 'sign-files';

/** The queue of what takes minutes: it keeps nothing that is quick from its turn. */
export const LONG_QUEUE = 'sign-cuts';

/** The queue of lots of runs: hundreds of short pieces of work, which stand back behind files of single signs. */
export const LOT_QUEUE = 'run-lots';

/** Where a kind of task waits. */
export const queueOf = (kind: string): string => (PLAN_KINDS.some((each) => each === kind) ? LONG_QUEUE : QUEUE);

/** Hands an order to a queue: that of files, where none is named. */
export type Send = (order: TaskOrder | LotOrder, queue?: string) => Promise<void>;

export interface TaskOrder {
  readonly taskId: string;
}

/** A lot of a run's files; without a position all that wait are to be ordered. */
export interface LotOrder {
  readonly makingId: string;
  readonly position?: number;
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
    for (const [name, expireInSeconds] of [
      [QUEUE, 600],
      [LONG_QUEUE, 1800],
      [LOT_QUEUE, 600],
    ] as const)
      if (!(await boss.getQueue(name))) await boss.createQueue(name, { name, retryLimit: 3, retryDelay: 1, expireInSeconds });
    return boss;
  } catch (error) {
    await boss.stop({ graceful: false }).catch(() => undefined);
    throw error;
  }
}
