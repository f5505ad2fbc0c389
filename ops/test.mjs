// Everything that must hold before a change is good: formats, types, lint, Jest in all packages, the started application
// in a browser. Closes with a line "N passed, N failed".
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { buildCommandLine, buildWeb, HOME, installPackages, ROOT } from './build.mjs';
import { checkDisk, needFromDebian } from './debian.mjs';
import { startPostgres } from './postgres.mjs';
import { main, say } from './say.mjs';

const counts = { passed: 0, failed: 0 };

function run(command, args, env = {}) {
  return spawnSync(command, args, { cwd: ROOT, stdio: ['ignore', 'inherit', 'inherit'], env: { ...process.env, ...env } }).status;
}

/** One check that passes or fails as a whole. */
function check(name, command, args) {
  const began = Date.now();
  const isGood = run(command, args) === 0;
  counts[isGood ? 'passed' : 'failed']++;
  say(`${isGood ? 'ok' : 'FAILED'}: ${name} (${((Date.now() - began) / 1000).toFixed(0)} s)`);
}

/** Jest projects, each test counted. */
function jest(projects, env, extra = []) {
  const report = join(HOME, 'test', `jest-${projects.join('-')}.json`);
  rmSync(report, { force: true });
  const status = run(
    'npx',
    ['--no-install', 'jest', '--selectProjects', ...projects, '--json', `--outputFile=${report}`, ...extra],
    {
      NODE_OPTIONS: '--experimental-vm-modules --no-warnings',
      ...env,
    },
  );
  try {
    const result = JSON.parse(readFileSync(report, 'utf8'));
    counts.passed += result.numPassedTests;
    counts.failed += result.numFailedTests + result.numRuntimeErrorTestSuites;
    if (status !== 0 && result.numFailedTests + result.numRuntimeErrorTestSuites === 0) counts.failed++;
  } catch {
    say(`FAILED: Jest gave no report for ${projects.join(', ')}.`);
    counts.failed++;
  }
}

main(async () => {
  checkDisk(ROOT, 1000);
  needFromDebian('postgres', 'chromium', 'poppler');
  installPackages();
  mkdirSync(join(HOME, 'test'), { recursive: true });
  buildCommandLine();

  check('format', 'npx', ['--no-install', 'prettier', '--check', '--log-level', 'warn', '.']);
  check('lint', 'npx', ['--no-install', 'eslint', '.', '--max-warnings', '0']);
  check('rooms', 'node', ['ops/rooms.mjs']);
  check('types of the tests', 'npx', ['--no-install', 'tsc', '-p', 'tsconfig.tests.json']);
  check('types of the page and its tests', 'npx', ['--no-install', 'tsc', '-p', 'web/tsconfig.test.json', '--noEmit']);

  // In plain Node.js, which is several times as fast as Jest's sandbox.
  const judge = (manner, seeds) =>
    check(`signs ${seeds} of the generator, ${manner}, by the definition of the relief`, 'node', [
      'core/testing/fuzz.mjs',
      ...['--manner', manner, '--seeds', seeds, '--limit', '300'],
    ]);
  judge('plain', '0..110');
  judge('extreme', '0..40');

  const database = await startPostgres(join(HOME, 'test', 'postgres'), { fromPort: 54710 });
  try {
    // Each suite of the server has a database of its own, so that two may run at once.
    jest(['core', 'server', 'web'], { TEST_DATABASE_URL: database.url, LOG_LEVEL: 'silent' }, ['--maxWorkers=2']);
  } finally {
    await database.stop();
  }
  // Its own type check covers the page and its templates.
  buildWeb();
  jest(['e2e'], {}, ['--runInBand']);

  say(`\n${counts.passed} passed, ${counts.failed} failed`);
  process.exit(counts.failed === 0 ? 0 : 1);
});
