import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import PDFDocument from 'pdfkit';

/** The fonts of all pages, and what each covers. */
export const FACES = [
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

/** An empty PDF with the fonts of all pages; `ended` gives its bytes, the same for the same pages. */
export async function sheetPdf(
  title: string,
  author: string,
  date: Date,
  fontsDir: string,
): Promise<{ readonly pdf: PDFKit.PDFDocument; readonly ended: () => Promise<Uint8Array> }> {
  const info = { Title: title, ...(author && { Author: author }), CreationDate: date, ModDate: date };
  const pdf = new PDFDocument({ autoFirstPage: false, info });
  const chunks: Buffer[] = [];
  pdf.on('data', (chunk: Buffer) => chunks.push(chunk));
  const finished = new Promise<void>((done) => pdf.on('end', done));
  for (const { name, file } of FACES) pdf.registerFont(name, await readFile(join(fontsDir, file)));
  const ended = async () => {
    pdf.end();
    await finished;
    return new Uint8Array(Buffer.concat(chunks));
  };
  return { pdf, ended };
}
