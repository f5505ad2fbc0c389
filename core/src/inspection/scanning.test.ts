import { describe, expect, it } from '@jest/globals';
import { addShape, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { Evaluator } from '../relief/index.js';
import { type CodeShape, FINISHES, newShape, newTier, type ShapePart, type Sign } from '../sign/index.js';
import {
  applyRemedy,
  type CheckCode,
  contrastRatio,
  type Finding,
  inspect,
  type Limits,
  remediesOf,
  USUAL_LIMITS,
} from './index.js';

const workshop = new Workshop();
const SCANNING: readonly CheckCode[] = ['small-modules', 'tall-modules', 'quiet-zone', 'faint-code'];

/** A white plate of 100 × 100 mm with a black QR code of 21 modules of 2 mm, raised by 1 mm. */
function coded(change: Partial<CodeShape> = {}, by = 1): { sign: Sign; part: ShapePart } {
  const sign = bareSign(100, 100, 6);
  sign.finishes = FINISHES.filter(({ id }) => id === 'black' || id === 'white');
  sign.blank.finish = { face: 'white' };
  const part = newShape(sign, 'code');
  part.shape = { kind: 'code', symbology: 'qr', words: 'PIER 9', module: 2, ...change };
  part.tiers = [{ ...newTier('tier-1', { kind: 'raise', by }), finish: { top: 'black' } }];
  sign.parts.push(part);
  return { sign, part };
}

const scanned = (sign: Sign, limits: Partial<Limits> = {}): Finding[] =>
  inspect(workshop.evaluate(sign), { ...USUAL_LIMITS, ...limits }).filter(({ check }) => SCANNING.includes(check));
const only = (sign: Sign, limits: Partial<Limits> = {}): Finding => {
  const [found, ...others] = scanned(sign, limits);
  expect(others).toEqual([]);
  return found;
};

describe('codes to scan', () => {
  it('pass where they are large, low, dark on light and free', () => expect(scanned(coded().sign)).toEqual([]));

  it('have modules that the mill makes; of such that are only coloured, that a reader tells', () => {
    expect(only(coded({ module: 1.4 }, 0.6).sign)).toMatchObject({ check: 'small-modules', measured: 1.4, limit: 1.5 });
    expect(scanned(coded({ module: 1.5 }, 0.6).sign)).toEqual([]);
    const coloured = coded({ module: 0.32 });
    coloured.part.tiers[0].action = { kind: 'mark' };
    expect(only(coloured.sign)).toMatchObject({ check: 'small-modules', measured: 0.32, limit: 0.33 });
    (coloured.part.shape as CodeShape).module = 0.34;
    expect(scanned(coloured.sign)).toEqual([]);
  });

  it('stand by half a module at most', () => {
    expect(scanned(coded({}, 1).sign)).toEqual([]);
    const found = only(coded({}, 1.1).sign);
    expect([found.check, found.limit]).toEqual(['tall-modules', 0.5]);
    expect(found.measured).toBeCloseTo(0.55, 9);
    expect(found.text).toContain('stand or lie 1.1 mm off their ground and shade each other: at most 1 mm');
  });

  it('keep their quiet zone: four modules of a QR code, on a straight or a turned one, from parts and the edge', () => {
    for (const turn of [0, 30, 90, 200])
      for (const mirror of [false, true])
        for (const [free, isFree] of [
          [3.9, false],
          [4.05, true],
        ] as const) {
          // prettier-ignore
          const { sign, part } = coded();
          Object.assign(part.place, { x: 6, y: -3, turn, mirror });
          // A bar beside it: 21 modules are 42 mm, and it is 2 mm thick.
          const away = 21 + free * 2 + 1;
          const rad = (turn * Math.PI) / 180;
          addShape(sign, [2, 10], { kind: 'carve', by: 1 }, { x: 6 + away * Math.cos(rad), y: -3 + away * Math.sin(rad), turn });
          const found = scanned(sign);
          if (isFree) expect(found).toEqual([]);
          else expect([found[0].check, found[0].measured.toFixed(2), found[0].limit]).toEqual(['quiet-zone', '3.90', 4]);
        }
    const { sign, part } = coded();
    part.place.x = 50 - 21 - 7.8;
    expect(only(sign)).toMatchObject({ check: 'quiet-zone', about: 'the edge of the blank', limit: 4 });
    expect(only(sign).measured).toBeCloseTo(3.9, 6);
    part.place.x = 50 - 21 - 8;
    expect(scanned(sign)).toEqual([]);
  });

  it('are looked at on the side that is turned to the reader, with what is there', () => {
    const { sign, part } = coded();
    part.side = 'back';
    sign.blank.finish = { face: 'white', back: 'white' };
    addShape(sign, [2, 10], { kind: 'carve', by: 1 }, { x: 24, y: 0 });
    const seen = (side: 'front' | 'back'): CheckCode[] => inspect(workshop.evaluate(sign, side), USUAL_LIMITS).map(({ check }) => check).filter((check) => SCANNING.includes(check)); // prettier-ignore
    expect([seen('front'), seen('back')]).toEqual([[], []]);
    sign.parts[1].side = 'back';
    expect([seen('front'), seen('back')]).toEqual([[], ['quiet-zone']]);
  });

  it('of bars want 11 modules before and 7 after, and nothing above and below', () => {
    const { sign, part } = coded({ symbology: 'ean-13', words: '978030640615', module: 0.8, height: 20 }, 0.4);
    sign.blank.outline = { kind: 'rectangle', width: 200, height: 100, cornerRadius: 0 };
    const side = (at: number): Finding[] => {
      const other = structuredClone(sign);
      addShape(other, [2, 10], { kind: 'carve', by: 1 }, { x: at, y: 0 });
      return scanned(other, { tool: 0.5 });
    };
    expect(part.shape.kind).toBe('code');
    expect(side(38 + 7.1 * 0.8 + 1)).toEqual([]);
    expect(side(38 + 6.9 * 0.8 + 1)[0].check).toBe('quiet-zone');
    expect(side(-38 - 11.1 * 0.8 - 1)).toEqual([]);
    expect(side(-38 - 10.9 * 0.8 - 1)[0].measured).toBeCloseTo(10.9, 6);
    addShape(sign, [60, 2], { kind: 'carve', by: 1 }, { x: 0, y: 11.5 });
    expect(scanned(sign, { tool: 0.5 })).toEqual([]);
  });

  it('are dark on light: three to one', () => {
    const grey = (colour: string): Sign => {
      const { sign, part } = coded();
      sign.finishes = [...sign.finishes!, { id: 'grey', name: 'Grey', colour, gloss: 'matt' }];
      part.tiers[0].finish = { top: 'grey' };
      return sign;
    };
    const white = FINISHES.find(({ id }) => id === 'white')!.colour;
    const found = only(grey('#9a9a9a'));
    expect([found.check, found.limit]).toEqual(['faint-code', 3]);
    expect(found.measured).toBeCloseTo(contrastRatio('#9a9a9a', white), 9);
    expect(contrastRatio('#888888', white)).toBeGreaterThan(3);
    expect(scanned(grey('#888888'))).toEqual([]);
    const turned = coded();
    turned.sign.blank.finish = { face: 'black' };
    turned.part.tiers[0].finish = { top: 'white' };
    expect(only(turned.sign).text).toContain('is light on dark');
    // Of the ground around the modules it is the other way round.
    const ground = coded({ ground: true });
    ground.sign.blank.finish = { face: 'black' };
    ground.part.tiers[0].finish = { top: 'white' };
    expect(scanned(ground.sign)).toEqual([]);
    // Nothing is seen of what is cut through.
    const cut = coded();
    cut.part.tiers[0] = newTier('tier-1', { kind: 'cut-through' });
    expect(scanned(cut.sign).filter(({ check }) => check === 'faint-code')).toEqual([]);
    const bare = coded();
    delete bare.sign.finishes;
    delete bare.sign.blank.finish;
    delete bare.part.tiers[0].finish;
    expect(only(bare.sign)).toMatchObject({ check: 'faint-code', measured: 1 });
  });

  it.each([
    ['small-modules', coded({ module: 1.4 }, 0.6), 'Make the modules of Code 1 1.5 mm'],
    ['tall-modules', coded({}, 1.4), 'Bring Code 1 nearer to its ground'],
    ['faint-code', (() => { const all = coded(); delete all.part.tiers[0].finish; return all; })(), 'Code 1 in black'], // prettier-ignore
  ] as const)('%s is mended', (check, { sign }, label) => {
    const evaluation = workshop.evaluate(sign);
    const evaluator = new Evaluator(workshop.book);
    const limits = { ...USUAL_LIMITS, leastStroke: 0.1 };
    const found = inspect(evaluation, limits).find((each) => each.check === check)!;
    const remedy = remediesOf(found, evaluation, evaluator, limits).find((each) => each.label === label);
    expect(remedy).toBeDefined();
    applyRemedy(sign, remedy!);
    expect(scanned(sign)).toEqual([]);
  });
});
