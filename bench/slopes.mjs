// Slopes against upright edges on the same letters in the same run. Runs the built core in plain Node.js.
import { readFileSync } from 'node:fs';
import { Evaluator } from '@plain-relief/core/relief';
import { newSign, newText, newTier } from '@plain-relief/core/sign';
import { solidOf } from '@plain-relief/core/solid';
import { FontBook } from '@plain-relief/core/type';

const FONTS = new URL('../fonts/', import.meta.url);
const catalogue = JSON.parse(readFileSync(new URL('catalogue.json', FONTS), 'utf8'));
const book = new FontBook(catalogue, async ({ file }) => new Uint8Array(readFileSync(new URL(file, FONTS))));
await book.need(['barlow-semibold']);

const ROW = 'ABCDEGQRSaegbdkymwot';

/** A plate with 440 letters, in rows of twenty. */
function plateOf(action, edge) {
  const sign = newSign('Bench', 'mm');
  sign.blank.outline = { kind: 'rectangle', width: 260, height: 22 * 13 + 20, cornerRadius: 5 };
  sign.parts.push({
    ...newText(sign, 'barlow-semibold'),
    size: { kind: 'capitals', height: 8, stretch: 100 },
    words: Array(22).fill(ROW).join('\n'),
    tiers: [{ ...newTier('tier-1', action), ...(edge ? { edge } : {}) }],
  });
  return sign;
}

const raise = { kind: 'raise', by: 2 };
const signs = {
  upright: plateOf(raise),
  'sloped 10°': plateOf(raise, { kind: 'sloped', angle: 10, sized: 'foot' }),
  'vee 60°': plateOf({ kind: 'carve', by: 2 }, { kind: 'ridged', angle: 60, capped: false }),
  'rounded 0.5 mm': plateOf(raise, { kind: 'rounded', radius: 0.5 }),
};
const times = Object.fromEntries(Object.keys(signs).map((name) => [name, []]));
// In turn, so that a slow spell of the machine falls on all of them; nothing is remembered from one to the next.
for (let round = -2; round < 7; round++)
  for (const [name, sign] of Object.entries(signs)) {
    const began = performance.now();
    solidOf(new Evaluator(book).evaluateLoaded(sign));
    if (round >= 0) times[name].push(performance.now() - began);
  }
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const upright = median(times.upright);
console.log(
  `440 letters from words to mesh: ${Object.entries(times)
    .map(([name, list]) => `${name} ${median(list).toFixed(0)} ms (×${(median(list) / upright).toFixed(2)})`)
    .join(', ')}`,
);
