import { covers, type FontBook, textRuns } from '@plain-relief/core/type';

/** A page font with the name that the PDF knows it by, and the entry of the catalogue that tells what it covers. */
export interface PageFont {
  readonly name: string;
  readonly entryId: string;
}

/** Chooses for every character a font that has it, the first of the list where several do. */
export class PageFonts {
  constructor(
    private readonly book: FontBook,
    private readonly fonts: readonly PageFont[],
  ) {}

  /** Stretches of a text that one font can show. */
  stretches(text: string, preferred: string): { text: string; font: string }[] {
    const out: { text: string; font: string }[] = [];
    for (const character of text) {
      const last = out[out.length - 1];
      const point = character.codePointAt(0)!;
      // Spaces and marks stay with what stands before them.
      const font = last && /[\s\p{M}]/u.test(character) ? last.font : this.fontFor(point, preferred);
      if (last && last.font === font) last.text += character;
      else out.push({ text: character, font });
    }
    return out;
  }

  private fontFor(codePoint: number, preferred: string): string {
    const order = [...this.fonts.filter(({ name }) => name === preferred), ...this.fonts];
    const found = order.find(({ entryId }) => {
      const entry = this.book.entry(entryId);
      return entry !== undefined && covers(entry, codePoint);
    });
    return found?.name ?? preferred;
  }
}

/** Features of fonts are named so that words are set together: each on its own would lose the order from right to left. */
const WHOLE: { features: PDFKit.Mixins.OpenTypeFeatures[] } = { features: ['kern'] };

export interface Paragraph {
  readonly text: string;
  readonly font: string;
  /** Font size in points. */
  readonly size: number;
  readonly colour: string;
  /** Space before the paragraph in points. */
  readonly before: number;
  /** `auto` where it is somebody's own words, which run as their first letter does; else from left to right as the sheet. */
  readonly direction?: 'auto';
}

/** Marks that close words off from what stands around them; they are not drawn. */
const ISOLATES = /[\u2066-\u2069]/gu;

interface Piece {
  readonly text: string;
  readonly font: string;
  readonly width: number;
}

/** A paragraph broken into lines no wider than `width` points; a word wider than the column is broken inside. */
export function breakLines(pdf: PDFKit.PDFDocument, fonts: PageFonts, paragraph: Paragraph, width: number): Piece[][] {
  const lines: string[] = [];
  const measured = (text: string): Piece[] =>
    fonts.stretches(text.replace(ISOLATES, ''), paragraph.font).map((stretch) => {
      pdf.font(stretch.font).fontSize(paragraph.size);
      return { ...stretch, width: pdf.widthOfString(stretch.text, WHOLE) };
    });
  const widthOf = (text: string): number => measured(text).reduce((sum, piece) => sum + piece.width, 0);
  for (const row of paragraph.text.split('\n')) {
    let line = '';
    let used = 0;
    const put = (word: string) => {
      const needed = widthOf(word);
      if (line !== '' && used + widthOf(word.trimEnd()) > width) {
        lines.push(line.trimEnd());
        line = '';
        used = 0;
      }
      if (needed > width && word.length > 1) {
        const middle = Math.ceil(word.length / 2);
        put(word.slice(0, middle));
        put(word.slice(middle));
        return;
      }
      line += word;
      used += needed;
    };
    for (const word of row.match(/\S+\s*/gu) ?? []) put(word);
    lines.push(line.trimEnd());
  }
  // From left to right as they are read: in a run from right to left the last stretch stands first.
  return lines.map((line) =>
    textRuns(line, paragraph.direction ?? 'ltr').flatMap((run) => {
      const pieces = measured(run.text);
      return run.rightToLeft ? pieces.reverse() : pieces;
    }),
  );
}

/** Draws a line of pieces with its baseline at y (points from the top). */
export function drawLine(pdf: PDFKit.PDFDocument, line: readonly Piece[], x: number, y: number, paragraph: Paragraph): void {
  let at = x;
  for (const piece of line) {
    pdf.font(piece.font).fontSize(paragraph.size).fillColor(paragraph.colour);
    pdf.text(piece.text, at, y, { ...WHOLE, lineBreak: false, baseline: 'alphabetic' });
    at += piece.width;
  }
}
