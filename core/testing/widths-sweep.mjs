// How wide strokes and gaps are measured to be, against sampled discs, on the letters A to Z of every shipped font at three sizes: a pixel
// belongs to the opening by a disc where a middle of one is near enough that lies far enough from the edge (exact distances between pixels,
// P. Felzenszwalb and D. Huttenlocher, Distance Transforms of Sampled Functions, 2012). With --all every pair of letters of every font is
// looked at in every size and width; else a quarter of them, each in one, so that over the fonts each meets each. Runs the built core in plain Node.js:
// a test runner's sandbox makes JavaScript ten times slower. Prints one line of JSON.
import { readFileSync } from 'node:fs';
import { bounds, reversed } from '@plain-relief/core/geometry';
import { Evaluator } from '@plain-relief/core/relief';
import { newSign, newText, newTier } from '@plain-relief/core/sign';
import { FontBook } from '@plain-relief/core/type';
import { union } from '../dist/arrangement/index.js';
import { Widths } from '../dist/medial-axis/index.js';

const FONTS = new URL('../../fonts/', import.meta.url);
const catalogue = JSON.parse(readFileSync(new URL('catalogue.json', FONTS), 'utf8'));
const book = new FontBook(catalogue, async ({ file }) => new Uint8Array(readFileSync(new URL(file, FONTS))));
const fonts = catalogue.filter(({ kind }) => kind === 'outline');
await book.need(fonts.map(({ id }) => id));

const PAIRS = ['AB', 'CD', 'EF', 'GH', 'IJ', 'KL', 'MN', 'OP', 'QR', 'ST', 'UV', 'WX', 'YZ'];
/** mm of the capitals, and widths in shares of them. */
const SIZES = [2, 4, 9];
const WIDTHS = [0.07, 0.13, 0.22];
/** mm between samples, by which a radius may be off, and by which a place may be off aside. */
const STEP = 0.02;
const OFF = 0.01;
const ASIDE = 0.03;
const FAR = 1e5;

/** Squares of distances in samples to the nearest one that is set: along columns by counting, along rows as the lower envelope of parabolas. */
function squares(set, columns, rows) {
  const out = new Float64Array(columns * rows);
  for (let i = 0; i < out.length; i++) out[i] = set[i] ? 0 : i < columns ? FAR : out[i - columns] + 1;
  for (let i = out.length - 1 - columns; i >= 0; i--) if (out[i] > out[i + columns] + 1) out[i] = out[i + columns] + 1;
  for (let i = 0; i < out.length; i++) out[i] *= out[i];
  const [line, at, from] = [new Float64Array(columns), new Int32Array(columns), new Float64Array(columns + 1)];
  for (let row = 0; row < rows; row++) {
    line.set(out.subarray(row * columns, (row + 1) * columns));
    let k = 0;
    at[0] = 0;
    from[0] = -Infinity;
    for (let q = 1; q < columns; q++) {
      const meets = () => (line[q] + q * q - line[at[k]] - at[k] * at[k]) / (2 * (q - at[k]));
      let s = meets();
      while (s <= from[k]) {
        k--;
        s = meets();
      }
      at[++k] = q;
      from[k] = s;
    }
    from[k + 1] = Infinity;
    k = 0;
    for (let q = 0; q < columns; q++) {
      while (from[k + 1] < q) k++;
      out[row * columns + q] = (q - at[k]) ** 2 + line[at[k]];
    }
  }
  return out;
}

/** Which samples lie inside of rings, by where lines across cross them. */
function filled(rings, { x: left, y: low, columns, rows }) {
  const set = new Uint8Array(columns * rows);
  const crossings = Array.from({ length: rows }, () => []);
  for (const ring of rings)
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const [x1, y1, x2, y2] = [ring[j], ring[j + 1], ring[i], ring[i + 1]];
      const [bottom, top] = [Math.min(y1, y2), Math.max(y1, y2)];
      for (let row = Math.max(0, Math.ceil((bottom - low) / STEP)); row < rows && low + row * STEP < top; row++)
        crossings[row].push([x1 + ((x2 - x1) * (low + row * STEP - y1)) / (y2 - y1), Math.sign(y2 - y1)]);
    }
  crossings.forEach((line, row) => {
    line.sort(([a], [b]) => a - b);
    let winding = 0;
    line.forEach(([x, turn], i) => {
      winding += turn;
      if (winding === 0 || i + 1 === line.length) return;
      const to = Math.min(columns - 1, Math.floor((line[i + 1][0] - left) / STEP));
      for (let column = Math.max(0, Math.ceil((x - left) / STEP)); column <= to; column++) set[row * columns + column] = 1;
    });
  });
  return set;
}

