import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from '@jest/globals';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { newShape, type ShapePart, type Sign, type TextPart } from '../sign/index.js';
import { Evaluator } from '../relief/index.js';
import { contrastOf } from './standards/index.js';
import { applyRemedy, type CheckCode, contrastRatio, type Finding, inspect, type Limits, printed, remediesOf, told, USUAL_LIMITS, type Words } from './index.js'; // prettier-ignore

const workshop = new Workshop();
const raise = { kind: 'raise', by: 1 } as const;
const HOLE = { kind: 'cut-through' } as const;

const all = (sign: Sign, limits: Partial<Limits> = {}, words: Words = {}): Finding[] =>
  inspect(workshop.evaluate(sign), { ...USUAL_LIMITS, ...limits }, words);
const of = (check: CheckCode, sign: Sign, limits: Partial<Limits> = {}, words: Words = {}): Finding | undefined =>
  all(sign, limits, words).find((finding) => finding.check === check);
const near = (value: number | undefined, wanted: number): void => expect(Math.abs(value! - wanted)).toBeLessThan(Math.max(0.01 * wanted, 0.02)); // prettier-ignore

/** A plate of 200 × 100 × 6 mm with a line of words. */
function worded(words: string, change: (text: TextPart, sign: Sign) => void = () => undefined): Sign {
  const sign = bareSign(200, 100, 6);
  const text = addText(sign, words, 'barlow-semibold', 12, raise);
  change(text, sign);
  return sign;
}

describe('sizes', () => {
  it('are too much for machines that reach less, whichever way the sign lies', () => {
    const machines = [{ name: 'small', width: 150, height: 250 }];
    expect(of('no-machine', bareSign(250, 150, 6), { machines })).toBeUndefined();
    expect(of('no-machine', bareSign(251, 150, 6), { machines })).toMatchObject({ measured: 251, limit: 250 });
    expect(of('no-machine', bareSign(251, 150, 6))).toBeUndefined();
  });

  it('want a sheet of the thickness that is large enough', () => {
    const sheets = [{ width: 1220, height: 610, thickness: 6 }, { width: 100, height: 100, thickness: 8 }]; // prettier-ignore
    expect(of('no-sheet', bareSign(600, 1200, 6), { sheets })).toBeUndefined();
    expect(of('no-sheet', bareSign(600, 1200, 6.04), { sheets })).toBeUndefined();
    expect(of('no-sheet', bareSign(60, 60, 7.2), { sheets })).toMatchObject({ measured: 7.2, limit: 8, about: 'thickness' });
    expect(of('no-sheet', bareSign(101, 90, 8), { sheets })).toMatchObject({ about: 'size' });
  });

  it('show the corners of curves that have too few lines: a polygon lies r (1 − cos π/n) off its circle', () => {
    const polygon = (sides: number, size: number): Sign => {
      const sign = bareSign(200, 200, 6);
      const points = Array.from({ length: sides }, (_, i) => `${Math.cos((2 * Math.PI * i) / sides).toFixed(6)} ${Math.sin((2 * Math.PI * i) / sides).toFixed(6)}`); // prettier-ignore
      const part: ShapePart = { ...newShape(sign, 'outline'), shape: { kind: 'outline', width: size, height: size, path: `M${points.join('L')}Z` }, tiers: [{ id: 't', on: true, area: { kind: 'outline' }, action: raise }] }; // prettier-ignore
      sign.parts.push(part);
      return sign;
    };
    near(of('coarse-curve', polygon(24, 100))?.measured, 50 * (1 - Math.cos(Math.PI / 24)));
    // The same drawing at a quarter of the size: 0.107 mm; a little smaller it is not seen.
    expect(of('coarse-curve', polygon(24, 25))).toBeDefined();
    expect(of('coarse-curve', polygon(24, 23))).toBeUndefined();
    // A square has corners that are meant.
    expect(of('coarse-curve', polygon(4, 100))).toBeUndefined();
  });
});

