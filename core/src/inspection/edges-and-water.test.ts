import { describe, expect, it } from '@jest/globals';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { bounds } from '../geometry/index.js';
import { Evaluator } from '../relief/index.js';
import { type Action, newShape, type Sign } from '../sign/index.js';
import { applyRemedy, type CheckCode, type Finding, inspect, type Limits, remediesOf, USUAL_LIMITS } from './index.js';

const workshop = new Workshop();
const carve = (by: number): Action => ({ kind: 'carve', by });
const raise = (by: number): Action => ({ kind: 'raise', by });
const HOLE: Action = { kind: 'cut-through' };

/** A plate of 80 × 50 × 12 mm. */
const plate = (change: (sign: Sign) => void): Sign => {
  const sign = bareSign(80, 50, 12);
  change(sign);
  return sign;
};
const of = (check: CheckCode, sign: Sign, limits: Partial<Limits> = {}): Finding | undefined =>
  inspect(workshop.evaluate(sign), { ...USUAL_LIMITS, ...limits }).find((finding) => finding.check === check);

/** The stem of an I in shares of its height: it is a rectangle. */
function height(sign: Sign): number {
  const [ring] = workshop.evaluate(sign).parts[0].area.contours;
  const box = bounds([ring])!;
  return (box.maxX - box.minX) / (box.maxY - box.minY);
}

/** The labels of what mends a finding, each tried once more. */
function mending(check: CheckCode, sign: Sign, limits: Partial<Limits> = {}): string[] {
  const given = { ...USUAL_LIMITS, ...limits };
  const evaluator = new Evaluator(workshop.book);
  const remedies = remediesOf(of(check, sign, limits)!, evaluator.evaluateLoaded(sign), evaluator, given);
  return remedies.map((remedy) => {
    const next = structuredClone(sign);
    applyRemedy(next, remedy);
    expect(of(check, next, limits)).toBeUndefined();
    return remedy.label;
  });
}

describe('inner corners', () => {
  it('keep r (√2 − 1) where they are square, and r where they are of 60°', () => {
    const pocket = plate((sign) => addShape(sign, [30, 20], carve(3)));
    const found = of('sharp-corner', pocket, { tool: 3 })!;
    expect(found.measured / (1.5 * (Math.SQRT2 - 1))).toBeCloseTo(1, 2);
    expect(found.text).toContain('4 inner corners');
    expect(found.heights).toEqual([-3, 0]);
    // At the corners of the pocket.
    expect(found.places.map(({ x, y }) => [Math.abs(x), Math.abs(y)].map(Math.round))).toEqual(Array(4).fill([15, 10]));
    // 0.497 mm are not seen.
    expect(of('sharp-corner', pocket, { tool: 2.4 })).toBeUndefined();
    const triangle = plate((sign) => {
      const part = newShape(sign, 'outline');
      part.shape = { kind: 'outline', width: 24, height: 24 * Math.sin(Math.PI / 3), path: `M0 0L2 0L1 ${Math.sqrt(3)}Z` };
      part.tiers[0].action = carve(3);
      sign.parts.push(part);
    });
    expect(of('sharp-corner', triangle, { tool: 1.5 })!.measured).toBeCloseTo(0.75, 2);
    expect(of('sharp-corner', triangle, { tool: 0.98 })).toBeUndefined();
  });

  it('are none where they are rounded for the mill, and outside of what stands', () => {
    const rounded = plate((sign) => {
      addShape(sign, [30, 20], carve(3));
      Object.assign((sign.parts[0] as { shape: object }).shape, { cornerRadius: 1.6 });
    });
    expect(of('sharp-corner', rounded, { tool: 3 })).toBeUndefined();
    expect(of('sharp-corner', plate((sign) => addShape(sign, [30, 20], raise(3))), { tool: 3 })).toBeUndefined(); // prettier-ignore
    // An L has one.
    const angle = plate((sign) => {
      addShape(sign, [30, 10], raise(3), { x: 0, y: -5 });
      addShape(sign, [10, 20], raise(3), { x: -10, y: 0 });
    });
    expect(of('sharp-corner', angle, { tool: 3 })!.text).toContain('an inner corner');
  });
});

describe('sides of what is cast', () => {
  const block = (angle: number): Sign =>
    plate((sign) => {
      addShape(sign, [30, 20], raise(4));
      if (angle > 0) sign.parts[0].tiers[0].edge = { kind: 'sloped', angle, sized: 'foot' };
    });

  it('lean from 2° on; those of the blank and of holes are cut after', () => {
    const upright = of('no-draft', block(0), { shrinkage: 1.5 })!;
    expect(upright.measured).toBeCloseTo(0, 3);
    expect(Number(/([\d.]+) mm²/u.exec(upright.text)![1])).toBe(2 * (30 + 20) * 4);
    expect(of('no-draft', block(1.5), { shrinkage: 1.5 })!.measured).toBeCloseTo(1.5, 1);
    expect(of('no-draft', block(2), { shrinkage: 1.5 })).toBeUndefined();
    expect(of('no-draft', block(0))).toBeUndefined();
    expect(of('no-draft', plate((sign) => addShape(sign, 6, HOLE, { x: 20, y: 0 })), { shrinkage: 1.5 })).toBeUndefined(); // prettier-ignore
    expect(mending('no-draft', block(0), { shrinkage: 1.5 })).toEqual(['Lean the sides so that a pattern leaves the sand']);
  });
});

