// Five hundred hostile drawings, in a process that may take 500 MB: node bench/hostile-artwork.mjs [--files 500] [--seed 1]
// Bars: every one is read or refused with a sentence, within 5 s.
import { readdirSync, readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { Worker, isMainThread, parentPort } from 'node:worker_threads';
import { buildSync } from 'esbuild';
import { fileURLToPath } from 'node:url';
import { percentile } from './application.mjs';
import { randomFrom } from './random.mjs';

const MOST_MS = 5000;
const MOST_MB = 500;
const path = (name) => fileURLToPath(new URL(name, import.meta.url));
const bundle = path('../core/dist/testing/artwork.mjs');

if (!isMainThread) {
  const { importArtwork, ArtworkError } = await import(bundle);
  parentPort.on('message', ({ format, text }) => {
    const from = performance.now();
    let told;
    try {
      const art = importArtwork(format, text);
      told = art.colours.length > 0 || art.findings.length > 0 ? 'read' : 'nothing, and nothing said';
    } catch (error) {
      told = error instanceof ArtworkError ? 'refused' : `died: ${error}`;
    }
    parentPort.postMessage({ told, ms: performance.now() - from, mb: process.memoryUsage().heapUsed / 1e6 });
  });
} else await main();

async function main() {
  const { values } = parseArgs({
    options: { files: { type: 'string', default: '500' }, seed: { type: 'string', default: '1' } },
  });
  buildSync({
    entryPoints: [path('../core/src/artwork/index.ts')],
    outfile: bundle,
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    logLevel: 'error',
  });
  const random = randomFrom(Number(values.seed));
  const whole = (to) => Math.floor(random() * to);
  const pick = (list) => list[whole(list.length)];
  const figure = () => pick([0, 1, -1, 1e-9, 1e20, -1e308, NaN, 0.1, 33.3, 4e6, whole(1000)]);
  const demo = readdirSync(path('../demo/artwork')).map((name) => ({
    format: name.endsWith('.dxf') ? 'dxf' : 'svg',
    text: readFileSync(path(`../demo/artwork/${name}`), 'utf8'),
  }));
  const svg = (inside, more = '') => ({
    format: 'svg',
    text: `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="100mm" height="80mm" viewBox="0 0 100 80" ${more}>${inside}</svg>`,
  });
  const many = (count, make) => Array.from({ length: count }, (_, i) => make(i)).join('');
  const at = () => `${(random() * 100).toFixed(2)} ${(random() * 80).toFixed(2)}`;
  const dxf = (entities, blocks = '') => ({
    format: 'dxf',
    text: `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nBLOCKS\n${blocks}0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`,
  });
  const KINDS = [
    () => svg(`<path d="M${many(200 + whole(20000), at)}Z" fill="${pick(['red', 'none'])}" stroke="black" stroke-width="${figure()}"/>`),
    () => svg(`<style>${pick(['a{', '/*', '.a{fill:red', 'a'.repeat(1 + whole(200000)), '@media{'.repeat(1 + whole(2000)), '}'.repeat(whole(9000))])}</style><rect class="a" width="9" height="9"/>`),
    () => svg(`<rect width="9" height="9" transform="${pick(['aaa', 'rotate(', 'matrix(1 2', 'scale(1e300)', 'skewX(90)', 'translate(1,2)']).repeat(1 + whole(60000))}"/>`),
    () => svg(`${'<g clip-path="url(#c)">'.repeat(whole(250))}<rect width="50" height="50"/>${'</g>'.repeat(whole(250))}<clipPath id="c"><circle r="${figure()}"/></clipPath>`),
    () => svg(many(1 + whole(3000), () => `<line x1="${whole(100)}" y1="0" x2="${whole(100)}" y2="80" stroke="black" stroke-width="${random().toFixed(2)}"/>`)),
    () => svg(many(1 + whole(6), () => `<circle cx="${figure()}" cy="${figure()}" r="${figure()}" fill="blue"/>`)),
    () => svg(`<g id="g0"><rect width="1" height="1"/></g>${many(2 + whole(30), (i) => `<g id="g${i + 1}">${`<use xlink:href="#g${i}"/>`.repeat(1 + whole(12))}</g>`)}`),
    () => svg(`<use xlink:href="#a"/><g id="a"><use href="#a"/></g>`),
    () => svg(`<polygon points="${many(whole(5000), at)}" stroke-dasharray="${figure()} ${figure()}" stroke="black" stroke-linejoin="${pick(['round', 'miter'])}" stroke-width="${pick([0.001, 3, 90])}"/>`),
    () => svg(`<path d="${pick(['M', 'm', 'C', 'A', 'Q', 'z', 'H1', 'M1 2L', 'M0 0A1 1 0 0 0 1e9 1'])}${many(whole(400), () => pick(['M', 'L', 'C', 'A', 'z', ' ', ',', '-', '1e9', '.', '0', '7']))}"/>`),
    () => dxf(many(1 + whole(400), () => `0\n${pick(['LINE', 'CIRCLE', 'ARC', 'LWPOLYLINE', 'SPLINE', 'ELLIPSE', 'INSERT', 'HATCH', 'TEXT'])}\n8\n0\n${many(whole(14), () => `${pick([2, 10, 11, 20, 21, 40, 41, 42, 43, 50, 51, 62, 70, 71, 90])}\n${figure()}\n`)}`)),
    () => dxf(`0\nINSERT\n2\nB\n10\n0\n20\n0\n70\n${1 + whole(30000)}\n71\n${1 + whole(30000)}\n44\n1\n45\n1\n`, `0\nBLOCK\n2\nB\n10\n0\n20\n0\n${random() < 0.5 ? '' : '0\nCIRCLE\n10\n0\n20\n0\n40\n1\n'}0\nENDBLK\n`),
    // The demo's drawings with something changed, left out or doubled.
    () => {
      const { format, text } = pick(demo);
      let out = text;
      for (let n = 1 + whole(6); n > 0; n--) {
        const from = whole(out.length);
        const to = Math.min(out.length, from + whole(60));
        const what = whole(4);
        out = what === 0 ? out.slice(0, from) + out.slice(to) : what === 1 ? out.slice(0, to) + out.slice(from) : what === 2 ? out.slice(0, from) + String.fromCharCode(32 + whole(200)) + out.slice(from + 1) : out.replace(/\d+(\.\d+)?/u, String(figure()));
      }
      return { format, text: out };
    },
  ]; // prettier-ignore

  const times = [];
  const counts = new Map();
  const wrong = [];
  let worker;
  for (let i = 0; i < Number(values.files); i++) {
    const file = KINDS[i % KINDS.length]();
    worker ??= new Worker(path('hostile-artwork.mjs'), { resourceLimits: { maxOldGenerationSizeMb: MOST_MB } });
    const answer = await new Promise((done) => {
      const finish = (what) => {
        clearTimeout(timer);
        worker.off('message', finish).off('error', died);
        done(what);
      };
      const died = (error) => finish({ told: `died: ${error.message}`, ms: 0, isGone: true });
      const timer = setTimeout(() => finish({ told: `longer than ${MOST_MS} ms`, ms: MOST_MS, isGone: true }), MOST_MS + 1000);
      worker.on('message', finish).on('error', died);
      worker.postMessage(file);
    });
    times.push(answer.ms);
    counts.set(answer.told, (counts.get(answer.told) ?? 0) + 1);
    if ((answer.told !== 'read' && answer.told !== 'refused') || answer.ms > MOST_MS)
      wrong.push(`file ${i} (kind ${i % KINDS.length}): ${answer.told}, ${answer.ms.toFixed(0)} ms`);
    if (answer.isGone) {
      await worker.terminate();
      worker = undefined;
    }
  }
  console.log(
    `${values.files} drawings: ${[...counts].map(([told, count]) => `${count} ${told}`).join(', ')}; median ${percentile(times, 0.5).toFixed(0)} ms, 95 % within ${percentile(times, 0.95).toFixed(0)} ms, the longest ${Math.max(...times).toFixed(0)} ms`,
  );
  for (const line of wrong.slice(0, 20)) console.log(line);
  process.exit(wrong.length > 0 ? 1 : 0);
}
