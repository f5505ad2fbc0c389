// Runs the benchmarks and prints their lines: node bench/run.mjs [name …]. Ratios are of the same run on the same machine.
import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { buildCommandLine, buildWeb, installPackages } from '../ops/build.mjs';

installPackages();
buildCommandLine();
buildWeb();
const result = spawnSync('npx', ['--no-install', 'jest', '--selectProjects', 'bench', '--runInBand', ...process.argv.slice(2)], {
  cwd: fileURLToPath(new URL('..', import.meta.url)),
  stdio: 'inherit',
  env: { ...process.env, NODE_OPTIONS: '--experimental-vm-modules --no-warnings' },
});
process.exit(result.status ?? 1);
