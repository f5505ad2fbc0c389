import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { Workshop } from '../../testing/workshop.js';
import { Evaluator } from '../relief/index.js';
import { newSign, newText, type Sign, type TextPart } from '../sign/index.js';
import { filled, heldPlates, newRun, numbersInWords, plateDocument, type Run, readPlates, readSlots, runChanges, valuesOfRun, withList, withValues } from './index.js'; // prettier-ignore

const TREES = [['2041', 'Rowan', 'A'], ['2042', 'Alder', 'A'], ['2043', 'Yew', 'B']]; // prettier-ignore

function labels(): { sign: Sign; run: Run } {
  const sign = newSign('{no} {Name}', 'mm');
  const text = newText(sign, 'barlow-semibold');
  sign.parts.push({ ...text, words: '{Name}\n{no}' });
  sign.slots = [
    { name: 'Name', empty: 'close' },
    { name: 'no', empty: 'close', counter: { from: 1, step: 1, digits: 2, form: 'figures' } },
    { name: 'width', empty: 'close', sets: { kind: 'length', of: 'width', least: 20, most: 200 } },
  ];
  return { sign, run: withList(newRun('s'), { columns: ['number', 'name', 'width'], rows: TREES.map(([n, name], i) => [n, name, String(60 + i)]) }).run }; // prettier-ignore
}

describe('plates that customers read', () => {
  it('have the slots of the words, with the columns that can be corrected', () => {
    const { sign, run } = labels();
    // What chooses a width is no word; what counts has no column.
    expect(readSlots(sign, run)).toEqual([{ slot: 'no' }, { slot: 'Name', column: 'name' }]);
  });

  it('are found by number, by words and by rows, a page at a time', () => {
    const { sign, run } = labels();
    const all = readPlates(sign, run, { from: 1, most: 1 });
    expect(all).toEqual({ of: 3, plates: [{ row: 2, number: 2, title: '02 Alder', values: ['02', 'Alder'] }] });
    const found = (choice: object) => readPlates(sign, run, { from: 0, most: 9, ...choice }).plates.map(({ number }) => number);
    expect([found({ words: ' ALD ' }), found({ words: '3' }), found({ rows: new Set([1, 3]) }), found({ words: 'oak' })]).toEqual([[2], [3], [1, 3], []]); // prettier-ignore
  });

  it('are documents as the run makes them', () => {
    const { sign, run } = labels();
    expect(plateDocument(sign, run, 3)).toEqual(filled(sign, valuesOfRun(sign, run)[2]).sign);
    expect(plateDocument(sign, run, 3)?.blank.outline).toMatchObject({ width: 62 });
    expect(plateDocument(sign, run, 4)).toBeUndefined();
  });
});

describe('corrections', () => {
  it('are taken in where the row still says what it said, and told where it does not', () => {
    const { run } = labels();
    const to = (row: number, was: string, value: string, column = 'name') => ({ row, column, was, value });
    const asked = [to(1, 'Rowan', 'Rowan tree'), to(2, 'Elder', 'Alder tree'), to(9, 'Oak', 'Ash'), to(3, 'Yew', 'Yews', 'kind'), to(3, 'Yow', 'Yew')]; // prettier-ignore
    const { run: next, stale } = withValues(run, asked);
    expect(next.rows.map(({ values }) => values[1])).toEqual(['Rowan tree', 'Alder', 'Yew']);
    // That row 3 says what was asked for by now is no trouble.
    expect(stale).toEqual([asked[1], asked[2], asked[3]]);
    expect(run.rows[0].values[1]).toBe('Rowan');
    // What changes nothing is no step to be undone.
    expect(withValues(run, asked.slice(1)).run).toBe(run);
  });

  it('in any number, taken in, make exactly their plates otherwise', () => {
    const { sign, run } = labels();
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 1, max: 3 })), fc.string({ minLength: 1, maxLength: 20 }), (ids, words) => {
        const value = `x${words}x`;
        const corrections = ids.map((row) => ({ row, column: 'name', was: run.rows[row - 1].values[1], value }));
        const { run: next, stale } = withValues(run, corrections);
        expect(stale).toEqual([]);
        expect(runChanges({ sign, run }, { sign, run: next })).toEqual({ isSignChanged: false, changed: [...ids].sort(), added: [], removed: 0 }); // prettier-ignore
      }),
      { numRuns: 50 },
    );
  });
});

describe('plates that cannot be made as they are', () => {
  const workshop = new Workshop();

  it('are told by number and by what they lack', () => {
    const { sign, run } = labels();
    const text = sign.parts[0] as TextPart;
    const none = { kind: 'length', length: 0 } as const;
    sign.parts[0] = {
      ...text,
      size: { kind: 'capitals', height: 5, stretch: 100 },
      frame: { width: 50, height: 40, marginAcross: none, marginUp: none, upright: 'middle', fit: [] },
    };
    sign.slots![0] = { name: 'Name', empty: 'refuse' };
    const names = ['Rowan', 'Chamaecyparis lawsoniana of many letters', '', 'Yew', '樹'];
    const list = withList(run, { columns: ['number', 'name', 'width'], rows: names.map((name, i) => [String(i), name, '']) }).run;
    const evaluator = new Evaluator(workshop.book);
    expect(heldPlates(sign, list, evaluator)).toEqual([
      'Plate 2 does not fit.',
      'Plate 3 is not made.',
      'Plate 5 lacks something.',
    ]);
    let plates = 0;
    expect(heldPlates(sign, list, evaluator, () => plates++ === 2)).toEqual(['Plate 2 does not fit.', 'Plates 3 to 5 were too many to be looked at here: see their notes under Run.']); // prettier-ignore
  });

  it('have their numbers one by one, of many the first', () => {
    expect([numbersInWords([]), numbersInWords([4]), numbersInWords([4, 5]), numbersInWords([1, 2, 3])]).toEqual(['', '4', '4 and 5', '1, 2 and 3']); // prettier-ignore
    expect(numbersInWords(Array.from({ length: 20 }, (_, i) => i + 1))).toBe('1, 2, 3, 4, 5, 6, 7, 8 and 12 more');
  });
});

describe('changes of a run', () => {
  it('are none in another order where nothing counts, and those of counters where something does', () => {
    const { sign, run } = labels();
    const turned = { ...run, rows: [...run.rows].reverse() };
    expect(runChanges({ sign, run }, { sign, run: turned }).changed).toEqual([1, 3]);
    const plain = { ...sign, slots: sign.slots!.filter(({ counter }) => !counter) };
    expect(runChanges({ sign: plain, run }, { sign: plain, run: turned }).changed).toEqual([]);
  });

  it('are rows that are new, gone, or made otherwise alone, and the sign itself', () => {
    const { sign, run } = labels();
    const list = { columns: ['number', 'name', 'width'], rows: [['2041', 'Rowan', '60'], ['2043', 'Yew', '99'], ['2050', 'Elm', '60']] }; // prettier-ignore
    const next = withList(run, list).run;
    next.rows[0].corrections = [{ sets: { kind: 'length', of: 'height', least: 1, most: 99 }, value: '30' }];
    const other = { ...sign, title: 'Others' };
    expect(runChanges({ sign, run }, { sign: other, run: next })).toEqual({ isSignChanged: true, changed: [1, 2], added: [3], removed: 1 }); // prettier-ignore
  });
});
