// Measures runs: rows of a list made as plates with their outlines and laid on sheets, by one thread and by two in the same run.
// Run with: node bench/runs.mjs [ROWS]
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
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

/** Seconds until as many such runs, begun at once, are through. */
async function seconds(workers, atOnce = 1) {
  const began = performance.now();
  await Promise.all(
    Array.from({ length: atOnce }, async () => {
      const out = join(folder, `out-${runs++}`);
      const child = spawn(script, [...asked, '--out', out, '--workers', String(workers)], {
        stdio: ['ignore', 'ignore', 'inherit'],
      });
      const [status] = await once(child, 'exit');
      if (status !== 0) throw new Error(`A run ended with ${status}.`);
      rmSync(out, { recursive: true });
    }),
  );
  return (performance.now() - began) / 1000;
}

const rounds = [];
for (let round = 0; round < 3; round++) {
  const [one, two] = [await seconds(1), await seconds(2)];
  // Two runs that know nothing of each other: as much as two processors are worth for this very work.
  rounds.push([one, two, await seconds(1, 2)]);
}
rmSync(folder, { recursive: true });
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const [one, two] = [0, 1].map((k) => median(rounds.map((each) => each[k])));
const ratio = median(rounds.map(([a, b]) => a / b));
const worth = median(rounds.map(([a, , both]) => (2 * a) / both));
console.log(rounds.map((each) => each.map((value) => value.toFixed(1)).join(' ')).join('; '));
console.log(
  `${count} rows, outlines and sheets: ${one.toFixed(1)} s by one thread, ${two.toFixed(1)} s by two, ${ratio.toFixed(2)} times as fast; two runs at once are ${worth.toFixed(2)} times as fast as one after the other (medians of ${rounds.length})`,
);
