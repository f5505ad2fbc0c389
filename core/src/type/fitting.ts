import { type Box } from '../geometry/index.js';
import { breakLine } from './line-breaks.js';
import { lineInk, type LineMetrics, type LineShaper, type ShapedLine } from './shaped-line.js';
import { type LetterFont } from './letter-font.js';
import { type FitStep, type Measure, type TextChoice, type TextFrame } from './text-choice.js';

/** What a frame did to words, or that they do not fit it. */
export type Fitted =
  | { readonly kind: 'tighten'; readonly tracking: number }
  | { readonly kind: 'narrow' | 'reduce'; readonly percent: number }
  | { readonly kind: 'wrap'; readonly lines: number }
  /** How much what is seen is larger than the room in the frame, in mm. */
  | { readonly kind: 'too-large'; readonly across: number; readonly up: number };

/** Lines and measures of a block, ready to be set. */
export interface Layout {
  readonly lines: readonly ShapedLine[];
  readonly metrics: LineMetrics;
  /** In mm. */
  readonly capHeight: number;
  readonly step: number;
  /** In percent of the cap height, after fitting. */
  readonly tracking: number;
  readonly fitted: readonly Fitted[];
}

/** How far the ways of fitting have gone. */
interface Fit {
  readonly tracking: number;
  readonly narrow: number;
  readonly reduce: number;
  readonly wraps: boolean;
}

const ROOM = 1e-6;

/** The room inside the margins of a frame, in mm, never negative. */
export function roomIn(frame: TextFrame): { across: number; up: number } {
  const margin = (measure: Measure, side: number) => (measure.kind === 'length' ? measure.length : (measure.of / 100) * side);
  return {
    across: Math.max(0, frame.width - 2 * margin(frame.marginAcross, frame.width)),
    up: Math.max(0, frame.height - 2 * margin(frame.marginUp, frame.height)),
  };
}

/**
 * Finds lines, size and spacing of a block: its size as chosen, and in a frame only as much tighter, narrower, smaller or
 * more broken as the words need, in the frame's order.
 */
export function layOut(choice: TextChoice, lines: readonly string[], shaper: LineShaper): Layout {
  const fitter = new Fitter(choice, lines, shaper);
  return fitter.layout();
}

class Fitter {
  private readonly font: LetterFont;
  private readonly natural: { scaleX: number; scaleY: number };
  private readonly typed: readonly ShapedLine[];

  constructor(
    private readonly choice: TextChoice,
    private readonly words: readonly string[],
    private readonly shaper: LineShaper,
  ) {
    this.font = choice.font;
    let start = 0;
    this.typed = words.map((text) => {
      const line = shaper.shape(text, start);
      start += text.length + 1;
      return line;
    });
    this.natural = this.naturalScale();
  }

  layout(): Layout {
    const { frame } = this.choice;
    const unfitted: Fit = { tracking: this.choice.tracking, narrow: 1, reduce: 1, wraps: false };
    const fit = frame ? this.fitted(frame, unfitted) : unfitted;
    return { ...this.measured(fit), fitted: frame ? this.report(frame, unfitted, fit) : [] };
  }

  private fitted(frame: TextFrame, unfitted: Fit): Fit {
    let fit = unfitted;
    const done: FitStep[] = [];
    for (const step of frame.fit) {
      if (this.fits(frame, fit)) break;
      if (step.kind === 'wrap') {
        // Broken lines are shorter and more: they help where the words are too wide.
        if (this.over(frame, fit).across <= ROOM) continue;
        // Broken lines make room: what was done before is done again, only as far as it is still needed.
        fit = { ...unfitted, wraps: true };
        for (const before of done) if (!this.fits(frame, fit)) fit = this.taken(frame, fit, before);
      } else {
        fit = this.taken(frame, fit, step);
        done.push(step);
      }
    }
    return fit;
  }

  /**
   * One step taken as far as it is needed for what it helps, or to its floor: narrower letters and tighter ones make words shorter and not
   * lower.
   */
  private taken(frame: TextFrame, fit: Fit, step: FitStep): Fit {
    const at = (value: number): Fit => {
      switch (step.kind) {
        case 'tighten':
          return { ...fit, tracking: value };
        case 'narrow':
          return { ...fit, narrow: value };
        case 'reduce':
          return { ...fit, reduce: value };
        case 'wrap':
          return fit;
      }
    };
    if (step.kind === 'wrap') return fit;
    const isEnough = (tried: Fit): boolean =>
      step.kind === 'reduce' ? this.fits(frame, tried) : this.over(frame, tried).across <= ROOM;
    if (isEnough(fit)) return fit;
    const gentlest = step.kind === 'tighten' ? fit.tracking : 1;
    const floor = Math.min(gentlest, step.kind === 'tighten' ? step.floor : step.floor / 100);
    if (!isEnough(at(floor))) return at(floor);
    let [good, bad] = [floor, gentlest];
    for (let i = 0; i < 40; i++) {
      const middle = (good + bad) / 2;
      if (isEnough(at(middle))) good = middle;
      else bad = middle;
    }
    return at(good);
  }

  private fits(frame: TextFrame, fit: Fit): boolean {
    const over = this.over(frame, fit);
    return over.across <= ROOM && over.up <= ROOM;
  }

  private over(frame: TextFrame, fit: Fit): { across: number; up: number } {
    const room = roomIn(frame);
    const ink = inkOf(this.measured(fit));
    return { across: ink ? ink.maxX - ink.minX - room.across : 0, up: ink ? ink.maxY - ink.minY - room.up : 0 };
  }

