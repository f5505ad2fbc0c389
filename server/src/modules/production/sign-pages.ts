import { notesOf } from '@plain-relief/core/checks';
import { type Hole, holesOf } from '@plain-relief/core/drawing';
import { bounds } from '@plain-relief/core/geometry';
import { type Evaluation } from '@plain-relief/core/relief';
import {
  hardwareWords,
  numberWord,
  placesInWords,
  sectionAt,
  type Sign,
  ticket,
  ticketParagraphs,
} from '@plain-relief/core/sign';
import { supportFaults } from '@plain-relief/core/support';
import { type FontBook } from '@plain-relief/core/type';
import { checkWords, standardPage } from './check-pages.js';
import { Columns, columnsOf } from './columns.js';
import { callOutsOfViews, listFinishes } from './finishes.js';
import { firstPageOf, HEADING, type Put } from './first-page.js';
import { backPage, optionPages, sectionPages, spacePage } from './proof-pages.js';
import type { Paragraph } from './rich-text.js';
import { GAP, ordinary, scaleName, type Sheet, strong } from './sheet.js';
import type { SignViews } from './sign-views.js';

export type Report = (share: number, step: string) => Promise<void>;

/**
 * The pages of one sign: plan at a standard scale with its dimensions, section, picture, the ticket's sentences and the notes; then the
 * back, the named sections and the options, where there are any and the layout shows them.
 */
export async function signPages(sheet: Sheet, views: SignViews, book: FontBook, report: Report): Promise<void> {
  const evaluation = views.front;
  const { sign } = evaluation;
  const sections = sheet.shows('named sections') ? (sign.sections ?? []) : [];
  await report(0.1, 'drawing the plan');
  const callOuts = sheet.shows('finishes') ? callOutsOfViews(views) : { front: [], back: [], all: [] };
  const page = firstPageOf(sheet, evaluation, sections, callOuts.front);
  sheet.turn(page.isUpright);
  sheet.start();
  const { plan, section, detail } = page;
  put(sheet, plan, `Plan${laidWords(sign)}, ${scaleName(plan.scale)}, ${sheet.painted}`);
  if (section) {
    const name = sectionAt(sign, sign.section)?.name;
    put(sheet, section, `Section${name ? ` ${name}` : ''}${laidWords(sign)}, ${scaleName(section.scale)}`);
  }
  if (detail) put(sheet, detail, `Detail ${detail.letter}, ${scaleName(detail.scale)}`);
  if (sheet.shows('picture')) {
    await report(0.5, 'making the picture');
    sheet.picture(evaluation, page.picture.x, page.picture.y, page.picture.width);
  }

  await report(0.8, 'writing the ticket');
  const ended = () => sheet.endOf(evaluation, plan.scale);
  const words = new Columns(sheet, page.words, columnsOf(sheet, GAP), ended);
  listFinishes(sheet, words, sign, callOuts.all);
  for (const paragraph of wordsOf(sheet, evaluation, sign, book)) words.put(paragraph);
  ended();
  await report(0.9, 'drawing the back, sections and options');
  if (isBent(evaluation)) spacePage(sheet, evaluation);
  if (views.back && sheet.shows('back')) backPage(sheet, views.back, callOuts.back);
  const others = sections.filter((section) => !sheet.shows('section') || section !== sectionAt(sign, sign.section));
  sectionPages(sheet, evaluation, others);
  if (sheet.shows('standard')) standardPage(sheet, evaluation, book);
  if (sheet.shows('options')) optionPages(sheet, sign, views, book, plan.scale);
}

/** How the plan of a sign that is not flat shows it. */
const laidWords = ({ support }: Sign): string => (support?.kind === 'block' ? ' of its faces' : support ? ' laid flat' : '');

/** Whether a sign is bent around something, and can be. */
const isBent = ({ sign, blank, rearmost, highest }: Evaluation): boolean =>
  sign.support !== undefined && supportFaults(sign, { blank, reach: { low: rearmost, high: highest } }).length === 0;

/** A drawing in its room, below its heading. */
function put(sheet: Sheet, { room, ...scaled }: Put, heading: string): void {
  sheet.heading(heading, room.x, room.y + 3);
  sheet.centred(scaled, { ...room, y: room.y + HEADING, height: room.height - HEADING });
}

function wordsOf(sheet: Sheet, evaluation: Evaluation, sign: Sign, book: FontBook): Paragraph[] {
  const said: Paragraph[] = [];
  if (sheet.shows('ticket'))
    said.push(strong('Ticket'), ...ticketParagraphs(ticket(sign, book.catalogue), sign).map((text) => ordinary(text)));
  if (sheet.shows('fixing'))
    said.push(...fixingWords(sheet, evaluation).map((text, i) => (i === 0 ? strong(text) : ordinary(text))));
  const notes = sheet.shows('notes') ? notesOf(evaluation) : [];
  if (notes.length > 0) said.push(strong('Notes'), ...notes.map(({ text }) => ordinary(text)));
  if (sheet.shows('checks')) said.push(...checkWords(evaluation));
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
  const alike = new Map<string, Hole[]>();
  for (const hole of holes) {
    const key = `${hole.kind} ${hole.diameter}`;
    alike.set(key, [...(alike.get(key) ?? []), hole]);
  }
  const sentences = [...alike.values()].map((some) => holeWords(some, minX, minY, (mm) => sheet.length(mm, unit)));
  return ['Fixing', ...sentences, ...comes];
}

/** "Four fixing holes of 7 mm at 20 mm and 460 mm from the left, 20 mm and 300 mm from below." */
function holeWords(holes: readonly Hole[], left: number, foot: number, length: (mm: number) => string): string {
  const [{ kind, diameter }] = holes;
  const many = numberWord(holes.length);
  const what = `${many.charAt(0).toUpperCase()}${many.slice(1)} ${kind}${holes.length === 1 ? '' : 's'} of ${length(diameter)}`;
  if (holes.length > MOST_HOLES) return `${what}; their places are on the full-size template.`;
  const points = holes.map(({ x, y }) => ({ x: x - left, y: y - foot }));
  return `${what} ${placesInWords(points, ['from the left', 'from below'], length)}.`;
}
