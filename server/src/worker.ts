import { constants, setPriority } from 'node:os';
import { openDatabase } from './platform/database/database.js';
import { outliveDatabase } from './platform/database/trouble.js';
import { readSettings } from './platform/settings.js';
import { openQueue } from './platform/queue/queue.js';
import { ShopFonts } from './modules/fonts/fonts.js';
import { LotMaker } from './modules/lots/lot-maker.js';
import { Worker } from './modules/tasks/worker.js';

/** The process that makes proofs and files; as many as one likes may run. It stands back behind the server, with all its threads. */
setPriority(constants.priority.PRIORITY_BELOW_NORMAL);
outliveDatabase();
const settings = readSettings();
const db = openDatabase(settings.databaseUrl);
const boss = await openQueue(settings.databaseUrl);
const worker = new Worker(db, boss, settings.fontsDir);
await worker.start();
const isBusy = (): boolean => worker.isMakingFiles;
const lots = new LotMaker(db, boss, new ShopFonts(db), settings.fontsDir, { silentMs: 1000 * settings.lotSilence, isBusy });
lots.start();
console.log('Worker waits for work');

async function stop(): Promise<void> {
  worker.stop();
  lots.stop();
  await boss.stop({ graceful: true, timeout: 5_000 });
  await Promise.all([worker.close(), lots.close()]);
  await db.sequelize.close();
  process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());
// The starting process has died: nothing of it stays behind.
process.on('disconnect', () => void stop());
