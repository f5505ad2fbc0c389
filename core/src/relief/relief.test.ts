import { beforeAll, describe, expect, it } from '@jest/globals';
import { notesOf } from '../checks/index.js';
import { intersection } from '../arrangement/index.js';
import { area, rectangle } from '../geometry/index.js';
import { type Sign } from '../sign/index.js';
import { loadedBook } from '../../testing/fonts.js';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { type FontBook } from '../type/index.js';
import { Evaluator } from './plan/evaluate.js';
import { type Evaluation, regionOf } from './plan/evaluation.js';

let book: FontBook;
beforeAll(async () => {
  book = await loadedBook();
});
const evaluate = (sign: Sign): Evaluation => new Evaluator(book).evaluateLoaded(sign);
const notes = (sign: Sign): string[] => notesOf(evaluate(sign)).map(({ text }) => text);
const codes = (sign: Sign): string[] => notesOf(evaluate(sign)).map(({ code }) => code);

describe('the relief function', () => {
  it('raises by the maximum, carves by the minimum, sets what is there', () => {
    const sign = bareSign(100, 100, 10);
    addShape(sign, [60, 60], { kind: 'raise', by: 4 });
    addShape(sign, [40, 40], { kind: 'raise', by: 2 });
    addShape(sign, [20, 20], { kind: 'carve', by: 3 });
    addShape(sign, [10, 10], { kind: 'set', to: 1 });
    expect(evaluate(sign).levels.map(({ z, areaMm2 }) => [z, areaMm2])).toEqual([
      [4, 3600 - 400],
      [1, 100],
      [0, 10_000 - 3600],
      [-3, 400 - 100],
    ]);
  });

  it('takes no edge form of the blank for a carve or a floor', () => {
    const sign = bareSign(100, 60, 5);
    sign.blank.edge = { kind: 'chamfered', width: 3, height: 4.9 };
    addShape(sign, [40, 30], { kind: 'carve', by: 1 });
    const { deepest, thinnest, lowest } = evaluate(sign);
    expect([deepest, thinnest]).toEqual([-1, 4]);
    expect(lowest).toBeCloseTo(-4.9, 6);
    expect(codes(sign)).not.toContain('thin-floor');
  });

  it('follows the build order', () => {
    const sign = bareSign(100, 100, 10);
    addShape(sign, [40, 40], { kind: 'carve', by: 3 });
    addShape(sign, [40, 40], { kind: 'raise', by: 2 });
    expect(evaluate(sign).levels.map(({ z }) => z)).toEqual([2, 0]);
    sign.parts.reverse();
    expect(evaluate(sign).levels.map(({ z }) => z)).toEqual([0, -3]);
  });

  it('keeps a hole a hole, whatever comes later', () => {
    const sign = bareSign(100, 100, 10);
    addShape(sign, [40, 40], { kind: 'cut-through' });
    addShape(sign, [60, 60], { kind: 'raise', by: 2 });
    addShape(sign, [50, 50], { kind: 'set', to: 1 });
    const levels = evaluate(sign).levels;
    expect(levels.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)).toBe(10_000 - 1600);
  });

  it('takes overlapping words by level alone, islands right by construction', () => {
    const sign = bareSign(200, 80, 10);
    const rear = addText(sign, 'OO', 'montserrat-bold', 40, { kind: 'set', to: 2 });
    const front = addText(sign, 'O', 'montserrat-bold', 30, { kind: 'set', to: 3 });
    const evaluation = evaluate(sign);
    const plan = (id: string) => evaluation.parts.find((part) => part.id === id)!.area.contours;
    const at = (z: number) => evaluation.levels.find((level) => level.z === z)!.areaMm2;
    expect(at(3)).toBeCloseTo(area(plan(front.id)), 2);
    expect(at(2)).toBeCloseTo(area(plan(rear.id)) - area(intersection(plan(rear.id), plan(front.id))), 2);
  });

  it('gives regions that share their edges: their areas sum up to the blank', () => {
    const sign = bareSign(120, 90, 6);
    addText(sign, 'Quercus & Co', 'lora-bold', 14, { kind: 'raise', by: 1 }).place.turn = 12;
    addShape(sign, 30, { kind: 'carve', by: 1 }, { x: 20, y: 3 });
    const evaluation = evaluate(sign);
    const sum = evaluation.levels.reduce((all, { labels }) => all + area(regionOf(evaluation, ...labels)), 0);
    expect(sum).toBeCloseTo(area([rectangle(120, 90)]), 6);
  });

  it('engraves single lines as grooves of their width', () => {
    const sign = bareSign(100, 40, 3);
    addText(sign, 'I', 'hershey-sans', 20, { kind: 'line', depth: 0.4, width: 1 });
    const groove = evaluate(sign).levels.find(({ z }) => z === -0.4)!;
    // One upright stroke: a stadium w·h + πh²/4.
    expect(groove.areaMm2).toBeCloseTo(20 + Math.PI / 4, 1);
  });

  it('grows and shrinks a tier’s area', () => {
    const sign = bareSign(100, 100, 10);
    addShape(sign, [40, 40], { kind: 'raise', by: 2 });
    sign.parts[0].tiers[0].area = { kind: 'offset', by: 5 };
    expect(evaluate(sign).levels[0].areaMm2).toBeCloseTo(1600 + 160 * 5 + Math.PI * 25, 0);
    sign.parts[0].tiers[0].area = { kind: 'offset', by: -5 };
    expect(evaluate(sign).levels[0].areaMm2).toBeCloseTo(900, 6);
  });

  it('leaves out tiers that are switched off', () => {
    const sign = bareSign(100, 100, 10);
    addShape(sign, [40, 40], { kind: 'raise', by: 2 });
    sign.parts[0].tiers[0].on = false;
    expect(evaluate(sign).levels).toHaveLength(1);
    expect(codes(sign)).toEqual(['no-tiers']);
  });

  it('is the same whatever was evaluated before, and changes nothing', () => {
    const sign = bareSign(200, 80, 10);
    addText(sign, 'Oak', 'lora-bold', 20, { kind: 'raise', by: 2 });
    const before = JSON.stringify(sign);
    const evaluator = new Evaluator(book);
    const first = evaluator.evaluateLoaded(sign);
    evaluator.evaluateLoaded({ ...sign, parts: [] });
    expect(evaluator.evaluateLoaded(sign)).toEqual(first);
    expect(new Evaluator(book).evaluateLoaded(sign)).toEqual(first);
    expect(JSON.stringify(sign)).toBe(before);
  });
});

