import { describe, expect, it } from '@jest/globals';
import { addShape, addText, bareSign } from '../../../testing/signs.js';
import { extentOfOne, rowSpacing, spacedRow } from './copies.js';
import { setField } from '../edit/set-field.js';
import { sentenceText, ticket } from '../ticket/ticket.js';

const ROW = { kind: 'row', count: 5, stepX: 30, stepY: 0 } as const;
const ONE = { width: 12, height: 20 };

describe('copies in a row', () => {
  it('have a gap and a length, and are set by either', () => {
    expect(rowSpacing(ROW, ONE)).toEqual({ gap: 18, over: 132 });
    expect(spacedRow(ROW, 'gap', 3, ONE)).toEqual({ ...ROW, stepX: 15 });
    expect(spacedRow(ROW, 'over', 212, ONE)).toEqual({ ...ROW, stepX: 50 });
    // Downwards, in the direction that the row has.
    const column = { ...ROW, stepX: 0, stepY: -30 };
    expect(spacedRow(column, 'gap', 5, ONE)).toEqual({ ...column, stepY: -25 });
    // Never through each other to the other side.
    expect(spacedRow(ROW, 'over', 5, ONE)).toEqual({ ...ROW, stepX: 0 });
    for (const value of [0, 4.25, 60]) expect(rowSpacing(spacedRow(ROW, 'gap', value, ONE), ONE)!.gap).toBeCloseTo(value, 3);
  });

  it('are told by their steps alone where they go aslant or are one', () => {
    expect(rowSpacing({ ...ROW, stepY: 4 }, ONE)).toBeUndefined();
    expect(rowSpacing({ ...ROW, count: 1 }, ONE)).toBeUndefined();
    expect(extentOfOne({ width: 132, height: 20 }, ROW)).toEqual(ONE);
    expect(extentOfOne(ONE, undefined)).toBe(ONE);
  });

  it('are written with gap and length on the bench, where it is known how large one is, and set by them', () => {
    const sign = bareSign(300, 100, 10);
    addShape(sign, [12, 20], { kind: 'raise', by: 1 });
    const [{ id }] = sign.parts;
    sign.parts[0].copies = { ...ROW };
    const told = (extents?: ReadonlyMap<string, typeof ONE>) => ticket(sign, [], [], extents).map(sentenceText).join(' ');
    expect(told()).toMatch(/each 30 mm across and 0 mm up from the last\./u);
    expect(told(new Map([[id, ONE]]))).toMatch(/from the last, with gaps of 18 mm, spread evenly over 132 mm\./u);
    setField(sign, ['parts', 0, 'copies', 'gap'], 8, { extent: ONE });
    expect(sign.parts[0].copies).toEqual({ ...ROW, stepX: 20 });
    setField(sign, ['parts', 0, 'copies', 'over'], 252, { extent: ONE });
    expect(sign.parts[0].copies).toEqual({ ...ROW, stepX: 60 });
  });
});

describe('a second line on an arc', () => {
  it('completes the ring of the first, about the same middle', () => {
    const sign = bareSign(300, 300, 10);
    const [upper, lower] = ['UPPER', 'LOWER'].map((words) =>
      addText(sign, words, 'barlow-semibold', 20, { kind: 'raise', by: 1 }),
    );
    upper.place = { ...upper.place, x: 4, y: 9 };
    lower.place = { ...lower.place, x: 0, y: -60 };
    const seen = { width: 180, height: 20, capHeight: 20, em: 28, stretch: 100 };
    setField(sign, ['parts', 0, 'path', 'kind'], 'arc', { seen });
    expect(upper.path).toMatchObject({ kind: 'arc', radius: 90, reads: 'top' });
    expect(upper.place).toMatchObject({ x: 4, y: 9 });
    setField(sign, ['parts', 1, 'path', 'kind'], 'arc', { seen });
    expect(lower.path).toMatchObject({ kind: 'arc', radius: 90, reads: 'bottom' });
    expect(lower.place).toMatchObject({ x: 4, y: 9 });
  });
});
