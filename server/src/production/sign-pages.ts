import { dimensionedPlan, INK, sectionDrawing, withSectionMarks } from '@plain-relief/core/drawing';
import type { Evaluation } from '@plain-relief/core/relief';
import { sectionAt, ticket, ticketParagraphs } from '@plain-relief/core/sign';
import type { FontBook } from '@plain-relief/core/type';
import { POINTS_PER_MM } from './pdf-drawing.js';
import { backPage, optionPages, PICTURE_SHARE, putPicture, sectionPages } from './proof-pages.js';
import { breakLines, drawLine, type PageFonts, type Paragraph } from './rich-text.js';
import {
  centred,
  COLUMN,
  FIGURES_MM,
  fitting,
  GAP,
  heading,
  MARGIN,
  PAGE,
  type ProofSubject,
  scaleName,
  startPage,
  TITLE_HEIGHT,
  titleBlock,
} from './sheet.js';
import type { SignViews } from './sign-views.js';

export type Report = (share: number, step: string) => Promise<void>;

/**
 * The pages of one sign: plan at a standard scale with its overall dimensions, section, picture, the ticket's sentences and the
 * notes; then the back, the named sections and the options, where there are any.
 * @param page the number of the page before; gives the number of the last
 */
export async function signPages(
  pdf: PDFKit.PDFDocument,
  fonts: PageFonts,
  views: SignViews,
  subject: ProofSubject,
  book: FontBook,
  before: number,
  report: Report,
): Promise<number> {
  const evaluation = views.front;
  const { sign } = evaluation;
  const sections = sign.sections ?? [];
  await report(0.1, 'drawing the plan');
  const left = { x: MARGIN, width: PAGE.width - 2 * MARGIN - COLUMN - GAP };
  const bodyHeight = PAGE.height - 2 * MARGIN - TITLE_HEIGHT;
  const sectionHeight = Math.min(46, bodyHeight * 0.3);
  const planBox = { width: left.width, height: bodyHeight - sectionHeight - GAP - 6 };
  const plan = fitting(
    (scale) => {
      const textHeight = FIGURES_MM / scale;
      return withSectionMarks(dimensionedPlan(evaluation, { textHeight }), sections, textHeight);
    },
    planBox.width,
    planBox.height,
  );
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
  const name = sectionAt(sign, sign.section)?.name;
  heading(pdf, `Section${name ? ` ${name}` : ''}, ${scaleName(section.scale)}`, left.x, sectionY + 3);
  centred(pdf, section, { x: left.x, y: sectionY + 5, width: left.width, height: sectionHeight - 6 });

  await report(0.5, 'making the picture');
  const columnX = PAGE.width - MARGIN - COLUMN;
  const pictureHeight = COLUMN * PICTURE_SHARE;
  putPicture(pdf, evaluation, columnX, MARGIN, COLUMN);

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
  let page = writeColumns(pdf, fonts, paragraphs, column, evaluation, subject, plan.scale, before + 1);
  const ended = (scale: number): void => titleBlock(pdf, evaluation, subject, ++page, scale);
  await report(0.9, 'drawing the back, sections and options');
  if (views.back) ended(backPage(pdf, views.back));
  const others = sections.filter((section) => section !== sectionAt(sign, sign.section));
  sectionPages(pdf, evaluation, others, ended);
  optionPages(pdf, fonts, sign, views, book, ordinary, () => ended(plan.scale));
  return page;
}

const strong = (text: string): Paragraph => ({ text, font: 'strong', size: 9.5, colour: INK, before: 5 });
const ordinary = (text: string): Paragraph => ({ text, font: 'text', size: 8.5, colour: INK, before: 2.5 });

/** Paragraphs down the column of the first page; what does not fit goes on in three columns of further pages. Gives the last page's number. */
function writeColumns(
  pdf: PDFKit.PDFDocument,
  fonts: PageFonts,
  paragraphs: readonly Paragraph[],
  first: { x: number; top: number; bottom: number; width: number },
  evaluation: Evaluation,
  subject: ProofSubject,
  scale: number,
  firstPage: number,
): number {
  let page = firstPage;
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
  return page;
}
