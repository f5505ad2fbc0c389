// Runs the benchmarks one after the other: npm run bench
import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { buildCommandLine, buildWeb, installPackages } from '../ops/build.mjs';

installPackages();
buildCommandLine();
buildWeb();
for (const name of ['core', 'slopes', 'artwork', 'cutting', 'checks', 'nesting', 'runs', 'proofs', 'browser']) {
  const { status } = spawnSync(process.execPath, [fileURLToPath(new URL(`${name}.mjs`, import.meta.url))], { stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
}
