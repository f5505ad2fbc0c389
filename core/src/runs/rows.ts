import { type Sign } from '../sign/index.js';
import { counted } from './counters.js';
import { type List } from './list.js';
import { slotsInWords, type Values } from './slots.js';

/** Which column has the values of which slot, by their names. */
export type Matching = ReadonlyMap<string, string>;

const plain = (name: string): string => name.normalize('NFKD').toLowerCase().replace(/[^\p{L}\p{N}]/gu, ''); // prettier-ignore

/** Columns of the same names as slots, however they are written; slots that count have none. */
export function matched({ slots = [] }: Sign, columns: readonly string[]): Map<string, string> {
  const found = new Map<string, string>();
  for (const { name, counter } of slots) {
    const column = columns.find((each) => each === name) ?? columns.find((each) => plain(each) === plain(name));
    if (!counter && column !== undefined) found.set(name, column);
  }
  return found;
}

/** Slots of the words, and those that choose, that nothing fills: no column, no counter and no default. */
export function unfilled(sign: Sign, matching: Matching): string[] {
  const inWords = new Set(slotsInWords(sign));
  return (sign.slots ?? [])
    .filter(
      ({ name, counter, default: usual, sets }) =>
        (inWords.has(name) || sets) && !counter && usual === undefined && !matching.has(name),
    )
    .map(({ name }) => name);
}

/** The values of every row: from its columns, and of counters in the order of the rows, begun anew for every group. */
export function rowValues({ slots = [] }: Sign, { columns, rows }: Pick<List, 'columns' | 'rows'>, matching: Matching): Values[] {
  const times = new Map<string, number>();
  return rows.map((row) => {
    const values = new Map<string, string>();
    for (const { name, counter } of slots) {
      const at = columns.indexOf(matching.get(name) ?? '');
      if (!counter) values.set(name, at < 0 ? '' : row[at]);
    }
    for (const { name, counter } of slots) {
      if (!counter) continue;
      const group = counter.per === undefined ? '' : (values.get(counter.per) ?? row[columns.indexOf(counter.per)] ?? '');
      const key = `${name}\n${group.trim()}`;
      const n = times.get(key) ?? 0;
      times.set(key, n + 1);
      values.set(name, counted(counter, n));
    }
    return values;
  });
}

/** Something to look at in a row, by which column. */
export interface RowRemark {
  readonly kind: 'same-row' | 'double-blank' | 'mixed-capitals' | 'control-character';
  readonly slot?: string;
  readonly text: string;
}

/** What is suspicious in the values of rows; blanks at the ends are left out of what is made. */
export function rowRemarks(values: readonly Values[]): RowRemark[][] {
  const first = new Map<string, number>();
  return values.map((row, i) => {
    const remarks: RowRemark[] = [];
    const key = JSON.stringify([...row.values()].map((value) => value.trim()));
    const before = first.get(key);
    if (before === undefined) first.set(key, i);
    else remarks.push({ kind: 'same-row', text: `the same as row ${before + 1}` });
    for (const [slot, value] of row) {
      const words = value.trim();
      if (/ {2,}/u.test(words)) remarks.push({ kind: 'double-blank', slot, text: `${slot} has two blanks in a row` });
      if (/\p{Ll}\p{Lu}\p{Lu}|\p{Lu}{2,}\p{Ll}{2,}\p{Lu}/u.test(words)) remarks.push({ kind: 'mixed-capitals', slot, text: `${slot} mixes capitals and small letters` }); // prettier-ignore
      if (/[\u0000-\u0009\u000b-\u001f\u007f]/u.test(words)) remarks.push({ kind: 'control-character', slot, text: `${slot} has a control character` }); // prettier-ignore
    }
    return remarks;
  });
}

/** Values of a slot that are there more than once, where each is to be there once, such as numbers: by value the rows, from 0. */
export function repeated(values: readonly Values[], slot: string): Map<string, number[]> {
  const found = new Map<string, number[]>();
  values.forEach((row, i) => {
    const value = (row.get(slot) ?? '').trim();
    if (value !== '') found.set(value, [...(found.get(value) ?? []), i]);
  });
  return new Map([...found].filter(([, rows]) => rows.length > 1));
}

/** Rows, from 0, that have a value which is to be there once, with where it is besides. */
export function repeatedValues({ slots = [] }: Sign, values: readonly Values[]): Map<number, string[]> {
  const found = new Map<number, string[]>();
  for (const { name, once } of slots) {
    if (!once) continue;
    for (const [value, rows] of repeated(values, name)) {
      for (const row of rows) {
        const others = rows.filter((each) => each !== row).map((each) => each + 1);
        found.set(row, [...(found.get(row) ?? []), `${name} “${value}” is in row ${others.slice(0, 5).join(', ')}, too`]);
      }
    }
  }
  return found;
}
