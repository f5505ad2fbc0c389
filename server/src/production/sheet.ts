import { type Drawing, FAINT, INK, PAPER } from '@plain-relief/core/drawing';
import type { Evaluation } from '@plain-relief/core/relief';
import { extentOfShape } from '@plain-relief/core/sign';
import { formatLength } from '@plain-relief/core/units';
import { drawOnPage, POINTS_PER_MM } from './pdf-drawing.js';

/** What a proof says besides the sign itself. */
export interface ProofSubject {
  readonly shop: string;
  readonly customer: string;
  readonly job: string;
  readonly revision: string;
  /** Name of the option that the files are of. */
  readonly option?: string;
  /** The date on the sheet, and the file's own. */
  readonly date: Date;
  readonly frozen?: Frozen;
}

/** What a proof that was frozen and sent says on its closing pages. */
export interface Frozen {
  readonly digest: string;
  readonly message: string;
  readonly quantity: number;
  readonly approval?: { readonly by: string; readonly at: Date; readonly choices: readonly string[] };
}

/** A4 across, in mm. */
export const PAGE = { width: 297, height: 210 };
export const MARGIN = 10;
export const TITLE_HEIGHT = 20;
export const COLUMN = 82;
export const GAP = 6;
export const FIGURES_MM = 2.6;
/** Scales of ISO 5455 (from memory) with some between them (common practice, no source), largest first. */
const SCALES = [10, 5, 2, 1, 1 / 2, 1 / 2.5, 1 / 3, 1 / 4, 1 / 5, 1 / 6, 1 / 8, 1 / 10, 1 / 20, 1 / 50, 1 / 100] as const;

/** "1 : 2", "full size", "2 : 1". */
export function scaleName(scale: number): string {
  if (scale === 1) return 'full size (1 : 1)';
  return scale < 1 ? `1 : ${Number((1 / scale).toFixed(2))}` : `${scale} : 1`;
}

/** The largest standard scale at which a drawing made for that scale fits a box of paper mm. */
export function fitting(make: (scale: number) => Drawing, width: number, height: number): { scale: number; drawing: Drawing } {
  for (const scale of SCALES) {
    const drawing = make(scale);
    const { minX, minY, maxX, maxY } = drawing.bounds;
    if ((maxX - minX) * scale <= width && (maxY - minY) * scale <= height) return { scale, drawing };
  }
  const scale = SCALES[SCALES.length - 1];
  return { scale, drawing: make(scale) };
}

export function startPage(pdf: PDFKit.PDFDocument): void {
  pdf.addPage();
  pdf.rect(0, 0, PAGE.width * POINTS_PER_MM, PAGE.height * POINTS_PER_MM).fill('#ffffff');
}

export function heading(pdf: PDFKit.PDFDocument, text: string, x: number, y: number): void {
  pdf.font('strong').fontSize(9.5).fillColor(INK);
  pdf.text(text, x * POINTS_PER_MM, y * POINTS_PER_MM, { lineBreak: false, baseline: 'alphabetic' });
}

/** Puts a drawing in the middle of a box of paper mm. */
export function centred(
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

export function titleBlock(
  pdf: PDFKit.PDFDocument,
  { sign }: Evaluation,
  subject: ProofSubject,
  page: number,
  scale: number,
): void {
  const { width: across, height } = extentOfShape(sign.blank.outline);
  const size = [across, height, sign.blank.thickness].map((mm) => formatLength(mm, sign.unit)).join(' × ');
  const drawn = `Drawn ${scaleName(scale)} when printed at 100 %. Lengths in ${sign.unit === 'mm' ? 'millimetres' : 'inches'}.`;
  titleCells(pdf, subject, subject.option ? `${sign.title}, ${subject.option}` : sign.title, size, page, drawn);
}

/** The block at the foot of a page, which says what it belongs to; with the stamp where the proof is approved. */
export function titleCells(
  pdf: PDFKit.PDFDocument,
  subject: ProofSubject,
  title: string,
  size: string,
  page: number,
  drawn: string,
): void {
  const top = PAGE.height - MARGIN - TITLE_HEIGHT;
  const width = PAGE.width - 2 * MARGIN;
  const cells: readonly (readonly [string, string, number])[] = [
    ['Shop', subject.shop, 0.17],
    ['Customer', subject.customer, 0.17],
    ['Job', subject.job, 0.2],
    ['Sign', title, 0.16],
    ['Size', size, 0.16],
    [subject.frozen ? 'Proof' : 'Revision', subject.revision, 0.06],
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
  pdf.text(`${drawn} Page ${page}.`, MARGIN * pt, (PAGE.height - MARGIN + 3) * pt, { lineBreak: false, baseline: 'alphabetic' });
  if (subject.frozen?.approval) stamp(pdf, subject.revision, subject.frozen.approval);
}

const STAMP = '#2f6f62';

/** The stamp of approval, over the title block at the right. */
function stamp(pdf: PDFKit.PDFDocument, letter: string, { by, at }: NonNullable<Frozen['approval']>): void {
  const pt = POINTS_PER_MM;
  const [width, height] = [74, 11];
  const [x, y] = [PAGE.width - MARGIN - width, PAGE.height - MARGIN - TITLE_HEIGHT - height - 1.5];
  pdf.undash().lineWidth(1.4).strokeColor(STAMP);
  pdf.roundedRect(x * pt, y * pt, width * pt, height * pt, 4).fillAndStroke('#ffffff', STAMP);
  pdf.font('strong').fontSize(11).fillColor(STAMP);
  pdf.text(`Proof ${letter} approved`, (x + 3) * pt, (y + 4.8) * pt, { lineBreak: false, baseline: 'alphabetic' });
  pdf.font('text').fontSize(7.5);
  const words = `by ${by}, ${at.toISOString().slice(0, 16).replace('T', ' ')} UTC`;
  pdf.text(words, (x + 3) * pt, (y + 6.2) * pt, { width: (width - 6) * pt, height: 4 * pt, ellipsis: true });
}
