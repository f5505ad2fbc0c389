import { describe, expect, it } from '@jest/globals';
import { addShape, bareSign } from '../../../testing/signs.js';
import { Workshop } from '../../../testing/workshop.js';
import { Evaluator } from '../../relief/index.js';
import { newShape, newText, saidBy, type BrailleShape, type ShapePart, type Sign, type TextPart } from '../../sign/index.js';
import { type ClauseResult, judged, madeToMeet, meets, type Standard, STANDARDS, standardOf } from './index.js';

const workshop = new Workshop();
const ada = standardOf('ada-703')!;

interface Room {
  readonly sign: Sign;
  readonly text: TextPart;
  readonly braille: ShapePart;
  readonly shape: BrailleShape;
}

/** A room sign of 120 × 110 mm that meets the standard: two lines of 18 mm, contracted braille below, matt black on white. */
function room(change: (room: Room) => void = () => undefined): Sign {
  const sign = bareSign(120, 110, 6);
  const text: TextPart = { ...newText(sign, 'atkinson-hyperlegible-regular'), words: 'HIO\nHI', size: { kind: 'capitals', height: 18, stretch: 100 }, tracking: 14 }; // prettier-ignore
  text.place = { ...text.place, y: 20 };
  text.tiers[0] = { ...text.tiers[0], action: { kind: 'raise', by: 1 }, finish: { top: 'black' } };
  sign.parts.push(text);
  const braille = newShape(sign, 'braille');
  const shape = braille.shape as BrailleShape;
  shape.cells = '⠓⠊⠕\n⠓⠊';
  braille.place.y = -20;
  sign.parts.push(braille);
  sign.finishes = [
    { id: 'black', name: 'black', colour: '#1f1f1d', gloss: 'matt' },
    { id: 'white', name: 'white', colour: '#f4f3ee', gloss: 'matt' },
  ];
  sign.blank.finish = { face: 'white' };
  sign.checks = { standard: 'ada-703', floor: 1400 };
  change({ sign, text, braille, shape });
  shape.translated ??= { words: saidBy(sign, shape), table: shape.table };
  return sign;
}

function results(sign: Sign, standard: Standard = ada): ClauseResult[] {
  const evaluator = new Evaluator(workshop.book);
  return judged(standard, evaluator.evaluateLoaded(sign), evaluator);
}
const clause = (title: string, change?: (room: Room) => void): ClauseResult =>
  results(room(change), { ...ada, clauses: ada.clauses.filter((each) => each.title === title) })[0];

/** The font's I is 0.998… of its capitals high; lengths are told of what is made. */
const near = (value: number | undefined, wanted: number): void => expect(Math.abs(value! - wanted)).toBeLessThan(Math.max(0.01 * wanted, 0.02)); // prettier-ignore

const raise = (by: number) => (one: Room) => (one.text.tiers[0].action = { kind: 'raise', by });
const height = (mm: number) => (one: Room) => {
  one.sign.blank.outline = { kind: 'rectangle', width: 400, height: 400, cornerRadius: 0 };
  one.text.size = { kind: 'capitals', height: mm, stretch: 100 };
  one.text.place.y = 80;
  one.braille.place.y = -120;
};
const font = (id: string) => (one: Room) => (one.text.font = id);
const stretch = (percent: number) => (one: Room) => (one.text.size = { kind: 'capitals', height: 18, stretch: percent });
const leading = (of: number) => (one: Room) => (one.text.leading = { kind: 'percent', of });
const dots = (change: Partial<BrailleShape>) => (one: Room) => Object.assign(one.shape, change);
const base = (mm: number) => (one: Room) => {
  one.shape.base = mm;
  one.braille.tiers[0].edge = { kind: 'domed', width: mm / 2 };
};
const dotHeight = (by: number) => (one: Room) => (one.braille.tiers[0].action = { kind: 'raise', by });
/** A raised bar so far from the left side of the I of the second line, or from the lowest dots. */
const bar = (x: number, y: number, width: number, high: number) => (one: Room) =>
  addShape(one.sign, [width, high], { kind: 'raise', by: 1 }, { x, y });
