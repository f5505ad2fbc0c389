import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { bareSign } from '../../../testing/signs.js';
import { Workshop } from '../../../testing/workshop.js';
import { area, bounds, placePolyline } from '../../geometry/index.js';
import { newText, readWords, shownWords, type Sign, type Slot, type TextPart, wordsPieces } from '../../sign/index.js';
import { Evaluator, type PartPlan } from '../index.js';

const workshop = new Workshop();
const slot = (name: string): Slot => ({ name, empty: 'keep' });
const NAMES = [slot('name'), slot('bed no'), slot('x')];

function signOf(words: string, slots?: Slot[], more: Partial<TextPart> = {}): Sign {
  const sign = bareSign(300, 200, 10);
  return { ...sign, ...(slots && { slots }), parts: [{ ...newText(sign, 'barlow-semibold'), words, ...more }] };
}
const placed = (sign: Sign): PartPlan => workshop.evaluate(sign).parts[0];

describe('words with places for values', () => {
  it('are parted into slots that are declared and all else; together they are the words', () => {
    const piece = fc.oneof(fc.constantFrom('{name}', '{bed no}', '{nobody}', '{{', '{', '}', '\n', ' · '), fc.string({ maxLength: 6 })); // prettier-ignore
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 8 }), (all) => {
        const words = all.join('');
        const pieces = wordsPieces(words, NAMES);
        expect(pieces.map(({ source }) => source).join('')).toBe(words);
        for (const { at, source } of pieces) expect(words.slice(at, at + source.length)).toBe(source);
        expect(pieces.filter(({ isSlot }) => isSlot).every(({ text }) => NAMES.some(({ name }) => name === text))).toBe(true);
        // As long as before, so that what is set on letters by their places stays there.
        expect(shownWords(words, NAMES)).toHaveLength(words.length);
        expect(shownWords(words, NAMES).replace(/\u2060/gu, '')).toBe(readWords(words, NAMES).replace(/\u2060/gu, ''));
        expect(wordsPieces(words, undefined).map(({ text }) => text).join('')).toBe(words); // prettier-ignore
      }),
    );
    expect(wordsPieces('{name} {{x} {nobody}', NAMES).map(({ text, isSlot }) => [text, isSlot])).toEqual([['name', true], [' ', false], ['{', false], ['x} {nobody}', false]]); // prettier-ignore
    expect(wordsPieces('Tree {nobody}', 'any').at(-1)).toEqual({ source: '{nobody}', text: 'nobody', at: 5, isSlot: true });
  });

  it('are set as their names are, and keep the place of every letter', () => {
    for (const tracking of [0, 80]) {
      const [own, plain] = [signOf('{name} and {x}', NAMES, { tracking }), signOf('name and x', undefined, { tracking })].map(placed); // prettier-ignore
      expect([own.ink, own.letters, own.notes]).toEqual([plain.ink, plain.letters, []]);
      expect(area(own.area.contours)).toBeCloseTo(area(plain.area.contours), 6);
    }
    const sign = signOf('{name} and {x}', NAMES);
    const { book } = workshop;
    const letters = new Evaluator(book).letters(workshop.evaluate(sign), sign.parts[0].id);
    expect(letters.map(({ at, character }) => `${at}${character}`).join(' ')).toBe('1n 2a 3m 4e 7a 8n 9d 12x');
    // Where nothing is declared braces are letters.
    expect(placed(signOf('{name}')).letters).toBe(6);
    expect(placed(signOf('{{name}', NAMES)).letters).toBe(6);
  });

  it('are set anew when a slot is declared or is one no more', () => {
    const evaluator = new Evaluator(workshop.book);
    const lettersOf = (slots?: Slot[]): number => evaluator.evaluateLoaded(signOf('{name}', slots)).parts[0].letters;
    expect([lettersOf(), lettersOf(NAMES), lettersOf([slot('other')]), lettersOf(NAMES)]).toEqual([6, 4, 6, 4]);
  });

  it('have a box about every name, turned with them, one for each line', () => {
    const at = (turn: number) =>
      placed(signOf('Bed {bed no}\n{name}', NAMES, { place: { x: 20, y: -10, turn, mirror: false } })).slots!;
    const [first, second] = at(0);
    expect([first.name, second.name]).toEqual(['bed no', 'name']);
    const whole = placed(signOf('Bed {bed no}\n{name}', NAMES, { place: { x: 20, y: -10, turn: 0, mirror: false } })).ink!;
    const [one, other] = [first, second].map(({ frame }) => bounds([frame])!);
    // It leaves out what comes before, and reaches a little farther than the letters.
    expect(one.minX).toBeGreaterThan(whole.minX + 10);
    expect(one.maxX).toBeGreaterThan(whole.maxX);
    expect(other.minY).toBeLessThan(whole.minY);
    expect(one.minY).toBeGreaterThan(other.minY + 10);
    const turned = at(30)[0].frame;
    const [cos, sin] = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)];
    const about = placePolyline(first.frame, {
      a: cos,
      b: sin,
      c: -sin,
      d: cos,
      e: 20 - 20 * cos - 10 * sin,
      f: -10 - 20 * sin + 10 * cos,
    });
    turned.forEach((value, i) => expect(Math.abs(value - about[i])).toBeLessThan(0.01));
    expect(placed(signOf('plain', NAMES)).slots).toBeUndefined();
  });
});
