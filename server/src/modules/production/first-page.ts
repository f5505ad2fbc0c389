import {
  type CallOut,
  detailDrawing,
  detailLetter,
  dimensionedPlan,
  type Drawing,
  plansOf,
  sectionDrawing,
  smallestStep,
  type Step,
  withCallOuts,
  withRing,
  withSectionMarks,
} from '@plain-relief/core/drawing';
import { bounds } from '@plain-relief/core/geometry';
import { type Evaluation } from '@plain-relief/core/relief';
import { type NamedSection } from '@plain-relief/core/sign';
import { FIGURES_MM, fitting, GAP, PICTURE_SHARE, type Room, type Scaled, type Sheet } from './sheet.js';

/** Where the drawings, the picture and the words of a sign's first page go, on paper that lies so. */
interface Arrangement {
  readonly isUpright: boolean;
  readonly drawings: Room;
  /** As wide as the picture. */
  readonly picture: Room;
  readonly words: readonly Room[];
}

/** A drawing, and where it goes: its heading stands in the first millimetres of the room. */
export interface Put extends Scaled {
  readonly room: Room;
}

/** What is drawn on a sign's first page. */
export interface FirstPage extends Arrangement {
  readonly plan: Put;
  readonly section?: Put;
  /** The section's smallest step, enlarged, and the letter that it is called by. */
  readonly detail?: Put & { readonly letter: string };
}

/** Of the height of the drawings a section takes at most this share. */
const SECTION_SHARE = 0.3;
export const HEADING = 6;
/** Words are read well in columns about so wide, in mm. */
const COLUMN = 95;
/** A step is enlarged that the section shows lower than this, in mm on the paper; then it is at least so high. */
const SEEN = 1;
const ENLARGED = 4;
/** Scales of ISO 5455:1979 that details are enlarged to. */
const DETAIL_SCALES = [1, 2, 5, 10, 20, 50] as const;
const DETAIL_RADIUS = 12;
const RING_RADIUS = 2.6;

/** What is shown besides drawings. */
interface Shown {
  readonly hasPicture: boolean;
  readonly hasWords: boolean;
}

/** Beside each other: drawings on the left, words on the right. */
function beside(body: Room, { hasPicture, hasWords }: Shown): Omit<Arrangement, 'isUpright'> {
  const column = hasPicture || hasWords ? body.width * 0.296 : 0;
  const width = body.width - column - (column > 0 ? GAP : 0);
  const x = body.x + width + GAP;
  const pictureHeight = hasPicture ? column * PICTURE_SHARE : 0;
  return {
    drawings: { ...body, width },
    picture: { x, y: body.y, width: column, height: pictureHeight },
    words: [{ x, y: body.y + pictureHeight + 1, width: column, height: body.height - pictureHeight + 2 }],
  };
}

/** Over each other: drawings above picture and words. */
function stacked(body: Room, { hasPicture, hasWords }: Shown): Omit<Arrangement, 'isUpright'> {
  const height = hasPicture || hasWords ? Math.min(((body.width - GAP) / 2) * PICTURE_SHARE, body.height * 0.3) : 0;
  const y = body.y + body.height - height;
  const picture = hasPicture ? height / PICTURE_SHARE : 0;
  const left = body.x + picture + (hasPicture ? GAP : 0);
  const width = body.x + body.width - left;
  const count = Math.max(1, Math.round(width / COLUMN));
  const column = (width - (count - 1) * GAP) / count;
  return {
    drawings: { ...body, height: body.height - height - (height > 0 ? GAP : 0) },
    picture: { x: body.x, y, width: picture, height },
    words: Array.from({ length: count }, (_, i) => ({
      x: left + i * (column + GAP),
      y: y - 2,
      width: column,
      height: height + 2,
    })),
  };
}

/**
 * The first page of a sign, with its plan as large as a standard scale allows: on the paper as the layout has it, or as it lies best
 * for the sign.
 */
