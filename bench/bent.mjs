// Signs that are bent against the same ones flat: from words to closed solid, 440 letters round a post, every round with a new word.
// node --max-semi-space-size=64 bench/bent.mjs
import { readFileSync } from 'node:fs';
import { Evaluator } from '@plain-relief/core/relief';
import { inSpace, signModel, solidOf } from '@plain-relief/core/solid';
import { facesOf, newShape, newSign, newText, newTier, setField } from '@plain-relief/core/sign';
import { FontBook } from '@plain-relief/core/type';

const catalogue = JSON.parse(readFileSync(new URL('../fonts/catalogue.json', import.meta.url), 'utf8'));
const bytes = ({ file }) => new Uint8Array(readFileSync(new URL(`../fonts/${file}`, import.meta.url)));
const book = new FontBook(catalogue, (entry) => Promise.resolve(bytes(entry)));
await book.need(['cinzel-bold']);
const medianOf = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const timed = (make) => {
  const began = performance.now();
  return [make(), performance.now() - began];
};

/** Ten lines of 44 letters, the first word another one in every round. */
function letters(round, support) {
  const sign = newSign('Bench', 'mm');
  sign.blank = { ...sign.blank, outline: { kind: 'rectangle', width: 600, height: 300, cornerRadius: 0 }, thickness: 5 };
  const words = Array.from(
    { length: 10 },
    (_, i) => `${i === 0 ? `N${1000 + round}` : 'QUILL'} STREET LIBRARY KEEPS WHAT RIVERS BRING TO US`,
  );
  sign.parts = [{ ...newText(sign, 'cinzel-bold'), words: words.join('\n'), size: { kind: 'capitals', height: 12, stretch: 100 }, tiers: [newTier('tier-1', { kind: 'raise', by: 2 })] }]; // prettier-ignore
  if (support) sign.support = support;
  return sign;
}
const POST = { kind: 'cylinder', radius: 100, facing: 'outside' };

const ROUNDS = 15;
const [flat, bent, alone, model] = [[], [], [], []];
let counts = '';
for (let i = 0; i < ROUNDS + 5; i++) {
  const evaluated = (support) => new Evaluator(book).evaluateLoaded(letters(i, support));
  const [, flatMs] = timed(() => solidOf(evaluated()));
  const [, bentMs] = timed(() => {
    const evaluation = evaluated(POST);
    const solid = solidOf(evaluation);
    const [space, ms] = timed(() => inSpace(evaluation, solid));
    if (i >= 5) alone.push(ms);
    if (i >= 5) model.push(timed(() => signModel(evaluation, solid, 0.1))[1]);
    counts = `${solid.belongs.length} triangles flat, ${space.mesh.belongs.length} bent`;
  });
  if (i < 5) continue;
  flat.push(flatMs);
  bent.push(bentMs - model[model.length - 1]);
}
console.log(`440 letters: flat ${medianOf(flat).toFixed(0)} ms, round a post ${medianOf(bent).toFixed(0)} ms, ${(medianOf(bent) / medianOf(flat)).toFixed(2)} times (bar 3); bending alone ${medianOf(alone).toFixed(0)} ms, the page's model ${medianOf(model).toFixed(0)} ms; ${counts}`); // prettier-ignore

// A desk of 40 letters and a panel: an edit that makes the letters smaller, from the ticket to the model. Nothing is wrapped in a step of its own.
const desk = newSign('Desk', 'mm');
desk.blank = { ...desk.blank, outline: { kind: 'rectangle', width: 2000, height: 400, cornerRadius: 0 }, thickness: 18 };
desk.parts = [{ ...newText(desk, 'cinzel-bold'), words: 'QUILL STREET LIBRARY LENDING AND RETURNS' }];
setField(desk, ['support', 'kind'], 'swept');
const evaluator = new Evaluator(book);
const edits = [];
for (let i = 0; i < 25; i++) {
  const edited = structuredClone(desk);
  const [, ms] = timed(() => {
    setField(edited, ['parts', 0, 'size', 'height'], 60 - i);
    const evaluation = evaluator.evaluateLoaded(edited);
    return signModel(evaluation, solidOf(evaluation), 0.1);
  });
  if (i >= 5) edits.push(ms);
}
console.log(`desk of 40 letters, made smaller: ${medianOf(edits).toFixed(0)} ms from the edit to the model in space (bar 300)`);

// A word dragged round a post: every step a new place.
const dragged = newSign('Drag', 'mm');
dragged.blank = { ...dragged.blank, outline: { kind: 'rectangle', width: 600, height: 200, cornerRadius: 0 }, thickness: 8 };
dragged.parts = [{ ...newText(dragged, 'cinzel-bold'), words: 'WEST GATE' }];
for (const [path, value] of [[['kind'], 'cylinder'], [['radius'], 90], [['round'], 'whole']]) setField(dragged, ['support', ...path], value); // prettier-ignore
const [plans, models] = [[], []];
for (let i = 0; i < 60; i++) {
  const moved = structuredClone(dragged);
  setField(moved, ['parts', 0, 'place', 'round'], i * 3.7);
  const [evaluation, planMs] = timed(() => evaluator.evaluateLoaded(moved));
  const [, modelMs] = timed(() => signModel(evaluation, solidOf(evaluation), 0.1));
  if (i < 10) continue;
  plans.push(planMs);
  models.push(planMs + modelMs);
}
console.log(
  `a word dragged round a post: plan ${medianOf(plans).toFixed(1)} ms a step, plan and model ${medianOf(models).toFixed(0)} ms (bar 33 and 250)`,
);

// The same letters on the six faces of a block, carved: joined along its edges, and with two holes that cross inside of it.
function block(round, isCrossed) {
  const sign = newSign('Block', 'mm');
  sign.blank = { ...sign.blank, outline: { kind: 'rectangle', width: 300, height: 300, cornerRadius: 0 }, thickness: 300 };
  setField(sign, ['support', 'kind'], 'block');
  const faces = facesOf(sign.support);
  sign.parts = faces.map(({ x, y }, i) => ({
    ...newText(sign, 'cinzel-bold'), id: `words-${i}`, words: `N${1000 + round} KEEPS\nSTREET LIBRARY\nWHAT RIVERS BRING\nTO US AND OTHERS\nALL DAY`, size: { kind: 'capitals', height: 12, stretch: 100 }, place: { x, y, turn: 0, mirror: false }, tiers: [newTier('tier-1', { kind: 'carve', by: 2 })],
  })); // prettier-ignore
  if (isCrossed)
    sign.parts.push(
      ...faces.slice(0, 2).map(({ x, y }, i) => ({ ...newShape(sign, 'circle'), id: `hole-${i}`, place: { x: x + 120, y: y + 120, turn: 0, mirror: false }, tiers: [newTier('tier-1', { kind: 'cut-through' })] })),
    ); // prettier-ignore
  return sign;
}
for (const isCrossed of [false, true]) {
  const [laid, joined] = [[], []];
  for (let i = 0; i < 9; i++) {
    const [evaluation, evaluationMs] = timed(() => new Evaluator(book).evaluateLoaded(block(i, isCrossed)));
    const [solid, solidMs] = timed(() => solidOf(evaluation));
    const [, ms] = timed(() => inSpace(evaluation, solid));
    if (i < 3) continue;
    laid.push(evaluationMs + solidMs);
    joined.push(ms);
  }
  console.log(
    `${isCrossed ? 'with two holes that cross' : '360 letters on the faces of a block'}: flat ${medianOf(laid).toFixed(0)} ms, put together ${medianOf(joined).toFixed(0)} ms`,
  );
}