describe('reading', () => {
  const painted = (top: string, face: string): Sign =>
    worded('PIER', (text, sign) => {
      sign.finishes = [
        { id: 'top', name: 'top', colour: top, gloss: 'matt' },
        { id: 'face', name: 'face', colour: face, gloss: 'matt' },
      ];
      sign.blank.finish = { face: 'face' };
      text.tiers[0].finish = { top: 'top' };
    });

  it('has the contrast of the two finishes: (L1 + 0.05) / (L2 + 0.05)', () => {
    // WCAG 2: black on white is 21 to 1; #949494 on white is 3.03 to 1, #959595 2.99 to 1.
    expect(contrastRatio('#000000', '#ffffff')).toBeCloseTo(21, 9);
    expect(of('low-contrast', painted('#949494', '#ffffff'))).toBeUndefined();
    near(of('low-contrast', painted('#959595', '#ffffff'))?.measured, 2.99);
    // Words that are only coloured wear their own finish, too.
    const coloured = painted('#959595', '#ffffff');
    coloured.parts[0].tiers[0].action = { kind: 'mark' };
    near(of('low-contrast', coloured)?.measured, 2.99);
    // Nothing is told of one finish: light and shadow are read.
    expect(of('low-contrast', worded('PIER'))).toBeUndefined();
    expect(
      contrastOf(
        { id: 'a', name: 'a', gloss: 'matt', colour: '#ffffff' },
        { id: 'b', name: 'b', gloss: 'matt', colour: '#000000' },
      ),
    ).toBe(100);
  });

  it('has lines apart', () => {
    const lines = (of: number, words: string): Sign => worded(words, (text) => (text.leading = { kind: 'percent', of }));
    expect(of('tight-lines', lines(109, 'PIER\nROAD'))).toMatchObject({ limit: 110 });
    expect(of('tight-lines', lines(110, 'PIER\nROAD'))).toBeUndefined();
    expect(of('tight-lines', lines(129, 'Pier\nRoad'))?.measured).toBeCloseTo(129, 6);
    expect(of('tight-lines', lines(130, 'Pier\nRoad'))).toBeUndefined();
    expect(of('tight-lines', lines(50, 'PIER'))).toBeUndefined();
  });
});