const floor = (mm: number) => (one: Room) => (one.sign.checks = { floor: mm });
const colours = (letters: string, ground: string) => (one: Room) => {
  one.sign.finishes![0].colour = letters;
  one.sign.finishes![1].colour = ground;
};
/** A grey whose light reflectance value is that percent: the sRGB curve of IEC 61966-2-1 turned round. */
const grey = (percent: number): string => {
  const value = Math.round(255 * (1.055 * (percent / 100) ** (1 / 2.4) - 0.055));
  return `#${value.toString(16).padStart(2, '0').repeat(3)}`;
};

describe('section 703', () => {
  it('is passed by a sign that was made for it', () => {
    const all = results(room());
    expect(all.filter(({ verdict }) => verdict === 'fails').map(({ clause: { title }, measured }) => [title, measured])).toEqual(
      [],
    );
    expect(meets(all)).toBe(true);
    expect(all.filter(({ verdict }) => verdict === 'unknown').map(({ clause: { title } }) => title)).toEqual([
      'Spacing at the base',
      'Room around',
      'From borders',
    ]);
  });

  // Each clause at its limit, just inside and just outside.
  it.each<[string, 'passes' | 'fails' | 'look' | 'unknown', string, (room: Room) => void]>([
    ['Depth', 'passes', '0.8 mm', raise(0.8)],
    ['Depth', 'passes', '1/32 in', raise(0.79375)],
    ['Depth', 'fails', '0.79 mm', raise(0.79)],
    ['Depth', 'passes', '0.2 mm on a plinth that the letters cover', (one) => ((one.text.tiers[0].action = { kind: 'raise', by: 0.9 }))],
    ['Case', 'passes', 'capitals', () => undefined],
    ['Case', 'fails', 'a small letter', (one) => (one.text.words = 'HIo\nHI')],
    ['Case', 'passes', 'small letters set as small capitals', (one) => Object.assign(one.text, { words: 'Hio', features: { ligatures: true, smallCapitals: true, oldStyleFigures: false } })],
    ['Style', 'passes', 'a sans', font('barlow-regular')],
    ['Style', 'fails', 'a serif', font('lora-medium')],
    ['Style', 'fails', 'a script', font('dancing-script-semibold')],
    ['Proportions', 'passes', 'O as it is', stretch(100)],
    ['Proportions', 'passes', '109.9 %', stretch(117)],
    ['Proportions', 'fails', '110.5 %', stretch(118)],
    ['Proportions', 'passes', '55.4 %', stretch(59)],
    ['Proportions', 'fails', '54.5 %', stretch(58)],
    ['Height', 'passes', '16 mm', height(16)],
    ['Height', 'passes', '5/8 in', height(15.88)],
    ['Height', 'fails', '15.8 mm', height(15.8)],
    ['Height', 'passes', '51 mm', height(50.9)],
    ['Height', 'fails', '51.2 mm', height(51.2)],
    ['Stroke', 'passes', '14.1 %', () => undefined],
    ['Stroke', 'passes', '14.9 %', stretch(106)],
    ['Stroke', 'fails', '15.2 %', stretch(108)],
    ['Stroke', 'fails', 'a stroke that was grown', (one) => (one.text.tiers[0].area = { kind: 'offset', by: 0.2 })],
    ['Line spacing', 'passes', '135 %', leading(135.1)],
    ['Line spacing', 'fails', '134.5 %', leading(134.5)],
    ['Line spacing', 'passes', '170 %', leading(169.9)],
    ['Line spacing', 'fails', '170.5 %', leading(170.6)],
    ['Line spacing', 'unknown', 'one line', (one) => (one.text.words = 'HIO')],
    ['Dots', 'passes', '1.5 mm', base(1.52)],
    ['Dots', 'fails', '1.45 mm', base(1.45)],
    ['Dots', 'passes', '1.6 mm', base(1.6)],
    ['Dots', 'fails', '1.65 mm', base(1.65)],
    ['Dot height', 'passes', '0.6 mm', dotHeight(0.61)],
    ['Dot height', 'fails', '0.58 mm', dotHeight(0.58)],
    ['Dot height', 'passes', '0.9 mm', dotHeight(0.8)],
    ['Dot height', 'fails', '1 mm', dotHeight(1)],
    ['Dots apart', 'passes', '2.3 mm', dots({ dots: 2.3 })],
    ['Dots apart', 'fails', '2.25 mm', dots({ dots: 2.25 })],
    ['Dots apart', 'passes', '2.5 mm', dots({ dots: 2.5 })],
    ['Dots apart', 'fails', '2.6 mm', dots({ dots: 2.6 })],
    ['Cells apart', 'passes', '6.11 mm', dots({ cell: 6.11 })],
    ['Cells apart', 'fails', '6 mm', dots({ cell: 6 })],
    ['Cells apart', 'passes', '7.6 mm', dots({ cell: 7.6 })],
    ['Cells apart', 'fails', '7.7 mm', dots({ cell: 7.7 })],
    ['Lines apart', 'passes', '10.01 mm', dots({ line: 10.01 })],
    ['Lines apart', 'fails', '9.9 mm', dots({ line: 9.9 })],
    ['Lines apart', 'passes', '10.19 mm', dots({ line: 10.19 })],
    ['Lines apart', 'fails', '10.3 mm', dots({ line: 10.3 })],
    ['Domes', 'fails', 'pegs with flat tops', (one) => delete one.braille.tiers[0].edge],
    ['Dots', 'passes', 'balls half sunk', (one) => Object.assign(one.shape, { ball: 1.6 }) && (one.braille.tiers = [{ id: 't', on: true, area: { kind: 'outline' }, action: { kind: 'carve', by: 0.8 } }])],
    ['Dot height', 'fails', 'balls too deep', (one) => Object.assign(one.shape, { ball: 1.6 }) && (one.braille.tiers = [{ id: 't', on: true, area: { kind: 'outline' }, action: { kind: 'carve', by: 1.2 } }])],
    ['Contracted', 'fails', 'grade 1', (one) => Object.assign(one.shape, { table: 'ueb-1' })],
    ['Braille', 'fails', 'no braille', (one) => one.sign.parts.pop()],
    ['Braille', 'fails', 'braille of other words', (one) => (one.shape.translated = { words: 'hi', table: 'ueb-2' })],
    ['Braille', 'passes', 'its own words, which are the same', (one) => Object.assign(one.shape, { follows: undefined, words: 'hi hio' })],
    ['Braille', 'fails', 'a word that is left out', (one) => Object.assign(one.shape, { follows: undefined, words: 'hio' })],
    ['Capitals', 'look', 'a word in capitals', (one) => (one.shape.cells = '⠠⠠⠓⠊⠕')],
    ['Position', 'fails', 'braille above', (one) => (one.braille.place.y = 45) && (one.text.place.y = 0)],
    ['From characters', 'passes', '9.5 mm', (one) => (one.braille.place.y = 20 - 9 - 13.95 - 9.51 - 3.2)],
    ['From characters', 'fails', '9.4 mm', (one) => (one.braille.place.y = 20 - 9 - 13.95 - 9.4 - 3.2)],
    ['On the wall', 'passes', '1220 mm', floor(1220 + 34.5)],
    ['On the wall', 'fails', '1218 mm', floor(1218 + 33.3)],
    ['On the wall', 'fails', 'too high', floor(1525)],
    ['On the wall', 'unknown', 'not told', (one) => delete one.sign.checks],
    ['Glare', 'fails', 'glossy letters', (one) => (one.sign.finishes![0].gloss = 'gloss')],
    ['Glare', 'fails', 'a metallic ground', (one) => (one.sign.finishes![1].gloss = 'metal')],
    ['Glare', 'passes', 'satin', (one) => (one.sign.finishes![1].gloss = 'satin')],
    ['Contrast', 'passes', '71 %', colours(grey(20), grey(70))],
    ['Contrast', 'fails', '69 %', colours(grey(22.5), grey(70))],
    ['Contrast', 'passes', 'light on dark', colours('#ffffff', '#333333')],
  ])('%s %s with %s', (title, verdict, _, change) => {
    const found = clause(title, change);
    expect([found.verdict, found.measured]).toEqual([verdict, found.measured]);
  }); // prettier-ignore

  it('measures the room between letters: at their tops where their sides lean, and at their base', () => {
    const evaluator = new Evaluator(workshop.book);
    const sign = room();
    const letters = evaluator.letters(evaluator.evaluateLoaded(sign), sign.parts[0].id);
    // H and I stand with upright sides: their boxes are as far apart as they are.
    const first = letters[1].box.minX - letters[0].box.maxX;
    const tracked = (gap: number) => (one: Room) => (one.text.tracking = 14 + (100 * (gap - first)) / 18);
    near(clause('Spacing', (one) => ((one.text.words = 'HI'), tracked(5)(one))).worst?.value, 5);
    const only = (gap: number, more: (one: Room) => void = () => undefined) => (one: Room) => ((one.text.words = 'HI'), tracked(gap)(one), more(one)); // prettier-ignore
    expect(clause('Spacing', only(3.18)).verdict).toBe('passes');
    expect(clause('Spacing', only(3.15)).verdict).toBe('fails');
    expect(clause('Spacing', only(0.2)).measured).toContain('“H” and “I” of Line 1');
    // Sides that lean by 30° from upright over 1 mm take 0.577 mm from each side, at the foot where the top is sized.
    const lean = (one: Room) => (one.text.tiers[0].edge = { kind: 'sloped', angle: 30, sized: 'top' });
    near(clause('Spacing', only(5, lean)).worst?.value, 5 + 2 * 0.02 * 0.577);
    near(clause('Spacing at the base', only(5, lean)).worst?.value, 5 - 2 * 0.98 * 0.577);
    expect(clause('Spacing at the base', only(2.7, lean)).verdict).toBe('fails');
    expect(clause('Spacing at the base', only(2.74, lean)).verdict).toBe('passes');
    // The stroke of I is 14.1 % of 18 mm.
    expect(clause('Widest spacing', only(4 * 2.53 - 0.1)).verdict).toBe('passes');
    expect(clause('Widest spacing', only(4 * 2.53 + 0.15)).verdict).toBe('fails');
    // A space between words is no gap of a word.
    expect(clause('Widest spacing', (one) => (one.text.words = 'HI   HI')).verdict).toBe('passes');
  });

  it('measures the room around letters and dots to what is raised besides', () => {
    const box = (one: Room) => {
      const evaluator = new Evaluator(workshop.book);
      return evaluator.evaluateLoaded(one.sign).parts.map(({ ink }) => ink!);
    };
    const beside = (gap: number) => (one: Room) => bar(box(one)[0].minX - gap - 1, 20, 2, 30)(one);
    expect([clause('Room around', beside(9.5)).verdict, clause('Room around', beside(9.4)).verdict]).toEqual(['passes', 'fails']);
    near(clause('Room around', beside(7)).worst?.value, 7);
    const under = (gap: number) => (one: Room) => bar(0, box(one)[1].minY - gap - 1, 30, 2)(one);
    expect([clause('From borders', under(9.51)).verdict, clause('From borders', under(9.4)).verdict]).toEqual([
      'passes',
      'fails',
    ]);
    // What is carved is no border, and what is raised lower than the letters is.
    const groove = (one: Room) => addShape(one.sign, [2, 30], { kind: 'carve', by: 1 }, { x: box(one)[0].minX - 4, y: 20 });
    expect(clause('Room around', groove).verdict).toBe('unknown');
  });

  it('measures a sign in a recess from its floor, and one that is turned as it was', () => {
    const sunk = (one: Room) => {
      const id = addShape(one.sign, [110, 100], { kind: 'carve', by: 2 });
      one.sign.parts.unshift(one.sign.parts.pop()!);
      for (const part of [one.text, one.braille]) part.sitsOn = { kind: 'part', part: id, at: 'floor' };
    };
    near(clause('Depth', sunk).worst?.value, 1);
    near(clause('Dot height', sunk).worst?.value, 0.7);
    // Letters that are set at the height of the face from a deep recess stand as high as it is deep.
    const flush = (one: Room) => (sunk(one), (one.text.tiers[0].action = { kind: 'set', to: 1.5 }));
    near(clause('Depth', flush).worst?.value, 1.5);
    const turned = (one: Room) => {
      one.sign.blank.outline = { kind: 'rectangle', width: 200, height: 200, cornerRadius: 0 };
      for (const part of [one.text, one.braille]) part.place = { x: -part.place.y, y: part.place.x, turn: 90, mirror: false };
    };
    for (const title of ['Height', 'Stroke', 'Line spacing', 'Dots', 'Dots apart', 'Cells apart', 'Depth', 'Spacing'])
      near(clause(title, turned).worst?.value, clause(title).worst!.value);
  });

  it('fails where no letter is raised, and knows nothing of what is not there', () => {
    const all = results(bareSign(50, 50, 3));
    expect(all.find(({ clause: { title } }) => title === 'Depth')).toMatchObject({
      verdict: 'fails',
      measured: 'no letter is raised',
    });
    expect(all.filter(({ verdict }) => verdict === 'passes')).toEqual([]);
    const engraved = results(room(({ text }) => (text.tiers[0].action = { kind: 'carve', by: 1 })));
    expect(engraved.find(({ clause: { title } }) => title === 'Depth')?.verdict).toBe('fails');
  });

  it('is data: limits, and what is measured', () => {
    for (const { clauses, source } of STANDARDS) {
      expect(source.length).toBeGreaterThan(20);
      for (const { least, most, asks } of clauses)
        expect([least ?? most, asks.endsWith('.')]).toEqual([expect.any(Number), true]);
    }
    expect(standardOf('none')).toBeUndefined();
  });
});

