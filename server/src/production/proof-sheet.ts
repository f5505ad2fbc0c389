import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { FontBook } from '@plain-relief/core/type';
import PDFDocument from 'pdfkit';
import { closingPages, indexPage, INDEX_FROM } from './closing-pages.js';
import { POINTS_PER_MM } from './pdf-drawing.js';
import { PageFonts } from './rich-text.js';
import { PAGE, type ProofSubject } from './sheet.js';
import { type Report, signPages } from './sign-pages.js';
import type { SignViews } from './sign-views.js';

const FACES = [
  { name: 'text', entryId: 'barlow-regular', file: 'barlow/Barlow_400Regular.ttf' },
  { name: 'strong', entryId: 'barlow-semibold', file: 'barlow/Barlow_600SemiBold.ttf' },
  { name: 'arabic', entryId: 'amiri-regular', file: 'amiri/Amiri_400Regular.ttf' },
  {
    name: 'devanagari',
    entryId: 'noto-sans-devanagari-semibold',
    file: 'noto-sans-devanagari/NotoSansDevanagari_600SemiBold.ttf',
  },
  { name: 'hebrew', entryId: 'heebo-semibold', file: 'heebo/Heebo_600SemiBold.ttf' },
] as const;

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
): Promise<Uint8Array> {
  const title = signs.length === 1 ? signs[0].front.sign.title : subject.job;
  const pdf = new PDFDocument({
    size: [PAGE.width * POINTS_PER_MM, PAGE.height * POINTS_PER_MM],
    margin: 0,
    autoFirstPage: false,
    info: { Title: `Proof: ${title}`, Author: subject.shop, CreationDate: subject.date, ModDate: subject.date },
  });
  const chunks: Buffer[] = [];
  pdf.on('data', (chunk: Buffer) => chunks.push(chunk));
  const finished = new Promise<void>((done) => pdf.on('end', done));
  for (const { name, file } of FACES) pdf.registerFont(name, await readFile(join(fontsDir, file)));
  const fonts = new PageFonts(book, FACES);

  let page = signs.length >= INDEX_FROM ? indexPage(pdf, fonts, signs, subject) : 0;
  for (const [i, views] of signs.entries()) {
    const part: Report = (share, step) => report((i + 0.95 * share) / signs.length, step);
    page = await signPages(pdf, fonts, views, subject, book, page, part);
  }
  if (subject.frozen) closingPages(pdf, fonts, signs, subject, subject.frozen, page);
  pdf.end();
  await finished;
  await report(1, 'done');
  return new Uint8Array(Buffer.concat(chunks));
}
