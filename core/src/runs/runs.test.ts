import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { addText, bareSign } from '../../testing/signs.js';
import { generatedSign } from '../../testing/sign-generator.js';
import { Workshop } from '../../testing/workshop.js';
import { Evaluator } from '../relief/index.js';
import { newShape, type Sign, type Slot, type TextPart } from '../sign/index.js';
import { counted, filled, lettersOf, LIST_LIMITS, ListError, listFile, listOf, matched, plateOf, readList, repeated, rowRemarks, rowValues, slotsInWords, unfilled } from './index.js'; // prettier-ignore

const workshop = new Workshop();
const slot = (name: string, more: Partial<Slot> = {}): Slot => ({ name, empty: 'keep', ...more });

/** A sign with words, and with slots. */
function sign(words: string, slots: readonly Slot[], change: (text: TextPart) => void = () => undefined): Sign {
  const made = bareSign(200, 60, 6);
  const text = addText(made, words, 'barlow-semibold', 8, { kind: 'raise', by: 1 });
  change(text);
  made.slots = [...slots];
  return made;
}
const wordsOf = ({ parts: [part] }: Sign): string => (part as TextPart).words;
const said = (words: string, slots: readonly Slot[], values: Record<string, string> = {}): string =>
  wordsOf(filled(sign(words, slots), new Map(Object.entries(values))).sign);

describe('slots', () => {
  it('have the values of a row in their place; what is no slot stays', () => {
    const slots = [slot('name'), slot('Latin name')];
    expect(said('{name} ({Latin name})', slots, { name: 'Oak', 'Latin name': 'Quercus' })).toBe('Oak (Quercus)');
    expect(said('{other} {{name} {name}', slots, { name: 'Oak' })).toBe('{other} {name} Oak');
    // A value is never read for slots.
    expect(said('{name}', slots, { name: '{Latin name}', 'Latin name': 'x' })).toBe('{Latin name}');
    expect(slotsInWords(sign('{Latin name} {{name} {name}{name}', slots))).toEqual(['Latin name', 'name']);
    expect(filled(sign('x', []), new Map()).sign.slots).toBeUndefined();
  });

  it('without a value close up, keep the gap, or refuse the row', () => {
    expect(said('{a}\n{b}\n{c}', [slot('a'), slot('b', { empty: 'close' }), slot('c')], { a: 'A', c: 'C' })).toBe('A\nC');
    expect(said('{a}\n{b}\n{c}', [slot('a'), slot('b'), slot('c')], { a: 'A', c: 'C' })).toBe('A\n\nC');
    expect(said('{a} {b} {c}', [slot('a'), slot('b', { empty: 'close' }), slot('c')], { a: 'A', c: 'C' })).toBe('A C');
    expect(said('{b} {c}', [slot('b', { empty: 'close' }), slot('c')], { c: 'C' })).toBe('C');
    expect(said('{b}', [slot('b', { empty: 'close', default: 'unknown' })], { b: '  ' })).toBe('unknown');
    expect(filled(sign('{a}{b}', [slot('a', { empty: 'refuse' }), slot('b')]), new Map()).refused).toEqual(['a']);
    // A text of which nothing is left is not made.
    const gone = filled(sign('{b}', [slot('b', { empty: 'close' })]), new Map()).sign;
    expect(gone.parts[0].hidden).toBe(true);
  });

  it('are in the case that is asked for', () => {
    const values = { a: 'élan McKay-smith' };
    expect(said('{a}', [slot('a', { case: 'upper' })], values)).toBe('ÉLAN MCKAY-SMITH');
    expect(said('{a}', [slot('a', { case: 'lower' })], values)).toBe('élan mckay-smith');
    expect(said('{a}', [slot('a', { case: 'title' })], values)).toBe('Élan McKay-Smith');
  });

  it('leave what was set on letters on those letters', () => {
    const at = (words: string, values: Record<string, string>, ...places: number[]): number[] => {
      const made = sign(words, [slot('ab'), slot('z', { empty: 'close' })], (text) => (text.letters = places.map((each) => ({ at: each, kern: each })))); // prettier-ignore
      const { sign: next } = filled(made, new Map(Object.entries(values)));
      const text = next.parts[0] as TextPart;
      // Each still has what was set on it.
      for (const { at: now, kern } of text.letters!) if (words[kern!] !== '{' && !/[abz}]/u.test(words[kern!])) expect(text.words[now]).toBe(words[kern!]); // prettier-ignore
      return text.letters!.map(({ at: now }) => now);
    };
    // “x{ab}y”: x, a, b and y.
    expect(at('x{ab}y', { ab: 'LONG' }, 0, 2, 3, 5)).toEqual([0, 1, 2, 5]);
    expect(at('x{ab}y', { ab: 'L' }, 0, 2, 3, 5)).toEqual([0, 1, 2]);
    expect(at('p\n{z}\nq', {}, 0, 6)).toEqual([0, 2]);
    expect(at('{z} r  s', {}, 4, 7)).toEqual([0, 2]);
  });

  it('are in braille of its own words and in the title, too', () => {
    const made = sign('{a}', [slot('a')]);
    made.title = 'Label {a}';
    const braille = newShape(made, 'braille');
    if (braille.shape.kind === 'braille') Object.assign(braille.shape, { words: 'no. {a}', follows: undefined });
    made.parts.push(braille);
    const { sign: next } = filled(made, new Map([['a', '7']]));
    expect([next.title, (next.parts[1] as typeof braille).shape]).toMatchObject(['Label 7', { words: 'no. 7' }]);
  });

  it('fill words without any as they are (property)', () => {
    fc.assert(
      fc.property(
        fc.string({ maxLength: 40 }).map((words) => words.replace(/[{}\r]/gu, '')),
        (words) => {
          expect(said(words, [slot('a')], { a: 'x' })).toBe(words);
        },
      ),
    );
  });
});

