// The computation against a general geometry library, and its growth with the number of letters. Runs the built core in
// plain Node.js: a test runner's sandbox makes JavaScript, but not WebAssembly, ten times slower.
import { readFileSync } from 'node:fs';
import { Evaluator } from '@plain-relief/core/relief';
import { newSign, newText } from '@plain-relief/core/sign';
import { solidOf } from '@plain-relief/core/solid';
import { volume } from '@plain-relief/core/mesh';
import { FontBook } from '@plain-relief/core/type';
import ManifoldModule from 'manifold-3d';

const FONTS = new URL('../fonts/', import.meta.url);
const catalogue = JSON.parse(readFileSync(new URL('catalogue.json', FONTS), 'utf8'));
const book = new FontBook(catalogue, async ({ file }) => new Uint8Array(readFileSync(new URL(file, FONTS))));
await book.need(['barlow-semibold']);
const m = await ManifoldModule();
m.setup();

/** Set over and over: capitals and small letters, with counters and without. */
const ROW = 'ABCDEGQRSaegbdkymwot';

/** A plate with about n letters raised 2 mm on it, in rows of twenty. */
function plateOf(letters) {
  const sign = newSign('Bench', 'mm');
  const rows = Math.ceil(letters / ROW.length);
  sign.blank.outline = { kind: 'rectangle', width: 260, height: rows * 13 + 20, cornerRadius: 5 };
  sign.parts.push({
    ...newText(sign, 'barlow-semibold'),
    size: { kind: 'capitals', height: 8, stretch: 100 },
    words: Array(rows).fill(ROW).join('\n'),
  });
  return sign;
}

/** Median of milliseconds over runs, after some that do not count. */
function median(runs, work, warm = 3) {
  const times = [];
  for (let i = -warm; i < runs; i++) {
    const began = performance.now();
    work();
    if (i >= 0) times.push(performance.now() - began);
  }
  return times.sort((a, b) => a - b)[Math.floor(times.length / 2)];
}

const pointsOf = (contour) => Array.from({ length: contour.length / 2 }, (_, i) => [contour[2 * i], contour[2 * i + 1]]);

const sign = plateOf(440);
const evaluation = new Evaluator(book).evaluateLoaded(sign);
let [ours, theirs] = [0, 0];
// Nothing remembered: words to closed mesh.
const whole = median(11, () => (ours = volume(solidOf(new Evaluator(book).evaluateLoaded(sign)))));
const solidOnly = median(11, () => solidOf(evaluation));
const general = median(
  3,
  () => {
    const plate = new m.CrossSection([pointsOf(evaluation.blank)]).extrude(12).translate(0, 0, -12);
    const letters = new m.CrossSection(evaluation.parts[0].area.contours.map(pointsOf), 'NonZero')
      .decompose()
      .map((letter) => letter.extrude(14).translate(0, 0, -12));
    const solid = m.Manifold.union([plate, ...letters]);
    theirs = solid.volume();
    for (const made of [plate, ...letters, solid]) made.delete();
  },
  1,
);
console.log(
  `solid of 440 letters: from words to mesh ${whole.toFixed(0)} ms (the mesh alone ${solidOnly.toFixed(0)} ms), ` +
    `by 3D booleans ${general.toFixed(0)} ms: ${(general / whole).toFixed(1)} times faster (volumes differ by ${Math.abs(ours / theirs - 1).toExponential(0)})`,
);

// In turn, so that a slow spell of the machine falls on all of them.
const sizes = [100, 400, 1600];
const signs = sizes.map(plateOf);
const rounds = sizes.map(() => []);
for (let round = 0; round < 9; round++)
  signs.forEach((each, i) =>
    rounds[i].push(median(round === 0 ? 3 : 1, () => new Evaluator(book).evaluateLoaded(each), round === 0 ? 3 : 0)),
  );
const perLetter = rounds.map((times, i) => (1000 * times.sort((a, b) => a - b)[4]) / sizes[i]);
console.log(
  `evaluation a letter: ${sizes.map((n, i) => `${n} letters ${perLetter[i].toFixed(0)} µs`).join(', ')}: growth from 100 to 1600 ×${(perLetter[2] / perLetter[0]).toFixed(2)}`,
);
