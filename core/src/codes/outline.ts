import { type Contour } from '../geometry/index.js';
import { type CodeSymbol } from './symbol.js';

/** mm of a module, and of bars along. */
export interface CodeSize {
  readonly module: number;
  readonly height: number;
}

/** How large a code is without its quiet zone, in mm. */
export function extentOfCode(
  { columns, rows }: Pick<CodeSymbol, 'columns' | 'rows'>,
  { module, height }: CodeSize,
): { width: number; height: number } {
  return { width: columns * module, height: rows === 1 ? height : rows * module };
}

/**
 * Rings about dark modules, which lie on their left, about the middle of the code; modules that touch in a corner alone are apart.
 * @param quiet modules of the ground around: given, the rings are about that ground instead, with the dark modules as holes
 */
export function outlineOfCode(
  symbol: CodeSymbol,
  size: CodeSize,
  quiet?: { readonly before: number; readonly after: number; readonly along: number },
): Contour[] {
  const { columns, rows, dark } = symbol;
  const { width, height } = extentOfCode(symbol, size);
  const [across, up] = [width / columns, height / rows];
  const { before = 0, after = 0, along = 0 } = quiet ?? {};
  const [all, high] = [columns + before + after, rows + 2 * along];
  const isIn = (column: number, row: number): boolean => {
    if (column < 0 || row < 0 || column >= all || row >= high) return false;
    const [c, r] = [column - before, row - along];
    const isDark = c >= 0 && r >= 0 && c < columns && r < rows && dark[r * columns + c] === 1;
    return isDark === (quiet === undefined);
  };
  return tracedRings(isIn, all, high).map((ring) =>
    Float64Array.from(ring, (at, i) => (i % 2 === 0 ? (at - before) * across - width / 2 : height / 2 - (at - along) * up)),
  );
}

/** Directions along edges with what is inside on the left, rows running down: east, north, west, south. */
const STEPS = [[1, 0], [0, -1], [-1, 0], [0, 1]] as const; // prettier-ignore

/** The corners of edges between what is inside and what is not; where four meet it turns left, and stays with its own square. */
function tracedRings(isIn: (column: number, row: number) => boolean, columns: number, rows: number): number[][] {
  /** Directions that leave a corner, as bits. */
  const leaving = new Uint8Array((columns + 1) * (rows + 1));
  const at = (x: number, y: number): number => y * (columns + 1) + x;
  for (let y = 0; y < rows; y++)
    for (let x = 0; x < columns; x++) {
      if (!isIn(x, y)) continue;
      if (!isIn(x, y + 1)) leaving[at(x, y + 1)] |= 1;
      if (!isIn(x + 1, y)) leaving[at(x + 1, y + 1)] |= 2;
      if (!isIn(x, y - 1)) leaving[at(x + 1, y)] |= 4;
      if (!isIn(x - 1, y)) leaving[at(x, y)] |= 8;
    }
  const rings: number[][] = [];
  for (let start = 0; start < leaving.length; start++) {
    while (leaving[start] > 0) rings.push(tracedFrom(start, leaving, columns + 1));
  }
  return rings;
}

function tracedFrom(start: number, leaving: Uint8Array, wide: number): number[] {
  const ring: number[] = [];
  const first = Math.log2(leaving[start] & -leaving[start]);
  let [here, direction, last] = [start, first, -1];
  do {
    if (direction !== last) ring.push(here % wide, Math.floor(here / wide));
    leaving[here] &= ~(1 << direction);
    const [dx, dy] = STEPS[direction];
    here += dx + dy * wide;
    last = direction;
    // Left, straight on, right.
    direction = [1, 0, 3].map((turn) => (last + turn) % 4).find((way) => leaving[here] & (1 << way)) ?? first;
  } while (here !== start || leaving[here] & (1 << ((last + 1) % 4)));
  if (last === first) ring.splice(0, 2);
  return ring;
}
