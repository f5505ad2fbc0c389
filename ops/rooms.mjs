// Whether rooms keep to their graph (.dependency-cruiser.mjs) and none is a hall: node ops/rooms.mjs
import { spawnSync } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './build.mjs';

const PLACES = ['core/src', 'server/src', 'web/src'];
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
process.exit(status === 0 && halls.length === 0 ? 0 : 1);

function foldersIn(place) {
  const entries = readdirSync(join(ROOT, place), { recursive: true, withFileTypes: true });
  return entries.filter((entry) => entry.isDirectory()).map(({ parentPath, name }) => join(parentPath, name).slice(ROOT.length));
}

function sourcesIn(folder) {
  return readdirSync(join(ROOT, folder)).filter((name) => name.endsWith('.ts') && !name.endsWith('.test.ts')).length;
}
