// Whether rooms keep to their graph (.dependency-cruiser.mjs), none is a hall, templates are typed, and what docs/architecture.md
// names is there: node ops/rooms.mjs
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './build.mjs';

const PLACES = ['core/src', 'api/src', 'machine/src', 'server/src', 'web/src'];
/** Sources that a folder may have, besides tests. */
const MOST_SOURCES = 25;

const { status } = spawnSync('npx', ['--no-install', 'depcruise', '--config', '.dependency-cruiser.mjs', ...PLACES], {
  cwd: ROOT,
  stdio: 'inherit',
});
const halls = PLACES.flatMap((place) => [place, ...foldersIn(place)])
  .map((folder) => ({ folder, count: sourcesIn(folder) }))
  .filter(({ count }) => count > MOST_SOURCES);
for (const { folder, count } of halls)
  console.error(`${folder} has ${count} sources, and may have ${MOST_SOURCES}: give it rooms.`);
const untyped = readdirSync(join(ROOT, 'web/src'), { recursive: true })
  .filter((name) => /\.(?:html|ts)$/u.test(name) && readFileSync(join(ROOT, 'web/src', name), 'utf8').includes('$any('))
  .map((name) => join('web/src', name));
for (const name of untyped) console.error(`${name} has $any in a template: name the element (#field) and take its value.`);
/** Files are named from the checkout, or from one of these. */
const ROOTS = ['.', 'core/src', 'server/src'];
const named = readFileSync(join(ROOT, 'docs/architecture.md'), 'utf8').matchAll(/`((?:[\w-]+\/)+[\w-]+(?:\.[\w-]+)*\.ts)`/gu);
const gone = [...new Set([...named].map(([, file]) => file))].filter(
  (file) => !ROOTS.some((root) => existsSync(join(ROOT, root, file))),
);
for (const file of gone) console.error(`docs/architecture.md names ${file}, which is not there.`);
process.exit(status === 0 && [halls, untyped, gone].every((found) => found.length === 0) ? 0 : 1);

function foldersIn(place) {
  const entries = readdirSync(join(ROOT, place), { recursive: true, withFileTypes: true });
  return entries.filter((entry) => entry.isDirectory()).map(({ parentPath, name }) => join(parentPath, name).slice(ROOT.length));
}

function sourcesIn(folder) {
  return readdirSync(join(ROOT, folder)).filter((name) => name.endsWith('.ts') && !name.endsWith('.test.ts')).length;
}
