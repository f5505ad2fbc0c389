import type { ShopCard } from '@plain-relief/api';
import type { Brief, Revision } from '../../platform/database/models/proofs.js';
import { type Drawing, FAINT, INK, PAPER, sizesOf } from '@plain-relief/core/drawing';
import { finishPaint, pictureOf, signPicture, type View } from '@plain-relief/core/picture';
import { type Evaluation } from '@plain-relief/core/relief';
import { type Block, EVERYTHING, PAPERS, type SheetLayout } from '@plain-relief/core/sheet';
import { type Weighed } from '@plain-relief/core/shop';
import { type Sign } from '@plain-relief/core/sign';
import { lengthWords } from '@plain-relief/core/units';
import { drawOnPage, POINTS_PER_MM, startPage } from './pdf-drawing.js';
import { pngFile } from './png.js';
import { breakLines, drawLine, type PageFonts, type Paragraph } from './rich-text.js';
import { modelOfView } from './sign-views.js';

/** What a proof says besides the sign itself. */
export interface ProofSubject {
  readonly shop: ShopCard;
  readonly customer: string;
  readonly job: string;
  readonly revision: string;
  /** Name of the option that the files are of. */
  readonly option?: string;
  /** The date on the sheet, and the file's own. */
  readonly date: Date;
  /** Everything, on A4 across, where none is chosen. */
  readonly layout?: SheetLayout;
  readonly frozen?: Frozen;
  /** The shop's, by which signs are weighed; of others what is typical counts. */
  readonly materials?: readonly Weighed[];
}

/** What a proof that was frozen and sent says on its closing pages. */
export interface Frozen {
  readonly digest: string;
  readonly message: string;
  readonly brief: Brief;
  /** The proofs before it, and what each changed. */
  readonly revisions: readonly Revision[];
  readonly approval?: { readonly by: string; readonly at: Date; readonly choices: readonly string[] };
}

/** A rectangle on the paper: mm from the left and from the top. */
export interface Room {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export const MARGIN = 10;
export const TITLE_HEIGHT = 20;
export const GAP = 6;
export const FIGURES_MM = 2.6;
/** Scales of ISO 5455:1979 with some between them (common practice, no source), largest first. */
const SCALES = [10, 5, 2, 1, 1 / 2, 1 / 2.5, 1 / 3, 1 / 4, 1 / 5, 1 / 6, 1 / 8, 1 / 10, 1 / 20, 1 / 50, 1 / 100] as const;
/** Pixels of a picture of the sign for every mm across. */
const PIXELS_A_MM = 12;
/** Height of a picture as a share of its width. */
export const PICTURE_SHARE = 0.62;
const STAMP = '#2f6f62';

/** "1 : 2", "full size", "2 : 1". */
export function scaleName(scale: number): string {
  if (scale === 1) return 'full size (1 : 1)';
  return scale < 1 ? `1 : ${Number((1 / scale).toFixed(2))}` : `${scale} : 1`;
}

/** A drawing and the scale that it is drawn at. */
export interface Scaled {
  readonly scale: number;
  readonly drawing: Drawing;
}

/** The largest standard scale at which a drawing made for that scale fits a box of paper mm. */
export function fitting(make: (scale: number) => Drawing, width: number, height: number): Scaled {
  for (const scale of SCALES) {
    const drawing = make(scale);
    const { minX, minY, maxX, maxY } = drawing.bounds;
    if ((maxX - minX) * scale <= width && (maxY - minY) * scale <= height) return { scale, drawing };
  }
  const scale = SCALES[SCALES.length - 1];
  return { scale, drawing: make(scale) };
}

export const strong = (text: string, before = 5): Paragraph => ({ text, font: 'strong', size: 9.5, colour: INK, before });
export const ordinary = (text: string, before = 2.5): Paragraph => ({ text, font: 'text', size: 8.5, colour: INK, before });

/** The pages of one PDF: their paper, their title blocks, and what is put on them. */
export class Sheet {
  readonly layout: SheetLayout;
  /** Which way the paper of the next pages lies. */
  isUpright = false;
  /** Pages that are ended. */
  private pages = 0;

  constructor(
    readonly pdf: PDFKit.PDFDocument,
    readonly fonts: PageFonts,
    readonly subject: ProofSubject,
  ) {
    this.layout = subject.layout ?? EVERYTHING;
    this.turn();
  }

  /** Turns the paper of the next pages, as the layout has it where nothing else is said. */
  turn(isUpright = this.layout.isUpright): void {
    this.isUpright = isUpright;
  }

  get width(): number {
    return this.body.width + 2 * MARGIN;
  }

