import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { addShape, addText, bareSign } from '../../../testing/signs.js';
import { newCombined } from '../document/new-sign.js';
import { type ShapePart } from '../document/schema.js';
import { readSign } from '../document/validate.js';
import {
  aligned,
  broughtTo,
  type Distance,
  distributed,
  grouped,
  mirroredParts,
  movedParts,
  moveToDistance,
  type PartBoxes,
  pastedParts,
  turnedParts,
  ungrouped,
  unitsOf,
  withGroup,
} from './arranging.js';
import { becomeBlank, canBeBlank, factorsToSize, resized, scaledDesign } from './resizing.js';

const raise = { kind: 'raise', by: 2 } as const;
const box = (id: string, minX: number, minY: number, w: number, h: number): PartBoxes => ({
  id,
  ink: { minX, minY, maxX: minX + w, maxY: minY + h },
});
const single = (boxes: readonly PartBoxes[]) => boxes.map(({ id }) => [id]);

describe('aligning', () => {
  // A word whose g reaches 4 below its baseline at −10; capitals 20 high.
  const word: PartBoxes = { ...box('word', -30, -14, 60, 24), caps: { minX: -30, minY: -10, maxX: 30, maxY: 10 } };

  it('centres a word by its capitals, or by its box where that is asked', () => {
    const blank = { minX: -100, minY: -50, maxX: 100, maxY: 50 };
    expect(aligned([['word']], [word], 'middle', 'capitals', blank)).toEqual([{ id: 'word', dx: 0, dy: 0 }]);
    expect(aligned([['word']], [word], 'middle', 'box', blank)).toEqual([{ id: 'word', dx: 0, dy: 2 }]);
    expect(aligned([['word']], [word], 'bottom', 'capitals', blank)).toEqual([{ id: 'word', dx: 0, dy: -40 }]);
    expect(aligned([['word']], [word], 'right', 'capitals', blank)).toEqual([{ id: 'word', dx: 70, dy: 0 }]);
  });

  it('aligns what is chosen to its own outermost edge, groups as one', () => {
    const boxes = [box('a', 0, 0, 10, 10), box('b', 20, 5, 10, 10), box('c', 50, -20, 10, 10)];
    expect(aligned(single(boxes), boxes, 'left', 'box').map(({ dx }) => dx)).toEqual([0, -20, -50]);
    expect(aligned([['a', 'b'], ['c']], boxes, 'left', 'box').map(({ dx }) => dx)).toEqual([0, 0, -50]);
    expect(aligned([['a', 'b'], ['c']], boxes, 'top', 'box').map(({ dy }) => dy)).toEqual([0, 0, 25]);
  });

  it('brings several to the blank each by itself, but as one where they would come to lie on each other', () => {
    const blank = { minX: -100, minY: -50, maxX: 100, maxY: 50 };
    // Three lines of a block, of different widths.
    const lines = [box('a', -30, 30, 60, 10), box('b', -10, 15, 40, 10), box('c', 0, 0, 20, 10)];
    expect(broughtTo(single(lines), lines, 'centre', 'box', blank).map(({ dx }) => dx)).toEqual([0, -10, -10]);
    expect(broughtTo(single(lines), lines, 'middle', 'box', blank).map(({ dy }) => dy)).toEqual([-20, -20, -20]);
    // What lay on each other before, as a word on its panel, goes each by itself.
    const over = [box('panel', 0, 0, 80, 40), box('word', 10, 10, 20, 10)];
    expect(broughtTo(single(over), over, 'middle', 'box', blank).map(({ dy }) => dy)).toEqual([-20, -15]);
  });

  it('brings a box to any distance from the edges or the middle of the blank', () => {
    const blank = { minX: -100, minY: -50, maxX: 120, maxY: 50 };
    const coordinate = fc.integer({ min: -200, max: 200 });
    fc.assert(
      fc.property(coordinate, coordinate, fc.integer({ min: -90, max: 90 }), (x, y, mm) => {
        const { ink } = box('a', x, y, 30, 10);
        const after = (what: Distance) => {
          const { dx, dy } = moveToDistance(ink, blank, what, mm);
          return { minX: ink.minX + dx, minY: ink.minY + dy, maxX: ink.maxX + dx, maxY: ink.maxY + dy };
        };
        expect(after('left').minX - blank.minX).toBe(mm);
        expect(blank.maxX - after('right').maxX).toBe(mm);
        expect(blank.maxY - after('top').maxY).toBe(mm);
        expect(after('bottom').minY - blank.minY).toBe(mm);
        expect((after('across').minX + after('across').maxX) / 2 - 10).toBe(mm);
        expect((after('up').minY + after('up').maxY) / 2).toBe(mm);
      }),
    );
  });

  it('spaces evenly: all gaps equal, the outermost where they were', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ at: fc.integer({ min: -500, max: 500 }), w: fc.integer({ min: 1, max: 90 }) }), {
          minLength: 3,
          maxLength: 12,
        }),
        (spans) => {
          const boxes = spans.map(({ at, w }, i) => box(`p${i}`, at, 0, w, 5));
          const moves = distributed(single(boxes), boxes, 'across', 'box');
          // In the order in which they lay, also where there are too many for the room and gaps are overlaps.
          const middle = ({ ink }: PartBoxes) => ink.minX + ink.maxX;
          const after = [...boxes]
            .sort((a, b) => middle(a) - middle(b))
            .map(({ id, ink }) => ({ low: ink.minX + moves.find((move) => move.id === id)!.dx, w: ink.maxX - ink.minX }));
          const gaps = after.slice(1).map(({ low }, i) => low - after[i].low - after[i].w);
          for (const gap of gaps) expect(gap).toBeCloseTo(gaps[0], 6);
        },
      ),
    );
    const three = [box('a', 0, 0, 10, 1), box('b', 12, 0, 20, 1), box('c', 60, 0, 10, 1)];
    expect(distributed(single(three), three, 'across', 'box').map(({ dx }) => dx)).toEqual([0, 13, 0]);
    expect(distributed(single(three.slice(1)), three.slice(1), 'across', 'box')).toEqual([]);
  });
});