describe('signs from seeds', () => {
  it.each([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12])(
    'whose words become slots are themselves when those are filled: %i',
    (seed) => {
      const made = generatedSign(seed, seed % 2 === 0 ? 'extreme' : 'plain', workshop.book.catalogue);
      const values = new Map<string, string>();
      const template = structuredClone(made);
      template.slots = [];
      for (const [i, part] of template.parts.entries()) {
        if (part.kind !== 'text') continue;
        const name = `words ${i}`;
        values.set(name, part.words);
        template.slots.push(slot(name));
        part.words = `{${name}}`;
        delete part.letters;
      }
      const { sign: next } = filled(template, values);
      const expected = structuredClone(made);
      delete expected.slots;
      for (const part of expected.parts) {
        if (part.kind !== 'text') continue;
        part.words = part.words.replace(/\r\n?/gu, '\n').trim();
        delete part.letters;
        // A line whose values are empty is left out.
        if (part.words === '') part.hidden = true;
      }
      expect(next).toEqual(expected);
    },
  );
});

describe('counters', () => {
  it('count in figures and in letters, each group anew', () => {
    expect([1, 26, 27, 52, 53, 702, 703].map(lettersOf)).toEqual(['A', 'Z', 'AA', 'AZ', 'BA', 'ZZ', 'AAA']);
    const counter = { from: 8, step: 2, digits: 3, form: 'figures', prefix: 'P-' } as const;
    expect([0, 1, 2].map((n) => counted(counter, n))).toEqual(['P-008', 'P-010', 'P-012']);
    const made = sign('{no} {deck}', [slot('no', { counter: { from: 1, step: 1, digits: 2, form: 'figures', per: 'deck' } }), slot('deck')]); // prettier-ignore
    const values = rowValues(made, { columns: ['Deck'], rows: [['A'], ['A'], ['B'], ['A ']] }, new Map([['deck', 'Deck']]));
    expect(values.map((row) => row.get('no'))).toEqual(['01', '02', '01', '03']);
  });
});

