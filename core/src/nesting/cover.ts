import { offset } from '../arrangement/index.js';
import { bounds, type Contour, type Outline, simplified } from '../geometry/index.js';

/** How far, in cells, a place inside a cell may be from its middle. */
const CORNER = Math.SQRT1_2;
/** mm by which grown outlines may leave the curve that they stand for; they are grown by as much more. */
const TOLERANCE = 0.02;

/** The cells that an outline comes near to, as runs along rows: row, first and last column in turn. */
export interface Cover {
  readonly columns: number;
  readonly rows: number;
  readonly runs: Int32Array;
  /** Where the lower left corner of the first cell is, in the outline's coordinates. */
  readonly x: number;
  readonly y: number;
}

/** An outline grown by so many mm to all sides, but for {@link TOLERANCE}: of fewer points, since those of drawings may be thousands. */
export function grownBy(outline: Outline, by: number): Outline {
  const fewer = outline.map((ring) => Float64Array.from(simplified(ring, TOLERANCE))).filter((ring) => ring.length >= 6);
  return offset(fewer.length > 0 ? fewer : outline, by, TOLERANCE);
}

/** What {@link coverOf} asks for: an outline grown so far that its cells are all that it comes near to. @param near mm */
export const grownNear = (outline: Outline, cell: number, near: number): Outline =>
  grownBy(outline, near + CORNER * cell + 2 * TOLERANCE);

/**
 * Every cell of a grid whose middle is within `near` mm and half a diagonal of an outline's inside. Two outlines whose covers share no cell
 * are at least 2 · near apart: of two places nearer than that the middle is in a cell of both.
 * @param grown the outline by {@link grownNear}
 * @param corner a place, in the outline's coordinates, at which corners of cells lie
 */
export function coverOf(grown: Outline, cell: number, corner: readonly [number, number]): Cover {
  const cover = cellsOf(grown, cell, corner);
  const { runs } = cover;
  const order = Array.from({ length: runs.length / 3 }, (_, i) => 3 * i);
  // Long ones meet something soonest, and tell how far it is to go on.
  order.sort((a, b) => runs[b + 2] - runs[b + 1] - (runs[a + 2] - runs[a + 1]));
  return { ...cover, runs: Int32Array.from(order.flatMap((at) => [runs[at], runs[at + 1], runs[at + 2]])) };
}

/** Every cell of a grid whose middle is inside of an outline, row by row from below. @param corner as of {@link coverOf} */
export function cellsOf(outline: Outline, cell: number, [px, py]: readonly [number, number]): Cover {
  const box = bounds(outline)!;
  const [x, y] = [px + Math.floor((box.minX - px) / cell) * cell, py + Math.floor((box.minY - py) / cell) * cell];
  const columns = Math.ceil((box.maxX - x) / cell) + 1;
  const rows = Math.ceil((box.maxY - y) / cell) + 1;
  const crossings: number[][] = Array.from({ length: rows }, () => []);
  for (const ring of outline) cross(ring, x, y, cell, crossings);
  const runs: number[] = [];
  crossings.forEach((row, j) => {
    row.sort((a, b) => a - b);
    for (let k = 0; k + 1 < row.length; k += 2) {
      const [from, to] = [Math.max(0, Math.ceil(row[k] - 0.5)), Math.min(columns - 1, Math.floor(row[k + 1] - 0.5))];
      if (to >= from) runs.push(j, from, to);
    }
  });
  return { columns, rows, runs: Int32Array.from(runs), x, y };
}

/** Where a ring crosses the middles of rows, in cells. */
function cross(ring: Contour, x: number, y: number, cell: number, crossings: number[][]): void {
  const n = ring.length;
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
    const [ax, ay, bx, by] = [(ring[j] - x) / cell, (ring[j + 1] - y) / cell, (ring[i] - x) / cell, (ring[i + 1] - y) / cell];
    const [low, high] = ay < by ? [ay, by] : [by, ay];
    for (let row = Math.max(0, Math.ceil(low - 0.5)); row + 0.5 < high && row < crossings.length; row++)
      crossings[row].push(ax + ((row + 0.5 - ay) / (by - ay)) * (bx - ax));
  }
}