describe('water', () => {
  const pocket = (tilt: number | undefined, ...more: readonly ((sign: Sign) => void)[]): Sign =>
    plate((sign) => {
      addShape(sign, [30, 20], carve(3));
      if (tilt !== undefined) sign.checks = { tilt };
      for (const each of more) each(sign);
    });
  const volume = ({ text }: Finding): number => Number(/([\d.]+) cm³/u.exec(text)![1]);

  it('stands in a pocket as deep as it is, and runs out through a hole', () => {
    const found = of('standing-water', pocket(0))!;
    expect(found.measured).toBeCloseTo(3, 6);
    expect(volume(found)).toBe(1.8);
    expect(of('standing-water', pocket(undefined))).toBeUndefined();
    expect(
      of(
        'standing-water',
        pocket(0, (sign) => addShape(sign, 4, HOLE)),
      ),
    ).toBeUndefined();
    expect(mending('standing-water', pocket(0))).toEqual(['Let the water out by a hole of 4 mm']);
    // What is not deeper than half a millimetre dries.
    const flat = (by: number): Sign => plate((sign) => (addShape(sign, [30, 20], carve(by)), (sign.checks = { tilt: 0 })));
    expect(of('standing-water', flat(0.49))).toBeUndefined();
    expect(of('standing-water', flat(0.5))).toBeDefined();
    // Raised letters shed it, but for what they close in.
    const o = plate((sign) => (addText(sign, 'O', 'barlow-bold', 20, raise(2)), (sign.checks = { tilt: 0 })));
    expect(of('standing-water', o)!.measured).toBeCloseTo(2, 6);
    expect(of('standing-water', plate((sign) => (addText(sign, 'HI', 'barlow-bold', 20, raise(2)), (sign.checks = { tilt: 0 }))))).toBeUndefined(); // prettier-ignore
  });

  it.each([10, 20, 45])('is a wedge of w d² / (2 tan t) in one that leans by %i°', (tilt) => {
    const found = of('standing-water', pocket(tilt))!;
    const rad = (tilt * Math.PI) / 180;
    expect(found.measured).toBeCloseTo(3 * Math.cos(rad), 4);
    // Longer than the pocket at 10°? 3 / tan 10° is 17 mm of its 20.
    expect(Math.abs(volume(found) - (30 * 9) / (2 * Math.tan(rad)) / 1000)).toBeLessThan(0.051);
    expect(found.places[0].y).toBeLessThan(0);
  });

  it('runs off what stands upright', () => {
    expect(of('standing-water', pocket(90))).toBeUndefined();
  });
});

describe('what is read from afar', () => {
  const bar = (height: number): Sign => plate((sign) => addText(sign, 'IIII', 'barlow-bold', height, raise(1)));

  it('has strokes of two minutes of arc: 0.582 mm for a metre', () => {
    const stem = height(bar(20)) * 20;
    const metres = stem / (2000 * Math.tan(Math.PI / 180 / 60));
    expect(of('thin-for-distance', bar(20), { distance: metres * 0.99 })).toBeUndefined();
    const found = of('thin-for-distance', bar(20), { distance: metres * 1.02 })!;
    expect(found.measured / stem).toBeCloseTo(1, 1);
    expect(found.limit / (metres * 1.02)).toBeCloseTo(0.5818, 3);
    expect(of('thin-for-distance', bar(20))).toBeUndefined();
  });

  it('has words farther apart than letters, however it is turned', () => {
    const spread = (tracking: number, turn = 0): Sign =>
      plate((sign) => {
        const text = addText(sign, 'HI II\nII HI', 'barlow-bold', 5, raise(1));
        text.tracking = tracking;
        text.place.turn = turn;
      });
    expect(of('close-words', spread(0))).toBeUndefined();
    // Tracking opens words and letters by as much: their shares come closer.
    const found = of('close-words', spread(900))!;
    expect(found.measured).toBeLessThan(2.2);
    expect(of('close-words', spread(900, 33))!.measured).toBeCloseTo(found.measured, 1);
    expect(of('close-words', plate((sign) => (addText(sign, 'HIII', 'barlow-bold', 5, raise(1)).tracking = 400)))).toBeUndefined(); // prettier-ignore
  });
});

describe('glare', () => {
  it('is of a glossy ground, not of glossy words', () => {
    const painted = (ground: 'gloss' | 'matt', words: 'gloss' | 'matt'): Sign =>
      plate((sign) => {
        sign.finishes = [
          { id: 'a', name: 'ash', colour: '#dddddd', gloss: words },
          { id: 'b', name: 'black', colour: '#000000', gloss: ground },
        ];
        sign.blank.finish = { face: 'b' };
        addText(sign, 'PIER', 'barlow-bold', 14, raise(1)).tiers[0].finish = { top: 'a' };
      });
    expect(of('glare', painted('gloss', 'matt'))!.text).toContain('before black, which is glossy');
    expect(of('glare', painted('matt', 'gloss'))).toBeUndefined();
    expect(mending('glare', painted('gloss', 'matt'))).toEqual(['Make black matt']);
  });
});
