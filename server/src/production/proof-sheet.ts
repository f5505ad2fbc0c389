import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { dimensionedPlan, type Drawing, FAINT, heightReach, INK, PAPER, sectionDrawing } from '@plain-relief/core/drawing';
import { finishPaint, heightPaint, pictureOf, THREE_QUARTER } from '@plain-relief/core/picture';
import type { Evaluation } from '@plain-relief/core/relief';
import { extentOfShape, ticket, ticketParagraphs } from '@plain-relief/core/sign';
import { coloured, solidOf } from '@plain-relief/core/solid';
import type { FontBook } from '@plain-relief/core/type';
import { formatLength } from '@plain-relief/core/units';
import PDFDocument from 'pdfkit';
import { drawOnPage, POINTS_PER_MM } from './pdf-drawing.js';
import { pngFile } from './png.js';
import { breakLines, drawLine, PageFonts, type Paragraph } from './rich-text.js';

/** What a proof says besides the sign itself. */
export interface ProofSubject {
  readonly shop: string;
  readonly customer: string;
  readonly job: string;
  readonly revision: string;
  /** The date on the sheet, and the file's own. */
  readonly date: Date;
}

export type Report = (share: number, step: string) => Promise<void>;

/** A4 across, in mm. */
const PAGE = { width: 297, height: 210 };
const MARGIN = 10;
const TITLE_HEIGHT = 20;
const COLUMN = 82;
const GAP = 6;
const FIGURES_MM = 2.6;
/** Scales of ISO 5455 (from memory) with some between them (common practice, no source), largest first. */
const SCALES = [10, 5, 2, 1, 1 / 2, 1 / 2.5, 1 / 3, 1 / 4, 1 / 5, 1 / 6, 1 / 8, 1 / 10, 1 / 20, 1 / 50, 1 / 100] as const;
const PICTURE_PIXELS = 1000;

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

/** "1 : 2", "full size", "2 : 1". */
export function scaleName(scale: number): string {
  if (scale === 1) return 'full size (1 : 1)';
  return scale < 1 ? `1 : ${Number((1 / scale).toFixed(2))}` : `${scale} : 1`;
}

/** The largest standard scale at which a drawing made for that scale fits a box of paper mm. */
function fitting(make: (scale: number) => Drawing, width: number, height: number): { scale: number; drawing: Drawing } {
  for (const scale of SCALES) {
    const drawing = make(scale);
    const { minX, minY, maxX, maxY } = drawing.bounds;
    if ((maxX - minX) * scale <= width && (maxY - minY) * scale <= height) return { scale, drawing };
  }
  const scale = SCALES[SCALES.length - 1];
  return { scale, drawing: make(scale) };
}

/**
 * The proof of a sign as a PDF: plan at a standard scale with its overall dimensions, section, picture, the ticket's
 * sentences and the notes, title block. Everything is read off the evaluation. The same arguments give the same bytes.
 *
 * @param fontsDir the folder of the shipped fonts
 */
