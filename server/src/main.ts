import { prepareReading } from '@plain-relief/core/sign';
import { buildApp } from './app.js';
import { openDatabase } from './platform/database/database.js';
import { outliveDatabase } from './platform/database/trouble.js';
import { readSettings } from './platform/settings.js';
import { openQueue, QUEUE } from './platform/queue/queue.js';

/** The web process. */
outliveDatabase();
const settings = readSettings();
const db = openDatabase(settings.databaseUrl);
// The queue is opened while the rest comes up.
const opened = openQueue(settings.databaseUrl);
const app = await buildApp(settings, db, async (order, queue = QUEUE) => {
  await (await opened).send(queue, order);
});
const boss = await opened;
await app.listen({ host: '127.0.0.1', port: settings.port });
console.log(`Serving on http://127.0.0.1:${settings.port}`);
// A quarter of a second that nobody should wait for who saves first, nor who waits for the server to come up.
prepareReading();

async function stop(): Promise<void> {
  await app.close();
  await boss.stop({ graceful: false });
  await db.sequelize.close();
  process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());
// The starting process has died: nothing of it stays behind.
process.on('disconnect', () => void stop());
