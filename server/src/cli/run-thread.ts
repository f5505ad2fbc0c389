import madeRows, { type MadeRow, type RowsOrder } from './run-rows.js';
import madeSheet, { type MadeSheet, type SheetOrder } from './run-sheet.js';

/** A part of a run that can be made by itself. */
export type RunWork =
  { readonly kind: 'rows'; readonly order: RowsOrder } | { readonly kind: 'sheet'; readonly order: SheetOrder };

/** Runs in a thread, or in this one. */
export default async function made(work: RunWork): Promise<MadeRow[] | MadeSheet> {
  return work.kind === 'rows' ? madeRows(work.order) : madeSheet(work.order);
}