export function firstPageOf(
  sheet: Sheet,
  evaluation: Evaluation,
  sections: readonly NamedSection[],
  callOuts: readonly CallOut[],
): FirstPage {
  const { layout } = sheet;
  const { isInBothUnits, isInFinishes } = layout;
  const { sign } = evaluation;
  const shown = {
    hasPicture: sheet.shows('picture'),
    hasWords: (['ticket', 'notes', 'fixing', 'finishes'] as const).some((block) => sheet.shows(block)),
  };
  const across = sheet.bodyOf(false);
  const choices = {
    across: [beside(across, shown), stacked(across, shown)].map((each) => ({ ...each, isUpright: false })),
    upright: [{ ...stacked(sheet.bodyOf(true), shown), isUpright: true }],
  };
  const { minX, minY, maxX, maxY } = bounds([evaluation.blank])!;
  const isTall = maxY - minY > maxX - minX;
  const chosen = layout.isTurnedBySign
    ? isTall ? [...choices.upright, ...choices.across] : [...choices.across, ...choices.upright] // prettier-ignore
    : choices[layout.isUpright ? 'upright' : 'across'];

  const step = sheet.shows('section') ? smallestStep(evaluation, sign.section) : undefined;
  const letter = detailLetter(sections);
  const plans = plansOf(evaluation);
  const plainPlan = remembered((scale) => {
    const choice = { textHeight: FIGURES_MM / scale, isInBothUnits, isInFinishes };
    const marked = withSectionMarks(dimensionedPlan(evaluation, choice, plans(choice)), sections, choice.textHeight);
    return withCallOuts(marked, callOuts, choice.textHeight);
  });
  const plainSection = remembered((scale) =>
    sectionDrawing(evaluation, sign.section, { heightsTimes: 1, textHeight: FIGURES_MM / scale, isInBothUnits }),
  );

  const laidOut = (arrangement: Arrangement): FirstPage => {
    const { drawings } = arrangement;
    const section = sheet.shows('section')
      ? fitting(plainSection, drawings.width, drawings.height * SECTION_SHARE - HEADING)
      : undefined;
    const hasDetail = step !== undefined && section !== undefined && step.rise * section.scale < SEEN;
    if (!section || !hasDetail) return { ...arrangement, ...withRooms(drawings, plainPlan, section) };
    const detail = enlarged(evaluation, step, section.scale, layout);
    const ringed = (drawing: Drawing, scale: number, place: { x: number; y: number }): Drawing =>
      withRing(drawing, place, letter, FIGURES_MM / scale, RING_RADIUS / scale);
    const planAt = (scale: number): Drawing => ringed(plainPlan(scale), scale, step.place);
    const sectionAt = (scale: number): Drawing => ringed(plainSection(scale), scale, { x: step.along, y: step.z });
    const size = paperSize(detail);
    // Beside the plan where that leaves it as large, else beside the section.
    const narrow = fitting(sectionAt, drawings.width - size.width - GAP, drawings.height * SECTION_SHARE - HEADING);
    const wide = { scale: section.scale, drawing: sectionAt(section.scale) };
    const [whole, aside] = [withRooms(drawings, planAt, wide), withRooms(drawings, planAt, narrow, size.height)];
    const free = drawings.width - paperSize(whole.plan).width - GAP;
    if (free >= size.width && whole.plan.scale >= aside.plan.scale) {
      const { plan } = whole;
      const room = {
        ...plan.room,
        x: plan.room.x + plan.room.width - size.width,
        width: size.width,
        height: size.height + HEADING,
      };
      const put = { ...detail, letter, room };
      const left = { ...plan, room: { ...plan.room, width: plan.room.width - size.width - GAP } };
      return { ...arrangement, ...whole, plan: left, detail: put };
    }
    const { room: row } = aside.section!;
    const put = { ...detail, letter, room: { ...row, x: row.x + row.width - size.width, width: size.width } };
    return {
      ...arrangement,
      ...aside,
      section: { ...narrow, room: { ...row, width: row.width - size.width - GAP } },
      detail: put,
    };
  };
  const pages = chosen.map(laidOut);
  return pages.reduce((best, page) => (page.plan.scale > best.plan.scale ? page : best));
}

/** The plan over the section, each as high as it needs to be. */
function withRooms(
  drawings: Room,
  planAt: (scale: number) => Drawing,
  section: Scaled | undefined,
  least = 0,
): { readonly plan: Put; readonly section?: Put } {
  const height = section ? Math.max(paperSize(section).height, least) + HEADING : 0;
  const room = { ...drawings, height: drawings.height - height - (section ? GAP : 0) };
  const plan = { ...fitting(planAt, room.width, room.height - HEADING), room };
  if (!section) return { plan };
  return { plan, section: { ...section, room: { ...drawings, y: room.y + room.height + GAP, height } } };
}

/** A step of the section at the first scale of details that shows it well. */
function enlarged(evaluation: Evaluation, step: Step, than: number, { isInBothUnits }: Sheet['layout']): Scaled {
  const larger = DETAIL_SCALES.filter((scale) => scale > than);
  const scale = larger.find((each) => step.rise * each >= ENLARGED) ?? larger[larger.length - 1] ?? than;
  const choice = { radius: DETAIL_RADIUS / scale, textHeight: FIGURES_MM / scale, isInBothUnits };
  return { scale, drawing: detailDrawing(evaluation, evaluation.sign.section, step, choice) };
}

/** mm of paper that a drawing takes. */
const paperSize = ({ scale, drawing: { bounds: box } }: Scaled): { readonly width: number; readonly height: number } => ({
  width: (box.maxX - box.minX) * scale,
  height: (box.maxY - box.minY) * scale,
});

/** A drawing by its scale, made once for each. */
function remembered(make: (scale: number) => Drawing): (scale: number) => Drawing {
  const known = new Map<number, Drawing>();
  return (scale) => {
    let drawing = known.get(scale);
    if (!drawing) known.set(scale, (drawing = make(scale)));
    return drawing;
  };
}
