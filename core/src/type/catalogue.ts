/** Proportions of a font's capitals, each in times the height of its I. */
export interface FontMeasures {
  /** Of capitals as texts are sized by. */
  readonly capitals: number;
  /** Width of the stroke of I, half-way up. */
  readonly stroke: number;
  /** Width of O. */
  readonly roundWidth: number;
}

/** What fonts there are, before any of them is loaded. */

export interface FontEntry {
  /** Stable name in sign documents: "barlow-semibold". */
  readonly id: string;
  readonly family: string;
  readonly style: string;
  /** The kind of letter, in the trade's words: "serif", "stencil", "single line" … */
  readonly class: string;
  /** Letters with an inside, or open strokes that a tool follows. */
  readonly kind: 'outline' | 'single-line';
  /** Path below the folder of fonts. */
  readonly file: string;
  /** Covered code points as first and last of each range in turn, ascending. */
  readonly coverage: readonly number[];
  /** Of its capitals, where they were measured: of fonts that come with the application, and have an I and an O. */
  readonly proportions?: FontMeasures;
}

/** Whether a font has a glyph of its own for the code point. */
export function covers(entry: FontEntry, codePoint: number): boolean {
  const { coverage } = entry;
  let low = 0;
  let high = coverage.length / 2;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (coverage[2 * middle + 1] < codePoint) low = middle + 1;
    else high = middle;
  }
  return 2 * low < coverage.length && coverage[2 * low] <= codePoint;
}

/** Sorted code points as first and last of each range in turn. */
export function ranges(codePoints: Iterable<number>): number[] {
  const out: number[] = [];
  for (const point of [...new Set(codePoints)].sort((a, b) => a - b)) {
    if (out.length > 0 && out[out.length - 1] === point - 1) out[out.length - 1] = point;
    else out.push(point, point);
  }
  return out;
}
