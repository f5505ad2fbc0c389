import {
  type Box,
  bounds,
  CHORD_TOLERANCE,
  join,
  joinBoxes,
  markLetter,
  type Outline,
  placement,
  placeRun,
  snap,
  snapRun,
  type Stroke,
} from '../outline/index.js';
import type { FontBook, GlyphShape } from './font-book.js';
import type { LetterFont } from './letter-font.js';
import { textRuns } from './runs.js';

/** How a block of words is set. */
export interface SettingChoice {
  /** Lines parted by line feeds. */
  readonly words: string;
  readonly font: LetterFont;
  /** Height of capitals in mm. */
  readonly capHeight: number;
  /** Extra space between letters, in percent of the cap height. */
  readonly tracking: number;
  /** From baseline to baseline, in percent of the cap height. */
  readonly leading: number;
  readonly align: 'left' | 'centre' | 'right';
  readonly tolerance?: number;
}

/** A letter (or ligature) in its place in the block. */
export interface SetLetter {
  readonly shape: GlyphShape;
  /** Origin of the glyph in the block, in mm, on the grid. */
  readonly x: number;
  readonly y: number;
  readonly line: number;
  /** Index in the line of the first character it stands for. */
  readonly cluster: number;
}

export interface SetBlock {
  readonly letters: readonly SetLetter[];
  /** What is seen of the letters, about the block's middle; missing where nothing is seen. */
  readonly ink?: Box;
  /** From the first line's capitals to the last baseline, as wide as what is seen. */
  readonly capBox: Box;
  /** Baselines from the top, in the block. */
  readonly baselines: readonly number[];
  /** Characters the font lacks, each once; a space stands in their place. */
  readonly missing: readonly string[];
}

/** Characters that steer shaping and need no glyph. */
const UNSEEN = /[\p{Cc}\p{Cf}\p{Default_Ignorable_Code_Point}]/u;

/**
 * Sets words about the middle of the block: x = 0 is the middle, left or right edge of **what is seen** of every line (by
 * `align`), y = 0 the middle between the top of the first line's capitals and the last baseline, so that a descender or
 * an accent moves nothing.
 */
export function setBlock(book: FontBook, choice: SettingChoice): SetBlock {
  const { font, capHeight } = choice;
  const tolerance = choice.tolerance ?? CHORD_TOLERANCE;
  const scale = capHeight / font.capHeight;
  const missing = new Set<string>();
  const lines = choice.words.split(/\r\n|\r|\n/u).map((line) => withoutMissing(line, font, missing));
  const step = (choice.leading / 100) * capHeight;
  const top = (capHeight + step * (lines.length - 1)) / 2;

  const letters: SetLetter[] = [];
  const baselines: number[] = [];
  let ink: Box | undefined;
  lines.forEach((line, index) => {
    const y = snap(top - capHeight - step * index);
    baselines.push(y);
    const glyphs = setLine(line, choice, scale).map((g) => ({ ...g, shape: book.glyph(font, g.glyph, scale, tolerance) }));
    let seen: Box | undefined;
    for (const { shape, x, dy } of glyphs) seen = joinBoxes(seen, moved(shapeBounds(shape), x, y + dy));
    if (!seen) return;
    const anchor = { left: seen.minX, centre: (seen.minX + seen.maxX) / 2, right: seen.maxX }[choice.align];
    for (const { shape, x, dy, cluster } of glyphs) {
      if (shape.outline.length + shape.strokes.length === 0) continue;
      const at = { x: snap(x - anchor), y: snap(y + dy) };
      letters.push({ shape, ...at, line: index, cluster });
      ink = joinBoxes(ink, moved(shapeBounds(shape), at.x, at.y));
    }
  });
  const [minX, maxX] = ink ? [ink.minX, ink.maxX] : [0, 0];
  return {
    letters,
    ink,
    capBox: { minX, maxX, minY: baselines[baselines.length - 1], maxY: top },
    baselines,
    missing: [...missing],
  };
}

function withoutMissing(line: string, font: LetterFont, missing: Set<string>): string {
  let out = '';
  for (const character of line.normalize('NFC')) {
    if (character === '\t') out += ' ';
    else if (UNSEEN.test(character) || font.covers(character.codePointAt(0)!)) out += character;
    else {
      missing.add(character);
      out += ' '.repeat(character.length);
    }
  }
  return out;
}

interface LineGlyph {
  readonly glyph: number;
  /** From the line's start, in mm. */
  readonly x: number;
  /** Above the baseline, in mm. */
  readonly dy: number;
  readonly cluster: number;
}

/** Glyphs of one line from left to right. */
function setLine(line: string, { font, tracking, capHeight }: SettingChoice, scale: number): LineGlyph[] {
  const out: LineGlyph[] = [];
  const space = (tracking / 100) * capHeight;
  let pen = 0;
  for (const run of textRuns(line)) {
    const shaped = font.shape(run.text, { rightToLeft: run.rightToLeft, script: run.script, ligatures: tracking === 0 });
    shaped.forEach((g, i) => {
      out.push({ glyph: g.glyph, x: pen + g.dx * scale, dy: g.dy * scale, cluster: run.start + g.cluster });
      pen += g.advance * scale;
      // Marks share the cluster of their letter: the space comes after the last of them.
      if (shaped[i + 1]?.cluster !== g.cluster) pen += space;
    });
  }
  return out;
}

/** Width in mm from the first letter's origin to the end of the last advance, as shaped. */
export function advanceWidth(choice: Omit<SettingChoice, 'leading' | 'align'>, line: string): number {
  const scale = choice.capHeight / choice.font.capHeight;
  let sum = 0;
  for (const run of textRuns(line)) {
    const shaped = choice.font.shape(run.text, { rightToLeft: run.rightToLeft, script: run.script, ligatures: true });
    for (const { advance } of shaped) sum += advance * scale;
  }
  return sum;
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

const moved = (box: Box | undefined, x: number, y: number): Box | undefined =>
  box && { minX: box.minX + x, minY: box.minY + y, maxX: box.maxX + x, maxY: box.maxY + y };

/** Where a block goes in the plan. */
export interface BlockPlace {
  readonly x: number;
  readonly y: number;
  /** Degrees, anticlockwise. */
  readonly turn: number;
  readonly mirror: boolean;
}

/** A letter's outline and strokes in the plan, on the grid. */
export function placeLetter(letter: SetLetter, place: BlockPlace): { outline: Outline; strokes: Stroke[] } {
  const put = placement(place);
  const [cx, cy] = [snap(put.a * letter.x + put.c * letter.y + put.e), snap(put.b * letter.x + put.d * letter.y + put.f)];
  const here = { ...put, e: cx, f: cy };
  const moved = letter.shape.outline.map((contour) => snapRun(placeRun(contour, here), true));
  // Moved on the grid or turned by quarters a letter stays free of crossings; any other turn rounds its corners anew.
  const outline = place.turn % 90 === 0 ? moved : join(moved);
  markLetter(outline);
  return {
    outline,
    strokes: letter.shape.strokes.map(({ points, closed }) => ({
      points: snapRun(placeRun(points, here), closed),
      closed,
    })),
  };
}
