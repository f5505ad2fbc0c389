import { dimensionedPlan, holesOf, plansOf, sectionDrawing, withCallOuts, withSectionMarks } from '@plain-relief/core/drawing';
import { bounds } from '@plain-relief/core/outline';
import type { Evaluation } from '@plain-relief/core/relief';
import { hardwareWords, sectionAt, type Sign, ticket, ticketParagraphs } from '@plain-relief/core/sign';
import type { FontBook } from '@plain-relief/core/type';
import { Columns, columnsOf } from './columns.js';
import { callOutsOfViews, listFinishes } from './finishes.js';
import { backPage, optionPages, sectionPages } from './proof-pages.js';
import type { Paragraph } from './rich-text.js';
import { FIGURES_MM, fitting, GAP, ordinary, PICTURE_SHARE, type Room, scaleName, type Sheet, strong } from './sheet.js';
import type { SignViews } from './sign-views.js';

export type Report = (share: number, step: string) => Promise<void>;

/** The rooms of a sign's first page. */
interface FirstPage {
  readonly plan: Room;
  readonly section: Room;
  /** The room of the picture, as wide as that. */
  readonly picture: Room;
  readonly words: Room;
}

/** Across, the drawings stand on the left and the words on the right of them; upright, the drawings stand over the words. */
function firstPage({ body, layout, ...sheet }: Sheet): FirstPage {
  const hasPicture = layout.shows.includes('picture');
  const hasSection = layout.shows.includes('section');
  const hasWords = ['ticket', 'notes', 'fixing', 'finishes'].some((block) => layout.shows.includes(block as never));
  if (layout.isUpright) {
    const column = (body.width - GAP) / 2;
    const pictureHeight = column * PICTURE_SHARE;
    const foot = hasPicture || hasWords ? Math.max(pictureHeight, body.height * 0.3) : 0;
    const section = hasSection ? body.height * 0.16 : 0;
    const height = body.height - foot - section - (hasSection ? GAP : 0) - (foot > 0 ? GAP : 0);
    const below = body.y + body.height - foot;
    return {
      plan: { ...body, height },
      section: { ...body, y: body.y + height + GAP, height: section },
      picture: { x: body.x, y: below, width: column, height: pictureHeight },
      words: hasPicture ? { x: body.x + column + GAP, y: below - 2, width: column, height: foot + 2 } : { ...body, y: below, height: foot }, // prettier-ignore
    };
  }
  const column = hasPicture || hasWords ? sheet.width * 0.276 : 0;
  const width = body.width - column - (column > 0 ? GAP : 0);
  const section = hasSection ? Math.min(sheet.height * 0.22, body.height * 0.3) : 0;
  const height = body.height - section - (hasSection ? GAP : 0);
  const x = body.x + width + GAP;
  const pictureHeight = hasPicture ? column * PICTURE_SHARE : 0;
  return {
    plan: { ...body, width, height },
    section: { ...body, width, y: body.y + height + GAP, height: section },
    picture: { x, y: body.y, width: column, height: pictureHeight },
    words: { x, y: body.y + pictureHeight + 1, width: column, height: body.height - pictureHeight + 2 },
  };
}

/**
 * The pages of one sign: plan at a standard scale with its dimensions, section, picture, the ticket's sentences and the notes; then the
 * back, the named sections and the options, where there are any and the layout shows them.
 */