  private report(frame: TextFrame, before: Fit, fit: Fit): Fitted[] {
    const out: Fitted[] = [];
    const { lines } = this.measured(fit);
    if (fit.tracking < before.tracking) out.push({ kind: 'tighten', tracking: fit.tracking });
    if (fit.narrow < 1) out.push({ kind: 'narrow', percent: fit.narrow * 100 });
    if (fit.reduce < 1) out.push({ kind: 'reduce', percent: fit.reduce * 100 });
    if (lines.length > this.typed.length) out.push({ kind: 'wrap', lines: lines.length });
    const over = this.over(frame, fit);
    if (over.across > ROOM || over.up > ROOM)
      out.push({ kind: 'too-large', across: Math.max(0, over.across), up: Math.max(0, over.up) });
    return out;
  }

  private measured(fit: Fit): Omit<Layout, 'fitted'> {
    const scaleY = this.natural.scaleY * fit.reduce;
    const scaleX = this.natural.scaleX * fit.reduce * fit.narrow;
    const sizes = this.sizes(scaleX, scaleY, fit.tracking, fit.reduce);
    const { frame } = this.choice;
    if (!fit.wraps || !frame) return { ...sizes, lines: this.typed };
    const most = frame.fit.find((step) => step.kind === 'wrap')?.lines ?? 1;
    const width = (line: ShapedLine): number => {
      const ink = lineInk(line, sizes.metrics);
      return ink ? ink.maxX - ink.minX : 0;
    };
    let start = 0;
    const lines = this.words.flatMap((text) => {
      const pieces = breakLine(text, most, roomIn(frame).across + ROOM, (from, to) =>
        width(this.shaper.shape(text.slice(from, to), start + from)),
      ).map(([from, to]) => this.shaper.shape(text.slice(from, to), start + from));
      start += text.length + 1;
      return pieces;
    });
    return { ...sizes, lines };
  }

  private sizes(scaleX: number, scaleY: number, tracking: number, byHand = 1): Omit<Layout, 'lines' | 'fitted'> {
    const capHeight = scaleY * this.font.capHeight;
    const { leading } = this.choice;
    return {
      // Tracking is stretched as the letters are.
      metrics: { scaleX, scaleY, tracking: (tracking / 100) * this.font.capHeight * scaleX, wordSpace: 0, byHand },
      capHeight,
      step: leading.kind === 'percent' ? (leading.of / 100) * capHeight : leading.length,
      tracking,
    };
  }

  /** The scale that the chosen size asks for. What is seen grows with it in proportion, but for what is given in mm. */
  private naturalScale(): { scaleX: number; scaleY: number } {
    const { size } = this.choice;
    const seen = (scaleX: number, scaleY: number) =>
      inkOf({ ...this.sizes(scaleX, scaleY, this.choice.tracking), lines: this.typed });
    const { capHeight, unitsPerEm } = this.font;
    switch (size.kind) {
      case 'capitals':
        return both(size.height / capHeight, size.stretch);
      case 'em':
        return both(size.size / unitsPerEm, size.stretch);
      case 'seen-width': {
        const scaleY = solve(size.width, size.width / (10 * capHeight), (scale) => {
          const { scaleX } = both(scale, size.stretch);
          return extent(seen(scaleX, scale), 'X');
        });
        return both(scaleY, size.stretch);
      }
      case 'seen-height': {
        const scaleY = solve(size.height, size.height / capHeight, (scale) => extent(seen(scale, scale), 'Y'));
        return both(scaleY, size.stretch);
      }
      case 'seen': {
        const scaleY = solve(size.height, size.height / capHeight, (scale) => extent(seen(scale, scale), 'Y'));
        const scaleX = solve(size.width, scaleY, (scale) => extent(seen(scale, scaleY), 'X'));
        return { scaleX, scaleY };
      }
    }
  }
}

const both = (scaleY: number, stretch: number) => ({ scaleX: (scaleY * stretch) / 100, scaleY });

const extent = (box: Box | undefined, axis: 'X' | 'Y'): number =>
  box ? (axis === 'X' ? box.maxX - box.minX : box.maxY - box.minY) : 0;

/** Sizes that words can have: a thousandth to ten thousand times the first guess. */
const WIDEST = 1e4;

/**
 * The scale at which a measure that grows with it reaches a value: secants, which are exact at once where it grows in
 * proportion. The first guess where nothing is seen.
 */
function solve(wanted: number, guess: number, measure: (scale: number) => number): number {
  let [a, fa] = [guess, measure(guess)];
  if (fa <= 0) return guess;
  let [b, fb] = [(guess * wanted) / fa, measure((guess * wanted) / fa)];
  for (let i = 0; i < 20 && Math.abs(fb - wanted) > 1e-9 && fb !== fa; i++) {
    const next = b + ((wanted - fb) * (b - a)) / (fb - fa);
    [a, fa] = [b, fb];
    b = Math.min(Math.max(next, guess / WIDEST), guess * WIDEST);
    fb = measure(b);
  }
  return b;
}

/** What is seen of all lines, each from its own middle, in mm: as wide as the widest, from the first cap line downwards. */
export function inkOf({ lines, metrics, step }: Pick<Layout, 'lines' | 'metrics' | 'step'>): Box | undefined {
  let box: Box | undefined;
  lines.forEach((line, index) => {
    const ink = lineInk(line, metrics);
    if (!ink) return;
    const half = (ink.maxX - ink.minX) / 2;
    const here = { minX: -half, maxX: half, minY: ink.minY - step * index, maxY: ink.maxY - step * index };
    box = box
      ? {
          minX: Math.min(box.minX, here.minX),
          maxX: Math.max(box.maxX, here.maxX),
          minY: Math.min(box.minY, here.minY),
          maxY: Math.max(box.maxY, here.maxY),
        }
      : here;
  });
  return box;
}
