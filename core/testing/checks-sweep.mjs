// Remedies of findings, and water that stands, on signs from seeds: npm run checks -- 0..100. Plain Node.js: a test runner's sandbox makes
// JavaScript several times slower. Prints what was tried and what was wrong as JSON.
import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { buildSync } from 'esbuild';

const path = (name) => fileURLToPath(new URL(name, import.meta.url));
const bundle = path('../dist/testing/checked-signs.mjs');
buildSync({ entryPoints: [path('checked-signs.ts')], outfile: bundle, bundle: true, platform: 'node', format: 'esm', packages: 'external', logLevel: 'error' }); // prettier-ignore
const { status } = spawnSync(process.execPath, [bundle, path('../../fonts'), process.argv[2] ?? '0..100'], { stdio: 'inherit' });
process.exit(status ?? 1);
