import { describe, expect, it } from '@jest/globals';
import { newSign } from '../sign/index.js';
import {
  EFFORT,
  newRun,
  nestChoiceOf,
  type Run,
  runFault,
  sheetTroubles,
  tooNearOnSheet,
  tooNearWords,
  valuesOfRun,
  withList,
} from './index.js';

const HEAD = ['number', 'name', 'bed'];
const list = (...rows: string[][]) => ({ columns: HEAD, rows });
const first = (): Run => withList(newRun('s'), list(['2041', 'Rowan', 'A'], ['2042', 'Alder', 'A'], ['2043', 'Yew', 'B'])).run;

describe('a list taken in by a run', () => {
  it('is all new at first', () => {
    const { run, added, changed, removed } = withList(newRun('s'), list(['1', 'Rowan', 'A']), { name: 'trees.csv' });
    expect([added, changed, removed]).toEqual([[1], [], 0]);
    expect([run.columns, run.rows, run.came]).toEqual([HEAD, [{ id: 1, values: ['1', 'Rowan', 'A'] }], { name: 'trees.csv' }]);
  });

  it('against an older one has rows that are known by a column of different values, wherever they stand', () => {
    const { run, added, changed, removed } = withList(
      first(),
      list(['2043', 'Yew', 'B'], ['2042', 'Grey alder', 'A'], ['2044', 'Elm', 'C']),
    );
    expect([added, changed, removed]).toEqual([[4], [2], 1]);
    expect(run.rows.map(({ id, values }) => [id, values[1]])).toEqual([[3, 'Yew'], [2, 'Grey alder'], [4, 'Elm']]); // prettier-ignore
  });

  it('without such a column has rows that are known by all of their values', () => {
    const before = withList(newRun('s'), { columns: ['name', 'bed'], rows: [['Rowan', 'A'], ['Rowan', 'A'], ['', 'B']] }).run; // prettier-ignore
    const { added, changed, removed } = withList(before, { columns: ['name', 'bed'], rows: [['', 'B'], ['Rowan', 'A'], ['Elm', 'A']] }); // prettier-ignore
    expect([added, changed, removed]).toEqual([[4], [], 1]);
  });

  it('keeps marks and what columns are matched to as far as they are there', () => {
    const before = first();
    before.rows[1].isMarked = true;
    before.matching = [{ slot: 'tree', column: 'name' }, { slot: 'place', column: 'bed' }]; // prettier-ignore
    const { run } = withList(before, { columns: ['number', 'name'], rows: [['2042', 'Alder']] });
    expect(run.rows).toEqual([{ id: 2, values: ['2042', 'Alder'], isMarked: true }]);
    expect(run.matching).toEqual([{ slot: 'tree', column: 'name' }]);
  });
});

describe('a run', () => {
  it('has values by slot: columns of the same name, and as it says', () => {
    const sign = newSign('Labels', 'mm');
    sign.slots = [{ name: 'Name', empty: 'close' }, { name: 'place', empty: 'close' }, { name: 'no', empty: 'close', counter: { from: 7, step: 2, digits: 3, form: 'figures' } }]; // prettier-ignore
    const run = { ...first(), matching: [{ slot: 'place', column: 'bed' }] };
    expect(valuesOfRun(sign, run).map((values) => [...values.values()])).toEqual([
      ['Rowan', 'A', '007'],
      ['Alder', 'A', '009'],
      ['Yew', 'B', '011'],
    ]);
    expect(nestChoiceOf(run)).toMatchObject({ sheet: { width: 1220, height: 610 }, turns: [0, 90, 180, 270], keepsOrder: false });
    const choiceOf = (sheet: Partial<Run['sheet']>) => nestChoiceOf({ sheet: { ...run.sheet, ...sheet } }, [1, 2, 3]);
    const { turns } = choiceOf({ turns: 'any' });
    expect([turns.length, turns[1], turns[71]]).toEqual([72, 5, 355]);
    expect([choiceOf({ turns: 'none' }).turns, choiceOf({ turns: 'half' }).turns]).toEqual([[0], [0, 180]]);
    // What is dragged about is answered at once.
    const locked = [{ row: 2, sheet: 0, x: 20, y: 20, turn: 0 }];
    expect([{}, { isClose: true }, { locked }, { locked, isClose: true }].map((sheet) => choiceOf(sheet).effort)).toEqual([EFFORT.usual, EFFORT.close, 0, EFFORT.close]); // prettier-ignore
  });

  it.each<[string, (run: Run) => void, string | undefined]>([
    ['nothing', () => undefined, undefined],
    ['a row that is short', (run) => run.rows[1].values.pop(), 'rows.1.values: There are 2, and 3 columns'],
    ['an id twice', (run) => (run.rows[2].id = 1), 'rows.2.id: 1 is that of an earlier row'],
    ['columns of one name', (run) => (run.columns[2] = 'name'), 'columns: Two have the same name'],
    ['a column that is not there', (run) => run.matching.push({ slot: 'x', column: 'y' }), 'matching: The list has no column “y”'], // prettier-ignore
  ])('with %s says so', (_, change, fault) => {
    const run = first();
    change(run);
    const found = runFault(run);
    expect(found && `${found.path}: ${found.message}`.slice(0, fault?.length)).toBe(fault);
  });
});

describe('plates that were put by hand', () => {
  const edge = [Float64Array.of(0, 0, 60, 0, 60, 20, 0, 20)];
  const items = ['1', '2', '3'].map((name) => ({ name, edge }));
  const at = (row: number, x: number, sheet = 0) => ({ row, sheet, x, y: 20, turn: 0 });

  it('are known by their rows, whatever order they come in; those whose rows are gone are passed over', () => {
    const sheet = { ...newRun('s').sheet, locked: [at(9, 20), at(7, 90), at(8, 20)] };
    expect(nestChoiceOf({ sheet }, [7, 9]).locked).toEqual([
      { item: 1, sheet: 0, x: 20, y: 20, turn: 0 },
      { item: 0, sheet: 0, x: 90, y: 20, turn: 0 },
    ]);
  });

  it('keep their sheet from being cut where they lie too near to something, and no other', () => {
    const sheet = { ...newRun('s').sheet, spacing: 8, locked: [at(1, 20), at(2, 87), at(3, 20, 1)] };
    const choice = nestChoiceOf({ sheet }, [1, 2, 3]);
    const nest = { laid: choice.locked! };
    expect(tooNearOnSheet(items, nest, 0, choice)).toEqual(['1', '2']);
    expect(tooNearOnSheet(items, nest, 1, choice)).toEqual([]);
    expect(tooNearWords(['1', '2'])).toBe('plates 1, 2 lie too near to something: put it elsewhere, or let it be laid again.');
    expect(tooNearWords(['4'])).toContain('plate 4 lies too near');
  });

  it('says what is wrong with sheets once, with the sheets that it is about', () => {
    const troubles = [
      { sheet: 0, text: 'too near.' },
      { sheet: 3, text: 'another.' },
      { sheet: 2, text: 'too near.' },
    ];
    expect(sheetTroubles(troubles)).toBe('Sheets 1 and 3: too near. Sheet 4: another.');
    expect(sheetTroubles([])).toBe('');
  });
});