describe('several parts at once', () => {
  const three = () => {
    const sign = bareSign(200, 100, 10);
    const ids = [-40, 0, 40].map((x) => addShape(sign, [10, 20], raise, { x, y: x / 4 }));
    return { sign, ids };
  };

  it('groups are found, joined and taken apart', () => {
    const { sign, ids } = three();
    grouped(sign, ids.slice(0, 2));
    expect(withGroup(sign, ids[1])).toEqual(ids.slice(0, 2));
    expect(unitsOf(sign, ids)).toEqual([ids.slice(0, 2), [ids[2]]]);
    grouped(sign, ids.slice(1));
    expect(withGroup(sign, ids[0])).toEqual(ids);
    ungrouped(sign, [ids[0]]);
    expect(withGroup(sign, ids[0])).toEqual([ids[0]]);
    expect(readSign(sign)).toBe(sign);
  });

  it('four quarter turns, and two mirrorings, are none; what is locked stays', () => {
    const { sign, ids } = three();
    const before = JSON.stringify(sign);
    for (let i = 0; i < 4; i++) turnedParts(sign, ids, 90, { x: 7, y: -3 });
    for (let i = 0; i < 2; i++) mirroredParts(sign, ids, 11);
    expect(JSON.stringify(sign)).toBe(before);
    turnedParts(sign, ids, 90, { x: 0, y: 0 });
    expect(sign.parts.map(({ place }) => [place.x, place.y, place.turn])).toEqual([
      [10, -40, 90],
      [0, 0, 90],
      [-10, 40, 90],
    ]);
    sign.parts[0].locked = true;
    movedParts(sign, ids.map((id) => ({ id, dx: 1, dy: 1 }))); // prettier-ignore
    expect(sign.parts.map(({ place }) => place.x)).toEqual([10, 1, -9]);
  });

  it('copies have ids of their own and follow each other as the originals do', () => {
    const { sign, ids } = three();
    const rider = addText(sign, 'Fern', 'barlow-semibold', 10, raise);
    rider.sitsOn = { kind: 'part', part: ids[0], at: 'top' };
    sign.parts.push(newCombined(sign, 'join', ids));
    grouped(sign, ids);
    const here = pastedParts(sign.parts, sign);
    sign.parts = [...sign.parts, ...here];
    expect(readSign(sign).parts).toHaveLength(10);
    expect(here[3].sitsOn).toEqual({ kind: 'part', part: here[0].id, at: 'top' });
    expect(here[4]).toMatchObject({ shape: { of: here.slice(0, 3).map(({ id }) => id) } });
    expect(here[0].group).not.toBe(sign.parts[0].group);
    // Elsewhere, what they followed and is not there is let go.
    const other = bareSign(100, 100, 5);
    other.parts = pastedParts([sign.parts[3]], other);
    expect(other.parts[0].sitsOn).toEqual({ kind: 'face' });
    expect(readSign(other)).toBe(other);
  });
});

