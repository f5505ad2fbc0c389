import { intersection } from '../arrangement/index.js';
import { circle, direction } from '../geometry/index.js';
import { type Evaluation } from '../relief/index.js';
import { type NamedSection, type SectionLine } from '../sign/index.js';
import { lengthWords } from '../units/index.js';
import { dimension, FIGURE_WIDTH } from './dimension.js';
import { type Drawing, type Item, withMargin } from './drawing.js';
import { INK, PAPER } from './palette.js';
import { bodies, profileOf, SECTION_FILL, sectionSpans, type Span } from './section.js';

/** Where a section goes from one level to another. */
export interface Step {
  /** mm along the line, and above the face: its middle. */
  readonly along: number;
  readonly z: number;
  /** mm between the two levels, and along the line from one to the other. */
  readonly rise: number;
  readonly run: number;
  /** Whether the level after it is the lower one. */
  readonly falls: boolean;
  /** Where that is on the plan. */
  readonly place: { readonly x: number; readonly y: number };
}

/** Steps lower than this, in mm, are none. */
const LEAST_RISE = 0.01;
/** A slope that runs more than so many times its rise is no step. */
const GENTLE = 3;
const SAME = 1e-6;

/** The smallest step between two levels of a section, of several alike the one with most room beside it; undefined where there is none. */
export function smallestStep(evaluation: Evaluation, line: SectionLine): Step | undefined {
  let best: { step: Step; room: number } | undefined;
  for (const body of bodies(sectionSpans(evaluation, line))) {
    let before: Span | undefined;
    for (const span of body) {
      if (Math.abs(span.z - span.zEnd) > SAME) continue;
      if (before) {
        const [rise, run] = [Math.abs(span.z - before.z), span.from - before.to];
        const room = Math.min(before.to - before.from, span.to - span.from);
        const isSmaller = !best || rise < best.step.rise - SAME || (rise < best.step.rise + SAME && room > best.room);
        if (rise >= LEAST_RISE && run <= GENTLE * rise && isSmaller) best = { room, step: stepBetween(before, span, line) };
      }
      before = span;
    }
  }
  return best?.step;
}

function stepBetween(before: Span, after: Span, line: SectionLine): Step {
  const along = (before.to + after.from) / 2;
  const { cos, sin } = direction(line.turn);
  return {
    along,
    z: (before.z + after.z) / 2,
    rise: Math.abs(after.z - before.z),
    run: after.from - before.to,
    falls: after.z < before.z,
    place: { x: line.x + along * cos, y: line.y + along * sin },
  };
}

export interface DetailChoice {
  /** mm of the sign that are shown around the middle of the step. */
  readonly radius: number;
  readonly textHeight: number;
  readonly isInBothUnits?: boolean;
}

/** What a section shows around one of its steps, cut out by a circle, with the height of the step: x along the line, y the height. */
export function detailDrawing(evaluation: Evaluation, line: SectionLine, step: Step, choice: DetailChoice): Drawing {
  const { radius, textHeight, isInBothUnits = false } = choice;
  const { along, z, rise, run, falls } = step;
  const words = lengthWords(rise, evaluation.sign.unit, isInBothUnits);
  const ring = circle(along, z, radius, radius / 200);
  const thin = { width: textHeight / 14, colour: INK };
  const items: Item[] = bodies(sectionSpans(evaluation, line)).map((body): Item => ({
    kind: 'area',
    layer: 'section',
    outline: intersection([Float64Array.from(profileOf(body))], [ring]),
    fill: { kind: 'plain', colour: SECTION_FILL },
    pen: { width: textHeight / 8, colour: INK },
  }));
  items.push({ kind: 'line', layer: 'section', points: ring, closed: true, pen: thin });
  // Beside the lower level there is air for the line from the upper one.
  const side = falls ? 1 : -1;
  const edge = along + side * radius;
  const high = z + rise / 2;
  items.push(
    {
      kind: 'line',
      layer: 'dimensions',
      points: Float64Array.of(along - (side * run) / 2, high, edge, high),
      closed: false,
      pen: thin,
    },
    ...dimension({
      from: [edge, z - rise / 2],
      to: [edge, high],
      beside: -side * textHeight * 1.5,
      text: words,
      textHeight,
    }),
  );
  const room = textHeight * (3 + words.length * FIGURE_WIDTH);
  return {
    items,
    bounds: {
      minX: along - radius - (falls ? textHeight : room),
      maxX: along + radius + (falls ? room : textHeight),
      minY: z - radius - textHeight / 2,
      maxY: z + radius + textHeight / 2,
    },
  };
}

/** The letter of a detail: Z, or the last one before it that no section has (ISO 128, from memory: a ring and a capital). */
export const detailLetter = (sections: readonly NamedSection[]): string =>
  [...'ZYXWVUTSRQPONMLKJIHGFEDCBA'].find((letter) => sections.every(({ name }) => !name.startsWith(letter))) ?? 'Z';

/** A drawing with a ring around a place, and the letter that the place is called by. */
export function withRing(
  drawing: Drawing,
  { x, y }: { x: number; y: number },
  letter: string,
  textHeight: number,
  radius: number,
): Drawing {
  const { bounds } = drawing;
  const out = radius + textHeight * 1.4;
  // Towards the middle of the drawing, where there is room.
  const up = y > (bounds.minY + bounds.maxY) / 2 ? -1 : 1;
  const right = x > (bounds.minX + bounds.maxX) / 2 ? -1 : 1;
  const [letterX, letterY] = [x + right * out * Math.SQRT1_2, y + up * out * Math.SQRT1_2];
  const ring = circle(x, y, radius, radius / 50);
  const pen = { width: textHeight / 8, colour: INK };
  const items: Item[] = [
    // Light around it, so that it is seen on dark finishes, too.
    { kind: 'line', layer: 'details', points: ring, closed: true, pen: { width: pen.width * 4, colour: PAPER } },
    { kind: 'line', layer: 'details', points: ring, closed: true, pen },
    {
      kind: 'area',
      layer: 'details',
      outline: [circle(letterX, letterY, textHeight * 1.1, textHeight / 50)],
      fill: { kind: 'plain', colour: PAPER },
    },
    {
      kind: 'label',
      layer: 'details',
      x: letterX,
      y: letterY - textHeight * 0.6,
      text: letter,
      height: textHeight * 1.2,
      align: 'centre',
      turn: 0,
      colour: INK,
    },
  ];
  const box = withMargin({ minX: x, maxX: x, minY: y, maxY: y }, radius + textHeight / 2);
  return {
    items: [...drawing.items, ...items],
    bounds: {
      minX: Math.min(bounds.minX, box.minX),
      minY: Math.min(bounds.minY, box.minY),
      maxX: Math.max(bounds.maxX, box.maxX),
      maxY: Math.max(bounds.maxY, box.maxY),
    },
  };
}
