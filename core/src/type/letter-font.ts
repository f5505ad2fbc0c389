import { type PathCommand } from '../geometry/index.js';

/** A glyph in its place on the baseline of one run, in font units. */
export interface ShapedGlyph {
  readonly glyph: number;
  /** Index in the shaped text of the first character that the glyph stands for. */
  readonly cluster: number;
  readonly advance: number;
  readonly dx: number;
  readonly dy: number;
}

export interface ShapingChoice {
  readonly rightToLeft: boolean;
  /** ISO 15924 tag such as "Latn" or "Arab". */
  readonly script: string;
  /** OpenType features by tag, on or off; others are as the font has them. */
  readonly features: Readonly<Record<string, boolean>>;
}

/** A loaded font of either kind, in font units with y up. */
export interface LetterFont {
  readonly id: string;
  readonly kind: 'outline' | 'single-line';
  readonly unitsPerEm: number;
  /** Height of the letter that {@link capLetter} names, measured on its outline. */
  readonly capHeight: number;
  /** H, or in a font without Latin capitals a letter of its own script that stands at full height. */
  readonly capLetter: string;
  /** OpenType features that substitute glyphs, by tag. */
  readonly features: ReadonlySet<string>;
  covers(codePoint: number): boolean;
  /** Glyphs of one run of one script and direction, in visual order from left to right. */
  shape(text: string, choice: ShapingChoice): ShapedGlyph[];
  glyphPath(glyph: number): readonly PathCommand[];
  /** How far a glyph takes the pen on by itself, without kerning. */
  advanceOf(glyph: number): number;
}

/** Thrown where a file is not a font that can be used. */
export class FontError extends Error {
  constructor(
    readonly font: string,
    reason: string,
  ) {
    super(`The font “${font}” cannot be used: ${reason}.`);
    this.name = 'FontError';
  }
}

/** Letters to measure the height of capitals on, the first that the font has. */
export const CAP_LETTERS = ['H', 'ה', 'ا', 'क'] as const;

/** Height of a path above the baseline, from its corner and end points (flat-topped letters have no others). */
export function heightOf(path: readonly PathCommand[]): number {
  let top = 0;
  for (const command of path) if (command.kind !== 'close') top = Math.max(top, command.y);
  return top;
}
