import { describe, expect, it } from '@jest/globals';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { Evaluator } from '../relief/index.js';
import { type Sign } from '../sign/index.js';
import { applyRemedy, type Finding, inspect, remediesOf, USUAL_LIMITS } from './index.js';

const workshop = new Workshop();
const CUT = { kind: 'cut-through' } as const;

const hanging = (sign: Sign, leastWall = 1.5): Finding | undefined =>
  inspect(workshop.evaluate(sign), { ...USUAL_LIMITS, leastWall }).find(({ check }) => check === 'hanging-piece');

/** A plate of 80 × 50 mm that is parted at x = 20 but for necks so wide: one in the middle, or two. */
function parted(...necks: readonly number[]): Sign {
  const sign = bareSign(80, 50, 6);
  const [middle, upper = 0] = necks;
  const gaps = upper === 0 ? [[-26, -middle / 2], [middle / 2, 26]] : [[-26, -10 - middle / 2], [middle / 2 - 10, 10 - upper / 2], [10 + upper / 2, 26]]; // prettier-ignore
  for (const [from, to] of gaps) addShape(sign, [2, to - from], CUT, { x: 20, y: (from + to) / 2 });
  return sign;
}

describe('a piece that hangs from the rest', () => {
  it('hangs by as much as its neck is wide', () => {
    const found = hanging(parted(2.4))!;
    expect(Math.abs(found.measured - 2.4)).toBeLessThan(3 / 64);
    expect(found.limit).toBe(3);
    // The right one is the smaller: from 21 to 40.
    expect(found.places).toHaveLength(1);
    expect(Math.abs(found.places[0].x - 30.5)).toBeLessThan(0.6);
    expect(hanging(parted(3.05))).toBeUndefined();
    expect(hanging(parted(2.4), 1.15)).toBeUndefined();
  });

  it('hangs by the widest of its necks', () => {
    expect(Math.abs(hanging(parted(1.8, 2.5))!.measured - 2.5)).toBeLessThan(3 / 64);
    expect(hanging(parted(1.8, 3.1))).toBeUndefined();
  });

  it('is one whether it is carved or not, and none is too small to be pulled at or loose already', () => {
    const carved = parted(2.4);
    addShape(carved, [10, 30], { kind: 'carve', by: 2 }, { x: 32, y: 0 });
    expect(hanging(carved)?.measured).toBeCloseTo(2.4, 1);
    // A tooth of 4 mm at the edge, and the whole plate apart.
    const toothed = bareSign(80, 50, 6);
    for (const x of [-3, 3]) addShape(toothed, [2, 8], CUT, { x, y: 22 });
    expect(hanging(toothed)).toBeUndefined();
    const loose = bareSign(80, 50, 6);
    addShape(loose, [2, 60], CUT, { x: 20, y: 0 });
    expect(hanging(loose)).toBeUndefined();
  });

  it('does not change where the sign is moved, turned or mirrored, and grows with it', () => {
    for (const turn of [0, 37, 180])
      for (const mirror of [false, true]) {
        const sign = bareSign(200, 200, 6);
        // A slit around a tongue that hangs by 4.2 mm.
        for (const [width, height, x, y] of [
          [2, 20, -11, 10],
          [2, 20, 11, 10],
          [24, 2, 0, 21],
          [9.9, 2, -7.05, -1],
          [9.9, 2, 7.05, -1],
        ]) {
          // prettier-ignore
          const rad = (turn * Math.PI) / 180;
          const [ax, ay] = [mirror ? -x : x, y];
          addShape(sign, [width, height], CUT, {
            x: 31 + ax * Math.cos(rad) - ay * Math.sin(rad),
            y: -12 + ax * Math.sin(rad) + ay * Math.cos(rad),
            turn,
          });
        }
        expect(Math.abs(hanging(sign, 3)!.measured - 4.2)).toBeLessThan(6 / 64);
      }
    const double = parted(2.4);
    for (const part of double.parts) {
      if (part.kind !== 'shape' || part.shape.kind !== 'rectangle') throw new Error('rectangles are asked for');
      [part.shape.width, part.shape.height, part.place.x, part.place.y] = [part.shape.width, part.shape.height, part.place.x, part.place.y].map((mm) => 2 * mm); // prettier-ignore
    }
    double.blank.outline = { kind: 'rectangle', width: 160, height: 100, cornerRadius: 0 };
    expect(hanging(double, 3)!.measured).toBeCloseTo(2 * hanging(parted(2.4))!.measured, 1);
  });

  it('of a cut word hangs by its bridges, which are made wider', () => {
    const sign = bareSign(120, 80, 6);
    const word = addText(sign, 'O', 'barlow-semibold', 50, CUT);
    word.bridges = { width: 1.7, count: 2, turn: 90 };
    const evaluation = workshop.evaluate(sign);
    const limits = { ...USUAL_LIMITS, leastWall: 1 };
    const found = inspect(evaluation, limits).find(({ check }) => check === 'hanging-piece')!;
    expect(found.measured).toBeCloseTo(1.7, 1);
    const evaluator = new Evaluator(workshop.book);
    const [remedy] = remediesOf(found, evaluation, evaluator, limits);
    expect(remedy.label).toBe('Make the bridges of Line 1 2.02 mm wide');
    applyRemedy(sign, remedy);
    expect(hanging(sign, 1)).toBeUndefined();
  });
});
