import { type LabelledEdges } from './arrangement.js';
import { boxOfSegments, Cells, type Contour, STEPS_PER_MM } from '../geometry/index.js';

/** Cells along the longer side of a plan. */
const CELLS = 512;
/** Grid steps by which an edge may have been bent, and by which a cell counts as touched beside it. */
const MARGIN = 4;
const SMALLEST = 64;

/**
 * Which cells of a plan some of its places lie in or touch: tells what lies apart from them, at the price of a look at a table. What it
 * says to lie apart does; what lies within a cell's width of a place may be told to touch it.
 */
export class TouchedCells {
  private readonly box: ReturnType<typeof boxOfSegments>;
  private readonly cells: Cells;
  /** By cell, how many of those above and left of it are touched; a row and a column more than there are cells. */
  private readonly sums: Int32Array;

  /** @param isIn whether a label is one of the places */
  constructor(edges: LabelledEdges, isIn: (label: number) => boolean) {
    const { x, y, lo, hi, left, right } = edges;
    const box = boxOfSegments(edges, lo, hi);
    this.box = box;
    const size = Math.max(box.maxX - box.minX, box.maxY - box.minY) / CELLS;
    this.cells = new Cells(box, Math.max(SMALLEST, size), MARGIN);
    const { columns, rows, cell } = this.cells;
    const touched = new Uint8Array(columns * rows);
    /** By row, where borders of the places cross its middle. */
    const crossed: number[][] = Array.from({ length: rows }, () => []);
    const middleOf = (row: number): number => box.minY - MARGIN + (row + 0.5) * cell;
    for (let e = 0; e < lo.length; e++) {
      if (isIn(left[e]) === isIn(right[e])) continue;
      const [ax, ay, bx, by] = [x[lo[e]], y[lo[e]], x[hi[e]], y[hi[e]]];
      this.cells.along(ax, ay, bx, by, (c) => (touched[c] = 1));
      const [low, high] = [Math.min(ay, by), Math.max(ay, by)];
      for (let row = this.cells.rowOf(low); row <= this.cells.rowOf(high); row++) {
        const middle = middleOf(row);
        if (middle >= low && middle < high) crossed[row].push(ax + ((bx - ax) * (middle - ay)) / (by - ay));
      }
    }
    crossed.forEach((places, row) => {
      places.sort((a, b) => a - b);
      for (let i = 0; i + 1 < places.length; i += 2) {
        const [from, to] = [this.cells.columnOf(places[i]), this.cells.columnOf(places[i + 1])];
        touched.fill(1, row * columns + from, row * columns + to + 1);
      }
    });
    this.sums = new Int32Array((columns + 1) * (rows + 1));
    for (let row = 0; row < rows; row++) {
      let sum = 0;
      for (let column = 0; column < columns; column++) {
        sum += touched[row * columns + column];
        const at = (row + 1) * (columns + 1) + column + 1;
        this.sums[at] = this.sums[at - columns - 1] + sum;
      }
    }
  }

  /** Whether any of a box, in grid steps, may lie in one of the places. */
  touches(minX: number, minY: number, maxX: number, maxY: number): boolean {
    const { box, cells, sums } = this;
    if (minX - MARGIN > box.maxX || maxX + MARGIN < box.minX || minY - MARGIN > box.maxY || maxY + MARGIN < box.minY)
      return false;
    const width = cells.columns + 1;
    const [left, right] = [cells.columnOf(minX - MARGIN), cells.columnOf(maxX + MARGIN) + 1];
    const [low, high] = [cells.rowOf(minY - MARGIN) * width, (cells.rowOf(maxY + MARGIN) + 1) * width];
    return sums[high + right] - sums[high + left] - sums[low + right] + sums[low + left] > 0;
  }

  /** Those segments, x and y of both ends in turn in grid steps, that may touch one of the places. */
  touching(segments: Int32Array): Int32Array {
    const out = new Int32Array(segments.length);
    let count = 0;
    for (let i = 0; i < segments.length; i += 4) {
      const [ax, ay, bx, by] = [segments[i], segments[i + 1], segments[i + 2], segments[i + 3]];
      if (!this.touches(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by))) continue;
      out.set(segments.subarray(i, i + 4), count);
      count += 4;
    }
    return out.slice(0, count);
  }

  /**
   * A ring that winds as often around every one of the places, with fewer points where it lies apart from them; undefined where it
   * winds around none.
   */
  shortened(ring: Contour): Contour | undefined {
    const n = ring.length / 2;
    const isKept = new Uint8Array(n);
    /** Whether a stretch of the ring has places in its box: without any its chord does not pass one on the other side. */
    const mayTouch = (from: number, to: number): boolean => {
      let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
      for (let i = from; i <= to; i++) {
        const [x, y] = [ring[2 * (i % n)], ring[2 * (i % n) + 1]];
        minX = Math.min(minX, x);
        maxX = Math.max(maxX, x);
        minY = Math.min(minY, y);
        maxY = Math.max(maxY, y);
      }
      return this.touches(minX * STEPS_PER_MM, minY * STEPS_PER_MM, maxX * STEPS_PER_MM, maxY * STEPS_PER_MM);
    };
    const shorten = (from: number, to: number): void => {
      if (to - from < 2 || !mayTouch(from, to)) return;
      const middle = (from + to) >> 1;
      isKept[middle % n] = 1;
      shorten(from, middle);
      shorten(middle, to);
    };
    if (!mayTouch(0, n)) return undefined;
    isKept[0] = 1;
    shorten(0, n);
    const kept: number[] = [];
    for (let i = 0; i < n; i++) if (isKept[i] === 1) kept.push(ring[2 * i], ring[2 * i + 1]);
    return kept.length === ring.length ? ring : kept.length < 6 ? undefined : Float64Array.from(kept);
  }
}
