import { type Nest, type NestChoice } from '@plain-relief/core/nesting';
import { type MappedItem, sheetMap } from '@plain-relief/core/runs';
import { type ContactPlate, drawContact } from './contact-grid.js';
import { drawOnPage, POINTS_PER_MM as PT, startPage } from './pdf-drawing.js';
import { sheetPdf } from './sheet-pdf.js';

/** A4, in mm (ISO 216). */
const [SHORT, LONG] = [210, 297];
const MARGIN = 12;
/** mm over what a page shows. */
const HEAD = 12;
/** Plates of a page of the contact sheet, across and down. */
const ACROSS = 4;
const DOWN = 6;
/** Plates on a page of the contact sheet. */
export const CONTACTS_OF_PAGE = ACROSS * DOWN;
const INK = '#1f1f1d';

/** Maps of all sheets in one file, a page for each: where the plate of every row lies. */
export async function mapsPdf(
  items: readonly MappedItem[],
  nest: Nest,
  choice: NestChoice,
  title: string,
  date: Date,
  fontsDir: string,
): Promise<Uint8Array> {
  const { pdf, ended } = await sheetPdf(`${title}, sheets`, '', date, fontsDir);
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
export async function contactPdf(
  plates: readonly ContactPlate[],
  title: string,
  date: Date,
  fontsDir: string,
): Promise<Uint8Array> {
  const { pdf, ended } = await sheetPdf(`${title}, contact sheet`, '', date, fontsDir);
  const perPage = CONTACTS_OF_PAGE;
  const pages = Math.max(1, Math.ceil(plates.length / perPage));
  for (let page = 0; page < pages; page++) {
    startPage(pdf, SHORT, LONG);
    pdf.font('strong').fontSize(11).fillColor(INK).text(`${title}: page ${page + 1} of ${pages}`, MARGIN * PT, MARGIN * PT, { lineBreak: false }); // prettier-ignore
    const room = { x: MARGIN, y: MARGIN + HEAD, width: SHORT - 2 * MARGIN, height: LONG - 2 * MARGIN - HEAD };
    drawContact(pdf, plates.slice(page * perPage, (page + 1) * perPage), { ...room, across: ACROSS, down: DOWN });
  }
  return ended();
}
