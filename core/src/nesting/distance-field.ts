import { bounds, type Outline, squareToSegment } from '../geometry/index.js';
import { cellsOf } from './cover.js';

/** How far it is from an outline's edge at the middles of cells of a grid: outside more than 0, inside less, and no more than `reach` either way. */
export class DistanceField {
  private readonly values: Float32Array;
  private readonly columns: number;
  private readonly rows: number;
  private readonly x: number;
  private readonly y: number;

  /** All in mm. */
  constructor(
    outline: Outline,
    private readonly cell: number,
    private readonly reach: number,
  ) {
    const { minX, minY, maxX, maxY } = bounds(outline)!;
    const around = Math.ceil(reach / cell) + 1;
    [this.x, this.y] = [minX - around * cell, minY - around * cell];
    [this.columns, this.rows] = [Math.ceil((maxX - minX) / cell) + 2 * around, Math.ceil((maxY - minY) / cell) + 2 * around];
    const { columns, rows } = this;
    const squares = new Float32Array(columns * rows).fill(reach * reach);
    for (const ring of outline) for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) this.near(squares, ring[j], ring[j + 1], ring[i], ring[i + 1]); // prettier-ignore
    this.values = squares.map(Math.sqrt);
    const cells = cellsOf(outline, cell, [this.x, this.y]);
    const [column, row] = [Math.round((cells.x - this.x) / cell), Math.round((cells.y - this.y) / cell)];
    for (let k = 0; k < cells.runs.length; k += 3) {
      const base = (row + cells.runs[k]) * columns + column;
      for (let at = base + cells.runs[k + 1]; at <= base + cells.runs[k + 2]; at++) this.values[at] *= -1;
    }
  }

  /** Squares of distances from one side of the outline, where they are less than known. */
  private near(squares: Float32Array, ax: number, ay: number, bx: number, by: number): void {
    const { cell, reach, columns, rows } = this;
    const from = (least: number, corner: number): number => Math.max(0, Math.floor((least - reach - corner) / cell));
    const to = (most: number, corner: number, end: number): number =>
      Math.min(end - 1, Math.ceil((most + reach - corner) / cell));
    for (let row = from(Math.min(ay, by), this.y); row <= to(Math.max(ay, by), this.y, rows); row++) {
      const y = this.y + (row + 0.5) * cell;
      for (let column = from(Math.min(ax, bx), this.x); column <= to(Math.max(ax, bx), this.x, columns); column++) {
        const square = squareToSegment(ax, ay, bx, by, this.x + (column + 0.5) * cell, y);
        const at = row * columns + column;
        if (square < squares[at]) squares[at] = square;
      }
    }
  }

  /** The distance at a place, between those at middles of cells (bilinear). */
  at(px: number, py: number): number {
    const { columns, rows, values, cell, reach } = this;
    const [x, y] = [(px - this.x) / cell - 0.5, (py - this.y) / cell - 0.5];
    if (!(x >= 0 && y >= 0 && x < columns - 1 && y < rows - 1)) return reach;
    const [column, row] = [x | 0, y | 0];
    const [u, v] = [x - column, y - row];
    const at = row * columns + column;
    const low = values[at] + u * (values[at + 1] - values[at]);
    const high = values[at + columns] + u * (values[at + columns + 1] - values[at + columns]);
    return low + v * (high - low);
  }
}

/** Points along an outline's edges, no two beside each other farther apart than that: x and y in turn. */
export function pointsAlong(outline: Outline, apart: number): Float64Array {
  const points: number[] = [];
  for (const ring of outline) {
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const [dx, dy] = [ring[i] - ring[j], ring[i + 1] - ring[j + 1]];
      const count = Math.max(1, Math.ceil(Math.hypot(dx, dy) / apart));
      for (let k = 0; k < count; k++) points.push(ring[j] + (dx * k) / count, ring[j + 1] + (dy * k) / count);
    }
  }
  return Float64Array.from(points);
}