describe('notes', () => {
  it('name what characters a font lacks in one, and offer one that has all of the words', () => {
    const sign = bareSign(200, 80, 10);
    addText(sign, 'Oak אב', 'cinzel-bold', 12, { kind: 'raise', by: 2 }).name = 'Line 1';
    const [lacking] = evaluate(sign).parts[0].notes;
    expect(lacking.text).toBe(
      'Line 1: Cinzel Bold has no “א” (U+05D0) and “ב” (U+05D1); spaces stand in their places. Heebo and Frank Ruhl Libre have them all.',
    );
    const { remedy } = lacking;
    expect(remedy).toMatchObject({ kind: 'font', name: expect.stringMatching(/^(Heebo|Frank Ruhl Libre) /u) });
    // Taken, nothing is lacking.
    sign.parts[0] = { ...sign.parts[0], ...(remedy?.kind === 'font' && { font: remedy.font }) };
    expect(evaluate(sign).parts[0].notes).toEqual([]);
    addText(sign, 'א', 'cinzel-bold', 12, { kind: 'raise', by: 2 }).name = 'Line 2';
    expect(evaluate(sign).parts[1].notes[0].text).toBe(
      'Line 2: Cinzel Bold has no “א” (U+05D0); a space stands in its place. Heebo and Frank Ruhl Libre have it.',
    );
  });

  it('say by how much words run over the edge', () => {
    const sign = bareSign(100, 60, 10);
    addShape(sign, [40, 20], { kind: 'raise', by: 1 }, { x: 40 });
    expect(notes(sign)).toEqual(['part-1 runs 10 mm over the edge of the blank; what lies outside is not made.']);
    addShape(sign, [10, 10], { kind: 'raise', by: 1 }, { x: 300 });
    expect(codes(sign)).toContain('off-blank');
  });

  it('find a carve deeper than the blank, and a thin floor', () => {
    const sign = bareSign(100, 60, 10);
    addShape(sign, [40, 20], { kind: 'carve', by: 12 });
    expect(codes(sign)).toEqual(['through-back']);
    expect(evaluate(sign).levels).toHaveLength(1);
    const thin = bareSign(100, 60, 10);
    addShape(thin, [40, 20], { kind: 'carve', by: 9.5 });
    expect(notes(thin)).toEqual(['The deepest carve leaves a floor of only 0.5 mm.']);
  });

  it('find artwork at the level of its ground', () => {
    const sign = bareSign(100, 60, 10);
    const panel = addShape(sign, [80, 40], { kind: 'carve', by: 2 });
    addShape(sign, [20, 20], { kind: 'carve', by: 2 });
    addShape(sign, [10, 10], { kind: 'set', to: 0 }, { x: 30, sitsOn: { kind: 'part', part: panel, at: 'floor' } });
    expect(codes(sign)).toEqual(['not-seen', 'not-seen']);
  });

  it('find what others that are built later take the place of, and say after which it is to be built', () => {
    const sign = bareSign(200, 100, 10);
    const line = addText(sign, 'OAK', 'montserrat-bold', 20, { kind: 'raise', by: 3 });
    const panel = addShape(sign, [160, 60], { kind: 'carve', by: 2 });
    const [buried] = notesOf(evaluate(sign));
    expect(buried).toMatchObject({ code: 'buried', part: line.id, remedy: { kind: 'later', after: panel } });
    expect(buried.text).toContain(`Build ${line.name} after ${panel}`);
    // So also where its sides are sloped; and not where some of it is left, or where it was built later.
    line.tiers[0].edge = { kind: 'sloped', angle: 10, sized: 'foot' };
    expect(codes(sign)).toEqual(['buried']);
    line.tiers[0].edge = undefined;
    line.place.x = 62;
    expect(codes(sign)).toEqual([]);
    line.place.x = 0;
    sign.parts.reverse();
    expect(codes(sign)).toEqual([]);
    // Two at one level are both seen; a hole stays a hole; what is painted over by colour alone is there.
    const same = bareSign(200, 100, 10);
    addShape(same, [20, 20], { kind: 'raise', by: 2 });
    addShape(same, [20, 20], { kind: 'raise', by: 2 }, { x: 40 });
    addShape(same, 6, { kind: 'cut-through' }, { y: -30 });
    addShape(same, [60, 30], { kind: 'carve', by: 1 }, { y: -30 });
    addShape(same, [30, 30], { kind: 'mark' });
    expect(codes(same)).toEqual([]);
  });

  it('count the islands that fall out of letters cut through, with the largest', () => {
    const sign = bareSign(200, 60, 3);
    addText(sign, 'BOAT', 'montserrat-bold', 30, { kind: 'cut-through' });
    // B has two counters, O and A one each.
    expect(notes(sign)[0]).toMatch(/^4 pieces are cut loose and fall out, the largest of \d/u);
    const stencil = bareSign(200, 60, 3);
    addText(stencil, 'BOAT', 'saira-stencil-one-regular', 30, { kind: 'cut-through' });
    expect(notes(stencil)).toEqual([]);
  });

  it('refuse to raise single lines, and tell of a radius that does not fit', () => {
    const sign = bareSign(100, 60, 3);
    addText(sign, 'Oak', 'hershey-sans', 10, { kind: 'raise', by: 1 });
    expect(codes(sign)).toEqual(['open-strokes']);
    Object.assign(sign.blank.outline, { cornerRadius: 40 });
    expect(notes(sign)[0]).toBe('The blank: a corner radius of 40 mm does not fit and became 30 mm, half the shorter side.');
  });

  it('leave out what lies beyond what can be computed, and say so', () => {
    const sign = bareSign(100, 60, 3);
    addText(sign, 'OAK', 'lora-bold', 2000, { kind: 'raise', by: 1 }).place.x = 3900;
    expect(codes(sign)).toEqual(['too-far']);
    expect(evaluate(sign).levels).toHaveLength(1);
  });

  it('say when nothing of the blank is left', () => {
    const sign = bareSign(100, 60, 3);
    addShape(sign, [120, 80], { kind: 'cut-through' });
    expect(codes(sign)).toContain('no-material');
  });
});