  get height(): number {
    return this.body.height + 2 * MARGIN + TITLE_HEIGHT + GAP;
  }

  /** The room over the title block. */
  get body(): Room {
    return this.bodyOf(this.isUpright);
  }

  /** The room over the title block of paper that lies so. */
  bodyOf(isUpright: boolean): Room {
    const [short, long] = PAPERS[this.layout.paper];
    const [width, height] = isUpright ? [short, long] : [long, short];
    return { x: MARGIN, y: MARGIN, width: width - 2 * MARGIN, height: height - 2 * MARGIN - TITLE_HEIGHT - GAP };
  }

  shows(block: Block): boolean {
    return this.layout.shows.includes(block);
  }

  /** What the plan is painted by, after its name and scale. */
  get painted(): string {
    return this.layout.isInFinishes ? 'in its finishes' : 'coloured by height';
  }

  /** A length in the sign's unit, or in both. */
  length(mm: number, unit: Sign['unit']): string {
    return lengthWords(mm, unit, this.layout.isInBothUnits);
  }

  /** "600 mm × 400 mm × 18 mm + 6 mm": overall width and height, the blank's thickness with what stands above it. */
  sizeOf(evaluation: Evaluation): string {
    const { unit } = evaluation.sign;
    const { width, height, thickness, above, behind } = sizesOf(evaluation);
    const size = [width, height, thickness].map((mm) => this.length(mm, unit)).join(' × ');
    return [size, ...[above, behind].filter((mm) => mm > 0).map((mm) => this.length(mm, unit))].join(' + ');
  }

  start(): void {
    startPage(this.pdf, this.width, this.height);
  }

  /** Ends a page of a sign with what it is of. */
  endOf(evaluation: Evaluation, scale: number): void {
    const { sign } = evaluation;
    const { option } = this.subject;
    const units = sign.unit === 'mm' ? 'millimetres' : 'inches';
    const drawn = `Drawn ${scaleName(scale)} when printed at 100 %. Lengths in ${this.layout.isInBothUnits ? 'both units' : units}.`;
    this.end(option ? `${sign.title}, ${option}` : sign.title, this.sizeOf(evaluation), drawn);
  }

  /** Ends a page with the block at its foot, which says what it belongs to; with the stamp where the proof is approved. */
  end(title: string, size: string, drawn: string): void {
    const { pdf, subject } = this;
    const page = ++this.pages;
    const top = this.height - MARGIN - TITLE_HEIGHT;
    const { width } = this.body;
    const cells: readonly (readonly [string, string, number])[] = [
      ['Shop', subject.shop.name, 0.17],
      ['Customer', subject.customer, 0.16],
      ['Job', subject.job, 0.18],
      ['Sign', title, 0.15],
      ['Size', size, 0.16],
      [subject.frozen ? 'Proof' : 'Revision', subject.revision, 0.07],
      ['Date', subject.date.toISOString().slice(0, 10), 0.11],
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
      // A logo stands in the place of the word, over the shop's name.
      const hasLogo = name === 'Shop' && this.logo(x + 2, top + 2, cellWidth - 4, TITLE_HEIGHT - 10);
      const down = hasLogo ? TITLE_HEIGHT - 8 : 5.6;
      if (!hasLogo) {
        pdf.font('text').fontSize(6.5).fillColor(FAINT);
        pdf.text(name, (x + 2) * pt, (top + 4.2) * pt, { lineBreak: false, baseline: 'alphabetic' });
      }
      pdf
        .font('strong')
        .fontSize(this.width < 250 ? 7.5 : 8.5)
        .fillColor(INK);
      pdf.text(value || '—', (x + 2) * pt, (top + down) * pt, {
        width: (cellWidth - 3) * pt,
        height: (TITLE_HEIGHT - down - 1.4) * pt,
        ellipsis: true,
      });
      x += cellWidth;
    }
    pdf.font('text').fontSize(6.5).fillColor(FAINT);
    const { contact } = subject.shop;
    const foot = [`${drawn} Page ${page}.`, ...(contact ? [contact] : [])].join('  ');
    pdf.text(foot, MARGIN * pt, (this.height - MARGIN + 3) * pt, { lineBreak: false, baseline: 'alphabetic' });
    if (subject.frozen?.approval) this.stamp(subject.revision, subject.frozen.approval);
  }

  heading(text: string, x: number, y: number): void {
    this.pdf.font('strong').fontSize(9.5).fillColor(INK);
    this.pdf.text(text, x * POINTS_PER_MM, y * POINTS_PER_MM, { lineBreak: false, baseline: 'alphabetic' });
  }

