import { describe, expect, it } from '@jest/globals';
import type { ToldRow } from './run-desk';
import { ALL_ROWS, chosenRows, columnWidths, isHeld, type ShownRow, stateWords } from './run-rows';
import { windowOf } from './window-of';

const told = (state: ToldRow['state'], more: Partial<ToldRow> = {}): ToldRow => ({ id: 1, state, title: 'T', told: [], ...more });
const row = (at: number, values: string[], more: Partial<ShownRow> = {}): ShownRow => ({ id: at + 1, row: at, values, isMarked: false, told: undefined, remarks: [], ...more }); // prettier-ignore

describe('rows of a run', () => {
  const rows = [
    row(0, ['10', 'Yew'], { told: told('fits') }),
    row(1, ['9', 'alder'], { told: told('fitted', { narrowed: 84.4, told: ['Narrowed.'] }), isMarked: true }),
    row(2, ['100', 'Rowan'], { told: told('refused') }),
    row(3, ['11', 'elm'], { remarks: ['the same as row 1'] }),
  ];
  const shown = (change: Partial<typeof ALL_ROWS>): number[] => chosenRows(rows, { ...ALL_ROWS, ...change }).map(({ id }) => id);

  it('are sought by their words and their number, by state and by mark', () => {
    expect(shown({})).toEqual([1, 2, 3, 4]);
    expect(shown({ words: ' ROW ' })).toEqual([3]);
    expect(shown({ words: '4' })).toEqual([4]);
    expect(shown({ state: 'held' })).toEqual([3]);
    expect(shown({ state: 'notes' })).toEqual([2, 4]);
    expect(shown({ state: 'marked' })).toEqual([2]);
  });

  it('are sorted by a column as figures and words are, by the worst, and as they come', () => {
    expect(shown({ order: 0 })).toEqual([2, 1, 4, 3]);
    expect(shown({ order: 1 })).toEqual([2, 4, 3, 1]);
    expect(shown({ order: 1, isDown: false })).toEqual([1, 3, 4, 2]);
    expect(shown({ order: 'worst' })).toEqual([3, 2, 4, 1]);
    expect(shown({ isDown: false })).toEqual([4, 3, 2, 1]);
  });

  it('say how they fit', () => {
    const states = rows.map((each) => stateWords(each.told));
    expect(states).toEqual(['fits', 'narrowed to 84 %', 'not made', '…']);
    expect([stateWords(told('too large')), stateWords(told('lacking')), stateWords(told('fitted'))]).toEqual(['does not fit', 'lacks something', 'made to fit']); // prettier-ignore
    expect([undefined, told('fitted'), told('too large')].map(isHeld)).toEqual([false, false, true]);
  });
});

describe('columns', () => {
  it('are as wide as their names and most of their values, and no wider than a line', () => {
    const values = Array.from({ length: 100 }, (_, i) => ({ values: ['x'.repeat(i === 50 ? 30 : 9), 'y'.repeat(60), ''] }));
    expect(columnWidths(['a', 'b', 'a long name'], values)).toEqual([9, 34, 13]);
    expect(columnWidths(['a'], [])).toEqual([6]);
  });
});

describe('what is seen of a long list', () => {
  it('is what lies in the window, with some before and after', () => {
    expect(windowOf(10_000, 0, 680, 34)).toEqual({ from: 0, to: 26 });
    expect(windowOf(10_000, 34_000, 680, 34)).toEqual({ from: 994, to: 1026 });
    expect(windowOf(10, 99_999, 680, 34)).toEqual({ from: 10, to: 10 });
    expect(windowOf(0, 0, 680, 34)).toEqual({ from: 0, to: 0 });
  });
});
