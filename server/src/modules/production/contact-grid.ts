import { POINTS_PER_MM as PT } from './pdf-drawing.js';

const INK = '#1f1f1d';
/** mm for what is said below a picture. */
const CAPTION = 9;

/** A plate of a contact sheet: its number and title, how it fits, and a PNG; none where it is not made. */
export interface ContactPlate {
  /** From 0. */
  readonly row: number;
  readonly title: string;
  readonly state: string;
  readonly picture?: Uint8Array;
}

/** Where plates lie on a page, in mm. */
export interface ContactGrid {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly across: number;
  readonly down: number;
}

/** Puts plates on a page of a PDF, in the order in which one reads; no more than there are places. */
export function drawContact(pdf: PDFKit.PDFDocument, plates: readonly ContactPlate[], grid: ContactGrid): void {
  const [wide, high] = [grid.width / grid.across, grid.height / grid.down];
  const inner = (wide - 4) * PT;
  const room = (high - CAPTION - 3) * PT;
  const says = { width: inner, height: 10, ellipsis: true, align: 'center' } as const;
  plates.slice(0, grid.across * grid.down).forEach(({ row, title, state, picture }, i) => {
    const x = (grid.x + (i % grid.across) * wide + 2) * PT;
    const y = (grid.y + Math.floor(i / grid.across) * high) * PT;
    if (picture) pdf.image(Buffer.from(picture), x, y, { fit: [inner, room], align: 'center', valign: 'center' });
    pdf.fillColor(INK);
    pdf.font('strong').fontSize(8).text(`${row + 1}  ${title}`, x, y + room + PT, says); // prettier-ignore
    pdf.font('text').fontSize(7).text(state, x, y + room + 5 * PT, says); // prettier-ignore
  });
}