  /** Puts a drawing in the middle of a room. */
  centred({ scale, drawing }: Scaled, { x, y, width, height }: Room): void {
    const { minX, minY, maxX, maxY } = drawing.bounds;
    drawOnPage(this.pdf, drawing, {
      x: x + width / 2 - (scale * (minX + maxX)) / 2,
      y: y + height / 2 + (scale * (minY + maxY)) / 2,
      scale,
      labelFont: 'text',
    });
  }

  /** Puts a picture of a sign at a place, as wide as given in mm. */
  picture(evaluation: Evaluation, x: number, y: number, width: number): void {
    const pixels = Math.round(width * PIXELS_A_MM);
    const picture = signPicture(evaluation, pixels, Math.round(pixels * PICTURE_SHARE), modelOfView(evaluation));
    this.pdf.image(Buffer.from(pngFile(picture)), x * POINTS_PER_MM, y * POINTS_PER_MM, {
      width: width * POINTS_PER_MM,
      height: width * PICTURE_SHARE * POINTS_PER_MM,
    });
  }

  /** The same turned and tilted as a view says, of the sign as it is bent. */
  view(evaluation: Evaluation, view: View, x: number, y: number, width: number): void {
    const pixels = Math.round(width * PIXELS_A_MM);
    const model = modelOfView(evaluation);
    const picture = pictureOf(model.mesh, finishPaint(model), view, pixels, Math.round(pixels * PICTURE_SHARE));
    this.pdf.image(Buffer.from(pngFile(picture)), x * POINTS_PER_MM, y * POINTS_PER_MM, {
      width: width * POINTS_PER_MM,
      height: width * PICTURE_SHARE * POINTS_PER_MM,
    });
  }

  /** The lines of a paragraph as wide as given in mm. */
  lines(paragraph: Paragraph, width: number): ReturnType<typeof breakLines> {
    return breakLines(this.pdf, this.fonts, paragraph, width * POINTS_PER_MM);
  }

  /** A line of a paragraph, standing on y. */
  line(line: ReturnType<typeof breakLines>[number], x: number, y: number, paragraph: Paragraph): void {
    drawLine(this.pdf, line, x * POINTS_PER_MM, y * POINTS_PER_MM, paragraph);
  }

  /** Paragraphs below each other in a room; what does not fit is cut, and says so. Gives where they end, in mm from the top. */
  write(paragraphs: readonly Paragraph[], { x, y, width, height }: Room): number {
    let at = y;
    for (const paragraph of paragraphs) {
      const lines = this.lines(paragraph, width);
      const step = stepOf(paragraph);
      at += paragraph.before / POINTS_PER_MM;
      if (at + (lines.length + 1) * step > y + height) {
        const [more] = this.lines({ ...paragraph, text: '… and more, see the files.' }, width);
        this.line(more, x, at + step, paragraph);
        return at + step;
      }
      for (const line of lines) this.line(line, x, (at += step), paragraph);
    }
    return at;
  }

  /** Puts the shop's logo into a room of mm; gives whether it has one. */
  private logo(x: number, y: number, width: number, height: number): boolean {
    const { logo } = this.subject.shop;
    if (!logo) return false;
    const pt = POINTS_PER_MM;
    this.pdf.image(Buffer.from(logo, 'base64'), x * pt, y * pt, { fit: [width * pt, height * pt], valign: 'center' });
    return true;
  }

  /** The stamp of approval, over the title block at the right. */
  private stamp(letter: string, { by, at }: NonNullable<Frozen['approval']>): void {
    const { pdf } = this;
    const pt = POINTS_PER_MM;
    const [width, height] = [74, 11];
    const [x, y] = [this.width - MARGIN - width, this.height - MARGIN - TITLE_HEIGHT - height - 1.5];
    pdf.undash().lineWidth(1.4).strokeColor(STAMP);
    pdf.roundedRect(x * pt, y * pt, width * pt, height * pt, 4).fillAndStroke('#ffffff', STAMP);
    pdf.font('strong').fontSize(11).fillColor(STAMP);
    pdf.text(`Proof ${letter} approved`, (x + 3) * pt, (y + 4.8) * pt, { lineBreak: false, baseline: 'alphabetic' });
    pdf.font('text').fontSize(7.5);
    const words = `by ${by}, ${at.toISOString().slice(0, 16).replace('T', ' ')} UTC`;
    pdf.text(words, (x + 3) * pt, (y + 6.2) * pt, { width: (width - 6) * pt, height: 4 * pt, ellipsis: true });
  }
}

/** From line to line of a paragraph, in mm. */
export const stepOf = ({ size }: Paragraph): number => (size * 1.25) / POINTS_PER_MM;
