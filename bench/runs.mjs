// Measures runs: rows of a list made as plates with their outlines and laid on sheets, by one thread and by two in the same run.
// Run with: node bench/runs.mjs [ROWS]
import { spawnSync } from 'node:child_process';
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

function seconds(workers, round) {
  const out = join(folder, `out-${workers}-${round}`);
  const began = performance.now();
  const { status, stderr } = spawnSync(
    join(ROOT, 'relief'),
    ['run', join(ROOT, 'demo/runs/tree-labels.sign.json'), '--list', join(folder, 'list.csv'), '--out', out, '--files', 'svg', '--sheet', '1220x610', '--workers', String(workers)], // prettier-ignore
    { encoding: 'utf8', maxBuffer: 1e8 },
  );
  if (status !== 0) throw new Error(stderr);
  rmSync(out, { recursive: true });
  return (performance.now() - began) / 1000;
}

const rounds = [0, 1, 2].map((round) => [seconds(1, round), seconds(2, round)]);
rmSync(folder, { recursive: true });
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const [one, two] = [0, 1].map((k) => median(rounds.map((each) => each[k])));
const ratio = median(rounds.map(([a, b]) => a / b));
console.log(
  `${count} rows, outlines and sheets: ${one.toFixed(1)} s by one thread, ${two.toFixed(1)} s by two, ${ratio.toFixed(2)} times as fast (median of ${rounds.length})`,
);
