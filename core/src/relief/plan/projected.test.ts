import { describe, expect, it } from '@jest/globals';
import { addText, bareSign } from '../../../testing/signs.js';
import { Workshop } from '../../../testing/workshop.js';
import { area, bounds, cross, dot, minus, type Outline, unit, type Vector, weightedSum } from '../../geometry/index.js';
import { setField, type Sign, type Support, type TextPart, ticket } from '../../sign/index.js';
import { surfaceOf } from '../../support/index.js';
import { notesOf } from '../../checks/index.js';
import { Evaluator } from './evaluate.js';

const workshop = new Workshop();

/** Words on a support, as they are laid on it. */
function laid(
  support: Support,
  place: Partial<TextPart['place']>,
  isProjected: boolean,
  words = 'GATE 3',
  capHeight = 14,
): [Sign, TextPart] {
  const sign = bareSign(260, 120, 6);
  sign.support = support;
  const part = addText(sign, words, 'barlow-semibold', capHeight, { kind: 'raise', by: 2 });
  part.place = { ...part.place, ...place };
  if (isProjected) setField(sign, ['parts', sign.parts.indexOf(part), 'projected'], 'true');
  return [sign, part];
}

const outlineOf = ([sign, part]: readonly [Sign, TextPart]): Outline =>
  workshop.evaluate(sign).parts.find(({ id }) => id === part.id)!.area.contours;

const SUPPORTS: readonly (readonly [string, Support])[] = [
  ['a cylinder', { kind: 'cylinder', radius: 60, facing: 'outside' }],
  ['the inside of a cylinder that lies', { kind: 'cylinder', radius: 70, facing: 'inside', axis: 'level' }],
  ['a cone', { kind: 'cone', bottom: 90, top: 55, height: 120, facing: 'outside' }],
  ['a bent sheet', { kind: 'bent', pieces: [{ kind: 'straight', length: 90 }, { kind: 'arc', radius: 40, angle: 70, bends: 'away' }, { kind: 'straight', length: 120 }], neutral: 50 }], // prettier-ignore
  ['a swept line', { kind: 'swept', line: { kind: 'ellipse', width: 250, depth: 80, bends: 'away' }, profile: [{ kind: 'arc', radius: 300, angle: 20, bends: 'away' }], stretch: 20 }], // prettier-ignore
  ['a dome', { kind: 'dome', radius: 120, facing: 'outside', stretch: 20 }],
];

describe('words laid on as they look from before them', () => {
  it('are longer across a cylinder by the arc over their chord, from their place on', () => {
    const radius = 60;
    const support: Support = { kind: 'cylinder', radius, facing: 'outside' };
    for (const x of [0, 35]) {
      const [flat, round] = [false, true].map((is) => bounds(outlineOf(laid(support, { x }, is)))!);
      expect(round.minX).toBeCloseTo(x + radius * Math.asin((flat.minX - x) / radius), 2);
      expect(round.maxX).toBeCloseTo(x + radius * Math.asin((flat.maxX - x) / radius), 2);
      expect([round.minY, round.maxY].map((mm, i) => Math.abs(mm - [flat.minY, flat.maxY][i]) < 0.002)).toEqual([true, true]);
    }
  });

  it('are single letters where those lie, too, so that they are measured as they are made', () => {
    for (const side of ['front', 'back'] as const) {
      const [sign, part] = laid({ kind: 'cylinder', radius: 60, facing: 'outside' }, { x: 35, turn: 10 }, true);
      if (side === 'back') part.side = 'back';
      const evaluator = new Evaluator(workshop.book);
      const evaluation = evaluator.evaluateLoaded(sign, side);
      const letters = evaluator.letters(evaluation, part.id);
      const all = bounds(letters.flatMap(({ outline }) => outline))!;
      const whole = evaluation.parts.find(({ id }) => id === part.id)!.ink!;
      for (const edge of ['minX', 'minY', 'maxX', 'maxY'] as const) expect(all[edge]).toBeCloseTo(whole[edge], 3);
      expect(letters.map(({ character }) => character).join('')).toBe('GATE3');
    }
  });

  it.each(SUPPORTS)('are seen from there as they are drawn: on %s', (_, support) => {
    const place = { x: 12, y: -9, turn: 20 };
    const plain = laid(support, place, false);
    const projected = laid(support, place, true);
    const surface = surfaceOf(projected[0])!;
    const out = new Float64Array(3);
    const at = (x: number, y: number): Vector => {
      surface.place(x, y, 0, out, 0);
      return [out[0], out[1], out[2]];
    };
    surface.normal(place.x, place.y, out, 0);
    const normal: Vector = [out[0], out[1], out[2]];
    const beside = minus(at(place.x + 1e-4, place.y), at(place.x - 1e-4, place.y));
    const across = unit(weightedSum([1, beside], [-dot(beside, normal), normal]));
    const up = cross(normal, across);
    const seen = outlineOf(projected).map((ring) =>
      ring.map((_value, i) => {
        const from = minus(at(ring[i - (i % 2)], ring[i - (i % 2) + 1]), at(place.x, place.y));
        return i % 2 === 0 ? place.x + dot(from, across) : place.y + dot(from, up);
      }),
    );
    const drawn = outlineOf(plain);
    expect(area(seen) / area(drawn)).toBeCloseTo(1, 3);
    expect(area(outlineOf(projected)) / area(drawn)).toBeGreaterThan(1.001);
    const [a, b] = [bounds(seen)!, bounds(drawn)!];
    for (const side of ['minX', 'minY', 'maxX', 'maxY'] as const) expect(Math.abs(a[side] - b[side])).toBeLessThan(0.01);
  });

  it('are laid as they lie in the plan, and it is told, where they go further round than is seen', () => {
    const support: Support = { kind: 'cylinder', radius: 30, facing: 'outside' };
    const [plain, projected] = [false, true].map((is) => laid(support, {}, is, 'FERNHOLLOW'));
    expect(outlineOf(projected)).toEqual(outlineOf(plain));
    const notes = notesOf(workshop.evaluate(projected[0]));
    expect(notes.map(({ code }) => code)).toContain('support-hidden');
  });

  it('are as they are on what is flat, and stay words: copied, from behind, and taken back', () => {
    const cylinder: Support = { kind: 'cylinder', radius: 60, facing: 'outside' };
    const [sign, part] = laid(cylinder, {}, true);
    const before = outlineOf([sign, part]);
    const flat = { ...sign, support: undefined };
    expect(outlineOf([flat, part])).toEqual(outlineOf(laid(cylinder, {}, false)));
    part.copies = { kind: 'row', count: 2, stepX: 90, stepY: 0 };
    expect(area(outlineOf([{ ...sign }, part])) / area(before)).toBeCloseTo(2, 3);
    delete part.copies;
    part.side = 'back';
    expect(area(outlineOf([{ ...sign }, part])) / area(before)).toBeCloseTo(1, 3);
    const words = ticket(sign, [])
      .flatMap((sentence) => sentence.words.map(({ text }) => text))
      .join('');
    expect(words).toContain('as they look from straight before them');
    setField(sign, ['parts', 0, 'projected'], 'false');
    expect(part.projected).toBeUndefined();
  });
});
