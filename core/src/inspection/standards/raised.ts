import { bounds, type Box, direction, type Outline } from '../../geometry/index.js';
import { type Evaluation, type Evaluator, type LetterPlace } from '../../relief/index.js';
import { sideOf, type TextPart } from '../../sign/index.js';
import { type Piece, type Sections, touches } from './sections.js';

/** A letter that stands out of its ground, as it is made. */
export interface RaisedLetter extends LetterPlace {
  /** Level around it, and its highest place, in mm. */
  readonly ground: number;
  readonly top: number;
  /** What of it is material just above the ground, and just below its top. */
  readonly base: Outline;
  readonly head: Outline;
}

export interface RaisedText {
  readonly part: TextPart;
  readonly letters: readonly RaisedLetter[];
}

/** What is raised on the side that is turned to the reader. */
export interface Raised {
  readonly texts: readonly RaisedText[];
  /** What stands out around them and is neither a letter nor a dot: borders and ornaments. */
  readonly others: readonly Outline[];
}

/** Letters lower than this, in mm, are not raised. */
const LEAST = 0.05;
/** mm from a letter's box at which the level around it is looked up, and how often along each side. */
const AROUND = 0.6;
const STEPS = 4;

/** The letters that are raised, and what else is around them. */
export function raisedIn(evaluation: Evaluation, evaluator: Evaluator, sections: Sections, dots: readonly Outline[]): Raised {
  const texts = evaluation.sign.parts.flatMap((part): RaisedText[] => {
    if (part.kind !== 'text' || sideOf(part) !== evaluation.side) return [];
    const letters = evaluator.letters(evaluation, part.id).flatMap((letter) => raisedLetter(letter, sections) ?? []);
    return letters.length > 0 ? [{ part, letters }] : [];
  });
  const own = new Set<Outline[number]>([
    ...texts.flatMap(({ letters }) => letters.flatMap(({ base }) => [...base])),
    ...dots.flat(),
  ]);
  const grounds = [...new Set(texts.flatMap(({ letters }) => letters.map(({ ground }) => ground)))];
  const others = grounds.flatMap((ground) =>
    sections.above(ground).flatMap(({ rings }) => (rings.some((ring) => own.has(ring)) ? [] : [rings])),
  );
  return { texts, others };
}

/** What of the letters' surroundings the section is: one level everywhere, as it is nearly all around the letter. */
function groundOf({ minX, minY, maxX, maxY }: Box, sections: Sections): number {
  const levels: number[] = [];
  for (let i = 0; i <= STEPS; i++) {
    const [x, y] = [minX + ((maxX - minX) * i) / STEPS, minY + ((maxY - minY) * i) / STEPS];
    levels.push(sections.levelAt(x, minY - AROUND), sections.levelAt(x, maxY + AROUND));
    levels.push(sections.levelAt(minX - AROUND, y), sections.levelAt(maxX + AROUND, y));
  }
  const known = levels.filter(Number.isFinite).sort((a, b) => a - b);
  // Beside it other letters may stand.
  return known[Math.floor(known.length / 4)] ?? 0;
}

function raisedLetter(letter: LetterPlace, sections: Sections): RaisedLetter | undefined {
  const ground = groundOf(letter.box, sections);
  const base = sections.above(ground).filter((piece) => isOf(piece, letter)).flatMap(({ rings }) => [...rings]); // prettier-ignore
  if (base.length === 0) return undefined;
  const top = sections.reachIn(base, ground + LEAST / 2).high;
  if (!(top - ground >= LEAST)) return undefined;
  const whole = bounds(base)!;
  const head = sections.below(top).filter(({ box, rings }) => meets(box, whole) && isWithin(rings, base)).flatMap(({ rings }) => [...rings]); // prettier-ignore
  return { ...letter, ground, top, base, head };
}

const meets = (a: Box, b: Box): boolean => a.minX <= b.maxX && b.minX <= a.maxX && a.minY <= b.maxY && b.minY <= a.maxY;
/** Points of a ring that are looked at, and the share of them that has to lie in another outline for the ring to do so. */
const LOOKED_AT = 16;
const MOSTLY = 0.6;

/** Whether most of an outline's points lie in another, or on its edge. */
function isWithin([ring]: Outline, of: Outline): boolean {
  const count = ring.length / 2;
  const step = Math.max(1, Math.floor(count / LOOKED_AT));
  let [inside, all] = [0, 0];
  for (let i = 0; i < count; i += step) {
    all++;
    if (touches(of, ring[2 * i], ring[2 * i + 1])) inside++;
  }
  return inside >= MOSTLY * all;
}

/** Whether a piece of a section is what a letter, or a part of it, was made to: one lies in the other, whichever grew. */
function isOf({ rings, box }: Piece, { outline, box: own }: LetterPlace): boolean {
  if (!meets(box, own)) return false;
  // A plate that the letter stands on is no letter.
  if (box.maxX - box.minX > 3 * (own.maxX - own.minX) + 20 || box.maxY - box.minY > 3 * (own.maxY - own.minY) + 20) return false;
  return isWithin(rings, outline) || outline.some((ring) => isWithin([ring], rings));
}

/** An outline turned back to how its part was before it was turned: up is up. */
export function turnedBack(outline: Outline, { place }: Pick<TextPart, 'place'>): Outline {
  if (place.turn === 0) return outline;
  const { cos, sin } = direction(-place.turn);
  return outline.map((ring) =>
    ring.map((value, i) => (i % 2 === 0 ? value * cos - ring[i + 1] * sin : ring[i - 1] * sin + value * cos)),
  );
}