describe('lists', () => {
  const bytes = (text: string): Uint8Array => new Uint8Array(Buffer.from(text, 'utf8'));

  it.each([
    // RFC 4180, section 2, rules 1 to 7.
    ['aaa,bbb,ccc\r\nzzz,yyy,xxx\r\n', [['zzz', 'yyy', 'xxx']]],
    ['aaa,bbb,ccc\r\nzzz,yyy,xxx', [['zzz', 'yyy', 'xxx']]],
    ['aaa,bbb,ccc\r\n"zzz","yyy","xxx"', [['zzz', 'yyy', 'xxx']]],
    ['aaa,bbb,ccc\r\n"z""z","y\r\ny","x,x"', [['z"z', 'y\r\ny', 'x,x']]],
    ['aaa;bbb;ccc\nzzz;yyy;x,x\n', [['zzz', 'yyy', 'x,x']]],
    ['aaa\tbbb\tccc\rzzz\tyyy\txxx', [['zzz', 'yyy', 'xxx']]],
    ['\ufeffaaa,bbb,ccc\n\n=1+1,-2,@x\n', [['=1+1', '-2', '@x']]],
  ])('of %j have rows', (text, rows) => {
    const list = readList(bytes(text));
    expect([list.columns, list.rows]).toEqual([['aaa', 'bbb', 'ccc'], rows]);
  });

  it('are read in the writing that they are in', () => {
    const words = 'name\nBjörk – 7 €\n';
    expect(readList(bytes(words)).rows).toEqual([['Björk – 7 €']]);
    const utf16 = Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(words, 'utf16le')]);
    expect(readList(new Uint8Array(utf16)).rows).toEqual([['Björk – 7 €']]);
    // ö, en dash and euro in Windows-1252.
    const western = Buffer.concat([Buffer.from('name\nBj'), Buffer.from([0xf6]), Buffer.from('rk '), Buffer.from([0x96]), Buffer.from(' 7 '), Buffer.from([0x80])]); // prettier-ignore
    const list = readList(new Uint8Array(western));
    expect(list.rows).toEqual([['Björk – 7 €']]);
    expect(list.notes).toEqual(['The list is not UTF-8: it was read as Windows-1252.']);
  });

  it('that are none, or too much, are refused with the place', () => {
    const refused = (text: string): string => {
      try {
        readList(bytes(text));
      } catch (error) {
        expect(error).toBeInstanceOf(ListError);
        return (error as Error).message;
      }
      return 'read';
    };
    expect(refused('')).toContain('is empty');
    expect(refused('a,b\n1,2\n3,\0')).toBe('Row 2 has a NUL character: the file is no list of values, or is damaged.');
    expect(refused('a,b\n1,"2\n3,4')).toContain('quotation mark');
    expect(refused(`a,b\n1,${'x'.repeat(LIST_LIMITS.characters + 1)}`)).toContain('Row 1, b: a value has 4001 characters');
    expect(refused(Array(LIST_LIMITS.columns + 1).fill('c').join(','))).toContain('The head has 201 columns'); // prettier-ignore
    expect(refused(`a\n${'1\n'.repeat(LIST_LIMITS.rows + 1)}`)).toContain('more than 20000 rows');
    expect(refused('x'.repeat(LIST_LIMITS.bytes + 1))).toContain('20 MB are read');
  });

  it('have columns with names, and rows as long as their head', () => {
    const list = listOf('a,,a\n1,2\n1,2,3,4\n');
    expect(list.columns).toEqual(['a', 'column 2', 'a 2']);
    expect(list.rows).toEqual([['1', '2', ''], ['1', '2', '3']]); // prettier-ignore
    expect(list.notes.join(' ')).toContain('“4” is left out');
  });

  it('are written so that no cell is a formula, and read back', () => {
    const rows = [['=SUM(A1)', 'a "b"'], ['+1', 'x\r\ny'], ['7', '-']]; // prettier-ignore
    const text = listFile(['v', 'w'], rows);
    expect(text.split('\r\n')[1]).toBe(`"'=SUM(A1)","a ""b"""`);
    expect(listOf(text).rows.map((row) => row.map((value) => value.replace(/^'/u, '')))).toEqual(rows);
  });
});

describe('rows', () => {
  const made = sign('{Common name} {no} {id}', [slot('Common name'), slot('no'), slot('id', { default: '-' })]);

  it('are matched by names, however they are written', () => {
    const found = matched(made, ['COMMON_NAME', 'No.', 'other']);
    expect([...found]).toEqual([['Common name', 'COMMON_NAME'], ['no', 'No.']]); // prettier-ignore
    expect(unfilled(made, found)).toEqual([]);
    expect(unfilled(made, new Map())).toEqual(['Common name', 'no']);
  });

  it('are told of what is suspicious', () => {
    const values = ['Oak', 'Red  Oak', 'quERCus', 'McKay', 'Oak', 'tab\there'].map((value) => new Map([['name', value]]));
    expect(rowRemarks(values).map((remarks) => remarks.map(({ kind }) => kind))).toEqual([[], ['double-blank'], ['mixed-capitals'], [], ['same-row'], ['control-character']]); // prettier-ignore
    expect([...repeated(values, 'name')]).toEqual([['Oak', [0, 4]]]);
  });
});

describe('plates', () => {
  const FRAME: NonNullable<TextPart['frame']> = { width: 60, height: 20, marginAcross: { kind: 'length', length: 0 }, marginUp: { kind: 'length', length: 0 }, upright: 'middle', fit: [{ kind: 'narrow', floor: 70 }] }; // prettier-ignore

  it.each(['barlow-semibold', 'lora-bold', 'cinzel-bold'])(
    'of %s are narrowed only where they are too long, as the sign with the same words is',
    (font) => {
      const template = sign('{name}', [slot('name')], (text) => Object.assign(text, { font, frame: FRAME }));
      const evaluator = new Evaluator(workshop.book);
      for (const name of ['OAK', 'SESSILE OAK', 'NARROW LEAVED', 'A VERY LONG NAME OF A TREE INDEED']) {
        const plate = plateOf(template, new Map([['name', name]]), evaluator);
        const alone = new Evaluator(workshop.book).evaluateLoaded(sign(name, [], (text) => Object.assign(text, { font, frame: FRAME }))); // prettier-ignore
        expect(plate.evaluation!.parts[0].text).toEqual(alone.parts[0].text);
        // By hand: the width of what is seen without a frame, from the font's advances.
        const free = new Evaluator(workshop.book).evaluateLoaded(sign(name, [], (text) => (text.font = font)));
        const percent = (100 * 60) / free.parts[0].text!.width;
        const state = percent >= 100 ? 'fits' : percent >= 70 ? 'fitted' : 'too large';
        expect([name, plate.state]).toEqual([name, state]);
        if (state === 'fitted') expect(plate.narrowed! / percent).toBeCloseTo(1, 1);
      }
    },
  );

  it('say what they lack', () => {
    const evaluator = new Evaluator(workshop.book);
    const lacking = plateOf(sign('{name}', [slot('name')]), new Map([['name', '漢字']]), evaluator);
    expect([lacking.state, lacking.notes.some(({ code }) => code === 'missing-characters')]).toEqual(['lacking', true]);
    expect(plateOf(sign('{name}', [slot('name', { empty: 'refuse' })]), new Map(), evaluator)).toMatchObject({ state: 'refused', refused: ['name has no value.'] }); // prettier-ignore
    // What no sign can have.
    const long = plateOf(sign('{name}', [slot('name')]), new Map([['name', 'x'.repeat(4001)]]), evaluator);
    expect([long.state, long.refused[0]]).toEqual(['refused', expect.stringContaining('would have 4001 characters of words')]);
  });
});
