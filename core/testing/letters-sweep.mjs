// The solid of every shipped font's letters against the relief function by brute force, in every edge form. With --all every
// letter of every font is made in every form; else each letter of a font in one of them, so that over the fonts each meets each. Runs the built core
// in plain Node.js: a test runner's sandbox makes JavaScript ten times slower. Prints one line of JSON.
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Evaluator } from '@plain-relief/core/relief';
import { newSign, newText, newTier } from '@plain-relief/core/sign';
import { isWatertight } from '@plain-relief/core/mesh';
import { solidOf } from '@plain-relief/core/solid';
import { FontBook } from '@plain-relief/core/type';
import { buildSync } from 'esbuild';
import { exactRise } from '../dist/relief/profile/edge-form.js';

/** The definition by brute force is shared with the other tests, which are TypeScript. */
async function heights() {
  const file = new URL('../dist/testing/heights.mjs', import.meta.url);
  buildSync({
    entryPoints: [fileURLToPath(new URL('heights.ts', import.meta.url))],
    outfile: fileURLToPath(file),
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    logLevel: 'error',
  });
  return import(file.href);
}

const { Definition, Tops } = await heights();
const FONTS = new URL('../../fonts/', import.meta.url);
const catalogue = JSON.parse(readFileSync(new URL('catalogue.json', FONTS), 'utf8'));
const book = new FontBook(catalogue, async ({ file }) => new Uint8Array(readFileSync(new URL(file, FONTS))));
const fonts = catalogue.filter(({ kind }) => kind === 'outline');
await book.need(fonts.map(({ id }) => id));

const CHARACTERS = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789&'];
const FORMS = {
  upright: undefined,
  sloped: { kind: 'sloped', angle: 10, sized: 'foot' },
  ridged: { kind: 'ridged', angle: 90, capped: false },
  capped: { kind: 'ridged', angle: 60, capped: true },
  chamfered: { kind: 'chamfered', width: 0.4, height: 0.6 },
  rounded: { kind: 'rounded', radius: 0.6 },
  cove: { kind: 'cove', radius: 0.5 },
};
const AMOUNT = 1.5;
/** mm by which a place may be read aside: what a chord of a round form may stray, and the grid. */
const ASIDE = 0.01;
const PLACES_A_FONT = 750;

const isAll = process.argv.includes('--all');
const results = {};
for (const [turn, [name, form]] of Object.entries(FORMS).entries()) {
  const result = { tried: 0, worst: 0, open: 0, where: '' };
  for (const [f, { id }] of fonts.entries()) {
    const sinks = f % 2 === 1;
    // Sloped inwards, both: what leans outwards is not measured from the layer's own edge, and is judged by the oracle.
    const edge = form?.kind === 'sloped' && sinks ? { ...form, sized: 'top' } : form;
    const sign = newSign('Sweep', 'mm');
    sign.blank = { outline: { kind: 'rectangle', width: 300, height: 60, cornerRadius: 0 }, thickness: 6, material: '' };
    const chosen = CHARACTERS.filter((_, c) => isAll || (c + f) % Object.keys(FORMS).length === turn);
    const words = [0, 21, 42]
      .map((from) => chosen.slice(from, from + 21).join(' '))
      .join('\n')
      .trim();
    sign.parts.push({
      ...newText(sign, id),
      words,
      size: { kind: 'capitals', height: 9, stretch: 100 },
      tiers: [{ ...newTier('tier-1', { kind: sinks ? 'carve' : 'raise', by: AMOUNT }), ...(edge ? { edge } : {}) }],
    });
    const evaluation = new Evaluator(book).evaluateLoaded(sign);
    const mesh = solidOf(evaluation);
    if (!isWatertight(mesh)) result.open++;
    const definition = new Definition(evaluation, (_, d) => (sinks ? -1 : 1) * exactRise(edge, AMOUNT, d));
    const tops = new Tops(mesh);
    const { contours } = evaluation.parts[0].area;
    for (let i = 1; i <= PLACES_A_FONT; i++) {
      // Beside points of the letters' own outlines, where something is to be seen.
      const ring = contours[(i * 31) % contours.length];
      const at = 2 * ((i * 7) % (ring.length / 2));
      const [x, y] = [ring[at] + 1.6 * (((i * 0.618) % 1) - 0.5), ring[at + 1] + 1.6 * (((i * 0.755) % 1) - 0.5)];
      const right = definition.at(x, y, ASIDE);
      if (!right) continue;
      const z = tops.at(x, y) ?? NaN;
      const error = Math.max(right.least - z, z - right.most, 0);
      result.tried++;
      if (!(error <= result.worst)) Object.assign(result, { worst: error, where: `${id} at ${x.toFixed(3)}, ${y.toFixed(3)}` });
    }
  }
  results[name] = result;
}
console.log(JSON.stringify(results));
