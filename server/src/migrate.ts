import { openDatabase } from './platform/database/database.js';
import { migrate } from './platform/database/migrations.js';
import { loadDemo } from './modules/demo/load.js';
import { readSettings } from './platform/settings.js';
import { openQueue } from './platform/queue/queue.js';

/** Brings the database up to date and fills an empty one with the demo scenario. */
const settings = readSettings();
const db = openDatabase(settings.databaseUrl);
const ran = await migrate(db.sequelize);
if (ran.length > 0) console.log(`Migrations run: ${ran.join(', ')}`);
await (await openQueue(settings.databaseUrl)).stop({ graceful: false });
if (await loadDemo(db, settings, process.env.DEMO_STORY !== 'none')) console.log('Demo scenario loaded');
await db.sequelize.close();
