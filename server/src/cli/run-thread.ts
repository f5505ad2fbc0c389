import madeRows, { type MadeRow, type RowsOrder } from './run-rows.js';
import type { MadeSheet, SheetOrder } from './run-sheet.js';

/** A part of a run that can be made by itself. */
export type RunWork =
  { readonly kind: 'rows'; readonly order: RowsOrder } | { readonly kind: 'sheet'; readonly order: SheetOrder };

/** Runs in a thread, or in this one. Sheets come after rows, and what they need is loaded then. */
export default async function made(work: RunWork): Promise<MadeRow[] | MadeSheet> {
  if (work.kind === 'rows') return madeRows(work.order);
  return (await import('./run-sheet.js')).default(work.order);
}
