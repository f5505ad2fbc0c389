import {
  type CallOut,
  dimensionedPlan,
  plansOf,
  sectionDrawing,
  spaceSectionDrawing,
  withCallOuts,
} from '@plain-relief/core/drawing';
import { type Evaluation } from '@plain-relief/core/relief';
import { type NamedSection, sentenceText, type Sign, ticket, withOption } from '@plain-relief/core/sign';
import { type FontBook } from '@plain-relief/core/type';
import { HEADING } from './first-page.js';
import { FIGURES_MM, fitting, GAP, ordinary, PICTURE_SHARE, scaleName, type Sheet } from './sheet.js';
import { modelOfView, type SignViews } from './sign-views.js';

/** The plan from behind, on a page of its own. */
export function backPage(sheet: Sheet, back: Evaluation, callOuts: readonly CallOut[]): void {
  const { body } = sheet;
  const { isInBothUnits, isInFinishes } = sheet.layout;
  const plans = plansOf(back);
  const plan = fitting(
    (scale) => {
      const choice = { textHeight: FIGURES_MM / scale, isInBothUnits, isInFinishes };
      return withCallOuts(dimensionedPlan(back, choice, plans(choice)), callOuts, choice.textHeight);
    },
    body.width,
    body.height - 8,
  );
  sheet.start();
  sheet.heading(`Back, seen from behind, ${scaleName(plan.scale)}, ${sheet.painted}`, body.x, body.y + 3);
  sheet.centred(plan, { ...body, y: body.y + 6, height: body.height - 6 });
  sheet.endOf(back, plan.scale);
}

/** The sign as it is bent, from three sides, and a section of it in space: on a page of its own. */
export function spacePage(sheet: Sheet, front: Evaluation): void {
  const { body } = sheet;
  const { sign } = front;
  const { mesh } = modelOfView(front);
  sheet.start();
  const isRound = sign.support !== undefined && 'round' in sign.support && sign.support.round === true;
  const isBlock = sign.support?.kind === 'block';
  const heading = isBlock
    ? 'The block from before and above, from behind and above, and from below'
    : isRound
      ? 'As it is bent, from three sides'
      : 'As it is bent, from the left, from the front and from the right';
  sheet.heading(heading, body.x, body.y + 3);
  const width = (body.width - 2 * GAP) / 3;
  const views = isBlock ? CORNERS : (isRound ? ALL_ROUND : SIDES).map((turn) => ({ turn, tilt: 10 }));
  views.forEach((view, i) => sheet.view(front, view, body.x + i * (width + GAP), body.y + HEADING, width));
  const top = body.y + HEADING + width * PICTURE_SHARE + GAP;
  const room = { ...body, y: top + HEADING, height: body.y + body.height - top - HEADING };
  const drawn = fitting((scale) => spaceSectionDrawing(front, mesh, sign.section, FIGURES_MM / scale), room.width, room.height);
  sheet.heading(`Section in space along the line of the plan, ${scaleName(drawn.scale)}`, body.x, top + 3);
  sheet.centred(drawn, room);
  sheet.endOf(front, drawn.scale);
}

/** Degrees by which the sign is turned to be seen from its left, its front and its right. */
const SIDES = [55, 0, -55] as const;
const ALL_ROUND = [120, 0, -120] as const;
/** Three corners of a block, by which every side of it is seen. */
const CORNERS = [
  { turn: -34, tilt: -26 },
  { turn: 146, tilt: -26 },
  { turn: -34, tilt: 40 },
] as const;

/** The least height of a section on its page, in mm. */
const SECTION_HEIGHT = 50;

/** Named sections, below each other. */
export function sectionPages(sheet: Sheet, front: Evaluation, sections: readonly NamedSection[]): void {
  const { body } = sheet;
  const { isInBothUnits } = sheet.layout;
  const many = Math.max(1, Math.floor(body.height / SECTION_HEIGHT));
  const height = body.height / many;
  for (let i = 0; i < sections.length; i += many) {
    sheet.start();
    let scale = 1;
    sections.slice(i, i + many).forEach((section, place) => {
      const drawn = fitting(
        (at) => sectionDrawing(front, section, { heightsTimes: 1, textHeight: FIGURES_MM / at, isInBothUnits }),
        body.width,
        height - 10,
      );
      if (place === 0) scale = drawn.scale;
      const y = body.y + place * height;
      sheet.heading(`Section ${section.name}, ${scaleName(drawn.scale)}`, body.x, y + 3);
      sheet.centred(drawn, { ...body, y: y + 5, height: height - 8 });
    });
    sheet.endOf(front, scale);
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

/** The options, four a page, each with its picture and what it says otherwise. */
export function optionPages(sheet: Sheet, sign: Sign, { options, front: whole }: SignViews, book: FontBook, scale: number): void {
  const { body } = sheet;
  const [columns, rows] = sheet.isUpright ? [1, 4] : [2, 2];
  const width = (body.width - (columns - 1) * GAP) / columns;
  const height = (body.height - (rows - 1) * GAP) / rows;
  const picture = Math.min(width * 0.52, (height - 8) / 0.62);
  for (let i = 0; i < options.length; i += columns * rows) {
    sheet.start();
    options.slice(i, i + columns * rows).forEach(({ option, front }, place) => {
      const x = body.x + (place % columns) * (width + GAP);
      const y = body.y + Math.floor(place / columns) * (height + GAP);
      sheet.heading(option.name, x, y + 3);
      sheet.picture(front, x, y + 6, picture);
      const sentences = optionSentences(sign, option.id, book);
      const said = [
        ...(front.sign.blank.material === '' ? [] : [`In ${front.sign.blank.material}.`]),
        ...(sentences.length > 0 ? sentences : ['As the ticket says.']),
      ];
      sheet.write(
        said.map((text) => ordinary(text)),
        { x: x + picture + 4, y: y + 4, width: width - picture - 4, height: height - 8 },
      );
    });
    sheet.endOf(whole, scale);
  }
}
