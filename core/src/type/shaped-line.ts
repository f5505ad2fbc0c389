import { type Box } from '../geometry/index.js';
import { type FontBook } from './font-book.js';
import { type LetterFont } from './letter-font.js';
import { textRuns } from './runs.js';
import { type LetterAdjustment, PLAIN_FEATURES, type TextChoice } from './text-choice.js';

/** A glyph of a line from left to right, in font units, with what was set by hand on its letter. */
export interface LineGlyph {
  readonly glyph: number;
  readonly advance: number;
  readonly dx: number;
  readonly dy: number;
  /** Index in the words of the first character it stands for. */
  readonly at: number;
  /** The next glyph on the right belongs to another letter, and this one to one that is seen. */
  readonly isLast: boolean;
  /** A space: no letter, and where justified lines give. */
  readonly isSpace: boolean;
  /** Whether its script joins letters, so that they may touch. */
  readonly isJoining: boolean;
  /** Extra space by hand on its right, in mm. */
  readonly kern: number;
  readonly adjustment?: LetterAdjustment;
  /** What is seen, about its origin; undefined for a space. */
  readonly ink?: Box;
}

/** A line as HarfBuzz shaped it, before any size is known. */
export interface ShapedLine {
  readonly text: string;
  /** Index of its first character in the words. */
  readonly start: number;
  readonly glyphs: readonly LineGlyph[];
}

/** Characters that steer shaping and need no glyph. */
export const UNSEEN = /[\p{Cc}\p{Cf}\p{Default_Ignorable_Code_Point}]/u;
const JOINING = new Set(['Arab', 'Deva']);

/** Shapes lines of one choice, each different text once. */
export class LineShaper {
  private readonly known = new Map<string, ShapedLine>();
  private readonly adjustments: ReadonlyMap<number, LetterAdjustment>;
  private readonly font: LetterFont;

  constructor(
    private readonly book: FontBook,
    private readonly choice: TextChoice,
  ) {
    this.font = choice.font;
    this.adjustments = new Map((choice.letters ?? []).map((each) => [each.at, each]));
  }

  shape(text: string, start: number): ShapedLine {
    const key = `${start} ${text}`;
    let line = this.known.get(key);
    if (!line) this.known.set(key, (line = { text, start, glyphs: this.glyphs(text, start) }));
    return line;
  }

  private glyphs(text: string, start: number): LineGlyph[] {
    const { choice, font } = this;
    const features = choice.features ?? PLAIN_FEATURES;
    const tags: Record<string, boolean> = {};
    // Letters set apart are no ligatures.
    if (choice.tracking !== 0 || !features.ligatures) Object.assign(tags, { liga: false, clig: false, dlig: false });
    if (features.smallCapitals) tags.smcp = true;
    if (features.oldStyleFigures) tags.onum = true;
    const joinsByFont = this.book.entry(font.id)?.class === 'script';
    const out: LineGlyph[] = [];
    for (const run of textRuns(text)) {
      const shaped = font.shape(run.text, { rightToLeft: run.rightToLeft, script: run.script, features: tags });
      shaped.forEach((g, i) => {
        const at = start + run.start + g.cluster;
        const next = shaped[i + 1];
        const character = run.text.charAt(g.cluster);
        const isLast = next?.cluster !== g.cluster && !UNSEEN.test(character);
        // Space by hand belongs to the letter that is read first, which from right to left is the one on the right.
        const giver = run.rightToLeft && next ? start + run.start + next.cluster : at;
        const adjustment = this.adjustments.get(at);
        out.push({
          ...g,
          at,
          isLast,
          isSpace: /^\s$/u.test(character),
          isJoining: joinsByFont || JOINING.has(run.script),
          kern: isLast ? (this.adjustments.get(giver)?.kern ?? 0) : 0,
          adjustment,
          ink: this.book.extents(font, g.glyph),
        });
      });
    }
    return out;
  }
}

/** What turns a shaped line into millimetres. */
export interface LineMetrics {
  /** mm a font unit, across and up. */
  readonly scaleX: number;
  readonly scaleY: number;
  /** Extra space between letters in mm. */
  readonly tracking: number;
  /** Extra space at every space, in mm. */
  readonly wordSpace: number;
  /** Factor on what was set by hand in mm. */
  readonly byHand: number;
}

/** Origins of the glyphs in mm from the line's start, and where the pen ends. */
export function pens(line: ShapedLine, { scaleX, tracking, wordSpace, byHand }: LineMetrics): { x: number[]; end: number } {
  let pen = 0;
  const x = line.glyphs.map((g) => {
    const here = pen + g.dx * scaleX;
    pen += g.advance * scaleX * ((g.adjustment?.size ?? 100) / 100);
    // Marks share the cluster of their letter: the space comes after the last of them.
    if (g.isLast) pen += tracking + g.kern * byHand + (g.isSpace ? wordSpace : 0);
    return here;
  });
  return { x, end: pen };
}

/** What is seen of a line, in mm about its start and its baseline; shifts and turns by hand are left out of account. */
export function lineInk(line: ShapedLine, metrics: LineMetrics): Box | undefined {
  const { x } = pens(line, metrics);
  let box: Box | undefined;
  line.glyphs.forEach(({ ink, dy, adjustment }, i) => {
    if (!ink) return;
    const size = (adjustment?.size ?? 100) / 100;
    const [sx, sy] = [metrics.scaleX * size, metrics.scaleY * size];
    const up = dy * metrics.scaleY;
    const here = { minX: x[i] + ink.minX * sx, maxX: x[i] + ink.maxX * sx, minY: up + ink.minY * sy, maxY: up + ink.maxY * sy };
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
