// What the application needs from Debian, installed where it is missing and where that is allowed.
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statfsSync } from 'node:fs';
import { join } from 'node:path';
import { say, Stop } from './say.mjs';

export const isRoot = process.getuid?.() === 0;

/** Folder of PostgreSQL's programs, the newest release first, or undefined. */
export function postgresPrograms() {
  const base = '/usr/lib/postgresql';
  if (!existsSync(base)) return undefined;
  return readdirSync(base)
    .sort((a, b) => Number(b) - Number(a))
    .map((release) => join(base, release, 'bin'))
    .find((bin) => existsSync(join(bin, 'initdb')) && existsSync(join(bin, 'postgres')));
}

const onPath = (program) => spawnSync('sh', ['-c', `command -v ${program}`]).status === 0;

/** What each need is for, how it is recognised, and the package that brings it. */
const NEEDS = {
  postgres: { package: 'postgresql', words: 'PostgreSQL', isThere: () => postgresPrograms() !== undefined },
  chromium: { package: 'chromium', words: 'Chromium', isThere: () => onPath('chromium') },
  liblouis: { package: 'liblouis-bin liblouis-data', words: 'liblouis', isThere: () => onPath('lou_translate') },
  poppler: { package: 'poppler-utils', words: 'poppler-utils', isThere: () => onPath('pdftoppm') },
};

/** Installs those of the named needs that are missing. */
export function needFromDebian(...names) {
  const missing = names.map((name) => NEEDS[name]).filter((need) => !need.isThere());
  if (missing.length === 0) return;
  const packages = missing.map((need) => need.package).join(' ');
  const words = missing.map((need) => need.words).join(' and ');
  const are = missing.length > 1 ? 'are' : 'is';
  const byHand = `run “sudo apt-get install -y ${packages}” once, then start again.`;
  const canSudo = !isRoot && onPath('sudo') && spawnSync('sudo', ['-n', 'true']).status === 0;
  if (!isRoot && !canSudo) throw new Stop(`${words} ${are} missing and this account may not install it: ${byHand}`);
  if (!onPath('apt-get'))
    throw new Stop(`${words} ${are} missing and this is not a Debian machine: install it, then start again.`);
  say(`Installing ${words} from Debian's packages …`);
  const apt = (...args) =>
    spawnSync(isRoot ? 'apt-get' : 'sudo', isRoot ? args : ['-n', 'apt-get', ...args], {
      stdio: ['ignore', 'ignore', 'pipe'],
      encoding: 'utf8',
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  apt('update', '-q');
  const result = apt('install', '-y', '-q', '--no-install-recommends', ...packages.split(' '));
  if (result.status !== 0 || missing.some((need) => !need.isThere())) {
    const last = (result.stderr ?? '').trim().split('\n').at(-1);
    throw new Stop(`${words} could not be installed (${last}): ${byHand}`);
  }
}

/** Installs those of the named needs that are missing; where that cannot be, it is said, and the application goes on without. */
export function likeFromDebian(without, ...names) {
  try {
    needFromDebian(...names);
  } catch (error) {
    if (!(error instanceof Stop)) throw error;
    say(`${error.message} Until then ${without}.`);
  }
}

/** Stops early where a disk is too full to begin. */
export function checkDisk(folder, megabytes) {
  const { bavail, bsize } = statfsSync(folder);
  const free = Math.floor((bavail * bsize) / 1e6);
  if (free < megabytes)
    throw new Stop(
      `Only ${free} MB are free on the disk of ${folder} and ${megabytes} MB are needed: free some space, then start again.`,
    );
}