export async function proofSheet(
  evaluation: Evaluation,
  subject: ProofSubject,
  book: FontBook,
  fontsDir: string,
  report: Report = async () => {},
): Promise<Uint8Array> {
  const { sign } = evaluation;
  const pdf = new PDFDocument({
    size: [PAGE.width * POINTS_PER_MM, PAGE.height * POINTS_PER_MM],
    margin: 0,
    autoFirstPage: false,
    info: { Title: `Proof: ${sign.title}`, Author: subject.shop, CreationDate: subject.date, ModDate: subject.date },
  });
  const chunks: Buffer[] = [];
  pdf.on('data', (chunk: Buffer) => chunks.push(chunk));
  const finished = new Promise<void>((done) => pdf.on('end', done));
  for (const { name, file } of FACES) pdf.registerFont(name, await readFile(join(fontsDir, file)));
  const fonts = new PageFonts(book, FACES);

  await report(0.1, 'drawing the plan');
  const left = { x: MARGIN, width: PAGE.width - 2 * MARGIN - COLUMN - GAP };
  const bodyHeight = PAGE.height - 2 * MARGIN - TITLE_HEIGHT;
  const sectionHeight = Math.min(46, bodyHeight * 0.3);
  const planBox = { width: left.width, height: bodyHeight - sectionHeight - GAP - 6 };
  const plan = fitting((scale) => dimensionedPlan(evaluation, { textHeight: FIGURES_MM / scale }), planBox.width, planBox.height);
  startPage(pdf);
  heading(pdf, `Plan, ${scaleName(plan.scale)}`, left.x, MARGIN + 3);
  centred(pdf, plan, { x: left.x, y: MARGIN + 6, ...planBox });

  await report(0.3, 'cutting the section');
  const section = fitting(
    (scale) => sectionDrawing(evaluation, sign.section, { heightsTimes: 1, textHeight: FIGURES_MM / scale }),
    left.width,
    sectionHeight - 6,
  );
  const sectionY = MARGIN + 6 + planBox.height + GAP;
  heading(pdf, `Section, ${scaleName(section.scale)}`, left.x, sectionY + 3);
  centred(pdf, section, { x: left.x, y: sectionY + 5, width: left.width, height: sectionHeight - 6 });

  await report(0.5, 'making the picture');
  const columnX = PAGE.width - MARGIN - COLUMN;
  const pictureHeight = COLUMN * 0.62;
  const mesh = solidOf(evaluation);
  const picture = pictureOf(
    mesh,
    evaluation.sign.finishes?.length ? finishPaint(coloured(evaluation, mesh)) : heightPaint(mesh, heightReach(evaluation)),
    THREE_QUARTER,
    PICTURE_PIXELS,
    Math.round(PICTURE_PIXELS * 0.62),
  );
  pdf.image(Buffer.from(pngFile(picture)), columnX * POINTS_PER_MM, MARGIN * POINTS_PER_MM, {
    width: COLUMN * POINTS_PER_MM,
    height: pictureHeight * POINTS_PER_MM,
  });

  await report(0.8, 'writing the ticket');
  const paragraphs: Paragraph[] = [
    strong('Ticket'),
    ...ticketParagraphs(ticket(sign, book.catalogue)).map(ordinary),
    ...(evaluation.notes.length > 0 ? [strong('Notes'), ...evaluation.notes.map(({ text }) => ordinary(text))] : []),
  ];
  const column = {
    x: columnX,
    top: MARGIN + pictureHeight + 3,
    bottom: PAGE.height - MARGIN - TITLE_HEIGHT - 3,
    width: COLUMN,
  };
  writeColumns(pdf, fonts, paragraphs, column, evaluation, subject, plan.scale);
  pdf.end();
  await finished;
  await report(1, 'done');
  return new Uint8Array(Buffer.concat(chunks));
}

const strong = (text: string): Paragraph => ({ text, font: 'strong', size: 9.5, colour: INK, before: 5 });
const ordinary = (text: string): Paragraph => ({ text, font: 'text', size: 8.5, colour: INK, before: 2.5 });

function startPage(pdf: PDFKit.PDFDocument): void {
  pdf.addPage();
  pdf.rect(0, 0, PAGE.width * POINTS_PER_MM, PAGE.height * POINTS_PER_MM).fill('#ffffff');
}

function heading(pdf: PDFKit.PDFDocument, text: string, x: number, y: number): void {
  pdf.font('strong').fontSize(9.5).fillColor(INK);
  pdf.text(text, x * POINTS_PER_MM, y * POINTS_PER_MM, { lineBreak: false, baseline: 'alphabetic' });
}

/** Puts a drawing in the middle of a box of paper mm. */
function centred(
  pdf: PDFKit.PDFDocument,
  { scale, drawing }: { scale: number; drawing: Drawing },
  box: { x: number; y: number; width: number; height: number },
): void {
  const { minX, minY, maxX, maxY } = drawing.bounds;
  drawOnPage(pdf, drawing, {
    x: box.x + box.width / 2 - (scale * (minX + maxX)) / 2,
    y: box.y + box.height / 2 + (scale * (minY + maxY)) / 2,
    scale,
    labelFont: 'text',
  });
}