describe('setting', () => {
  const plate = (x: number, y = 0): Sign => {
    const sign = bareSign(200, 100, 6);
    addShape(sign, [100, 40], raise, { x, y });
    return sign;
  };

  it('has margins that are equal, or meant not to be', () => {
    near(of('unequal-margins', plate(1))?.measured, 2);
    expect(of('unequal-margins', plate(0.1))).toBeUndefined();
    // 2 % of 200 mm.
    expect(of('unequal-margins', plate(1.99))).toBeDefined();
    expect(of('unequal-margins', plate(2.01))).toBeUndefined();
    near(of('unequal-margins', plate(0, -0.4))?.measured, 0.8);
    // Across what is seen counts, up the capitals: a descender makes nothing look lower.
    const descender = of(
      'unequal-margins',
      worded('Pay', (text) => (text.place.y = 0.5)),
    );
    near(descender?.measured, 1);
    expect(descender?.text).toContain('by capitals; by all that is seen');
    expect(of('unequal-margins', worded('Pay'))).toBeUndefined();
  });

  it('has parts in line', () => {
    const two = (off: number): Sign => {
      const sign = bareSign(200, 100, 6);
      addShape(sign, [80, 20], raise, { x: 0, y: 20 });
      addShape(sign, [40, 20], raise, { x: off, y: -20 });
      return sign;
    };
    near(of('nearly-aligned', two(0.8))?.measured, 0.8);
    expect(of('nearly-aligned', two(0.8))?.about).toBe('middle');
    expect(of('nearly-aligned', two(0.1))).toBeUndefined();
    expect(of('nearly-aligned', two(0.99))).toBeDefined();
    expect(of('nearly-aligned', two(1.01))).toBeUndefined();
    expect(of('nearly-aligned', two(-20.5))).toMatchObject({ about: 'left' });
  });

  it('has sizes that differ or do not, and few families', () => {
    const two = (height: number): Sign => worded('PIER', (text, sign) => {
      text.place.y = 25;
      addText(sign, 'ROAD', 'barlow-semibold', height, raise).place.y = -25;
    }); // prettier-ignore
    near(of('near-sizes', two(11.5))?.measured, 0.5);
    expect(of('near-sizes', two(12.01))).toBeUndefined();
    expect(of('near-sizes', two(11.42))).toBeDefined();
    expect(of('near-sizes', two(11.38))).toBeUndefined();
    const set = (...fonts: string[]): Sign => {
      const sign = bareSign(200, 200, 6);
      fonts.forEach((font, i) => (addText(sign, 'A', font, 10 + 3 * i, raise).place.y = 60 - 25 * i));
      return sign;
    };
    expect(of('many-fonts', set('barlow-semibold', 'barlow-bold', 'lora-bold', 'cinzel-bold'))).toBeUndefined();
    expect(of('many-fonts', set('barlow-semibold', 'dancing-script-semibold', 'lora-bold', 'cinzel-bold'))).toMatchObject({
      measured: 4,
    });
  });

  it.each<[CheckCode, string, string]>([
    ['straight-quotes', `Millrace's "Old Quay"`, 'Millrace’s “Old Quay”'],
    ['straight-quotes', `the dog's 'den'`, 'the dog’s ‘den’'],
    ['double-blank', 'Old  Quay ', 'Old Quay'],
    ['hyphen-for-dash', '9-17 - daily', '9–17 – daily'],
  ])('has the marks of print: %s', (check, words, better) => {
    expect(of(check, worded(words))).toBeDefined();
    expect(printed(words, check)).toBe(better);
    expect(of(check, worded(better))).toBeUndefined();
  });

  it('keeps hyphens where they belong', () => {
    expect(of('hyphen-for-dash', worded('Saxe-Coburg'))).toBeUndefined();
  });

  it('looks words up as they would be written, and only where there is a dictionary', () => {
    const known = new Set(['harbour', 'Quay', "don't"]);
    const isKnown = (word: string): boolean => known.has(word);
    const unknown = (words: string) => all(worded(words), {}, { isKnown }).flatMap(({ check, about }) => (check === 'unknown-word' ? [about] : [])); // prettier-ignore
    expect(unknown('HARBOUR QUAY Don’t 24 A')).toEqual([]);
    expect(unknown('HARBUOR Quay')).toEqual(['HARBUOR']);
    expect(of('unknown-word', worded('HARBUOR'))).toBeUndefined();
  });

  it('has every word that was ordered, and no other', () => {
    const found = (order: string) => all(worded('PIER 4\nO’Hara', (_, sign) => (sign.checks = { order }))).flatMap(({ check, text }) => (check === 'not-ordered' ? [text] : [])); // prettier-ignore
    expect(found("Pier 4, O'Hara")).toEqual([]);
    expect(found("Pier 5, O'Hara")).toEqual(['Ordered, but not on the sign: “5”.', 'Line 1 says what was not ordered: “4”.']);
    expect(found(' ')).toEqual([]);
  });
});

describe('fixing', () => {
  it('keeps holes out of words', () => {
    const holed = (x: number, y: number): Sign => worded('HHH', (_, sign) => addShape(sign, 4, HOLE, { x, y }));
    expect(of('hole-in-words', holed(0, 20))).toBeUndefined();
    const found = of('hole-in-words', holed(0, 0));
    expect(found?.others).toEqual(['line-1']);
    // The bar of the H, 4 mm of it, as high as its stroke.
    expect(found!.measured).toBeGreaterThan(3);
    expect(found!.measured).toBeLessThan(12.57);
  });

  it('weighs what hangs on them: 4 kg for each', () => {
    const heavy = (thickness: number): Sign => {
      const sign = bareSign(400, 250, thickness);
      sign.parts.push({ ...newShape(sign, 'fixings'), tiers: [{ id: 't', on: true, area: { kind: 'outline' }, action: HOLE }] });
      return sign;
    };
    // 400 × 250 × 20 mm of 8000 kg/m³ are 16 kg on four holes.
    expect(of('heavy-for-holes', heavy(20), { density: 8000 })).toBeUndefined();
    near(of('heavy-for-holes', heavy(21), { density: 8000 })?.measured, 4.2);
    expect(of('heavy-for-holes', heavy(21))).toBeUndefined();
  });
});

describe('checks that a sign is not told of', () => {
  it('are told apart with their reason', () => {
    const sign = worded('"PIER"');
    sign.checks = { off: [{ check: 'straight-quotes', reason: 'the customer wants them so' }] };
    const evaluation = workshop.evaluate(sign);
    const { findings, off } = told(evaluation, inspect(evaluation, USUAL_LIMITS));
    expect(findings.some(({ check }) => check === 'straight-quotes')).toBe(false);
    expect(off.map(({ reason }) => reason)).toEqual(['the customer wants them so']);
  });
});

