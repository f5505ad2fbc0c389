import { dimensionedPlan, sectionDrawing } from '@plain-relief/core/drawing';
import { signPicture } from '@plain-relief/core/picture';
import type { Evaluation } from '@plain-relief/core/relief';
import { type NamedSection, sentenceText, type Sign, ticket, withOption } from '@plain-relief/core/sign';
import type { FontBook } from '@plain-relief/core/type';
import { POINTS_PER_MM } from './pdf-drawing.js';
import { pngFile } from './png.js';
import { breakLines, drawLine, type PageFonts, type Paragraph } from './rich-text.js';
import { centred, FIGURES_MM, fitting, GAP, heading, MARGIN, PAGE, scaleName, startPage, TITLE_HEIGHT } from './sheet.js';
import type { SignViews } from './sign-views.js';

/** Pixels across a picture of the sign. */
const PICTURE_PIXELS = 1000;
/** Height of a picture as a share of its width. */
export const PICTURE_SHARE = 0.62;

/** The room on a page over the title block, in mm. */
const BODY = { width: PAGE.width - 2 * MARGIN, height: PAGE.height - 2 * MARGIN - TITLE_HEIGHT - GAP };

/** Puts a picture of the sign on a page, at a place and as wide as given in mm. */
export function putPicture(pdf: PDFKit.PDFDocument, evaluation: Evaluation, x: number, y: number, width: number): void {
  const picture = signPicture(evaluation, PICTURE_PIXELS, Math.round(PICTURE_PIXELS * PICTURE_SHARE));
  pdf.image(Buffer.from(pngFile(picture)), x * POINTS_PER_MM, y * POINTS_PER_MM, {
    width: width * POINTS_PER_MM,
    height: width * PICTURE_SHARE * POINTS_PER_MM,
  });
}

/** The plan from behind, on a page of its own; gives the scale that it is drawn at. */
export function backPage(pdf: PDFKit.PDFDocument, back: Evaluation): number {
  const plan = fitting((scale) => dimensionedPlan(back, { textHeight: FIGURES_MM / scale }), BODY.width, BODY.height - 8);
  startPage(pdf);
  heading(pdf, `Back, seen from behind, ${scaleName(plan.scale)}`, MARGIN, MARGIN + 3);
  centred(pdf, plan, { x: MARGIN, y: MARGIN + 6, width: BODY.width, height: BODY.height - 6 });
  return plan.scale;
}

const SECTIONS_A_PAGE = 3;

/** Named sections, three a page; `ended` is called with the scale of the page's first after every page. */
export function sectionPages(
  pdf: PDFKit.PDFDocument,
  front: Evaluation,
  sections: readonly NamedSection[],
  ended: (scale: number) => void,
): void {
  const height = BODY.height / SECTIONS_A_PAGE;
  for (let i = 0; i < sections.length; i += SECTIONS_A_PAGE) {
    startPage(pdf);
    let scale = 1;
    sections.slice(i, i + SECTIONS_A_PAGE).forEach((section, place) => {
      const drawn = fitting(
        (at) => sectionDrawing(front, section, { heightsTimes: 1, textHeight: FIGURES_MM / at }),
        BODY.width,
        height - 10,
      );
      if (place === 0) scale = drawn.scale;
      const y = MARGIN + place * height;
      heading(pdf, `Section ${section.name}, ${scaleName(drawn.scale)}`, MARGIN, y + 3);
      centred(pdf, drawn, { x: MARGIN, y: y + 5, width: BODY.width, height: height - 8 });
    });
    ended(scale);
  }
}

/** What an option says otherwise than the sign, as sentences of its ticket. */
export function optionSentences(sign: Sign, option: string, book: FontBook): string[] {
  const plain = new Set(ticket(sign, book.catalogue).map(sentenceText));
  const shown = withOption(sign, option);
  const names = new Map(shown.parts.map(({ id, name }) => [id, name]));
  return ticket(shown, book.catalogue)
    .filter((sentence) => !plain.has(sentenceText(sentence)))
    .map((sentence) => {
      const name = names.get(sentence.part ?? '');
      return name === undefined ? sentenceText(sentence) : `${name}: ${sentenceText(sentence)}`;
    });
}

const COLUMNS = 2;
const ROWS = 2;

/** The options, four a page, each with its picture and what it says otherwise. */
export function optionPages(
  pdf: PDFKit.PDFDocument,
  fonts: PageFonts,
  sign: Sign,
  { options }: SignViews,
  book: FontBook,
  text: (words: string) => Paragraph,
  ended: () => void,
): void {
  const width = (BODY.width - GAP) / COLUMNS;
  const height = (BODY.height - GAP) / ROWS;
  const picture = width * 0.52;
  for (let i = 0; i < options.length; i += COLUMNS * ROWS) {
    startPage(pdf);
    options.slice(i, i + COLUMNS * ROWS).forEach(({ option, front }, place) => {
      const x = MARGIN + (place % COLUMNS) * (width + GAP);
      const y = MARGIN + Math.floor(place / COLUMNS) * (height + GAP);
      heading(pdf, option.name, x, y + 3);
      putPicture(pdf, front, x, y + 6, picture);
      const sentences = optionSentences(sign, option.id, book);
      const said = [
        ...(front.sign.blank.material === '' ? [] : [`In ${front.sign.blank.material}.`]),
        ...(sentences.length > 0 ? sentences : ['As the ticket says.']),
      ];
      writeWithin(pdf, fonts, said.map(text), { x: x + picture + 4, y: y + 4, width: width - picture - 4, height: height - 8 });
    });
    ended();
  }
}

/** Paragraphs in a box of paper mm; what does not fit is cut, and says so. */
function writeWithin(
  pdf: PDFKit.PDFDocument,
  fonts: PageFonts,
  paragraphs: readonly Paragraph[],
  box: { x: number; y: number; width: number; height: number },
): void {
  let y = box.y * POINTS_PER_MM;
  const bottom = (box.y + box.height) * POINTS_PER_MM;
  for (const paragraph of paragraphs) {
    const lines = breakLines(pdf, fonts, paragraph, box.width * POINTS_PER_MM);
    const step = paragraph.size * 1.25;
    if (y + paragraph.before + (lines.length + 1) * step > bottom) {
      const [more] = breakLines(pdf, fonts, { ...paragraph, text: '… and more, see the files.' }, box.width * POINTS_PER_MM);
      drawLine(pdf, more, box.x * POINTS_PER_MM, y + step, paragraph);
      return;
    }
    y += paragraph.before;
    for (const line of lines) {
      y += step;
      drawLine(pdf, line, box.x * POINTS_PER_MM, y, paragraph);
    }
  }
}