/** Which samples clearly do not belong to the opening by a disc of a radius, with so much to spare. */
function outsideOpening(distances, radius, spare, { columns, rows }) {
  const middles = new Uint8Array(distances.length);
  for (let i = 0; i < middles.length; i++) middles[i] = distances[i] >= (radius / STEP) ** 2 ? 1 : 0;
  const away = squares(middles, columns, rows);
  const out = new Uint8Array(distances.length);
  for (let i = 0; i < out.length; i++) out[i] = away[i] > ((radius + spare) / STEP) ** 2 ? 1 : 0;
  return out;
}

const turned = (set) => Uint8Array.from(set, (is) => 1 - is);
const result = { tried: 0, missed: 0, invented: 0, where: '' };

/** Compares what is told of an outline with what discs find: mm² that one has and the other clearly not. */
function compare(outline, width, name) {
  const box = bounds(outline);
  const columns = Math.ceil((box.maxX - box.minX) / STEP) + 7;
  const rows = Math.ceil((box.maxY - box.minY) / STEP) + 7;
  // Beside the grid of outlines, so that no sample lies on a corner.
  const grid = { x: box.minX - 3.0037 * STEP, y: box.minY - 3.0037 * STEP, columns, rows };
  const inside = filled(outline, grid);
  const distances = squares(turned(inside), columns, rows);
  const told = filled(new Widths(outline, width, 0).narrowerThan(width), grid);
  // Between a sample inside and one outside is the edge: how far it is lies between this distance and one step less.
  const surely = outsideOpening(distances, width / 2 - OFF, ASIDE, grid);
  const perhaps = outsideOpening(distances, width / 2 + OFF + STEP, -ASIDE - STEP, grid);
  /** Whether a sample and all around it are as asked. */
  const allAround = (i, isSo) => [-1, 0, 1].every((dy) => [-1, 0, 1].every((dx) => isSo(i + dy * columns + dx)));
  let [missed, invented] = [0, 0];
  for (let i = columns + 1; i < inside.length - columns - 1; i++) {
    if (surely[i] && !told[i] && allAround(i, (k) => inside[k] && !told[k])) missed += STEP * STEP;
    if (told[i] && !perhaps[i] && allAround(i, (k) => told[k])) invented += STEP * STEP;
  }
  result.tried++;
  for (const [kind, value] of Object.entries({ missed, invented }))
    if (value > result[kind]) {
      result[kind] = value;
      result.where += ` ${kind} ${value.toFixed(4)} ${name};`;
    }
}

const isAll = process.argv.includes('--all');
for (const [f, { id }] of fonts.entries())
  for (const [p, pair] of PAIRS.entries())
    for (const [s, size] of SIZES.entries())
      for (const [w, share] of WIDTHS.entries()) {
        if (
          !isAll &&
          ((p + f) % 4 > 0 || (p + f) % SIZES.length !== s || (Math.floor((p + f) / SIZES.length) + f) % WIDTHS.length !== w)
        )
          continue;
        const sign = newSign('Sweep', 'mm');
        sign.blank = { outline: { kind: 'rectangle', width: 200, height: 60, cornerRadius: 0 }, thickness: 6, material: '' };
        sign.parts.push({
          ...newText(sign, id),
          words: pair,
          size: { kind: 'capitals', height: size, stretch: 100 },
          tiers: [newTier('tier-1', { kind: 'raise', by: 1 })],
        });
        const contours = union(new Evaluator(book).evaluateLoaded(sign).parts[0].area.contours);
        const box = bounds(contours);
        const around = 1.2 * share * size;
        const [x, y, x2, y2] = [box.minX - around, box.minY - around, box.maxX + around, box.maxY + around];
        const name = `${pair} ${size} mm ${id}, ${(share * size).toFixed(2)} mm`;
        compare(contours, share * size, name);
        compare([Float64Array.of(x, y, x2, y, x2, y2, x, y2), ...contours.map(reversed)], share * size, `beside ${name}`);
      }
console.log(JSON.stringify(result));
