import { gapBetween } from '../geometry/index.js';
import { type FontBook } from './font-book.js';
import { placeLetter, type SetBlock, setBlock, type SetLetter, type TextTrack } from './setting.js';
import { PLAIN_FEATURES, type TextChoice } from './text-choice.js';

/** The room between two neighbouring letters of a line. */
export interface LetterGap {
  /** Indices in the words of the letter that is read first and of the other. */
  readonly from: number;
  readonly to: number;
  /** Least distance of the two outlines in mm; 0 where they touch. */
  readonly gap: number;
  /** Letters of a joining script, or of a font whose letters join, that touch: no tool has to pass between them. */
  readonly isJoined: boolean;
}

/** The gaps between neighbouring letters of every line, also across spaces. Marks belong to their letters. */
export function letterGaps(block: SetBlock): LetterGap[] {
  const groups: SetLetter[][] = [];
  for (const letter of block.letters) {
    const last = groups[groups.length - 1];
    if (last && last[0].at === letter.at && last[0].line === letter.line) last.push(letter);
    else groups.push([letter]);
  }
  const runsOf = (group: readonly SetLetter[]) => {
    const placed = group.map((letter) => placeLetter(letter));
    return [...placed.flatMap(({ outline }) => outline), ...placed.flatMap(({ strokes }) => strokes.map(({ points }) => points))];
  };
  const out: LetterGap[] = [];
  let before: ReturnType<typeof runsOf> | undefined;
  groups.forEach((group, i) => {
    const runs = runsOf(group);
    const previous = groups[i - 1];
    if (before && previous && previous[0].line === group[0].line) {
      const isClosed = group[0].shape.strokes.length === 0;
      const gap = gapBetween(before, runs, isClosed ? 'areas' : 'strokes');
      const isJoined = gap === 0 && group[0].isJoining && previous[0].isJoining;
      const [from, to] = [previous[0].at, group[0].at].sort((a, b) => a - b);
      out.push({ from, to, gap, isJoined });
    }
    before = runs;
  });
  return out;
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
    Math.min(...letterGaps(block).flatMap(({ from, to, gap }) => (joined.has(`${from} ${to}`) ? [] : [gap])));
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
