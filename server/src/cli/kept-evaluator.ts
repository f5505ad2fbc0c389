import { Evaluator } from '@plain-relief/core/relief';
import { type FontBook } from '@plain-relief/core/type';
import { openFontBook } from '../modules/fonts/font-files.js';

let kept: { readonly fontsDir: string; readonly book: FontBook; readonly evaluator: Evaluator } | undefined;

/** Of this thread, with the fonts of a folder: kept from one part of a run to the next. */
export function keptEvaluator(fontsDir: string): { readonly book: FontBook; readonly evaluator: Evaluator } {
  if (kept?.fontsDir !== fontsDir) {
    const book = openFontBook(fontsDir);
    kept = { fontsDir, book, evaluator: new Evaluator(book) };
  }
  return kept;
}
