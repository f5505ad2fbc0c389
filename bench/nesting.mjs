// Measures how closely letters are laid by their true shapes, against their boxes in the same run.
// Run with: node bench/nesting.mjs [capitals|words] [LETTERS] [EFFORT ...]
import { fileURLToPath } from 'node:url';
import { polygonsOf } from '../core/dist/geometry/index.js';
import { nested, packed } from '../core/dist/nesting/index.js';
import { Evaluator } from '../core/dist/relief/index.js';
import { fontsOf, newSign, newText } from '../core/dist/sign/index.js';
import { openFontBook } from '../server/dist/modules/fonts/font-files.js';

const SETS = {
  capitals: { fonts: ['barlow-semibold', 'lora-bold', 'cinzel-bold', 'archivo-narrow-semibold'], words: 'ABCDEGHKLMNORST' },
  // As they stand on signs: a capital, small letters with and without ascenders.
  words: {
    fonts: ['barlow-semibold', 'lora-bold', 'eb-garamond-semibold', 'dancing-script-semibold'],
    words: 'FernholwAbtumVky',
  },
};
const HEIGHT = 40;
const asked = process.argv.slice(2);
const set = SETS[asked[0]] ? asked.shift() : 'capitals';
const { fonts: FONTS, words: WORDS } = SETS[set];
const count = Number(asked[0] ?? 60);
const efforts = asked.length > 1 ? asked.slice(1).map(Number) : [30_000, 150_000];

const book = openFontBook(fileURLToPath(new URL('../fonts', import.meta.url)));
const letters = [];
for (const font of FONTS) {
  const sign = newSign('Letters', 'mm');
  const document = { ...sign, parts: [{ ...newText(sign, font), words: WORDS }] };
  await book.need(fontsOf(document));
  const { area } = new Evaluator(book).evaluateLoaded(document).parts[0];
  const own = polygonsOf(area.contours).map(({ outer, holes }) => [outer, ...holes]);
  const tallest = Math.max(...own.map(([ring]) => boxOf(ring).height));
  for (const outline of own) letters.push(outline.map((ring) => ring.map((value) => (value * HEIGHT) / tallest)));
}

function boxOf(ring) {
  const [xs, ys] = [0, 1].map((from) => [...ring].filter((_, i) => i % 2 === from));
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
}

const outlines = Array.from({ length: count }, (_, i) => letters[Math.floor((i * letters.length) / count) % letters.length]);
const boxes = outlines.map(([ring]) => {
  const { x, y, width, height } = boxOf(ring);
  return [Float64Array.of(x, y, x + width, y, x + width, y + height, x, y + height)];
});
const choice = {
  sheet: { width: 400, height: 1500 },
  spacing: 2,
  margin: 5,
  turns: [0, 90, 180, 270],
  keepsOrder: false,
  tries: 8,
};
const byBoxes = packed(boxes, choice).lastMm;
console.log(
  `${set}: ${count} letters of ${HEIGHT} mm, 2 mm apart, on a strip of 400 mm: their boxes up to ${byBoxes.toFixed(1)} mm`,
);
const anyhow = Array.from({ length: 72 }, (_, i) => 5 * i);
for (const [name, turns, effort] of [
  ['as laid first', choice.turns, 0],
  ...efforts.flatMap((effort) => [
    ['quarter turns', choice.turns, effort],
    ['any turns', anyhow, effort],
  ]),
]) {
  // prettier-ignore
  const began = performance.now();
  const { lastMm } = nested(outlines, { ...choice, turns, effort });
  const seconds = (performance.now() - began) / 1000;
  console.log(
    `true shapes, ${name}, effort ${effort}: ${lastMm.toFixed(1)} mm, ${(byBoxes / lastMm).toFixed(3)} times the yield, ${seconds.toFixed(1)} s`,
  );
}
