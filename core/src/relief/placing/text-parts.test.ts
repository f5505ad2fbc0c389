import { beforeAll, describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { area, type Box, joinBoxes } from '../../geometry/index.js';
import { pointsOfShape, readSign, type ShapePart, type Sign, type TextPart, withPoints } from '../../sign/index.js';
import { loadedBook } from '../../../testing/fonts.js';
import { addText, bareSign } from '../../../testing/signs.js';
import { type FontBook } from '../../type/index.js';
import { Evaluator } from '../plan/evaluate.js';

let book: FontBook;
beforeAll(async () => {
  book = await loadedBook();
});

const raise = { kind: 'raise', by: 2 } as const;

const evaluated = (sign: Sign) => {
  const evaluator = new Evaluator(book);
  return { evaluator, evaluation: evaluator.evaluateLoaded(sign) };
};

const inkOf = (sign: Sign): Box =>
  evaluated(sign).evaluation.parts.map(({ ink }) => ink).reduce<Box | undefined>(joinBoxes, undefined)!; // prettier-ignore
const raised = (sign: Sign): number => evaluated(sign).evaluation.levels.find(({ z }) => z === 2)!.areaMm2;

function replaced(sign: Sign, id: string, parts: Sign['parts']): Sign {
  return readSign({ ...sign, parts: sign.parts.flatMap((part) => (part.id === id ? parts : [part])) });
}

function expectSame(before: Sign, after: Sign): void {
  const [a, b] = [inkOf(before), inkOf(after)];
  // To the chord tolerance: curves that were turned are parted into other chords.
  for (const side of ['minX', 'minY', 'maxX', 'maxY'] as const) expect(Math.abs(b[side] - a[side])).toBeLessThan(0.02);
  expect(raised(after) / raised(before)).toBeCloseTo(1, 3);
}

describe('a block taken apart', () => {
  const block = (change: Partial<TextPart> = {}): [Sign, TextPart] => {
    const sign = bareSign(400, 200, 10);
    const part = addText(sign, 'Fernhollow Arboretum\nEst. 1987\nWest gate', 'barlow-semibold', 18, raise);
    Object.assign(part, { place: { x: 12, y: -5, turn: 0, mirror: false }, ...change });
    return [sign, part];
  };

  it.each<[string, Partial<TextPart>]>([
    ['centred', {}],
    ['set left and tracked', { align: 'left', tracking: 12 }],
    ['turned', { place: { x: 3, y: 4, turn: 30, mirror: false } }],
    ['mirrored', { place: { x: 3, y: 4, turn: 90, mirror: true } }],
    [
      'kerned by hand',
      {
        letters: [
          { at: 3, kern: 4 },
          { at: 22, y: 3, turn: 10 },
        ],
      },
    ],
  ])('%s: its lines, and their words, are texts with every letter where it was', (_, change) => {
    const [sign, part] = block(change);
    const { evaluator, evaluation } = evaluated(sign);
    for (const [into, names] of [
      ['lines', ['Fernhollow Arboretum', 'Est. 1987', 'West gate']],
      ['words', ['Fernhollow', 'Arboretum', 'Est.', '1987', 'West', 'gate']],
    ] as const) {
      const parts = evaluator.split(evaluation, part.id, into);
      expect(parts.map(({ words }) => words)).toEqual(names);
      expect(parts[0].id).toBe(part.id);
      expectSame(sign, replaced(sign, part.id, parts));
    }
  });

  it('as its frame set it: narrowed, broken and justified', () => {
    const frame = { width: 180, height: 120, marginAcross: { kind: 'length', length: 0 }, marginUp: { kind: 'length', length: 0 }, upright: 'middle', fit: [{ kind: 'narrow', floor: 60 }, { kind: 'wrap', lines: 2 }] } as const; // prettier-ignore
    const [sign, part] = block({ frame: { ...frame, fit: [...frame.fit] } });
    const { evaluator, evaluation } = evaluated(sign);
    expectSame(sign, replaced(sign, part.id, evaluator.split(evaluation, part.id, 'lines')));
  });

  it('says why it cannot be', () => {
    const sign = bareSign(400, 200, 10);
    const part = addText(sign, 'Fern', 'barlow-semibold', 18, raise);
    const { evaluator, evaluation } = evaluated(sign);
    expect(() => evaluator.split(evaluation, part.id, 'words')).toThrow('only one word');
    part.path = { kind: 'straight', length: 100, shift: 0 };
    expect(() => evaluator.split(evaluation, part.id, 'lines')).toThrow('runs along a line');
  });
});

describe('text as outlines', () => {
  it.each(['barlow-semibold', 'cinzel-bold', 'dancing-script-semibold', 'roboto-slab-bold'].filter(Boolean))(
    '%s: a part a letter with its islands, the same area in the same place, no stray pieces',
    (font) => {
      const sign = bareSign(400, 200, 10);
      const entry = book.entry(font) ? font : 'barlow-semibold';
      const part = addText(sign, 'BOAR e8 äß', entry, 30, raise);
      part.place = { x: 5, y: 6, turn: 20, mirror: true };
      const { evaluator, evaluation } = evaluated(sign);
      const letters = evaluator.outlined(evaluation, part.id);
      const after = replaced(sign, part.id, letters);
      expect(letters.map(({ name }) => name.at(-2)).join('')).toBe('BOARe8äß');
      expect(new Set(letters.map(({ group }) => group)).size).toBe(1);
      expectSame(sign, after);
      for (const {
        area: { contours },
      } of evaluated(after).evaluation.parts)
        for (const ring of contours) expect(Math.abs(area([ring]))).toBeGreaterThan(0.5);
      // Every island is there.
      const islands = (of: Sign) =>
        evaluated(of).evaluation.parts.flatMap((part) => part.area.contours.filter((ring) => area([ring]) < 0)).length;
      expect(islands(after)).toBe(islands(sign));
      expect(islands(after)).toBeGreaterThan(4);
    },
  );

  it('of a single line stays lines, and along a circle stands where it stood', () => {
    const sign = bareSign(400, 300, 10);
    const part = addText(sign, 'PIER SIX', 'hershey-sans-1', 20, { kind: 'line', depth: 1, width: 2 });
    part.path = { kind: 'arc', radius: 80, span: 360, reads: 'top', side: 'outside', shift: 0 };
    if (!book.entry(part.font)) part.font = book.catalogue.find(({ kind }) => kind === 'single-line')!.id;
    const { evaluator, evaluation } = evaluated(sign);
    const letters = evaluator.outlined(evaluation, part.id);
    const after = replaced(sign, part.id, letters);
    expect(letters).toHaveLength(7);
    expect(evaluated(after).evaluation.parts.every((part) => part.area.isEmpty && part.strokes.length > 0)).toBe(true);
    const [a, b] = [inkOf(sign), inkOf(after)];
    for (const side of ['minX', 'minY', 'maxX', 'maxY'] as const) expect(b[side]).toBeCloseTo(a[side], 1);
  });

  it('points that are not moved stay in the plan, whatever the part is turned by', () => {
    const sign = bareSign(400, 200, 10);
    const part = addText(sign, 'R', 'barlow-semibold', 60, raise);
    const { evaluator, evaluation } = evaluated(sign);
    const [letter] = evaluator.outlined(evaluation, part.id);
    fc.assert(
      fc.property(fc.integer({ min: -180, max: 180 }), fc.boolean(), fc.integer({ min: 0, max: 5 }), (turn, mirror, index) => {
        const turned: ShapePart = { ...letter, place: { x: 10, y: -20, turn, mirror } };
        if (turned.shape.kind !== 'outline') throw new Error('no outline');
        const points = pointsOfShape(turned.shape);
        expect(withPoints(turned, points)!.shape).toMatchObject({
          width: expect.closeTo(turned.shape.width, 2),
          height: expect.closeTo(turned.shape.height, 2),
        });
        const run = points[0].points;
        const pulled = points.map((r, i) =>
          i === 0 ? { ...r, points: r.points.map((p, k) => (k === index % run.length ? { x: p.x + 200, y: p.y + 90 } : p)) } : r,
        );
        const after = withPoints(turned, pulled)!;
        const before = evaluated({ ...sign, parts: [turned] }).evaluation.parts[0].area.contours;
        const now = evaluated({ ...sign, parts: [after] }).evaluation.parts[0].area.contours;
        // The island did not move.
        const island = (rings: typeof before) =>
          rings.filter((ring) => area([ring]) < 0).map((ring) => [ring[0], ring[1], area([ring])]);
        const [p, q] = [island(before), island(now)];
        if (p.length === 1 && q.length === 1) for (const i of [2]) expect(q[0][i]).toBeCloseTo(p[0][i], 0);
      }),
      { numRuns: 15 },
    );
  });
});
