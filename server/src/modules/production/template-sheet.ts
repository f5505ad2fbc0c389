import { type Drawing, FAINT, INK, type Item, templateDrawing, type Tile, tilesOf } from '@plain-relief/core/drawing';
import { type Evaluation } from '@plain-relief/core/relief';
import { PAPERS, type TemplatePaper } from '@plain-relief/core/sheet';
import { formatLength, type LengthUnit } from '@plain-relief/core/units';
import { drawOnPage, POINTS_PER_MM as PT, startPage } from './pdf-drawing.js';
import { sheetPdf } from './sheet-pdf.js';
import type { Report } from './sign-pages.js';

/** Margin of every sheet, which printers leave white, and the strip that neighbours share, in mm. */
const MARGIN = 12;
const OVERLAP = 15;
/** A page may have 14 400 units a side (ISO 32000-1, annex C): 5080 mm. A roll, 36 in wide, is cut before that. */
const ROLL = { width: 914, length: 5000 } as const;

/** "B2": rows are letters from the top, columns numbers from the left. */
const nameOf = ({ row, column }: Pick<Tile, 'row' | 'column'>): string => {
  const letters = (index: number): string => (index < 26 ? '' : letters(Math.floor(index / 26) - 1)) + String.fromCharCode(65 + (index % 26)); // prettier-ignore
  return letters(row) + String(column + 1);
};

/** The size of a sheet and the tiles on such sheets. */
interface Tiling {
  readonly width: number;
  readonly height: number;
  readonly tiles: readonly Tile[];
}

/** The way of the paper, upright or across, that needs fewer sheets. */
function tilingOf(box: Parameters<typeof tilesOf>[0], paper: TemplatePaper): Tiling {
  if (paper === 'roll') {
    const [across, up] = [box.maxX - box.minX, box.maxY - box.minY];
    // As wide as the roll or as the drawing, whichever is less; the longer side along the roll.
    const isLong = across >= up;
    const [length, breadth] = isLong ? [across, up] : [up, across];
    const size = (needed: number, most: number): number => Math.min(needed + 2 * MARGIN, most);
    const [long, short] = [size(length, ROLL.length), size(breadth, ROLL.width)];
    const [width, height] = isLong ? [long, short] : [short, long];
    return { width, height, tiles: tilesOf(box, width - 2 * MARGIN, height - 2 * MARGIN, OVERLAP) };
  }
  const [short, long] = PAPERS[paper];
  const ways = [
    [short, long],
    [long, short],
  ].map(([width, height]): Tiling => ({ width, height, tiles: tilesOf(box, width - 2 * MARGIN, height - 2 * MARGIN, OVERLAP) }));
  return ways[0].tiles.length <= ways[1].tiles.length ? ways[0] : ways[1];
}

/** What a template is printed on, and what its pages are called. */
export interface TemplateChoice {
  readonly paper: TemplatePaper;
  readonly title: string;
  readonly date: Date;
}

/**
 * The template of a sign at full size for those who mount it, cut into sheets that are put together by their registration marks: a page
 * that shows how they lie, then every sheet with what it shows of the outlines, holes and level lines.
 * @param date the file's own: the same arguments give the same bytes
 */
export async function templateSheet(
  evaluation: Evaluation,
  { paper, title, date }: TemplateChoice,
  fontsDir: string,
  report: Report = async () => {},
): Promise<Uint8Array> {
  const drawing = templateDrawing(evaluation);
  const tiling = tilingOf(drawing.bounds, paper);
  const { pdf, ended } = await sheetPdf(`Template: ${title}`, '', date, fontsDir);
  const pages = new TemplatePages(pdf, drawing, tiling, title, evaluation.sign.unit);
  const { tiles } = tiling;
  if (tiles.length > 1) pages.overview();
  for (const [i, tile] of tiles.entries()) {
    await report((i + 0.5) / tiles.length, `sheet ${i + 1} of ${tiles.length}`);
    pages.sheet(tile);
  }
  return ended();
}

/** The page that shows how the sheets lie is A4, across. */
const OVERVIEW = { width: 297, height: 210, head: 26 };
/** The line by which a printer is checked, in mm; shorter only on a sheet that is narrower. */
const CHECK = 100;

/** The pages of a template; all lengths in mm from the left and from the top of the paper. */
class TemplatePages {
  constructor(
    private readonly pdf: PDFKit.PDFDocument,
    private readonly drawing: Drawing,
    private readonly tiling: Tiling,
    private readonly title: string,
    private readonly unit: LengthUnit,
  ) {}

