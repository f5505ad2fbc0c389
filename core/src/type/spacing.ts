import { bounds, type Box, gapBetween, type Outline } from '../geometry/index.js';
import { type FontBook } from './font-book.js';
import { placeLetter, type SetBlock, setBlock, type SetLetter, type TextTrack } from './setting.js';
import { PLAIN_FEATURES, type TextChoice } from './text-choice.js';

/** The room between two letters: neighbours of a line, or others that come nearer to each other than any of those. */
export interface LetterGap {
  /** Indices in the words of the letter that is read first and of the other. */
  readonly from: number;
  readonly to: number;
  /** Least distance of the two outlines in mm; 0 where they touch. */
  readonly gap: number;
  /** Letters of a joining script, or of a font whose letters join, that touch: no tool has to pass between them. */
  readonly isJoined: boolean;
  /** Whether they follow each other in a line, so that spacing parts them. */
  readonly areNeighbours: boolean;
}

/** A letter with its marks as it is placed. */
interface PlacedLetter {
  readonly at: number;
  readonly line: number;
  readonly isJoining: boolean;
  readonly isClosed: boolean;
  readonly runs: Outline;
  readonly box: Box | undefined;
}

/**
 * The gaps between neighbouring letters of every line, also across spaces; then the narrowest between others, where it is narrower:
 * of lines that are set close, or the first and last letters around a full circle. Marks belong to their letters.
 */
export function letterGaps(block: SetBlock): LetterGap[] {
  const letters = placedLetters(block);
  const gaps: LetterGap[] = [];
  /** Which run of joined letters each letter belongs to. */
  const runs = new Map<PlacedLetter, number>();
  letters.forEach((letter, i) => {
    const previous = letters[i - 1];
    const gap = previous?.line === letter.line ? gapOf(previous, letter, true) : undefined;
    if (gap) gaps.push(gap);
    runs.set(letter, gap?.isJoined ? runs.get(previous)! : i);
  });
  const least = Math.min(...gaps.flatMap(({ gap, isJoined }) => (isJoined ? [] : [gap])));
  const areApart = (a: PlacedLetter, b: PlacedLetter): boolean =>
    runs.get(a) !== runs.get(b) && !(a.line === b.line && Math.abs(letters.indexOf(a) - letters.indexOf(b)) === 1);
  const closer = closestOthers(letters, areApart, least);
  return closer ? [...gaps, closer] : gaps;
}

function placedLetters({ letters }: SetBlock): PlacedLetter[] {
  const groups: SetLetter[][] = [];
  for (const letter of letters) {
    const last = groups[groups.length - 1];
    if (last && last[0].at === letter.at && last[0].line === letter.line) last.push(letter);
    else groups.push([letter]);
  }
  return groups.map((group) => {
    const placed = group.map((letter) => placeLetter(letter));
    const runs = [
      ...placed.flatMap(({ outline }) => outline),
      ...placed.flatMap(({ strokes }) => strokes.map(({ points }) => points)),
    ];
    const [{ at, line, isJoining, shape }] = group;
    return { at, line, isJoining, isClosed: shape.strokes.length === 0, runs, box: bounds(runs) };
  });
}

function gapOf(a: PlacedLetter, b: PlacedLetter, areNeighbours: boolean): LetterGap {
  const gap = gapBetween(a.runs, b.runs, b.isClosed ? 'areas' : 'strokes');
  const [from, to] = [a.at, b.at].sort((one, other) => one - other);
  return { from, to, gap, isJoined: areNeighbours && gap === 0 && a.isJoining && b.isJoining, areNeighbours };
}

/** The two letters that are apart and nearest, where they are nearer than `least` mm. */
function closestOthers(
  letters: readonly PlacedLetter[],
  areApart: (a: PlacedLetter, b: PlacedLetter) => boolean,
  least: number,
): LetterGap | undefined {
  const seen = letters.filter(({ box }) => box !== undefined).sort((a, b) => a.box!.minX - b.box!.minX);
  let closest: LetterGap | undefined;
  seen.forEach((a, i) => {
    for (let k = i + 1; k < seen.length; k++) {
      const b = seen[k];
      const limit = closest?.gap ?? least;
      if (limit === 0 || b.box!.minX - a.box!.maxX >= limit) break;
      if (Math.max(b.box!.minY - a.box!.maxY, a.box!.minY - b.box!.maxY) >= limit || !areApart(a, b)) continue;
      const found = gapOf(a, b, false);
      if (found.gap < limit) closest = found;
    }
  });
  return closest;
}

/** What opening a block up for a tool takes. */
export interface OpenedUp {
  /** In percent of the cap height. */
  readonly tracking: number;
  /** How much wider what is seen became, in mm. */
  readonly grownBy: number;
  /** The least gap afterwards. */
  readonly gap: number;
}

const CLOSE_ENOUGH = 1e-4;
const LEAST_TRACKING = 0.001;

/**
 * The least tracking, the same between all letters, at which every gap lets a tool of the given diameter through. Gaps are
 * measured between the outlines. A gap cannot grow by more than its letters move apart, so that adding what is lacking to the
 * narrowest again and again comes to the answer from below.
 * @returns undefined where the words have no gap that could open, or letters set by hand keep one closed
 */
export function openUp(book: FontBook, choice: TextChoice, diameter: number, on?: TextTrack): OpenedUp | undefined {
  const widthOf = ({ ink }: SetBlock) => (ink ? ink.maxX - ink.minX : 0);
  const before = setBlock(book, choice, on);
  // Letters set apart are no ligatures: what joins, and what opens, is judged without them.
  const apart = { ...choice, features: { ...(choice.features ?? PLAIN_FEATURES), ligatures: false } };
  const joined = new Set(
    letterGaps(setBlock(book, apart, on)).flatMap(({ from, to, isJoined }) => (isJoined ? [`${from} ${to}`] : [])),
  );
  const leastGap = (block: SetBlock): number =>
    Math.min(
      ...letterGaps(block).flatMap(({ from, to, gap, areNeighbours }) =>
        areNeighbours && !joined.has(`${from} ${to}`) ? [gap] : [],
      ),
    );
  const least = leastGap(before);
  if (least === Infinity) return undefined;
  if (least >= diameter) return { tracking: choice.tracking, grownBy: 0, gap: least };
  // A tracking of nothing would bring ligatures back.
  let tracking = choice.tracking === 0 ? LEAST_TRACKING : choice.tracking;
  for (let i = 0; i < 200; i++) {
    const block = setBlock(book, { ...apart, tracking }, on);
    const gap = leastGap(block);
    if (gap === Infinity) return undefined;
    if (gap >= diameter) return { tracking, grownBy: widthOf(block) - widthOf(before), gap };
    tracking += ((diameter - gap + CLOSE_ENOUGH) / (block.capHeight * (block.stretch / 100))) * 100;
  }
  return undefined;
}
