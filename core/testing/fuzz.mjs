// Signs from seeds, judged by the definition: npm run fuzz -- --seeds 0..150 [--manner plain|extreme|bent|all] [--shrink] [--limit SECONDS]
// Prints a line for every finding and a summary; what failed is kept in .run/fuzz, with --shrink as small as it still fails.
// Ends with 1 where there was a finding. Plain Node.js: a test runner's sandbox makes JavaScript several times slower.
import { fork } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { buildSync } from 'esbuild';
import { shrunk } from './shrink.mjs';

const path = (name) => fileURLToPath(new URL(name, import.meta.url));
const bundle = path('../dist/testing/judge-worker.mjs');
const kept = path('../../.run/fuzz/');

const { values } = parseArgs({
  options: {
    seeds: { type: 'string', default: '0..150' },
    manner: { type: 'string', default: 'all' },
    shrink: { type: 'boolean', default: false },
    limit: { type: 'string', default: '60' },
    workers: { type: 'string', default: String(Math.min(2, availableParallelism())) },
  },
});
const [from, to] = values.seeds.split('..').map(Number);
if (!(from <= to)) throw new Error(`--seeds ${values.seeds} is no range: write it as 0..150.`);
const limit = 1000 * Number(values.limit);

buildSync({
  entryPoints: [path('judge-worker.ts')],
  outfile: bundle,
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  logLevel: 'error',
});
mkdirSync(kept, { recursive: true });

/** A process that judges signs one after the other; one that takes too long is ended and begun anew. Of threads the processor's time would be one. */
class Judge {
  ask(question) {
    this.process ??= fork(bundle, [path('../../fonts')], { serialization: 'advanced' });
    const judge = this.process;
    return new Promise((done) => {
      let document = question.document;
      const finish = (answer) => {
        clearTimeout(timer);
        judge.off('message', onMessage).off('exit', onExit);
        done(answer);
      };
      const give = (what, words) => {
        this.process = undefined;
        judge.kill('SIGKILL');
        finish({ findings: [{ what, words }], document, evaluationMs: limit });
      };
      const timer = setTimeout(() => give('too long', `more than ${values.limit} s`), limit);
      const onMessage = (message) => (message.begun ? (document = message.begun) : finish(message));
      const onExit = (code, signal) => give('died', `${code ?? signal}`);
      judge.on('message', onMessage).on('exit', onExit);
      judge.send(question);
    });
  }

  end() {
    this.process?.kill();
  }
}

const MANNERS = ['plain', 'extreme', 'bent'];
const manners = values.manner === 'all' ? MANNERS : [values.manner];
const questions = [];
for (let seed = from; seed < to; seed++) for (const manner of manners) questions.push({ seed, manner });
const count = questions.length;
const times = Object.fromEntries(MANNERS.map((manner) => [manner, []]));
const failed = [];
const ended = [];

async function work() {
  const judge = new Judge();
  for (let question = questions.shift(); question; question = questions.shift()) {
    const { findings, document, evaluationMs } = await judge.ask(question);
    times[question.manner].push([evaluationMs, question.seed]);
    if (findings.length === 0) continue;
    const name = `${question.manner}-${question.seed}`;
    // The application ends what takes too long and says so: of signs out of all measure that is right.
    if (question.manner === 'extreme' && findings[0].what === 'too long') {
      ended.push(name);
      continue;
    }
    failed.push(name);
    for (const { what, words } of findings)
      console.log(`${name}: ${what}: ${words.split('\n').slice(0, 3).join(' ').slice(0, 300)}`);
    const small = values.shrink && document ? await shrunk(document, findings[0].what, (other) => judge.ask({ ...question, document: other })) : document; // prettier-ignore
    writeFileSync(`${kept}${name}.sign.json`, `${JSON.stringify(small, null, 1)}\n`);
  }
  judge.end();
}

rmSync(`${kept}report.json`, { force: true });
await Promise.all(Array.from({ length: Number(values.workers) }, work));
for (const [manner, list] of Object.entries(times)) {
  if (list.length === 0) continue;
  list.sort(([a], [b]) => a - b);
  const at = (share) => (list[Math.min(list.length - 1, Math.floor(share * list.length))][0] / 1000).toFixed(2);
  console.log(
    `${manner}: ${list.length} signs worked out in a median of ${at(0.5)} s, 95 % below ${at(0.95)} s, the longest in ${at(1)} s of processor time (seed ${list[list.length - 1][1]})`,
  );
}
if (ended.length > 0) console.log(`ended after ${values.limit} s, out of all measure: ${ended.join(', ')}`);
console.log(`${count - failed.length} of ${count} without a finding`);
writeFileSync(`${kept}report.json`, `${JSON.stringify({ seeds: values.seeds, failed, times })}\n`);
process.exit(failed.length > 0 ? 1 : 0);
