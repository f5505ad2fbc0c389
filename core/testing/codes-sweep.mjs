// Codes of five kinds, a thousand with --all, a hundred else, made as parts of signs and read back by another library (@zxing/library): from the
// plan's outlines, and raised by 1 mm, black on white, lit from the upper left at 300 dots per inch. A reader tries again from another distance and with the camera turned, as
// people do: this one misses one clean picture in some hundred at any of them. Plain Node.js: a test runner's sandbox makes it ten times slower.
// Prints one line of JSON.
import zxing from '@zxing/library';
import { symbologyOf, SYMBOLOGIES } from '@plain-relief/core/codes';
import { reliefPicture } from '@plain-relief/core/picture';
import { Evaluator } from '@plain-relief/core/relief';
import { FINISHES, newShape, newSign, newTier } from '@plain-relief/core/sign';
import { coloured, solidOf } from '@plain-relief/core/solid';
import { FontBook } from '@plain-relief/core/type';

const { BarcodeFormat, BinaryBitmap, DecodeHintType, HybridBinarizer, MultiFormatReader, RGBLuminanceSource } = zxing;
const FORMATS = { qr: 'QR_CODE', 'data-matrix': 'DATA_MATRIX', 'code-128': 'CODE_128', 'ean-13': 'EAN_13', 'upc-a': 'UPC_A' };
const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789 -./:$%+';
/** Pixels of a module at the distances from which it is read. */
const DISTANCES = [4, 3, 2, 6, 5, 8];
const DOTS = 300 / 25.4;

const isAll = process.argv.includes('--all');
const count = isAll ? 1000 : 100;
let seed = 17;
const between = (from, to) => from + ((seed = (seed * 16807) % 2147483647) % (to - from + 1));
// It writes of every try that fails.
console.warn = () => {};
console.error = () => {};

function wordsFor(id) {
  if (id === 'ean-13' || id === 'upc-a') return Array.from({ length: id === 'ean-13' ? 12 : 11 }, () => between(0, 9)).join('');
  const letters = Array.from({ length: between(1, 40) }, () => LETTERS[between(0, LETTERS.length - 1)]);
  if (id === 'qr' && between(0, 2) === 0) letters.push(['é', 'Ä', '中', '–', '🙂', '^'][between(0, 5)]);
  return `T${letters.join('').trim()}`;
}

/** What is read of a grey picture; undefined where nothing is. */
function read(grey, width, height, id) {
  const reader = new MultiFormatReader();
  reader.setHints(new Map([[DecodeHintType.POSSIBLE_FORMATS, [BarcodeFormat[FORMATS[id]]]], [DecodeHintType.TRY_HARDER, true]])); // prettier-ignore
  try {
    const said = reader.decode(new BinaryBitmap(new HybridBinarizer(new RGBLuminanceSource(grey, width, height)))).getText();
    // The same bars are a UPC-A where the first figure is 0.
    return id === 'ean-13' && said.length === 12 ? `0${said}` : said;
  } catch {
    return undefined;
  }
}

/** Rings filled dark, in a box of mm. */
function drawn(rings, wide, high, scale) {
  const [width, height] = [wide, high].map((mm) => Math.ceil(mm * scale));
  const grey = new Uint8ClampedArray(width * height).fill(255);
  for (let row = 0; row < height; row++) {
    const y = high / 2 - (row + 0.5) / scale;
    const crossings = [];
    for (const ring of rings)
      for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
        if (ring[i + 1] > y !== ring[j + 1] > y)
          crossings.push(ring[i] + ((y - ring[i + 1]) / (ring[j + 1] - ring[i + 1])) * (ring[j] - ring[i]));
    crossings.sort((a, b) => a - b);
    for (let i = 0; i + 1 < crossings.length; i += 2) {
      const [from, to] = [crossings[i], crossings[i + 1]].map((x) => Math.round((x + wide / 2) * scale));
      grey.fill(0, row * width + from, row * width + to);
    }
  }
  return { grey, width, height };
}

/** A picture made smaller by a whole number. */
function reduced({ rgba, width, height }, by) {
  const [w, h] = [Math.floor(width / by), Math.floor(height / by)];
  const grey = new Uint8ClampedArray(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      let sum = 0;
      for (let dy = 0; dy < by; dy++)
        for (let dx = 0; dx < by; dx++) {
          const at = 4 * ((y * by + dy) * width + x * by + dx);
          sum += 0.299 * rgba[at] + 0.587 * rgba[at + 1] + 0.114 * rgba[at + 2];
        }
      grey[y * w + x] = sum / (by * by);
    }
  return { grey, width: w, height: h };
}

/** A picture turned by a quarter. */
function turned({ grey, width, height }) {
  const out = new Uint8ClampedArray(grey.length);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) out[x * height + height - 1 - y] = grey[y * width + x];
  return { grey: out, width: height, height: width };
}

const evaluator = new Evaluator(new FontBook([], () => Promise.reject(new Error('no fonts are needed'))));
const result = { tried: 0, plan: 0, lit: 0, litTried: 0, faults: [] };
for (let i = 0; i < count; i++) {
  const { id, isLinear, quiet } = SYMBOLOGIES[i % SYMBOLOGIES.length];
  const words = wordsFor(id);
  const sign = newSign('Sweep', 'mm');
  sign.finishes = FINISHES.filter((each) => ['black', 'white'].includes(each.id));
  const part = newShape(sign, 'code');
  // Raised by half a module or less they do not shade each other: see docs/checks.md.
  const module = between(20, 30) / 10;
  part.shape = { kind: 'code', symbology: id, words, module, ...(isLinear && { height: 12 }), ...(id === 'qr' && { correction: 'LMQH'[between(0, 3)] }) }; // prettier-ignore
  part.tiers = [{ ...newTier('tier-1', { kind: 'raise', by: 1 }), finish: { top: 'black', sides: 'black' } }];
  sign.parts.push(part);
  const [plan] = evaluator.evaluateLoaded(sign).parts;
  const [wide, high] = [plan.ink.maxX - plan.ink.minX, plan.ink.maxY - plan.ink.minY].map((mm, k) => mm + 2 * module * Math.max(quiet.along, k === 0 ? quiet.before : 2)); // prettier-ignore
  const wanted = symbologyOf(id) && (id === 'ean-13' || id === 'upc-a') ? undefined : words;
  const isSaid = (said) => (wanted === undefined ? said?.slice(0, -1) === words : said === wanted);
  result.tried++;
  const isRead = DISTANCES.some((pixels) => {
    const near = drawn(plan.area.contours, wide, high, pixels / module);
    return [near, turned(near)].some(({ grey, width, height }) => isSaid(read(grey, width, height, id)));
  });
  if (isRead) result.plan++;
  else result.faults.push(`plan ${id} ${words}`);
  if (!isAll && i % 7 > 0) continue;
  result.litTried++;
  sign.blank = { ...sign.blank, outline: { kind: 'rectangle', width: wide, height: high, cornerRadius: 0 }, thickness: 3, finish: { face: 'white' } }; // prettier-ignore
  const evaluation = evaluator.evaluateLoaded(sign);
  const picture = reliefPicture(coloured(evaluation, solidOf(evaluation)), Math.round(wide * DOTS), Math.round(high * DOTS));
  const isSeen = [2, 3, 4, 5, 6, 8].some((by) => {
    const near = reduced(picture, by);
    return [near, turned(near)].some(({ grey, width, height }) => isSaid(read(grey, width, height, id)));
  });
  if (isSeen) result.lit++;
  else result.faults.push(`lit ${id} ${words} ${module}`);
}
console.log(JSON.stringify(result));
