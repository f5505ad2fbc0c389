// Measures plans of cuts: rings of a pocket against a general library in the same run, and whole signs from the evaluation to the plan and
// its dry run. Run with: node --max-semi-space-size=64 bench/cutting.mjs (as much as threads of the server and the command line have)
import { readFileSync } from 'node:fs';
import { EndType, inflatePathsD, JoinType } from 'clipper2-ts';
import { Terrain, cutPlan, ringsIn, USUAL } from '@plain-relief/core/cutting';
import { perimeter } from '@plain-relief/core/geometry';
import { dryRun } from '@plain-relief/core/dry-run';
import { programsOf } from '@plain-relief/core/gcode';
import { signToCut, stageOf } from '@plain-relief/core/making';
import { Evaluator } from '@plain-relief/core/relief';
import { readShop } from '@plain-relief/core/shop';
import { newShape, newSign, newText, readSign } from '@plain-relief/core/sign';
import { solidOf } from '@plain-relief/core/solid';
import { FontBook } from '@plain-relief/core/type';
import { difference } from '@plain-relief/core/arrangement';

const path = (name) => new URL(name, import.meta.url);
const json = (name) => JSON.parse(readFileSync(path(name), 'utf8'));
const catalogue = json('../fonts/catalogue.json');
const book = new FontBook(catalogue, async ({ file }) => new Uint8Array(readFileSync(path(`../fonts/${file}`))));
const shop = readShop(json('../demo/shop.json'));
const ms = (work) => {
  const began = performance.now();
  const result = work();
  return { result, ms: performance.now() - began };
};
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

/** A panel of 610 × 203 mm: the front word flush, the rear one at −0.1 in, the ground at −0.2 in. */
function panel(front, rear) {
  const sign = newSign('Bench', 'mm');
  sign.blank.outline = { kind: 'rectangle', width: 610, height: 203, cornerRadius: 0 };
  sign.blank.thickness = 19;
  const shape = newShape(sign, 'rectangle');
  sign.parts.push({
    ...shape,
    shape: { kind: 'rectangle', width: 580, height: 173, cornerRadius: 0 },
    tiers: [{ ...shape.tiers[0], action: { kind: 'carve', by: 5.08 } }],
  });
  for (const [words, level, y] of [
    [rear, -2.54, 30],
    [front, 0, -40],
  ]) {
    if (words === '') continue;
    const text = newText(sign, 'barlow-semibold');
    sign.parts.push({
      ...text,
      size: { kind: 'capitals', height: 60, stretch: 100 },
      words,
      placement: { ...text.placement, x: 0, y },
      tiers: [{ ...text.tiers[0], action: { kind: 'set', to: level } }],
    });
  }
  return sign;
}

const evaluator = () => new Evaluator(book);
const demo = async (name) => evaluator().evaluate(signToCut(readSign(json(`../demo/${name}.sign.json`), catalogue)));
const tools = (ids) => shop.tools.filter(({ id }) => ids.includes(id));
const choice = (ids, material = 'urethane') => ({
  ...USUAL,
  machine: { ...shop.machines[0], area: { width: 1e5, height: 1e5 }, travel: 1e4 },
  material: shop.materials.find(({ id }) => id === material),
  tools: tools(ids),
});

const own = new Evaluator(book);
await book.need(['barlow-semibold']);
{
  const terrain = new Terrain(solidOf(own.evaluateLoaded(panel('MILLRACE', ''))));
  const region = difference(terrain.footprint, terrain.above(-5.08));
  const step = 0.72;
  const paths = region.map((ring) => Array.from({ length: ring.length / 2 }, (_, i) => ({ x: ring[2 * i], y: ring[2 * i + 1] })));
  const clipper = () => {
    const rings = [];
    for (let inset = step; ; inset += step) {
      const found = inflatePathsD(paths, -inset, JoinType.Round, EndType.Polygon, 2, 4, 0.005);
      if (found.length === 0) return rings;
      rings.push(...found);
    }
  };
  const times = { own: [], theirs: [] };
  let lengths;
  for (let round = 0; round < 5; round++) {
    const [ours, theirs] = [ms(() => ringsIn(region, step)), ms(clipper)];
    times.own.push(ours.ms);
    times.theirs.push(theirs.ms);
    const rings = ours.result.filter(({ depth }) => depth > 0).map(({ points }) => points);
    lengths = [perimeter(rings), perimeter(theirs.result.map((ring) => Float64Array.from(ring.flatMap(({ x, y }) => [x, y]))))];
  }
  const [a, b] = [median(times.own), median(times.theirs)];
  console.log(
    `rings of a pocket around a word: ${a.toFixed(0)} ms, by a general library ${b.toFixed(0)} ms: ${(b / a).toFixed(1)} times faster; ` +
      `lengths ${(lengths[0] / 1000).toFixed(2)} m, differing by ${(100 * Math.abs(lengths[0] / lengths[1] - 1)).toFixed(3)} %`,
  );
}

const signs = [
  ['two pockets', own.evaluateLoaded(panel('MILLRACE', 'HARBOUR')), ['end-quarter', 'end-eighth']],
  ['the carved panel', await demo('map-room'), ['end-quarter', 'end-eighth', 'ball-3']],
  ['the donor plaque', await demo('donor-plaque'), ['end-quarter', 'end-eighth']],
];
for (const [name, evaluation, ids] of signs) {
  const planned = ms(() => cutPlan(evaluation, choice(ids)));
  const written = ms(() => programsOf(planned.result, evaluation.sign.title));
  const { target, workplace } = stageOf(planned.result);
  const run = ms(() => dryRun(written.result, target, workplace, { cell: 0.1 }));
  const metres = planned.result.cuts.reduce((sum, { lengthMm }) => sum + lengthMm, 0) / 1000;
  console.log(
    `${name}: planned in ${(planned.ms / 1000).toFixed(1)} s (${metres.toFixed(0)} m), written in ${(written.ms / 1000).toFixed(1)} s, ` +
      `dry-run at 0.1 mm in ${(run.ms / 1000).toFixed(1)} s (deepest gouge ${run.result.gougeMm.toFixed(4)} mm)`,
  );
}