  overview(): void {
    const { tiles } = this.tiling;
    const { width, height, head } = OVERVIEW;
    startPage(this.pdf, width, height);
    this.words(`${this.title}: full-size template on ${tiles.length} sheets`, MARGIN, 16, 12);
    const shared = formatLength(OVERLAP, this.unit);
    this.words(`Print at 100 %. Lay sheets over each other so that the crosses meet: neighbours share ${shared}.`, MARGIN, 22);
    const [first, last] = [tiles[0].window, tiles[tiles.length - 1].window];
    const whole = { minX: first.minX, maxX: last.maxX, minY: last.minY, maxY: first.maxY };
    const [across, up] = [whole.maxX - whole.minX, whole.maxY - whole.minY];
    const scale = Math.min((width - 2 * MARGIN) / across, (height - head - 2 * MARGIN) / up);
    const x = width / 2 - (scale * (whole.minX + whole.maxX)) / 2;
    const y = (height + head) / 2 + (scale * (whole.minY + whole.maxY)) / 2;
    const items = this.drawing.items.map((item) => broader(item, 1 / scale));
    drawOnPage(this.pdf, { ...this.drawing, items }, { x, y, scale, labelFont: 'text' });
    for (const tile of tiles) {
      const { minX, minY, maxX, maxY } = tile.window;
      this.frame(x + minX * scale, y - maxY * scale, (maxX - minX) * scale, (maxY - minY) * scale);
      this.words(nameOf(tile), x + ((minX + maxX) / 2) * scale - 2, y - ((minY + maxY) / 2) * scale, 11);
    }
  }

  sheet(tile: Tile): void {
    const { pdf, tiling } = this;
    const { minX, minY, maxX, maxY } = tile.window;
    const [across, up] = [maxX - minX, maxY - minY];
    startPage(pdf, tiling.width, tiling.height);
    pdf.save();
    pdf.rect(MARGIN * PT, MARGIN * PT, across * PT, up * PT).clip();
    drawOnPage(pdf, this.drawing, { x: MARGIN - minX, y: MARGIN + maxY, scale: 1, labelFont: 'text' });
    pdf.restore();
    this.frame(MARGIN, MARGIN, across, up);
    for (const [x, y] of marksOf(tile, tiling.tiles)) this.registration(MARGIN + x - minX, MARGIN + maxY - y);
    const check = Math.min(CHECK, Math.floor(across));
    const name = tiling.tiles.length > 1 ? `sheet ${nameOf(tile)} of ${nameOf(tiling.tiles[tiling.tiles.length - 1])}, ` : '';
    const foot = MARGIN + up;
    this.words(`${this.title}, ${name}full size: this line is ${check} mm`, MARGIN, foot + 6);
    pdf.undash().lineWidth(0.5).strokeColor(INK);
    this.line(MARGIN, foot + 8.5, MARGIN + check, foot + 8.5);
    for (const x of [MARGIN, MARGIN + check]) this.line(x, foot + 7.5, x, foot + 9.5);
  }

  private words(text: string, x: number, y: number, size = 8): void {
    this.pdf.font('text').fontSize(size).fillColor(INK);
    this.pdf.text(text, x * PT, y * PT, { lineBreak: false, baseline: 'alphabetic' });
  }

  private frame(x: number, y: number, width: number, height: number): void {
    this.pdf.undash().lineWidth(0.4).strokeColor(FAINT);
    this.pdf.rect(x * PT, y * PT, width * PT, height * PT).stroke();
  }

  private line(x1: number, y1: number, x2: number, y2: number): void {
    const path = this.pdf.moveTo(x1 * PT, y1 * PT).lineTo(x2 * PT, y2 * PT);
    path.stroke();
  }

  /** A cross in a circle. */
  private registration(x: number, y: number): void {
    this.pdf.undash().lineWidth(0.6).strokeColor(INK);
    this.pdf.circle(x * PT, y * PT, 2.5 * PT).stroke();
    this.line(x - 4.5, y, x + 4.5, y);
    this.line(x, y - 4.5, x, y + 4.5);
  }
}

/** From the ends of a shared strip to its marks, in mm. */
const MARK_INSET = 20;

/** In the middle of every strip that a sheet shares, near both of its ends: the same places on both sheets. */
function marksOf({ row, column, window }: Tile, tiles: readonly Tile[]): [number, number][] {
  const { minX, minY, maxX, maxY } = window;
  const has = (r: number, c: number): boolean => tiles.some((other) => other.row === r && other.column === c);
  const half = OVERLAP / 2;
  const upright = (x: number): [number, number][] => [
    [x, minY + MARK_INSET],
    [x, maxY - MARK_INSET],
  ];
  const level = (y: number): [number, number][] => [
    [minX + MARK_INSET, y],
    [maxX - MARK_INSET, y],
  ];
  return [
    ...(has(row, column - 1) ? upright(minX + half) : []),
    ...(has(row, column + 1) ? upright(maxX - half) : []),
    ...(has(row - 1, column) ? level(maxY - half) : []),
    ...(has(row + 1, column) ? level(minY + half) : []),
  ];
}

const broader = (item: Item, times: number): Item =>
  item.kind === 'label' || !item.pen ? item : { ...item, pen: { ...item.pen, width: item.pen.width * times } };
