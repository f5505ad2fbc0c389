import { dotsOf, linesOf } from './cells.js';

/** Distances of braille in mm. */
export interface BrailleSizes {
  /** Diameter of a dot at its base. */
  readonly base: number;
  /** From a dot to its neighbour in the cell. */
  readonly dots: number;
  /** From a dot to the same one of the next cell. */
  readonly cells: number;
  /** From a dot to the same one of the next line. */
  readonly lines: number;
}

/** Within 2010 ADA Standards for Accessible Design, table 703.3.1 (from memory). */
export const USUAL_BRAILLE = { base: 1.6, height: 0.7, dots: 2.4, cells: 6.2, lines: 10.1 } as const;

/** A dot in its place, in mm, and which of its line, cell and the cell's columns and rows it is. */
export interface PlacedDot {
  readonly x: number;
  readonly y: number;
  readonly line: number;
  readonly cell: number;
  readonly column: number;
  readonly row: number;
}

export interface BrailleLayout {
  /** Middles of dots, in mm. */
  readonly dots: readonly PlacedDot[];
  /** Cells of every line. */
  readonly lines: readonly string[];
}

/** How wide a line of so many cells is, from the left of its first to the right of its last dots. */
export const lineWidth = (count: number, { base, dots, cells }: BrailleSizes): number =>
  count === 0 ? 0 : (count - 1) * cells + dots + base;

/**
 * Where dots are. The middle row of the first line is at y = 0; the sides of dots are at x = 0 of what is aligned to the left or right.
 * @param room mm that lines may be wide; lines are broken between words
 */
export function brailleLayout(
  cells: string,
  sizes: BrailleSizes,
  align: 'left' | 'centre' | 'right',
  room = Infinity,
): BrailleLayout {
  const most = Math.max(1, Math.floor((room - sizes.dots - sizes.base) / sizes.cells + 1 + 1e-9));
  const lines = linesOf(cells, most);
  const dots = lines.flatMap((line, i) => {
    const width = lineWidth(line.length, sizes);
    const left = (align === 'left' ? 0 : align === 'right' ? -width : -width / 2) + sizes.base / 2;
    return [...line].flatMap((cell, at) =>
      dotsOf(cell).map(([column, row]) => ({
        x: left + at * sizes.cells + column * sizes.dots,
        y: (1 - row) * sizes.dots - i * sizes.lines,
        line: i,
        cell: at,
        column,
        row,
      })),
    );
  });
  return { dots, lines };
}

/** How far a ball that is pressed into a hole stands out of it, and how wide it is where it does. */
export const ballCap = (diameter: number, depth: number): { readonly height: number; readonly base: number } => {
  const height = Math.max(0, diameter - depth);
  return { height, base: height >= diameter / 2 ? diameter : 2 * Math.sqrt(height * (diameter - height)) };
};
