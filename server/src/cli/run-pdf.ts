import { type Nest, type NestChoice } from '@plain-relief/core/nesting';
import { type SheetItem, sheetMap } from '@plain-relief/core/runs';
import { drawOnPage, POINTS_PER_MM as PT, startPage } from '../modules/production/pdf-drawing.js';
import { sheetPdf } from '../modules/production/sheet-pdf.js';

/** A4, in mm (ISO 216). */
const [SHORT, LONG] = [210, 297];
const MARGIN = 12;
/** mm over what a page shows. */
const HEAD = 12;
/** Plates of a page of the contact sheet, across and down, and mm for what is said below each. */
const ACROSS = 4;
const DOWN = 6;
const CAPTION = 9;
const INK = '#1f1f1d';

/** A plate of the contact sheet: its number and title, how it fits, and a PNG; none where it is not made. */
export interface ContactPlate {
  readonly row: number;
  readonly title: string;
  readonly state: string;
  readonly picture?: Uint8Array;
}

/** To the day: who makes a run twice has the same bytes. */
const today = (): Date => new Date(new Date().toISOString().slice(0, 10));

/** Maps of all sheets in one file, a page for each: where the plate of every row lies. */
export async function mapsPdf(
  items: readonly SheetItem[],
  nest: Nest,
  choice: NestChoice,
  title: string,
  fontsDir: string,
): Promise<Uint8Array> {
  const { pdf, ended } = await sheetPdf(`${title}, sheets`, '', today(), fontsDir);
  const { width, height } = choice.sheet;
  const [across, down] = width >= height ? [LONG, SHORT] : [SHORT, LONG];
  const scale = Math.min((across - 2 * MARGIN) / width, (down - 2 * MARGIN - HEAD) / height);
  for (let sheet = 0; sheet < nest.sheets; sheet++) {
    startPage(pdf, across, down);
    const count = nest.laid.filter((each) => each.sheet === sheet).length;
    const words = `${title}: sheet ${sheet + 1} of ${nest.sheets}, ${width} × ${height} mm, ${count} ${count === 1 ? 'plate' : 'plates'}`;
    pdf.font('strong').fontSize(11).fillColor(INK).text(words, MARGIN * PT, MARGIN * PT, { lineBreak: false }); // prettier-ignore
    drawOnPage(pdf, sheetMap(items, nest, sheet, choice), { x: MARGIN, y: MARGIN + HEAD + height * scale, scale, labelFont: 'text' }); // prettier-ignore
  }
  return ended();
}

/** Every plate as it will look, with its number, in the order of the list. */
export async function contactPdf(plates: readonly ContactPlate[], title: string, fontsDir: string): Promise<Uint8Array> {
  const { pdf, ended } = await sheetPdf(`${title}, contact sheet`, '', today(), fontsDir);
  const [wide, high] = [(SHORT - 2 * MARGIN) / ACROSS, (LONG - 2 * MARGIN - HEAD) / DOWN];
  const perPage = ACROSS * DOWN;
  const pages = Math.max(1, Math.ceil(plates.length / perPage));
  const inner = (wide - 4) * PT;
  for (let page = 0; page < pages; page++) {
    startPage(pdf, SHORT, LONG);
    pdf.font('strong').fontSize(11).fillColor(INK).text(`${title}: page ${page + 1} of ${pages}`, MARGIN * PT, MARGIN * PT, { lineBreak: false }); // prettier-ignore
    plates.slice(page * perPage, (page + 1) * perPage).forEach(({ row, title: name, state, picture }, i) => {
      const x = (MARGIN + (i % ACROSS) * wide + 2) * PT;
      const y = (MARGIN + HEAD + Math.floor(i / ACROSS) * high) * PT;
      const room = (high - CAPTION - 3) * PT;
      if (picture) pdf.image(Buffer.from(picture), x, y, { fit: [inner, room], align: 'center', valign: 'center' });
      const says = { width: inner, height: 10, ellipsis: true, align: 'center' } as const;
      pdf.font('strong').fontSize(8).text(`${row + 1}  ${name}`, x, y + room + PT, says); // prettier-ignore
      pdf.font('text').fontSize(7).text(state, x, y + room + 5 * PT, says); // prettier-ignore
    });
  }
  return ended();
}
