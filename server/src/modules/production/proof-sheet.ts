import { type FontBook } from '@plain-relief/core/type';
import { Evaluator } from '@plain-relief/core/relief';
import { type FrozenPlace, placePages } from './place-pages.js';
import { platePages, type PlatesOfProof } from './plate-pages.js';
import { closingPages, indexPage, INDEX_FROM } from './closing-pages.js';
import { PageFonts } from './rich-text.js';
import { FACES, sheetPdf } from './sheet-pdf.js';
import { type ProofSubject, Sheet } from './sheet.js';
import { type Report, signPages } from './sign-pages.js';
import type { SignViews } from './sign-views.js';

/** What a proof shows besides its signs. */
export interface BesideSigns {
  readonly places?: readonly FrozenPlace[];
  /** Runs whose plates are approved with it. */
  readonly runs?: readonly PlatesOfProof[];
}

/**
 * The proof of signs as a PDF: the pages of each; of more than three a page before them that lists them; of a frozen proof the pages
 * by which it is approved. Everything is read off the evaluations. The same arguments give the same bytes.
 *
 * @param fontsDir the folder of the shipped fonts
 */
export async function proofSheet(
  signs: readonly SignViews[],
  subject: ProofSubject,
  book: FontBook,
  fontsDir: string,
  report: Report = async () => {},
  { places = [], runs = [] }: BesideSigns = {},
): Promise<Uint8Array> {
  const title = signs.length === 1 ? signs[0].front.sign.title : subject.job;
  const { pdf, ended } = await sheetPdf(`Proof: ${title}`, subject.shop.name, subject.date, fontsDir);
  const sheet = new Sheet(pdf, new PageFonts(book, FACES), subject);
  if (signs.length >= INDEX_FROM) indexPage(sheet, signs);
  for (const [i, views] of signs.entries()) {
    const part: Report = (share, step) => report(((i + 0.95 * share) / signs.length) * (runs.length > 0 ? 0.5 : 1), step);
    await signPages(sheet, views, book, part);
  }
  if (sheet.shows('in place') && places.length > 0) await placePages(sheet, places, new Evaluator(book));
  if (runs.length > 0) await platePages(sheet, runs, new Evaluator(book), (share, step) => report(0.5 + 0.45 * share, step));
  sheet.turn();
  if (subject.frozen) closingPages(sheet, signs, subject.frozen, book.catalogue);
  const bytes = await ended();
  await report(1, 'done');
  return bytes;
}
