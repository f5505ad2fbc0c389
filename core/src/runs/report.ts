import { listFile } from './list.js';
import { type PlateState } from './plates.js';

/** A row as it is reported. */
export interface ReportedRow {
  /** From 0. */
  readonly row: number;
  readonly state: PlateState;
  readonly narrowed?: number;
  readonly title: string;
  /** What is refused, noted and remarked, in sentences. */
  readonly told: readonly string[];
  /** By the columns of the list. */
  readonly values: readonly string[];
}

/** Rows with their states, what is told of them and their values, as a list (RFC 4180). */
export const reportFile = (columns: readonly string[], rows: readonly ReportedRow[]): string =>
  listFile(
    ['row', 'state', 'narrowed to %', 'title', 'remarks', ...columns],
    rows.map(({ row, state, narrowed, title, told, values }) => [
      String(row + 1),
      state,
      narrowed === undefined ? '' : narrowed.toFixed(0),
      title,
      told.join(' '),
      ...values,
    ]),
  );