export async function signPages(sheet: Sheet, views: SignViews, book: FontBook, report: Report): Promise<void> {
  const evaluation = views.front;
  const { sign } = evaluation;
  const { isInBothUnits, isInFinishes } = sheet.layout;
  const sections = sheet.shows('named sections') ? (sign.sections ?? []) : [];
  const rooms = firstPage(sheet);
  await report(0.1, 'drawing the plan');
  const plans = plansOf(evaluation);
  const callOuts = sheet.shows('finishes') ? callOutsOfViews(views) : { front: [], back: [], all: [] };
  const plan = fitting(
    (scale) => {
      const choice = { textHeight: FIGURES_MM / scale, isInBothUnits, isInFinishes };
      const marked = withSectionMarks(dimensionedPlan(evaluation, choice, plans(choice)), sections, choice.textHeight);
      return withCallOuts(marked, callOuts.front, choice.textHeight);
    },
    rooms.plan.width,
    rooms.plan.height - 6,
  );
  sheet.start();
  sheet.heading(`Plan, ${scaleName(plan.scale)}, ${sheet.painted}`, rooms.plan.x, rooms.plan.y + 3);
  sheet.centred(plan, below(rooms.plan, 6));

  if (sheet.shows('section')) {
    await report(0.3, 'cutting the section');
    const section = fitting(
      (scale) => sectionDrawing(evaluation, sign.section, { heightsTimes: 1, textHeight: FIGURES_MM / scale, isInBothUnits }),
      rooms.section.width,
      rooms.section.height - 6,
    );
    const name = sectionAt(sign, sign.section)?.name;
    sheet.heading(`Section${name ? ` ${name}` : ''}, ${scaleName(section.scale)}`, rooms.section.x, rooms.section.y + 3);
    sheet.centred(section, below(rooms.section, 6));
  }
  if (sheet.shows('picture')) {
    await report(0.5, 'making the picture');
    sheet.picture(evaluation, rooms.picture.x, rooms.picture.y, rooms.picture.width);
  }

  await report(0.8, 'writing the ticket');
  const ended = () => sheet.endOf(evaluation, plan.scale);
  const words = new Columns(sheet, [rooms.words], columnsOf(sheet, GAP), ended);
  listFinishes(sheet, words, sign, callOuts.all);
  for (const paragraph of wordsOf(sheet, evaluation, sign, book)) words.put(paragraph);
  ended();
  await report(0.9, 'drawing the back, sections and options');
  if (views.back && sheet.shows('back')) backPage(sheet, views.back, callOuts.back);
  const others = sections.filter((section) => !sheet.shows('section') || section !== sectionAt(sign, sign.section));
  sectionPages(sheet, evaluation, others);
  if (sheet.shows('options')) optionPages(sheet, sign, views, book, plan.scale);
}

const below = ({ y, height, ...room }: Room, mm: number): Room => ({ ...room, y: y + mm, height: height - mm });

function wordsOf(sheet: Sheet, evaluation: Evaluation, sign: Sign, book: FontBook): Paragraph[] {
  const said: Paragraph[] = [];
  if (sheet.shows('ticket'))
    said.push(strong('Ticket'), ...ticketParagraphs(ticket(sign, book.catalogue)).map((text) => ordinary(text)));
  if (sheet.shows('fixing'))
    said.push(...fixingWords(sheet, evaluation).map((text, i) => (i === 0 ? strong(text) : ordinary(text))));
  if (sheet.shows('notes') && evaluation.notes.length > 0)
    said.push(strong('Notes'), ...evaluation.notes.map(({ text }) => ordinary(text)));
  return said;
}

/** More holes than these are told by their number alone. */
const MOST_HOLES = 12;

/** Where every hole is, from the left and from below, and what goes with the sign; nothing where there is neither. */
function fixingWords(sheet: Sheet, evaluation: Evaluation): string[] {
  const holes = holesOf(evaluation);
  const { unit, hardware = [] } = evaluation.sign;
  const comes = hardware.map((item) => `${hardwareWords(item)}.`);
  if (holes.length === 0) return comes.length > 0 ? ['Fixing', ...comes] : [];
  const { minX, minY } = bounds([evaluation.blank])!;
  const kinds = ['fixing hole', 'stud'] as const;
  const counts = kinds.flatMap((kind) => {
    const some = holes.filter((hole) => hole.kind === kind);
    if (some.length === 0) return [];
    const diameters = [...new Set(some.map(({ diameter }) => sheet.length(diameter, unit)))].join(' and ');
    return [`${some.length} ${kind}${some.length === 1 ? '' : 's'} of ${diameters}.`];
  });
  const places = holes.slice(0, MOST_HOLES).map(({ x, y }) => `${sheet.length(x - minX, unit)}, ${sheet.length(y - minY, unit)}`);
  const where =
    holes.length > MOST_HOLES
      ? 'Their places are on the full-size template.'
      : `From the left and from below: ${places.join('; ')}.`;
  return ['Fixing', ...counts, where, ...comes];
}
