// Kills server, worker and database at random while signs are saved and files are made: node bench/kills.mjs [--kills 100] [--seed 1]
// Bars: nothing that was acknowledged is lost, no task waits for ever, and a killed server is healthy again within 5 s.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { parseArgs } from 'node:util';
import { HOME } from '../ops/build.mjs';
import { application, percentile } from './application.mjs';
import { signIn } from '../ops/sign-in.mjs';

const { values } = parseArgs({ options: { kills: { type: 'string', default: '100' }, pause: { type: 'string', default: '8' } } });
const KILLS = Number(values.kills);
const PAUSE_MS = 1000 * Number(values.pause);
const MOST_AWAY_MS = 5000;
const SETTLED_MS = 180_000;

const { url, stop, running } = await application('kills', 54890);
const { send, cookie } = await signIn(url);
const headers = { 'x-plain-relief': 'script', 'content-type': 'application/json', cookie: `${cookie.name}=${cookie.value}` };
const { jobs } = await send('GET', '/jobs');

/** Signs with what the server said it has of each. */
const signs = [];
for (let i = 0; i < 4; i++) {
  const { id, revision, document } = await send('POST', `/jobs/${jobs[0].id}/signs`, { title: `Sign ${i}` });
  signs.push({ id, revision, document, acknowledged: 0 });
}
let isOver = false;
const refused = new Map();

async function saver(sign) {
  for (let n = 1; !isOver; n++) {
    const document = { ...sign.document, title: `Save ${n}` };
    try {
      const answer = await fetch(`${url}/api/signs/${sign.id}`, {
        method: 'PUT',
        headers,
        body: JSON.stringify({ base: sign.revision, document }),
        signal: AbortSignal.timeout(10_000),
      });
      const said = await answer.json();
      if (answer.ok) [sign.revision, sign.acknowledged] = [said.revision, n];
      else {
        refused.set(answer.status, (refused.get(answer.status) ?? 0) + 1);
        // One whose answer was lost is stored all the same: go on from there.
        if (answer.status === 409) sign.revision = (await send('GET', `/signs/${sign.id}`)).revision;
      }
    } catch {
      refused.set('no answer', (refused.get('no answer') ?? 0) + 1);
      await wait(200);
    }
    await wait(150);
  }
}

async function asker() {
  for (let n = 0; !isOver; n++) {
    const kind = ['stl', 'svg', 'sheet'][n % 3];
    await fetch(`${url}/api/signs/${signs[n % signs.length].id}/tasks`, {
      method: 'POST',
      headers,
      body: JSON.stringify({ kind, override: 'Measured' }),
      signal: AbortSignal.timeout(10_000),
    }).catch(() => undefined);
    await wait(3000);
  }
}

async function untilHealthy() {
  const from = performance.now();
  for (;;) {
    const isHealthy = await fetch(`${url}/api/health`, { signal: AbortSignal.timeout(1000) }).then(
      (r) => r.ok,
      () => false,
    );
    if (isHealthy) return performance.now() - from;
    if (performance.now() - from > 120_000) throw new Error('not healthy within two minutes');
    await wait(50);
  }
}

const databasePid = () => Number(readFileSync(join(HOME, 'bench-kills', 'database', 'postmaster.pid'), 'utf8').split('\n')[0]);
const away = { server: [], worker: [], database: [] };
try {
  const work = [...signs.map(saver), asker()];
  for (let k = 0; k < KILLS; k++) {
    await wait(PAUSE_MS * (0.5 + Math.random()));
    const who = ['server', 'worker', 'database'][k % 3];
    process.kill(who === 'database' ? databasePid() : running[who].child.pid, 'SIGKILL');
    await wait(20);
    away[who].push(await untilHealthy());
  }
  isOver = true;
  await Promise.all(work);
  let lost = 0;
  for (const sign of signs) {
    const { document } = await send('GET', `/signs/${sign.id}`);
    if (Number(/\d+/u.exec(document.title)[0]) < sign.acknowledged) lost++;
  }
  const open = async () =>
    (await Promise.all(signs.map(({ id }) => send('GET', `/signs/${id}/tasks`))))
      .flatMap(({ tasks }) => tasks)
      .filter(({ state }) => !['done', 'failed', 'cancelled'].includes(state));
  const from = performance.now();
  let left = await open();
  while (left.length > 0 && performance.now() - from < SETTLED_MS) {
    await wait(1000);
    left = await open();
  }
  console.log(
    `${KILLS} kills: ${signs.reduce((sum, { acknowledged }) => sum + acknowledged, 0)} saves acknowledged, lost ${lost}; refused: ${[...refused].map(([what, count]) => `${count} × ${what}`).join(', ')}`,
  );
  console.log(`tasks that wait after ${((performance.now() - from) / 1000).toFixed(0)} s: ${left.length}`);
  for (const [who, list] of Object.entries(away))
    if (list.length > 0)
      console.log(
        `${who} killed: healthy after a median of ${percentile(list, 0.5).toFixed(0)} ms, ${Math.max(...list).toFixed(0)} ms at most`,
      );
  process.exitCode = lost > 0 || left.length > 0 || Math.max(...away.server) > MOST_AWAY_MS ? 1 : 0;
} finally {
  isOver = true;
  await stop();
}
process.exit();
