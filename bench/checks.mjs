// Measures checks of signs: how long all of them take beside the evaluation of the same sign in the same run, after an edit of one word.
// Run with: node bench/checks.mjs
import { readFileSync } from 'node:fs';
import { inspect, judged, limitsOf, standardOf } from '@plain-relief/core/inspection';
import { Evaluator } from '@plain-relief/core/relief';
import { readShop } from '@plain-relief/core/shop';
import { newSign, newText, readSign } from '@plain-relief/core/sign';
import { solidOf } from '@plain-relief/core/solid';
import { FontBook } from '@plain-relief/core/type';

const path = (name) => new URL(name, import.meta.url);
const json = (name) => JSON.parse(readFileSync(path(name), 'utf8'));
const catalogue = json('../fonts/catalogue.json');
const shop = readShop(json('../demo/shop.json'));
const book = new FontBook(catalogue, async ({ file }) => new Uint8Array(readFileSync(path(`../fonts/${file}`))));
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

/** Sixty letters in four lines. */
function sixty() {
  const sign = newSign('Sixty', 'mm');
  sign.blank.outline = { kind: 'rectangle', width: 400, height: 200, cornerRadius: 6 };
  ['FERNHOLLOW ARBOR', 'OSPREY POINT PIER', 'QUILL STREET HALL', 'MILLRACE SIGNS'].forEach((words, i) => {
    const text = newText(sign, 'barlow-semibold');
    sign.parts.push({ ...text, words, place: { x: 0, y: 66 - 44 * i, turn: 0, mirror: false } });
  });
  return sign;
}

const signs = [
  ['60 letters', sixty(), 25],
  ['a room sign with braille', readSign(json('../demo/quiet-study.sign.json'), catalogue), 25],
  ['the carved panel', readSign(json('../demo/map-room.sign.json'), catalogue), 7],
  ['the donor plaque', readSign(json('../demo/donor-plaque.sign.json'), catalogue), 5],
];
for (const [name, sign, rounds] of signs) {
  const evaluator = new Evaluator(book);
  await evaluator.evaluate(sign);
  const limits = limitsOf(shop, sign.blank.material);
  const standard = standardOf(sign.checks?.standard);
  const times = { evaluation: [], solid: [], checks: [], standard: [] };
  for (let i = 0; i < rounds; i++) {
    const edited = structuredClone(sign);
    const text = edited.parts.find(({ kind }) => kind === 'text');
    // A word that was not there before.
    if (text) text.tracking += 0.01 * (i + 1);
    const began = performance.now();
    const evaluation = evaluator.evaluateLoaded(edited);
    const evaluated = performance.now();
    const solid = solidOf(evaluation);
    const made = performance.now();
    inspect(evaluation, limits, {}, solid);
    const inspected = performance.now();
    if (standard) judged(standard, evaluation, evaluator);
    times.evaluation.push(evaluated - began);
    times.solid.push(made - evaluated);
    times.checks.push(inspected - made);
    times.standard.push(performance.now() - inspected);
  }
  const of = (values) => `${median(values).toFixed(0)} ms`;
  console.log(
    `${name}: evaluation ${of(times.evaluation)}, solid ${of(times.solid)}, all checks ${of(times.checks)} ` +
      `(${(median(times.checks) / (median(times.evaluation) + median(times.solid))).toFixed(1)} times evaluation and solid)` +
      (standard ? `, its standard ${of(times.standard)}` : ''),
  );
}
