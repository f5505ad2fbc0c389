// Measures files of a run that workers make: rows evaluated, checked, written and laid on sheets, by one worker and by two in turn; and how
// much memory server and workers take at most. Run with: node bench/lots.mjs [ROWS] [ROUNDS]; with 0 rounds once by two workers, for
// what memory many rows need.
import { readFileSync } from 'node:fs';
import { setTimeout as wait } from 'node:timers/promises';
import { signIn } from '../ops/sign-in.mjs';
import { application, percentile } from './application.mjs';

const count = Number(process.argv[2] ?? 1000);
const rounds = Number(process.argv[3] ?? 3);
const median = (values) => percentile(values, 0.5);

/** The most that a process has had in memory, in MB. */
const mostMb = ({ child }) => Number(/VmHWM:\s+(\d+)/u.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))[1]) / 1024;

const { url, stop, running } = await application('lots', 54940, 2);
const { send } = await signIn(url);
const { jobs } = await send('GET', '/jobs');
// Labels with a code to scan on each.
const job = jobs.find(({ title, runs }) => runs.length > 0 && title.startsWith('Tree labels'));
const { document } = await send('GET', `/runs/${job.runs[0].id}`);

async function made(title, rows) {
  // Each with a number of its own, so that no plate is like another.
  const own = Array.from({ length: rows }, (_, i) => {
    const [, ...rest] = document.rows[i % document.rows.length].values;
    return { id: i + 1, values: [String(10_000 + i), ...rest] };
  });
  const run = await send('POST', `/jobs/${job.id}/runs`, { title, document: { ...document, rows: own } });
  const began = performance.now();
  const { id } = await send('POST', `/runs/${run.id}/makings`, {
    kinds: ['svg'],
    onSheets: true,
    hasContact: false,
    override: 'bench',
  });
  for (;;) {
    const { state, made: done, error, laid, bytes } = await send('GET', `/makings/${id}`);
    if (state === 'done') {
      if (error || done !== rows) throw new Error(error ?? `${done} of ${rows} made`);
      const seconds = (performance.now() - began) / 1000;
      await send('DELETE', `/runs/${run.id}`);
      return { seconds, sheets: laid.sheets, bytes };
    }
    await wait(500);
  }
}

/** Has the second worker rest or work; it rests between two lots. */
async function second(isAtWork) {
  running.workers[1].child.kill(isAtWork ? 'SIGCONT' : 'SIGSTOP');
  await wait(300);
}

/** Jiffies that a process has worked (proc_pid_stat(5)). */
const worked = ({ child }) => Number(readFileSync(`/proc/${child.pid}/stat`, 'utf8').split(') ')[1].split(' ')[11]);

/** Waits until the sheets of the demo's proofs are made, and has workers begin anew: what those took is not measured. */
async function settled() {
  await wait(70_000);
  for (let before = -1; ; await wait(4000)) {
    const now = running.workers.map(worked).reduce((sum, each) => sum + each, 0);
    if (before >= 0 && now - before < 40) break;
    before = now;
  }
  for (const { child } of running.workers) child.kill('SIGKILL');
  await wait(4000);
}

await settled();
await made('warm', 60);
const times = [];
for (let round = 0; round < rounds; round++) {
  await second(false);
  const one = await made(`one ${round}`, count);
  await second(true);
  const two = await made(`two ${round}`, count);
  times.push([one.seconds, two.seconds]);
  console.log(
    `  ${one.seconds.toFixed(1)} s by one worker, ${two.seconds.toFixed(1)} s by two; ${two.sheets} sheets, ${(two.bytes / 1e6).toFixed(1)} MB`,
  );
}
if (rounds === 0) {
  const { seconds, sheets } = await made('two', count);
  console.log(`${count} rows, outlines and sheets: ${seconds.toFixed(1)} s by two workers; ${sheets} sheets`);
} else {
  const [one, two] = [0, 1].map((k) => median(times.map((each) => each[k])));
  const ratio = median(times.map(([a, b]) => a / b));
  console.log(`${count} rows, outlines and sheets: ${one.toFixed(1)} s by one worker, ${two.toFixed(1)} s by two, ${ratio.toFixed(2)} times as fast (median of ${rounds})`); // prettier-ignore
}
console.log(`memory at most: server ${mostMb(running.server).toFixed(0)} MB, workers ${running.workers.map((each) => mostMb(each).toFixed(0)).join(' and ')} MB`); // prettier-ignore
await stop();
process.exit(0);
