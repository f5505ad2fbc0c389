import { type Correction, type PlateState, type RowRemark } from '@plain-relief/core/runs';
import type { ToldRow } from './run-desk';

/** A row as the list shows it. */
export interface ShownRow {
  readonly id: number;
  /** In the order of the list, from 0. */
  readonly row: number;
  readonly values: readonly string[];
  readonly isMarked: boolean;
  /** What is otherwise on this plate alone. */
  readonly corrections?: readonly Correction[];
  readonly told: ToldRow | undefined;
  /** What is suspicious in its values. */
  readonly remarks: readonly string[];
}

/** What rows are shown, and in which order. */
export interface Choice {
  readonly words: string;
  readonly state: 'all' | 'notes' | 'held' | 'marked';
  /** A column of the list by its place; `list` as they come, `worst` with those first that cannot be made. */
  readonly order: 'list' | 'worst' | number;
  readonly isDown: boolean;
}

export const ALL_ROWS: Choice = { words: '', state: 'all', order: 'list', isDown: true };

/** How bad a state is. */
const RANK: Readonly<Record<PlateState, number>> = { refused: 4, lacking: 3, 'too large': 2, fitted: 1, fits: 0 };

/** Whether a row is not made as it is. */
export const isHeld = (told: ToldRow | undefined): boolean => told !== undefined && RANK[told.state] >= 2;

/** "narrowed to 84 %": how a row fits, in words. */
export function stateWords(told: ToldRow | undefined): string {
  if (!told) return '…';
  switch (told.state) {
    case 'fits':
      return 'fits';
    case 'fitted':
      return told.narrowed === undefined ? 'made to fit' : `narrowed to ${told.narrowed.toFixed(0)} %`;
    case 'too large':
      return 'does not fit';
    case 'lacking':
      return 'lacks something';
    case 'refused':
      return 'not made';
  }
}

/** Rows that are asked for, in the order that is asked for. */
export function chosenRows(rows: readonly ShownRow[], { words, state, order, isDown }: Choice): ShownRow[] {
  const sought = words.trim().toLowerCase();
  const chosen = rows.filter((row) => {
    if (state === 'marked' && !row.isMarked) return false;
    if (state === 'held' && !isHeld(row.told)) return false;
    if (state === 'notes' && row.remarks.length === 0 && (row.told?.told.length ?? 0) === 0) return false;
    return sought === '' || row.values.some((value) => value.toLowerCase().includes(sought)) || String(row.row + 1) === sought;
  });
  if (order === 'list') return isDown ? chosen : chosen.reverse();
  const sign = isDown ? 1 : -1;
  const rank = ({ told, remarks }: ShownRow): number => (told ? RANK[told.state] : 0) + (remarks.length > 0 ? 0.5 : 0);
  if (order === 'worst') return chosen.sort((a, b) => rank(b) - rank(a) || a.row - b.row);
  const compared = new Intl.Collator(undefined, { numeric: true });
  return chosen.sort((a, b) => sign * compared.compare(a.values[order] ?? '', b.values[order] ?? '') || a.row - b.row);
}

export const remarkWords = (remarks: readonly RowRemark[]): string[] => remarks.map(({ text }) => text);

/** Letters of a column beyond which it is scrolled in, and the share of its values that are seen whole if they are not longer. */
const MOST_LETTERS = 34;
const SEEN_WHOLE = 0.95;

/** How wide columns are, in letters. */
export function columnWidths(columns: readonly string[], rows: readonly { readonly values: readonly string[] }[]): number[] {
  return columns.map((name, at) => {
    const lengths = Uint32Array.from(rows, ({ values }) => values[at].length).sort();
    const most = lengths[Math.floor(SEEN_WHOLE * lengths.length)] ?? 0;
    return Math.max(6, Math.min(MOST_LETTERS, Math.max(name.length + 2, most)));
  });
}
