import { union } from '../arrangement/index.js';
import {
  bounds,
  type Box,
  CHORD_TOLERANCE,
  compose,
  degrees,
  joinBoxes,
  type Outline,
  placement,
  placeRings,
  placePolyline,
  snap,
  snapPolyline,
  type Stroke,
  type Track,
} from '../geometry/index.js';
import { type Fitted, layOut, type Layout, roomIn } from './fitting.js';
import { type FontBook, type GlyphShape } from './font-book.js';
import { type LetterFont } from './letter-font.js';
import { lineInk, type LineGlyph, type LineMetrics, LineShaper, pens, type ShapedLine, UNSEEN } from './shaped-line.js';
import { type TextChoice } from './text-choice.js';

/** A line along which a block is set instead of straight across. */
export interface TextTrack {
  readonly track: Track;
  /** The tops of the capitals follow the track, and letters hang from it, instead of standing on it. */
  readonly hangs: boolean;
  /** mm along the track from where the alignment puts the words. */
  readonly shift: number;
}

/** A letter (or ligature) in its place in the block. */
export interface SetLetter {
  readonly shape: GlyphShape;
  /** Number of the glyph in its font, and mm in a font unit across and up. */
  readonly glyph: number;
  readonly scaleX: number;
  readonly scaleY: number;
  /** Origin of the glyph in the block, in mm, on the grid. */
  readonly x: number;
  readonly y: number;
  /** Degrees anticlockwise about the origin. */
  readonly turn: number;
  readonly line: number;
  /** Index in the words of the first character it stands for. */
  readonly at: number;
  /** Whether its script or font joins letters. */
  readonly isJoining: boolean;
}

export interface SetBlock {
  /** Line by line, from left to right. */
  readonly letters: readonly SetLetter[];
  /** What is seen of the letters, about the block's middle; missing where nothing is seen. */
  readonly ink?: Box;
  /** From the first line's capitals to the last baseline, as wide as what is seen; on a track what is seen. */
  readonly capBox: Box;
  /** Baselines from the top, in the block. */
  readonly baselines: readonly number[];
  /** Characters the font lacks, each once; a space stands in their place. */
  readonly missing: readonly string[];
  /** What the frame did to the words. */
  readonly fitted: readonly Fitted[];
  /** The height of capitals in mm, and the width of letters in percent of the font's, after fitting. */
  readonly capHeight: number;
  readonly stretch: number;
  /** Mm by which a line is longer than its track. */
  readonly past: number;
}

/** A justified line shorter than this part of the width stays as it is: spread out, it would be torn. */
const FULL_LINE = 2 / 3;

/** Words as they are set and counted: composed characters (NFC), lines parted by one line feed, tabs as spaces. */
export const plainWords = (words: string): string => words.replace(/\r\n?/gu, '\n').replace(/\t/gu, ' ').normalize('NFC');

/**
 * Sets words about the middle of the block: x = 0 is the middle, left or right edge of **what is seen** of every line (by
 * the alignment), y = 0 the middle between the top of the first line's capitals and the last baseline, so that a descender or
 * an accent moves nothing. In a frame x = 0, y = 0 is the middle of the frame; on a track it is the track's origin.
 */
export function setBlock(book: FontBook, choice: TextChoice, on?: TextTrack): SetBlock {
  const missing = new Set<string>();
  const words = plainWords(choice.words)
    .split('\n')
    .map((line) => withoutMissing(line, choice.font, missing));
  const layout = layOut(choice, words, new LineShaper(book, choice));
  const setter = new Setter(book, choice, layout);
  if (on) setter.along(on);
  else setter.straight();
  return { ...setter.block(), missing: [...missing] };
}

function withoutMissing(line: string, font: LetterFont, missing: Set<string>): string {
  let out = '';
  for (const character of line) {
    if (UNSEEN.test(character) || font.covers(character.codePointAt(0)!)) out += character;
    else {
      missing.add(character);
      out += ' '.repeat(character.length);
    }
  }
  return out;
}

/** Puts the glyphs of a layout in their places. */
class Setter {
  private readonly letters: SetLetter[] = [];
  private baselines: number[] = [];
  private ink: Box | undefined;
  private capBox: Box | undefined;
  private past = 0;

  constructor(
    private readonly book: FontBook,
    private readonly choice: TextChoice,
    private readonly layout: Layout,
  ) {}