describe('copies of a part', () => {
  it('that run into each other are told, with what keeps them apart', () => {
    const told = (stepX: number) => {
      const sign = bareSign(300, 100, 10);
      addShape(sign, [12, 20], { kind: 'raise', by: 1 });
      sign.parts[0].copies = { kind: 'row', count: 5, stepX, stepY: 0 };
      return notesOf(new Evaluator(book).evaluateLoaded(sign))
        .filter(({ code }) => code === 'copies-merge')
        .map(({ text }) => text);
    };
    expect(told(13)).toEqual([]);
    expect(told(12)).toEqual([]);
    expect(told(11)).toEqual([
      expect.stringMatching(
        /its copies run into each other and are made as one outline; a step of more than 12 mm keeps them apart/u,
      ),
    ]);
  });
});

describe('a hole near the edge of the blank', () => {
  it.each([
    [5.99, true],
    [6.01, false],
  ])('of 6 mm, with %s mm left, is told: %s', (left, isTold) => {
    const sign = bareSign(100, 60, 5);
    addShape(sign, [6, 6], { kind: 'cut-through' });
    const [hole] = sign.parts;
    if (hole.kind === 'shape') hole.shape = { kind: 'circle', diameter: 6 };
    hole.place = { x: 50 - left - 3, y: 0, turn: 0, mirror: false };
    const codes = notesOf(new Evaluator(book).evaluateLoaded(sign)).map(({ code }) => code);
    if (isTold) expect(codes).toEqual(['near-edge']);
    else expect(codes).toEqual([]);
  });
});