describe('a sign made to meet it', () => {
  const translate = async (words: string) =>
    [...words].map((letter) => (letter === '\n' ? '\n' : letter === ' ' ? '\u2800' : '⠗')).join('');
  const made = (sign: Sign) => madeToMeet(ada, sign, new Evaluator(workshop.book), translate);

  it('passes from a bare blank with words, and says what was changed', async () => {
    const sign = bareSign(100, 60, 6);
    sign.parts.push({ ...newText(sign, 'lora-medium'), words: 'Room 4', size: { kind: 'capitals', height: 9, stretch: 100 } });
    const before = JSON.stringify(sign);
    const { sign: met, said, results: after } = await made(sign);
    expect(
      after.filter(({ verdict }) => verdict === 'fails').map(({ clause: { title }, measured }) => [title, measured]),
    ).toEqual([]);
    for (const words of [
      /new, below/u,
      /in capitals/u,
      /plain font/u,
      /capitals of 15.97 mm/u,
      /black, matt/u,
      /translated/u,
      /too small/u,
    ])
      expect(said.join(' ')).toMatch(words);
    expect(JSON.stringify(sign)).toBe(before);
    expect(met.parts).toHaveLength(2);
  });

  it.each<[string, (one: Room) => void]>([
    ['engraved letters', ({ text }) => (text.tiers[0].action = { kind: 'carve', by: 1 })],
    ['letters that are too close', ({ text }) => (text.tracking = -5)],
    ['letters that are far apart', ({ text }) => (text.tracking = 60)],
    ['a border close by', (one) => one.sign.parts.push({ ...newShape(one.sign, 'border'), shape: { kind: 'border', of: 'blank', inset: 8, width: 2 } }) && (one.text.size = { kind: 'capitals', height: 24, stretch: 100 })],
    ['pegs for dots of another size', (one) => (Object.assign(one.shape, { base: 2, dots: 3, cell: 8, line: 12 }), delete one.braille.tiers[0].edge)],
    ['braille that touches the words', (one) => (one.braille.place.y = 0)],
    ['grade 1 and gloss', (one) => (Object.assign(one.shape, { table: 'ueb-1' }), (one.sign.finishes![0].gloss = 'metal'))],
    ['hung too high', (one) => (one.sign.checks = { floor: 1600 })],
    ['small, wide, tight', (one) => Object.assign(one.text, { size: { kind: 'capitals', height: 10, stretch: 125 }, leading: { kind: 'percent', of: 120 } })],
  ])('passes from one with %s', async (_, change) => {
    const { results: after } = await made(room(change));
    expect(after.filter(({ verdict }) => verdict === 'fails').map(({ clause: { title }, measured }) => [title, measured])).toEqual([]);
  }); // prettier-ignore

  it('changes nothing of one that meets it, and leaves braille unsaid without a translator', async () => {
    const sign = room();
    const { sign: met, said } = await made(sign);
    expect([met, said]).toEqual([sign, []]);
    const { results: after, sign: unsaid } = await madeToMeet(
      ada,
      room(({ sign: one }) => one.parts.pop()),
      new Evaluator(workshop.book),
    );
    expect(after.filter(({ verdict }) => verdict === 'fails').map(({ clause: { title } }) => title)).toEqual(['Braille']);
    expect(unsaid.parts).toHaveLength(2);
  });
});