  straight(): void {
    const { lines, capHeight, step, metrics } = this.layout;
    const { frame, align } = this.choice;
    const inks = lines.map((line) => lineInk(line, metrics));
    const widest = Math.max(0, ...inks.map((ink) => (ink ? ink.maxX - ink.minX : 0)));
    const across = frame ? roomIn(frame).across : widest;
    const top = this.topOfCapitals(inks);
    this.baselines = lines.map((_, index) => snap(top - capHeight - step * index));
    lines.forEach((line, index) => {
      const ink = inks[index];
      if (!ink) return;
      const width = ink.maxX - ink.minX;
      const spread = align === 'justified' && width >= FULL_LINE * across;
      const extra = spread ? spreadOver(line, across - width) : { wordSpace: 0, tracking: 0 };
      const wide = { ...metrics, wordSpace: extra.wordSpace, tracking: metrics.tracking + extra.tracking };
      // Without a frame lines hang from x = 0; in one, and when justified, from the edge of the room.
      const edge = frame || align === 'justified' ? across / 2 : 0;
      const anchor = {
        left: ink.minX + edge,
        centre: (ink.minX + ink.maxX) / 2,
        right: ink.maxX - edge,
        justified: ink.minX + edge,
      }[align];
      const { x } = pens(line, wide);
      line.glyphs.forEach((g, i) => this.add(g, index, x[i] - anchor, this.baselines[index] + g.dy * metrics.scaleY, 0));
    });
    const [minX, maxX] = this.ink ? [this.ink.minX, this.ink.maxX] : [0, 0];
    this.capBox = { minX, maxX, minY: this.baselines[this.baselines.length - 1], maxY: top };
  }

  /** Where the capitals of the first line end, above the middle of the block or of its frame. */
  private topOfCapitals(inks: readonly (Box | undefined)[]): number {
    const { capHeight, step } = this.layout;
    const { frame } = this.choice;
    const height = capHeight + step * (inks.length - 1);
    if (!frame) return height / 2;
    const { up } = roomIn(frame);
    const top = { top: up / 2, middle: height / 2, bottom: height - up / 2 }[frame.upright];
    // Accents and descenders stay inside, too, where there is room.
    let [highest, lowest] = [-Infinity, Infinity];
    inks.forEach((ink, index) => {
      if (!ink) return;
      highest = Math.max(highest, ink.maxY - step * index - capHeight);
      lowest = Math.min(lowest, ink.minY - step * index - capHeight);
    });
    if (highest - lowest > up + 1e-4) return top;
    return Math.min(Math.max(top, -up / 2 - lowest), up / 2 - highest);
  }

  along({ track, hangs, shift }: TextTrack): void {
    const { lines, metrics, capHeight, step } = this.layout;
    const { length, closed } = track;
    lines.forEach((line, index) => {
      const unspread = lineInk(line, metrics);
      if (!unspread) return;
      const spread = this.choice.align === 'justified' ? spreadAlong(line, metrics, length, closed) : 0;
      const isByWords = spread > 0 && spacesOf(line) > 0;
      const wide = isByWords ? { ...metrics, wordSpace: metrics.wordSpace + spread } : { ...metrics, tracking: metrics.tracking + spread }; // prettier-ignore
      const ink = lineInk(line, wide)!;
      const width = ink.maxX - ink.minX;
      const anchor = closed
        ? length / 2
        : { left: 0, centre: length / 2, right: length, justified: length / 2 }[this.choice.align];
      const before = { left: 0, centre: width / 2, right: width, justified: width / 2 }[this.choice.align];
      const from = anchor + shift - before;
      this.past = Math.max(this.past, closed ? width - length : Math.max(-from, from + width - length));
      const { x } = pens(line, wide);
      const up = -step * index - (hangs ? capHeight : 0);
      line.glyphs.forEach((g, i) => {
        // The middle of a letter's own advance stands on its normal: kerning moves letters and turns none.
        const size = (g.adjustment?.size ?? 100) / 100;
        const half = (this.choice.font.advanceOf(g.glyph) * metrics.scaleX * size) / 2;
        const point = track.at(from - ink.minX + x[i] + half, 2 * half);
        const height = up + g.dy * metrics.scaleY;
        const turn = degrees(Math.atan2(point.sin, point.cos));
        this.add(
          g,
          index,
          point.x - half * point.cos - height * point.sin,
          point.y - half * point.sin + height * point.cos,
          turn,
        );
      });
    });
    this.capBox = this.ink ?? { minX: 0, minY: 0, maxX: 0, maxY: 0 };
  }

