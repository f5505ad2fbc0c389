// Cuts of signs from seeds, planned, written, read back and proven: npm run cuts -- --seeds 0..200 [--manner plain|extreme] [--cell 0.3] [--limit SECONDS]
// Prints a line for every sign whose programs are not proven, that takes too long, or that fails, and a summary; ends with 1 where one was
// not proven. Each sign is worked on in a process that is ended where it takes too long. Plain Node.js, as fuzz.mjs.
import { fork } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';

const own = fileURLToPath(import.meta.url);
const path = (name) => fileURLToPath(new URL(name, import.meta.url));

if (process.argv[2] === 'work') await work();
else await sweep();

async function sweep() {
  const { values } = parseArgs({
    options: {
      seeds: { type: 'string', default: '0..200' },
      manner: { type: 'string', default: 'plain' },
      cell: { type: 'string', default: '0.3' },
      limit: { type: 'string', default: '30' },
    },
  });
  const [from, to] = values.seeds.split('..').map(Number);
  if (!(from <= to)) throw new Error(`--seeds ${values.seeds} is no range: write it as 0..200.`);
  const { buildSync } = await import('esbuild');
  buildSync({
    entryPoints: [path('sign-generator.ts')],
    outfile: path('../dist/testing/sign-generator.mjs'),
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    logLevel: 'error',
  });
  const counts = { proven: 0, bare: 0, slow: 0, refused: 0, wrong: 0, failed: 0 };
  const began = Date.now();
  let worker;
  for (let seed = from; seed < to; seed++) {
    worker ??= fork(own, ['work']);
    const answer = await asked(worker, { seed, manner: values.manner, cell: Number(values.cell) }, 1000 * Number(values.limit));
    counts[answer.kind]++;
    if (answer.kind === 'slow') worker = undefined;
    if (answer.words) console.log(`${values.manner} ${seed}: ${answer.kind}, ${answer.words}`);
  }
  worker?.kill();
  console.log(JSON.stringify({ ...counts, seconds: Math.round((Date.now() - began) / 1000) }));
  process.exit(counts.wrong + counts.failed === 0 ? 0 : 1);
}

function asked(worker, question, limit) {
  return new Promise((done) => {
    const finish = (answer) => {
      clearTimeout(timer);
      worker.off('message', finish);
      done(answer);
    };
    const timer = setTimeout(() => {
      worker.kill('SIGKILL');
      finish({ kind: 'slow', words: `no plan within ${limit / 1000} s` });
    }, limit);
    worker.on('message', finish);
    worker.send(question);
  });
}

async function work() {
  const { PlanError, USUAL } = await import('@plain-relief/core/cutting');
  const { troubleOf } = await import('@plain-relief/core/dry-run');
  const { signToCut, writtenPlan } = await import('@plain-relief/core/making');
  const { Evaluator } = await import('@plain-relief/core/relief');
  const { readShop } = await import('@plain-relief/core/shop');
  const { FontBook } = await import('@plain-relief/core/type');
  const { generatedSign } = await import(path('../dist/testing/sign-generator.mjs'));
  const fonts = new URL('../../fonts/', import.meta.url);
  const catalogue = JSON.parse(readFileSync(new URL('catalogue.json', fonts), 'utf8'));
  const book = new FontBook(catalogue, async ({ file }) => new Uint8Array(readFileSync(new URL(file, fonts))));
  const shop = readShop(JSON.parse(readFileSync(path('../../demo/shop.json'), 'utf8')));
  // By turns: what is narrow is cleared by small end mills, or engraved where no end mill was.
  const SETS = [['end-6', 'end-3', 'end-1-5', 'ball-3', 'vee-90'], ['end-6', 'ball-3', 'point-30', 'vee-90']]; // prettier-ignore
  const evaluator = new Evaluator(book);
  process.on('message', async ({ seed, manner, cell }) => {
    try {
      const evaluation = await evaluator.evaluate(signToCut(generatedSign(seed, manner, catalogue)));
      if (evaluation.places.length === 0) return process.send({ kind: 'bare' });
      const tools = shop.tools.filter(({ id }) => SETS[seed % 2].includes(id));
      const choice = { ...USUAL, machine: { ...shop.machines[0], area: { width: 1e5, height: 1e5 }, travel: 1e4 }, material: shop.materials[4], tools }; // prettier-ignore
      const { minX, minY, maxX, maxY } = extent(evaluation.blank);
      // As near as a few million places let it.
      const own = Math.max(cell, Math.sqrt(((maxX - minX) * (maxY - minY)) / 4e6));
      const { run } = writtenPlan(evaluation, choice, { cell: own });
      const trouble = troubleOf(run);
      process.send(trouble ? { kind: 'wrong', words: trouble } : { kind: 'proven' });
    } catch (error) {
      const isRefused = error instanceof PlanError;
      process.send({ kind: isRefused ? 'refused' : 'failed', ...(!isRefused && { words: `${error.stack}`.slice(0, 400) }) });
    }
  });
  await new Promise(() => {});
}

function extent(contour) {
  const xs = [...contour].filter((_, i) => i % 2 === 0);
  const ys = [...contour].filter((_, i) => i % 2 === 1);
  return { minX: Math.min(...xs), minY: Math.min(...ys), maxX: Math.max(...xs), maxY: Math.max(...ys) };
}