/** Paragraphs down the column of the first page; what does not fit goes on in three columns of further pages. */
function writeColumns(
  pdf: PDFKit.PDFDocument,
  fonts: PageFonts,
  paragraphs: readonly Paragraph[],
  first: { x: number; top: number; bottom: number; width: number },
  evaluation: Evaluation,
  subject: ProofSubject,
  scale: number,
): void {
  let page = 1;
  const lines = paragraphs.flatMap((paragraph) =>
    breakLines(pdf, fonts, paragraph, first.width * POINTS_PER_MM).map((line, i) => ({ paragraph, line, isFirst: i === 0 })),
  );
  const titled = () => titleBlock(pdf, evaluation, subject, page, scale);
  let column = 0;
  let columns = [first];
  let y = first.top * POINTS_PER_MM;
  for (const { paragraph, line, isFirst } of lines) {
    const step = paragraph.size * 1.25 + (isFirst ? paragraph.before : 0);
    if (y + step > columns[column].bottom * POINTS_PER_MM) {
      column++;
      if (column === columns.length) {
        titled();
        startPage(pdf);
        page++;
        columns = [0, 1, 2].map((i) => ({ ...first, x: MARGIN + i * (first.width + GAP), top: MARGIN }));
        column = 0;
      }
      y = columns[column].top * POINTS_PER_MM;
    }
    y += step;
    drawLine(pdf, line, columns[column].x * POINTS_PER_MM, y, paragraph);
  }
  titled();
}

function titleBlock(pdf: PDFKit.PDFDocument, { sign }: Evaluation, subject: ProofSubject, page: number, scale: number): void {
  const top = PAGE.height - MARGIN - TITLE_HEIGHT;
  const width = PAGE.width - 2 * MARGIN;
  const { width: across, height } = extentOfShape(sign.blank.outline);
  const size = [across, height, sign.blank.thickness].map((mm) => formatLength(mm, sign.unit)).join(' × ');
  const cells: readonly (readonly [string, string, number])[] = [
    ['Shop', subject.shop, 0.17],
    ['Customer', subject.customer, 0.17],
    ['Job', subject.job, 0.2],
    ['Sign', sign.title, 0.16],
    ['Size', size, 0.16],
    ['Revision', subject.revision, 0.06],
    ['Date', subject.date.toISOString().slice(0, 10), 0.08],
  ];
  const pt = POINTS_PER_MM;
  pdf.rect(MARGIN * pt, top * pt, width * pt, TITLE_HEIGHT * pt).fill(PAPER);
  pdf
    .undash()
    .lineWidth(0.6)
    .strokeColor(INK)
    .rect(MARGIN * pt, top * pt, width * pt, TITLE_HEIGHT * pt)
    .stroke();
  let x = MARGIN;
  for (const [name, value, share] of cells) {
    const cellWidth = share * width;
    if (x > MARGIN)
      pdf
        .moveTo(x * pt, top * pt)
        .lineTo(x * pt, (top + TITLE_HEIGHT) * pt)
        .stroke();
    pdf.font('text').fontSize(6.5).fillColor(FAINT);
    pdf.text(name, (x + 2) * pt, (top + 4.2) * pt, { lineBreak: false, baseline: 'alphabetic' });
    pdf.font('strong').fontSize(8.5).fillColor(INK);
    pdf.text(value || '—', (x + 2) * pt, (top + 5.6) * pt, {
      width: (cellWidth - 3) * pt,
      height: (TITLE_HEIGHT - 7) * pt,
      ellipsis: true,
    });
    x += cellWidth;
  }
  pdf.font('text').fontSize(6.5).fillColor(FAINT);
  const foot = `Plan ${scaleName(scale)} when printed at 100 %. Lengths in ${sign.unit === 'mm' ? 'millimetres' : 'inches'}. Page ${page}.`;
  pdf.text(foot, MARGIN * pt, (PAGE.height - MARGIN + 3) * pt, { lineBreak: false, baseline: 'alphabetic' });
}
