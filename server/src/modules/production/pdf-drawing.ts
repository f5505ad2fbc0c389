import { type Drawing, type Fill, type Item, type LabelItem, type Pen } from '@plain-relief/core/drawing';

/** PDF user space has 72 units an inch (ISO 32000-1, 8.3.2.3). */
export const POINTS_PER_MM = 72 / 25.4;

/** Cap height of the label font (Barlow) as a share of its size, measured on its H: 700 of 1000 units. */
const LABEL_CAP_SHARE = 0.7;

export interface DrawingPlace {
  /** Where the drawing's origin (0, 0) comes to lie on the page: mm from the left and from the top. */
  readonly x: number;
  readonly y: number;
  /** Paper mm for a mm of the drawing. */
  readonly scale: number;
  readonly labelFont: string;
}

/** A white page of so many mm. */
export function startPage(pdf: PDFKit.PDFDocument, width: number, height: number): void {
  const size: [number, number] = [width * POINTS_PER_MM, height * POINTS_PER_MM];
  pdf.addPage({ size, margin: 0 });
  pdf.rect(0, 0, ...size).fill('#ffffff');
}

/** Draws a neutral drawing on the page: vector lines, real text. */
export function drawOnPage(pdf: PDFKit.PDFDocument, drawing: Drawing, place: DrawingPlace): void {
  const k = POINTS_PER_MM * place.scale;
  pdf.save();
  pdf.translate(place.x * POINTS_PER_MM, place.y * POINTS_PER_MM).scale(k);
  for (const item of drawing.items) drawItem(pdf, item, place.labelFont);
  pdf.restore();
}

function drawItem(pdf: PDFKit.PDFDocument, item: Item, labelFont: string): void {
  if (item.kind === 'label') return drawLabel(pdf, item, labelFont);
  if (item.kind === 'line') {
    trace(pdf, [item.points], item.closed);
    usePen(pdf, item.pen);
    pdf.stroke();
    return;
  }
  const { outline, fill, pen } = item;
  if (outline.length === 0) return;
  if (fill?.kind === 'cross-hatch') hatch(pdf, outline, fill);
  else if (fill && !pen) {
    trace(pdf, outline, true);
    pdf.fill(fill.colour, 'even-odd');
  }
  if (!pen) return;
  trace(pdf, outline, true);
  usePen(pdf, pen);
  if (fill?.kind === 'plain') pdf.fillAndStroke(fill.colour, pen.colour, 'even-odd');
  else pdf.stroke();
}

/** Begins a path along runs of points. */
function trace(pdf: PDFKit.PDFDocument, runs: readonly Float64Array[], isClosed: boolean): void {
  for (const run of runs) {
    if (run.length < 4) continue;
    pdf.moveTo(run[0], -run[1]);
    for (let i = 2; i < run.length; i += 2) pdf.lineTo(run[i], -run[i + 1]);
    if (isClosed) pdf.closePath();
  }
}

function usePen(pdf: PDFKit.PDFDocument, pen: Pen): void {
  pdf.lineWidth(pen.width).strokeColor(pen.colour).lineJoin('round').lineCap('round');
  if (pen.dash) pdf.dash(pen.dash[0], { space: pen.dash[1] ?? pen.dash[0] });
  else pdf.undash();
}

function hatch(pdf: PDFKit.PDFDocument, outline: readonly Float64Array[], fill: Fill & { kind: 'cross-hatch' }): void {
  trace(pdf, outline, true);
  pdf.fill(fill.ground, 'even-odd');
  pdf.save();
  trace(pdf, outline, true);
  pdf.clip('even-odd');
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const run of outline) {
    for (let i = 0; i < run.length; i += 2) {
      [minX, maxX] = [Math.min(minX, run[i]), Math.max(maxX, run[i])];
      [minY, maxY] = [Math.min(minY, -run[i + 1]), Math.max(maxY, -run[i + 1])];
    }
  }
  const [width, height] = [maxX - minX, maxY - minY];
  const step = fill.spacing * Math.SQRT2;
  pdf
    .lineWidth(fill.spacing / 10)
    .strokeColor(fill.colour)
    .undash();
  for (let at = -height; at <= width; at += step) {
    pdf.moveTo(minX + at, minY).lineTo(minX + at + height, maxY);
    pdf.moveTo(minX + at + height, minY).lineTo(minX + at, maxY);
  }
  pdf.stroke();
  pdf.restore();
}

function drawLabel(pdf: PDFKit.PDFDocument, label: LabelItem, labelFont: string): void {
  pdf.save();
  pdf.translate(label.x, -label.y);
  if (label.turn !== 0) pdf.rotate(-label.turn);
  pdf
    .font(labelFont)
    .fontSize(label.height / LABEL_CAP_SHARE)
    .fillColor(label.colour);
  const width = pdf.widthOfString(label.text);
  const left = { left: 0, centre: -width / 2, right: -width }[label.align];
  pdf.text(label.text, left, 0, { lineBreak: false, baseline: 'alphabetic' });
  pdf.restore();
}