/** The sign after a remedy. */
function mended(sign: Sign, remedy: Parameters<typeof applyRemedy>[1]): Sign {
  const next = structuredClone(sign);
  applyRemedy(next, remedy);
  return next;
}

describe('remedies', () => {
  const remedies = (sign: Sign, check: CheckCode, limits: Partial<Limits> = {}) => {
    const evaluator = new Evaluator(workshop.book);
    const evaluation = evaluator.evaluateLoaded(sign);
    const given = { ...USUAL_LIMITS, ...limits };
    const finding = inspect(evaluation, given).find((each) => each.check === check)!;
    return remediesOf(finding, evaluation, evaluator, given);
  };

  it.each<[CheckCode, () => Sign, string, Partial<Limits>?]>([
    ['narrow-gap', () => worded('HHH', (text) => (text.tracking = -12)), 'Open up Line 1', { tool: 1.4 }],
    ['thin-stroke', () => worded('HIL', (text) => Object.assign(text, { font: 'barlow-regular', size: { kind: 'capitals', height: 6, stretch: 100 }, tracking: 40 })), 'Thicken', { tool: 0.5 }],
    ['tall-stroke', () => worded('HIL', (text) => ((text.tiers[0].action = { kind: 'raise', by: 12 }), (text.tracking = 40))), 'Lower', { tool: 0.5 }],
    ['small-letters', () => worded('PIER'), 'Raise Line 1', { distance: 2, tool: 0.2 }],
    ['tight-lines', () => worded('AB\nCD', (text) => (text.leading = { kind: 'percent', of: 104 })), 'Set the lines', { tool: 0.2 }],
    ['near-sizes', () => worded('AB', (text, sign) => { text.place.y = 20; addText(sign, 'CD', 'barlow-semibold', 11.6, raise).place.y = -20; }), 'in the size of', { tool: 0.2 }],
    ['unequal-margins', () => worded('AB', (text) => (text.place.x = 1)), 'middle', { tool: 0.2 }],
    ['straight-quotes', () => worded(`O'Hara`), 'marks', { tool: 0.2, leastStroke: 0.3 }],
    ['no-sheet', () => worded('AB'), 'thick', { tool: 0.2, sheets: [{ width: 900, height: 900, thickness: 8 }] }],
    ['thin-wall', () => { const sign = bareSign(80, 50, 12); addShape(sign, 6, HOLE, { x: 36, y: 0 }); return sign; }, 'Move', {}],
    ['low-contrast', () => worded('PIER', (text, sign) => { sign.finishes = [{ id: 'a', name: 'ash', colour: '#cccccc', gloss: 'matt' }, { id: 'b', name: 'bone', colour: '#eeeeee', gloss: 'matt' }]; sign.blank.finish = { face: 'b' }; text.tiers[0].finish = { top: 'a' }; }), 'black', { tool: 0.2 }],
    ['small-step', () => { const sign = bareSign(80, 50, 12); addShape(sign, [30, 20], { kind: 'raise', by: 2 }); addShape(sign, [10, 10], { kind: 'raise', by: 2.1 }); return sign; }, 'Step part-2', {}],
  ])('of %s mend it', (check, make, label, limits = {}) => {
    const sign = make();
    const before = JSON.stringify(sign);
    const found = remedies(sign, check, limits);
    expect(found.map(({ label: each }) => each).join('; ')).toContain(label);
    for (const remedy of found) expect(of(check, mended(sign, remedy), limits)).toBeUndefined();
    expect(JSON.stringify(sign)).toBe(before);
  }); // prettier-ignore

  it('mend what they say and make nothing else worse on generated signs, and water stands where a raster of the definition holds it', () => {
    const script = fileURLToPath(new URL('../../testing/checks-sweep.mjs', import.meta.url));
    const env = { ...process.env, NODE_OPTIONS: '' };
    const swept = JSON.parse(execFileSync(process.execPath, [script, '8..15'], { env, encoding: 'utf8' })) as {
      readonly tried: number;
      readonly basins: number;
      readonly faults: readonly string[];
    };
    expect(swept.faults).toEqual([]);
    expect(swept.tried).toBeGreaterThan(3);
    expect(swept.basins).toBeGreaterThan(3);
  });
});
