// Installs the npm packages and builds what changed since the last time.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { main, say, Stop } from './say.mjs';

export const ROOT = fileURLToPath(new URL('..', import.meta.url));
export const HOME = join(ROOT, '.run');

function filesBelow(path) {
  const whole = join(ROOT, path);
  if (!existsSync(whole)) return [];
  return readdirSync(whole, { withFileTypes: true }).flatMap((entry) => {
    const inner = join(path, entry.name);
    if (entry.isDirectory()) return ['node_modules', 'dist', '.angular'].includes(entry.name) ? [] : filesBelow(inner);
    return [inner];
  });
}

function digest(paths) {
  const hash = createHash('sha256');
  for (const path of paths.flatMap((p) => (existsSync(join(ROOT, p)) && !p.includes('.') ? filesBelow(p) : [p])).sort())
    if (existsSync(join(ROOT, path)) && !/\.test\.ts$/u.test(path)) hash.update(path).update(readFileSync(join(ROOT, path)));
  return hash.digest('hex');
}

/** Does a step unless it was done with the same inputs and its result is still there. */
function unlessDone(name, inputs, result, step) {
  const stamp = join(HOME, `${name}.stamp`);
  const now = digest(inputs);
  if (existsSync(join(ROOT, result)) && existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return;
  step();
  mkdirSync(HOME, { recursive: true });
  writeFileSync(stamp, now);
}

function run(what, command, args) {
  const result = spawnSync(command, args, { cwd: ROOT, encoding: 'utf8', env: { ...process.env, NG_CLI_ANALYTICS: 'false' } });
  if (result.status === 0) return;
  const output = `${result.stdout ?? ''}${result.stderr ?? ''}`;
  if (/ENOSPC/u.test(output)) throw new Stop('The disk is full: free some space (about 1 GB), then start again.');
  throw new Stop(`${what} failed:\n${output.trim().split('\n').slice(-25).join('\n')}`);
}

export function installPackages() {
  unlessDone(
    'packages',
    ['package-lock.json', 'package.json', ...['core', 'api', 'machine', 'server', 'web'].map((name) => `${name}/package.json`)],
    'node_modules',
    () => {
      say('Installing the npm packages …');
      run('Installing the npm packages', 'npm', ['ci', '--no-audit', '--no-fund']);
    },
  );
}

export function buildCommandLine() {
  unlessDone('server', ['core/src', 'api/src', 'machine/src', 'server/src', 'tsconfig.base.json'], 'server/dist/main.js', () => {
    say('Building the server …');
    run('Building the server', 'npx', ['--no-install', 'tsc', '-b', 'core', 'api', 'machine', 'server']);
  });
}

export function buildWeb() {
  unlessDone(
    'web',
    ['core/src', 'api/src', 'web/src', 'angular.json', 'web/tsconfig.json', 'fonts/families.json'],
    'web/dist/browser/index.html',
    () => {
      say('Building the page …');
      run('Building the page', 'npm', ['run', '--silent', '-w', 'web', 'build']);
    },
  );
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  main(async () => {
    installPackages();
    buildCommandLine();
    if (!process.argv.includes('--command-line')) buildWeb();
  });
}