  private add(g: LineGlyph, line: number, x: number, y: number, turn: number): void {
    const { metrics } = this.layout;
    const hand = g.adjustment;
    const size = (hand?.size ?? 100) / 100;
    const tolerance = this.choice.tolerance ?? CHORD_TOLERANCE;
    const shape = this.book.glyph(this.choice.font, g.glyph, metrics.scaleX * size, metrics.scaleY * size, tolerance);
    if (shape.outline.length + shape.strokes.length === 0) return;
    let put = placement({ x, y, turn });
    if (hand) {
      const box = shapeBounds(shape)!;
      const [cx, cy] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
      const byHand = compose(
        placement({ x: cx + (hand.x ?? 0) * metrics.byHand, y: cy + (hand.y ?? 0) * metrics.byHand, turn: hand.turn ?? 0 }),
        placement({ x: -cx, y: -cy }),
      );
      put = compose(put, byHand);
    }
    const letter = {
      shape,
      glyph: g.glyph,
      scaleX: metrics.scaleX * size,
      scaleY: metrics.scaleY * size,
      x: snap(put.e),
      y: snap(put.f),
      turn: turn + (hand?.turn ?? 0),
      line,
      at: g.at,
      isJoining: g.isJoining,
    };
    this.letters.push(letter);
    this.ink = joinBoxes(this.ink, inkOfLetter(letter));
  }

  block(): Omit<SetBlock, 'missing'> {
    const { capHeight, fitted, metrics } = this.layout;
    return {
      letters: this.letters,
      ink: this.ink,
      capBox: this.capBox!,
      baselines: this.baselines,
      fitted,
      capHeight,
      stretch: (metrics.scaleX / metrics.scaleY) * 100,
      past: this.past > 1e-6 ? this.past : 0,
    };
  }
}

/** The space that makes a line wider by so much: between its words, or between the letters of a single word. */
function spreadOver(line: ShapedLine, by: number): { wordSpace: number; tracking: number } {
  const spaces = spacesOf(line);
  if (spaces > 0) return { wordSpace: by / spaces, tracking: 0 };
  const joints = jointsOf(line);
  return { wordSpace: 0, tracking: joints > 0 ? by / joints : 0 };
}

/** Spaces of a line between its words, and places between its letters. */
const spacesOf = ({ glyphs }: ShapedLine): number => glyphs.slice(0, -1).filter(({ isSpace, isLast }) => isSpace && isLast).length; // prettier-ignore
const jointsOf = ({ glyphs }: ShapedLine): number => glyphs.slice(0, -1).filter(({ isLast }) => isLast).length;

/**
 * The space at every place between words, or letters, that makes a line fill its track: on a closed one its beginning comes after its end as
 * a word comes after another, or a letter. Nothing where it is too long.
 */
function spreadAlong(line: ShapedLine, metrics: LineMetrics, length: number, closed: boolean): number {
  const spaces = spacesOf(line);
  const places = (spaces > 0 ? spaces : jointsOf(line)) + (closed ? 1 : 0);
  if (places === 0) return 0;
  if (!closed) {
    const { minX, maxX } = lineInk(line, metrics)!;
    return Math.max(0, (length - (maxX - minX)) / places);
  }
  const space = spaces > 0 ? line.glyphs.find(({ isSpace }) => isSpace) : undefined;
  const taken = pens(line, metrics).end + (space ? space.advance * metrics.scaleX + metrics.tracking : 0);
  return Math.max(0, (length - taken) / places);
}

const boxes = new WeakMap<GlyphShape, Box | null>();

function shapeBounds(shape: GlyphShape): Box | undefined {
  let box = boxes.get(shape);
  if (box === undefined) {
    box = bounds([...shape.outline, ...shape.strokes.map((stroke) => stroke.points)]) ?? null;
    boxes.set(shape, box);
  }
  return box ?? undefined;
}

function inkOfLetter(letter: SetLetter): Box | undefined {
  if (letter.turn === 0) {
    const box = shapeBounds(letter.shape)!;
    const { x, y } = letter;
    return { minX: box.minX + x, minY: box.minY + y, maxX: box.maxX + x, maxY: box.maxY + y };
  }
  const { outline, strokes } = placeLetter(letter);
  return bounds([...outline, ...strokes.map(({ points }) => points)]);
}

/** Where a block goes in the plan. */
export interface BlockPlace {
  readonly x: number;
  readonly y: number;
  /** Degrees, anticlockwise. */
  readonly turn: number;
  readonly mirror: boolean;
}

const MIDDLE: BlockPlace = { x: 0, y: 0, turn: 0, mirror: false };

/** A letter's outline, settled, and strokes in the plan, on the grid; in the block itself where no place is given. */
export function placeLetter(letter: SetLetter, place = MIDDLE): { outline: Outline; strokes: Stroke[] } {
  const put = compose(placement(place), placement(letter));
  const here = { ...put, e: snap(put.e), f: snap(put.f) };
  const moved = placeRings(letter.shape.outline, here);
  // Moved on the grid or turned by quarters a letter stays free of crossings; any other turn rounds its corners anew.
  const isExact = place.turn % 90 === 0 && letter.turn % 90 === 0;
  const outline = isExact ? moved : union(moved);
  return {
    outline,
    strokes: letter.shape.strokes.map(({ points, closed }) => ({
      points: snapPolyline(placePolyline(points, here), closed),
      closed,
    })),
  };
}
