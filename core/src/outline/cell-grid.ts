import { Cells } from './cells.js';
import type { PointSet } from './points.js';

const SEGMENTS_PER_CELL = 1;
/** Grid steps by which rounding may lead a segment aside. */
const MARGIN = 1;

/** The box around segments between numbered points. */
export function boxOfSegments({ x, y }: PointSet, from: ArrayLike<number>, to: ArrayLike<number>) {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let s = 0; s < from.length; s++) {
    for (let p = from[s], k = 0; k < 2; k++, p = to[s]) {
      if (x[p] < minX) minX = x[p];
      if (x[p] > maxX) maxX = x[p];
      if (y[p] < minY) minY = y[p];
      if (y[p] > maxY) maxY = y[p];
    }
  }
  return from.length > 0 ? { minX, minY, maxX, maxY } : { minX: 0, minY: 0, maxX: 0, maxY: 0 };
}

/** Cells with the segments that run through each. */
export class CellGrid {
  private readonly cells: Cells;
  /** Segments of each cell, one cell after the other. */
  private readonly start: Int32Array;
  private readonly members: Int32Array;

  constructor(
    private readonly points: PointSet,
    from: number[],
    to: number[],
  ) {
    const { x, y } = points;
    const n = from.length;
    const box = boxOfSegments(points, from, to);
    const [width, height] = [box.maxX - box.minX + 1, box.maxY - box.minY + 1];
    const cell = Math.max(64, Math.sqrt((width * height * SEGMENTS_PER_CELL) / Math.max(1, n)), Math.max(width, height) / 4096);
    this.cells = new Cells(box, cell, MARGIN);
    const { columns, rows } = this.cells;
    const along = (s: number, visit: (cell: number) => void) =>
      this.cells.along(x[from[s]], y[from[s]], x[to[s]], y[to[s]], visit);
    // Count, sum up, fill.
    this.start = new Int32Array(columns * rows + 1);
    for (let s = 0; s < n; s++) along(s, (c) => this.start[c + 1]++);
    for (let c = 0; c < columns * rows; c++) this.start[c + 1] += this.start[c];
    this.members = new Int32Array(this.start[columns * rows]);
    const fill = this.start.slice(0, -1);
    for (let s = 0; s < n; s++) along(s, (c) => (this.members[fill[c]++] = s));
  }

  /** Calls `meet` for every two segments that share a cell. */
  forEachPair(meet: (s: number, t: number) => void): void {
    const { start, members } = this;
    for (let c = 0; c + 1 < start.length; c++) {
      for (let i = start[c]; i < start[c + 1]; i++) {
        for (let j = i + 1; j < start[c + 1]; j++) meet(members[i], members[j]);
      }
    }
  }

  /** Calls `meet` for every segment and every point whose square lies in, or reaches into, a cell that the segment runs through. */
  forEachPoint(meet: (s: number, p: number) => void): void {
    const { points, start, members, cells } = this;
    const { x, y } = points;
    for (let p = 0; p < points.size; p++) {
      const column1 = cells.columnOf(x[p] + 1);
      const row1 = cells.rowOf(y[p] + 1);
      for (let row = cells.rowOf(y[p] - 1); row <= row1; row++) {
        for (let column = cells.columnOf(x[p] - 1); column <= column1; column++) {
          const c = row * cells.columns + column;
          for (let i = start[c]; i < start[c + 1]; i++) meet(members[i], p);
        }
      }
    }
  }
}
