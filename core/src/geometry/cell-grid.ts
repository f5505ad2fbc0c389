import { Cells } from './cells.js';
import { type PointSet } from './points.js';

/** How much finer than one cell a segment a grid may be, in each direction. */
const FINER = 4;
/** With more segments than this in a cell those that lie beside each other are found first. */
const CROWD = 24;
/** Grid steps by which rounding may lead a segment aside. */
const MARGIN = 1;

/** The box around segments between numbered points. */
export function boxOfSegments({ x, y }: Pick<PointSet, 'x' | 'y'>, from: ArrayLike<number>, to: ArrayLike<number>) {
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

function meanLength({ x, y }: PointSet, from: ArrayLike<number>, to: ArrayLike<number>): number {
  let sum = 0;
  for (let s = 0; s < from.length; s++) sum += Math.abs(x[to[s]] - x[from[s]]) + Math.abs(y[to[s]] - y[from[s]]);
  return sum / Math.max(1, from.length);
}

/** Cells with the segments that run through each. */
export class CellGrid {
  private readonly cells: Cells;
  /** Segments of each cell, one cell after the other. */
  private readonly start: Int32Array;
  private readonly members: Int32Array;

  constructor(
    private readonly points: PointSet,
    private readonly from: number[],
    private readonly to: number[],
  ) {
    const { x, y } = points;
    const n = from.length;
    const box = boxOfSegments(points, from, to);
    const [width, height] = [box.maxX - box.minX + 1, box.maxY - box.minY + 1];
    // As many cells as segments, or more where those are short and lie in heaps.
    const even = Math.sqrt((width * height) / Math.max(1, n));
    const cell = Math.max(
      64,
      Math.min(even, Math.max(meanLength(points, from, to), even / FINER)),
      Math.max(width, height) / 4096,
    );
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

  /** Calls `meet` for every two segments that share a cell and of which one at least is fresh. */
  forEachPair(fresh: Uint8Array, meet: (s: number, t: number) => void): void {
    const { start, members } = this;
    for (let c = 0; c + 1 < start.length; c++) {
      const [from, to] = [start[c], start[c + 1]];
      let some = from;
      while (some < to && fresh[members[some]] === 0) some++;
      if (some === to) continue;
      if (to - from > CROWD) {
        this.forEachPairAmong(members.slice(from, to), fresh, meet);
        continue;
      }
      for (let i = from; i < to; i++) {
        const s = members[i];
        for (let j = i + 1; j < to; j++) if (fresh[s] || fresh[members[j]]) meet(s, members[j]);
      }
    }
  }

  /** The same for a crowd of segments in one cell: from left to right, those that lie beside each other. */
  private forEachPairAmong(crowd: Int32Array, fresh: Uint8Array, meet: (s: number, t: number) => void): void {
    const { least, most } = this;
    crowd.sort((s, t) => least(s) - least(t));
    for (let i = 0; i < crowd.length; i++) {
      const s = crowd[i];
      const end = most(s);
      for (let j = i + 1; j < crowd.length && least(crowd[j]) <= end; j++) if (fresh[s] || fresh[crowd[j]]) meet(s, crowd[j]);
    }
  }

  private readonly least = (s: number): number => Math.min(this.points.x[this.from[s]], this.points.x[this.to[s]]);
  private readonly most = (s: number): number => Math.max(this.points.x[this.from[s]], this.points.x[this.to[s]]);

  /** Calls `meet` for every segment and every point whose square lies in, or reaches into, a cell that the segment runs through. */
  forEachPoint(meet: (s: number, p: number) => void): void {
    const { points, start, members, cells, least, most } = this;
    const { x, y } = points;
    /** Members of crowded cells from left to right, with how far to the right those up to each reach. */
    const sorted = new Map<number, { readonly crowd: Int32Array; readonly ends: Float64Array }>();
    const sortedCell = (c: number) => {
      let known = sorted.get(c);
      if (known) return known;
      const crowd = members.slice(start[c], start[c + 1]).sort((s, t) => least(s) - least(t));
      const ends = new Float64Array(crowd.length);
      let end = -Infinity;
      crowd.forEach((s, i) => (ends[i] = end = Math.max(end, most(s))));
      sorted.set(c, (known = { crowd, ends }));
      return known;
    };
    for (let p = 0; p < points.size; p++) {
      const column1 = cells.columnOf(x[p] + 1);
      const row1 = cells.rowOf(y[p] + 1);
      for (let row = cells.rowOf(y[p] - 1); row <= row1; row++) {
        for (let column = cells.columnOf(x[p] - 1); column <= column1; column++) {
          const c = row * cells.columns + column;
          if (start[c + 1] - start[c] <= CROWD) {
            for (let i = start[c]; i < start[c + 1]; i++) meet(members[i], p);
            continue;
          }
          const { crowd, ends } = sortedCell(c);
          // The last that begins left of the point, and from there back to where none reaches it any more.
          let [low, high] = [0, crowd.length];
          while (low < high) {
            const middle = (low + high) >> 1;
            if (least(crowd[middle]) <= x[p] + 1) low = middle + 1;
            else high = middle;
          }
          for (let i = low - 1; i >= 0 && ends[i] >= x[p] - 1; i--) if (most(crowd[i]) >= x[p] - 1) meet(crowd[i], p);
        }
      }
    }
  }
}
