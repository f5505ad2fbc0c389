import { readFileSync } from 'node:fs';
import { notesOf } from '../src/checks/index.js';
import { bounds } from '../src/geometry/index.js';
import { applyRemedy, basinsOf, type Finding, HINTS, inspect, remediesOf, USUAL_LIMITS } from '../src/inspection/index.js';
import { type Evaluation, Evaluator } from '../src/relief/index.js';
import { readSign, type Sign } from '../src/sign/index.js';
import { solidOf } from '../src/solid/index.js';
import { FontBook, type FontEntry } from '../src/type/index.js';
import { Oracle } from './oracle.js';
import { referee } from './referee.js';
import { generatedSign } from './sign-generator.js';

/*
 * Remedies and water on signs from seeds: after a remedy its finding is gone, no other is new or worse, nothing more is noted, the document
 * is one and was not touched before; and water stands where the oracle's heights, flooded on a raster, hold it. Prints JSON.
 */
const [, , fonts, range] = process.argv;
const [from, to] = range.split('..').map(Number);
const catalogue = JSON.parse(readFileSync(`${fonts}/catalogue.json`, 'utf8')) as FontEntry[];
const book = new FontBook(catalogue, ({ file }) => Promise.resolve(new Uint8Array(readFileSync(`${fonts}/${file}`))));
await book.need(catalogue.map(({ id }) => id));
const m = await referee();

const LIMITS = { ...USUAL_LIMITS, tool: 1, distance: 1, shrinkage: 1.5, density: 2700, sheets: [{ width: 1200, height: 900, thickness: 10 }] }; // prettier-ignore
const key = ({ check, part, about, others }: Finding): string => JSON.stringify([check, part, about, others]);
const excess = ({ measured, limit }: Finding): number => Math.abs(measured - limit);
const errors = (evaluation: Evaluation): number => notesOf(evaluation).filter(({ weight }) => weight === 'error').length;
const faults: string[] = [];
let [tried, findings, basins] = [0, 0, 0];

function remedies(seed: number, sign: Sign): void {
  const evaluator = new Evaluator(book);
  const evaluation = evaluator.evaluateLoaded(sign);
  const before = JSON.stringify(sign);
  const found = inspect(evaluation, LIMITS);
  const worst = new Map(found.map((each) => [key(each), excess(each)]));
  findings += found.length;
  for (const finding of found) {
    for (const remedy of remediesOf(finding, evaluation, evaluator, LIMITS)) {
      tried++;
      const say = (what: string): number => faults.push(`${seed}, ${remedy.label}: ${what}`);
      if (JSON.stringify(sign) !== before) say('the sign was touched by trying it');
      const next = structuredClone(sign);
      applyRemedy(next, remedy);
      const read = readSign(JSON.parse(JSON.stringify(next)), catalogue);
      // By an evaluator that remembers nothing.
      const after = new Evaluator(book).evaluateLoaded(read);
      for (const each of inspect(after, LIMITS)) {
        if (key(each) === key(finding)) say(`${finding.check} is still there`);
        else if (!HINTS.has(each.check) && excess(each) > (worst.get(key(each)) ?? -1) + 2e-3)
          say(`${each.check} is new or worse`);
      }
      if (errors(after) > errors(evaluation)) say('more is noted');
    }
  }
}

/** mm between places at which heights are asked for, and where that is too coarse. */
const STEPS = [1, 0.25];

/** mm³ that a raster of the oracle's heights holds, at least and at most: places where it is unsure hold nothing, or as much as around. */
function raster(sign: Sign, evaluation: Evaluation, step: number): number {
  const oracle = new Oracle(m, sign, evaluation);
  const box = bounds([evaluation.blank])!;
  const [columns, rows] = [Math.ceil((box.maxX - box.minX) / step) + 2, Math.ceil((box.maxY - box.minY) / step) + 2];
  const heights = new Float64Array(columns * rows).fill(-Infinity);
  for (let row = 1; row < rows - 1; row++)
    for (let column = 1; column < columns - 1; column++) {
      const there = oracle.at(box.minX + (column - 0.5) * step, box.minY + (row - 0.5) * step, 0);
      // Where it is unsure the neighbour to the left is as good.
      heights[row * columns + column] = there === 'none' ? -Infinity : there === 'unsure' ? heights[row * columns + column - 1] : there.front.most; // prettier-ignore
    }
  const levels = heights.map((height, i) => (Number.isFinite(height) && i >= 0 ? Infinity : -Infinity));
  const around = [-1, 1, -columns, columns];
  for (let changed = true; changed;) {
    changed = false;
    for (const order of [1, -1]) {
      for (let k = 0; k < levels.length; k++) {
        const i = order === 1 ? k : levels.length - 1 - k;
        if (heights[i] === -Infinity) continue;
        const level = Math.max(heights[i], Math.min(...around.map((by) => levels[i + by])));
        if (level < levels[i]) [levels[i], changed] = [level, true];
      }
    }
  }
  let mm3 = 0;
  for (let i = 0; i < levels.length; i++) if (Number.isFinite(heights[i])) mm3 += (levels[i] - heights[i]) * step * step;
  return mm3;
}

function water(seed: number, sign: Sign): void {
  const evaluation = new Evaluator(book).evaluateLoaded(sign);
  const box = bounds([evaluation.blank])!;
  if ((box.maxX - box.minX) * (box.maxY - box.minY) > 40_000) return;
  const all = basinsOf(solidOf(evaluation), sign.blank.thickness, 0);
  const own = all.reduce((sum, { mm3 }) => sum + mm3, 0);
  const isOff = (sampled: number): boolean => Math.abs(own - sampled) > 0.12 * Math.max(own, sampled) + 20;
  basins += all.length;
  // A raster is off by a step along every edge, and walls thinner than that hold nothing.
  const sampled = STEPS.map((step) => () => raster(sign, evaluation, step));
  if (sampled.every((sample) => isOff(sample()))) faults.push(`${seed}: water of ${own.toFixed(1)} mm³ is not that of a raster`);
}

for (let seed = from; seed <= to; seed++) {
  const sign = generatedSign(seed, 'plain', catalogue);
  remedies(seed, sign);
  water(seed, sign);
}
process.stdout.write(`${JSON.stringify({ tried, findings, basins, faults }, null, 1)}\n`);