describe('sizes', () => {
  it('of words: both ways as one, or a word stretched at the same height', () => {
    const sign = bareSign(200, 100, 10);
    const text = addText(sign, 'Fern', 'barlow-semibold', 10, raise);
    expect(resized(text, { across: 2, up: 2 })).toMatchObject({ size: { kind: 'capitals', height: 20, stretch: 100 } });
    expect(resized(text, { across: 1.5, up: 1 })).toMatchObject({ size: { height: 10, stretch: 150 } });
    expect(resized(text, { across: 1, up: 2 })).toMatchObject({ size: { height: 20, stretch: 50 } });
    expect(resized({ ...text, size: { kind: 'seen', width: 50, height: 9 } }, { across: 2, up: 1 })).toMatchObject({
      size: { width: 100, height: 9 },
    });
    const hand = { ...text, letters: [{ at: 1, kern: 2, y: 1 }] };
    expect(resized(hand, { across: 2, up: 3 })).toMatchObject({ letters: [{ at: 1, kern: 4, y: 3 }] });
  });

  it('typed in the plan are those of the part as it lies there', () => {
    const sign = bareSign(200, 100, 10);
    addShape(sign, [60, 30], raise);
    addShape(sign, 20, raise);
    const [panel, disc] = sign.parts;
    const seen = { minX: 0, minY: 0, maxX: 60, maxY: 30 };
    const turned = (turn: number) => ({ ...panel, place: { ...panel.place, turn } });
    expect(factorsToSize(panel, seen, 'width', 120)).toEqual({ across: 2, up: 1 });
    expect(factorsToSize(turned(90), { ...seen, maxX: 30, maxY: 60 }, 'width', 15)).toEqual({ across: 1, up: 0.5 });
    expect(factorsToSize(turned(-90), { ...seen, maxX: 30, maxY: 60 }, 'height', 30)).toEqual({ across: 0.5, up: 1 });
    expect(factorsToSize(turned(20), seen, 'height', 60)).toEqual({ across: 2, up: 2 });
    expect(factorsToSize(disc, { ...seen, maxX: 20, maxY: 20 }, 'height', 30)).toEqual({ across: 1.5, up: 1.5 });
  });

  it.each([
    [
      { kind: 'ellipse', width: 40, height: 20 },
      { width: 80, height: 60 },
    ],
    [
      { kind: 'stadium', width: 40, height: 20 },
      { width: 80, height: 60 },
    ],
    [
      { kind: 'arch', width: 40, height: 30, rise: 10 },
      { width: 80, height: 90, rise: 30 },
    ],
    [
      { kind: 'outline', width: 4, height: 2, path: 'M0 0L4 0L4 2Z' },
      { width: 8, height: 6 },
    ],
    [{ kind: 'line', length: 30 }, { length: 60 }],
    // One size takes the factor that changes it more.
    [{ kind: 'circle', diameter: 30 }, { diameter: 90 }],
    [{ kind: 'polygon', sides: 6, diameter: 30, stands: 'flat' }, { diameter: 90 }],
    [
      { kind: 'border', of: 'blank', inset: 5, width: 2 },
      { inset: 5, width: 2 },
    ],
  ] as const)('of %j stretch as they can', (shape, expected) => {
    const sign = bareSign(200, 100, 10);
    addShape(sign, 10, raise);
    const part = { ...sign.parts[0], shape } as ShapePart;
    expect(resized(part, { across: 2, up: 3 })).toMatchObject({ shape: expected });
  });

  it('an outline becomes the blank, and the design stays where it is on it', () => {
    const sign = bareSign(200, 100, 10);
    const plate = addShape(sign, [80, 60], raise, { x: 20, y: -10 });
    addShape(sign, 10, raise, { x: 25, y: -10 });
    expect(canBeBlank({ ...sign.parts[0], place: { ...sign.parts[0].place, turn: 3 } })).toBe(false);
    becomeBlank(sign, plate);
    expect(sign.blank.outline).toMatchObject({ kind: 'rectangle', width: 80, height: 60 });
    expect(sign.parts.map(({ place }) => [place.x, place.y])).toEqual([[5, 0]]);
    expect(readSign(sign)).toBe(sign);
  });

  it('of the design change with the blank only when asked, by one factor everywhere', () => {
    const sign = bareSign(200, 100, 10);
    addShape(sign, [60, 30], raise, { x: 20, y: 10 });
    const text = addText(sign, 'Fern', 'barlow-semibold', 10, raise);
    const before = JSON.stringify(sign.parts);
    sign.blank.outline = { kind: 'rectangle', width: 400, height: 200, cornerRadius: 0 };
    expect(JSON.stringify(sign.parts)).toBe(before);
    scaledDesign(sign, 0.5);
    expect(sign.blank).toMatchObject({ outline: { width: 200, height: 100 }, thickness: 10 });
    expect(sign.parts[0]).toMatchObject({ shape: { width: 30, height: 15 }, place: { x: 10, y: 5 } });
    expect(sign.parts[1]).toMatchObject({ id: text.id, size: { height: 5, stretch: 100 } });
    expect(readSign(sign)).toBe(sign);
  });
});
