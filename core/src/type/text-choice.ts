import { type LetterFont } from './letter-font.js';

/** How large words are. Stretch is the width of letters in percent of what the font makes them. */
export type TextSize =
  | { readonly kind: 'capitals'; readonly height: number; readonly stretch: number }
  | { readonly kind: 'em'; readonly size: number; readonly stretch: number }
  /** The overall width, or height, of what is seen; the other follows. */
  | { readonly kind: 'seen-width'; readonly width: number; readonly stretch: number }
  | { readonly kind: 'seen-height'; readonly height: number; readonly stretch: number }
  /** Both, so that letters become wide or narrow. */
  | { readonly kind: 'seen'; readonly width: number; readonly height: number };

/** From baseline to baseline: in percent of the cap height, or in mm. */
export type Leading = { readonly kind: 'percent'; readonly of: number } | { readonly kind: 'length'; readonly length: number };

export type Align = 'left' | 'centre' | 'right' | 'justified';

/** Alternates of the font, used where it has them. */
export interface TextFeatures {
  readonly ligatures: boolean;
  readonly smallCapitals: boolean;
  readonly oldStyleFigures: boolean;
}

export const PLAIN_FEATURES: TextFeatures = { ligatures: true, smallCapitals: false, oldStyleFigures: false };

/** What was set by hand on one letter. */
export interface LetterAdjustment {
  /** Index in the words (UTF-16, lines parted by one line feed) of the character. */
  readonly at: number;
  /** Extra space in mm to the next letter as one reads. */
  readonly kern?: number;
  /** Shift in mm along and above the baseline. */
  readonly x?: number;
  readonly y?: number;
  /** Degrees anticlockwise about the middle of what is seen of it. */
  readonly turn?: number;
  /** Size in percent. */
  readonly size?: number;
}

/** A length in mm, or percent of the frame's side. */
export type Measure = { readonly kind: 'length'; readonly length: number } | { readonly kind: 'percent'; readonly of: number };

/** One way of making words fit, with how far it may go. */
export type FitStep =
  /** Tracking down to this, in percent of the cap height. */
  | { readonly kind: 'tighten'; readonly floor: number }
  /** Letters as narrow as this, in percent of their width. */
  | { readonly kind: 'narrow'; readonly floor: number }
  /** Letters as small as this, in percent of their size. */
  | { readonly kind: 'reduce'; readonly floor: number }
  /** Lines broken between words, into at most so many for each line as it was typed. */
  | { readonly kind: 'wrap'; readonly lines: number };

/** A rectangle about the middle of the block that its words must fit. */
export interface TextFrame {
  readonly width: number;
  readonly height: number;
  readonly marginAcross: Measure;
  readonly marginUp: Measure;
  readonly upright: 'top' | 'middle' | 'bottom';
  /** In the order in which they are tried. */
  readonly fit: readonly FitStep[];
}

/** How a block of words is set. */
export interface TextChoice {
  /** Lines parted by line feeds. */
  readonly words: string;
  readonly font: LetterFont;
  readonly size: TextSize;
  /** Extra space between letters, in percent of the cap height, stretched as the letters are. */
  readonly tracking: number;
  readonly leading: Leading;
  readonly align: Align;
  readonly features?: TextFeatures;
  readonly letters?: readonly LetterAdjustment[];
  readonly frame?: TextFrame;
  readonly tolerance?: number;
}
