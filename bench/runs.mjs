// Measures runs: rows of a list made as plates with their outlines and laid on sheets, by one thread and by two in the same run.
// Run with: node bench/runs.mjs [ROWS]
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { text } from 'node:stream/consumers';
import { fileURLToPath } from 'node:url';

const ROOT = fileURLToPath(new URL('..', import.meta.url));
const count = Number(process.argv[2] ?? 1000);
const folder = mkdtempSync(join(tmpdir(), 'runs-'));
const [head, ...rows] = readFileSync(join(ROOT, 'demo/runs/tree-labels.csv'), 'utf8').trim().split('\r\n');
// Each with a number, and so with words, of its own.
const list = Array.from({ length: count }, (_, i) => rows[i % rows.length].replace(/^\d+/u, String(10_000 + i)));
writeFileSync(join(folder, 'list.csv'), [head, ...list].join('\r\n'));

const script = join(ROOT, 'relief');
const asked = ['run', join(ROOT, 'demo/runs/tree-labels.sign.json'), '--list', join(folder, 'list.csv'), '--files', 'svg', '--sheet', '1220x610']; // prettier-ignore
let runs = 0;

/** Seconds until as many such runs, begun at once, are through, and seconds that processors worked for them. */
async function made(workers, atOnce = 1) {
  const began = performance.now();
  const works = await Promise.all(
    Array.from({ length: atOnce }, async () => {
      const out = join(folder, `out-${runs++}`);
      // The shell tells what it and its children took (POSIX, times).
      const child = spawn('sh', ['-c', '"$0" "$@" >/dev/null && times', script, ...asked, '--out', out, '--workers', String(workers)], { stdio: ['ignore', 'pipe', 'inherit'] }); // prettier-ignore
      const [told, [status]] = await Promise.all([text(child.stdout), once(child, 'exit')]);
      if (status !== 0) throw new Error(`A run ended with ${status}.`);
      rmSync(out, { recursive: true });
      return [...told.matchAll(/(\d+)m([\d.]+)s/gu)].reduce((sum, [, min, s]) => sum + 60 * Number(min) + Number(s), 0);
    }),
  );
  return { seconds: (performance.now() - began) / 1000, worked: works.reduce((sum, own) => sum + own, 0) };
}

const rounds = [];
for (let round = 0; round < 3; round++) {
  // Two runs that know nothing of each other: as much as two processors are worth for this very work.
  rounds.push([await made(1), await made(2), await made(1, 2)]);
}
rmSync(folder, { recursive: true });
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const [one, two] = [0, 1].map((k) => median(rounds.map((each) => each[k].seconds)));
const ratio = median(rounds.map(([a, b]) => a.seconds / b.seconds));
const worth = median(rounds.map(([a, , both]) => (2 * a.seconds) / both.seconds));
// Of one thread, what compiles and clears memory away works beside it.
const [ofOne, ofTwo] = [0, 1].map((k) => median(rounds.map((each) => each[k].worked / each[k].seconds)));
const shown = ({ seconds, worked }) => `${seconds.toFixed(1)} (${worked.toFixed(1)})`;
console.log(`seconds (and of processors): ${rounds.map((each) => each.map(shown).join(' ')).join('; ')}`);
console.log(
  `${count} rows, outlines and sheets: ${one.toFixed(1)} s by one thread, ${two.toFixed(1)} s by two, ${ratio.toFixed(2)} times as fast; two runs at once are ${worth.toFixed(2)} times as fast as one after the other; one thread has ${ofOne.toFixed(2)} processors at work, two have ${ofTwo.toFixed(2)} (medians of ${rounds.length})`,
);
