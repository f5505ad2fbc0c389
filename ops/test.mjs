// Everything that must hold before a change is good: formats, types, lint, Jest in all packages, the started application
// in a browser. Closes with a line "N passed, N failed".
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join, relative } from 'node:path';
import { buildCommandLine, buildWeb, HOME, installPackages, ROOT } from './build.mjs';
import { checkDisk, needFromDebian } from './debian.mjs';
import { startPostgres } from './postgres.mjs';
import { main, say, Stop } from './say.mjs';

const counts = { passed: 0, failed: 0 };
/** What failed, each with how to run it again. */
const failures = [];

function run(command, args, env = {}) {
  return spawnSync(command, args, { cwd: ROOT, stdio: ['ignore', 'inherit', 'inherit'], env: { ...process.env, ...env } }).status;
}

/** One check that passes or fails as a whole. */
function check(name, command, args) {
  const began = Date.now();
  const isGood = run(command, args) === 0;
  counts[isGood ? 'passed' : 'failed']++;
  if (!isGood) failures.push(`${name}: ${command} ${args.join(' ')}`);
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
      // Room for what lives shortly: half of what tests of solids spend on clearing up goes.
      NODE_OPTIONS: '--experimental-vm-modules --no-warnings --max-semi-space-size=64',
      ...env,
    },
  );
  try {
    const result = JSON.parse(readFileSync(report, 'utf8'));
    counts.passed += result.numPassedTests;
    counts.failed += result.numFailedTests + result.numRuntimeErrorTestSuites;
    for (const { name, status: state, assertionResults } of result.testResults) {
      if (state !== 'failed') continue;
      const file = relative(ROOT, name);
      const titles = assertionResults.filter((test) => test.status === 'failed').map(({ fullName }) => `  ${fullName}`);
      failures.push([`${file}: ./test ${file}`, ...titles].join('\n'));
    }
    if (status !== 0 && result.numFailedTests + result.numRuntimeErrorTestSuites === 0) counts.failed++;
  } catch {
    say(`FAILED: Jest gave no report for ${projects.join(', ')}.`);
    counts.failed++;
  }
}

/** Where the tests of a part are: a project, or the tests of all projects whose path holds the words. */
const PROJECTS = ['core', 'machine', 'server', 'web', 'e2e'];

/** The tests of parts alone: ./test core, ./test relief, ./test e2e/proof.test.ts. */
async function some(parts) {
  const projects = parts.filter((part) => PROJECTS.includes(part));
  const patterns = parts.filter((part) => !PROJECTS.includes(part));
  // Words alone mean unit tests: those in the browser are asked for by name.
  const isMeant = (project) =>
    projects.includes(project) ||
    patterns.some((part) => (PROJECTS.includes(part.split('/')[0]) ? part.startsWith(`${project}/`) : project !== 'e2e'));
  const wanted = PROJECTS.filter(isMeant);
  const filter = patterns.length > 0 ? [`--testPathPatterns=${patterns.join('|')}`, '--passWithNoTests'] : [];
  const units = wanted.filter((project) => project !== 'e2e');
  if (units.length > 0) await unitTests(units, filter);
  if (!wanted.includes('e2e')) return;
  buildWeb();
  jest(['e2e'], {}, ['--maxWorkers=2', ...filter]);
}

async function unitTests(projects, filter = []) {
  const database = await startPostgres(join(HOME, 'test', 'postgres'), { fromPort: 54710 });
  try {
    // Each suite of the server has a database of its own, so that two may run at once.
    jest(projects, { TEST_DATABASE_URL: database.url, LOG_LEVEL: 'silent' }, ['--maxWorkers=2', ...filter]);
  } finally {
    await database.stop();
  }
}

function close() {
  if (failures.length > 0) say(`\nWhat failed, and how to run it again:\n${failures.join('\n')}`);
  say(`\n${counts.passed} passed, ${counts.failed} failed`);
  process.exit(counts.failed === 0 ? 0 : 1);
}

main(async () => {
  checkDisk(ROOT, 1000);
  needFromDebian('postgres', 'chromium', 'poppler', 'liblouis');
  installPackages();
  mkdirSync(join(HOME, 'test'), { recursive: true });
  buildCommandLine();
  const parts = process.argv.slice(2);
  if (parts.length > 0) {
    await some(parts);
    if (counts.passed + counts.failed === 0) throw new Stop(`No test has ${parts.join(' or ')} in its path.`);
    return close();
  }

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
  judge('plain', '0..90');
  judge('extreme', '0..30');
  judge('bent', '0..20');

  await unitTests(['core', 'machine', 'server', 'web']);
  // Its own type check covers the page and its templates.
  buildWeb();
  // Each suite starts an application of its own, so that two may run at once.
  jest(['e2e'], {}, ['--maxWorkers=2']);
  close();
});
