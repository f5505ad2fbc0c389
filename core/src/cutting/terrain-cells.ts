import { type Terrain } from './terrain.js';

/** Cells at most, and cells across a tool's radius. */
const MOST_CELLS = 4e5;
const ACROSS = 3;

/** The triangles of a terrain by square cells of the plan, with the greatest height in each. */
export class TerrainCells {
  /** Side of a cell in mm. */
  readonly size: number;
  /** Height that nothing in a cell is above. */
  readonly tops: Float64Array;
  /** For every cell the first of its triangles among `members`. */
  readonly start: Int32Array;
  readonly members: Int32Array;
  /** Steps to the cells that a tool may come to, columns and rows in turn, from the axis outwards. */
  readonly around: readonly number[];
  /** Where the first column and the first row begin. */
  readonly minX: number;
  readonly minY: number;
  private readonly columns: number;
  private readonly rows: number;

  /**
   * @param boxes of the triangles: least x and y, greatest x and y, and greatest z of each
   * @param radius mm of the tool
   */
  constructor(terrain: Terrain, boxes: Float64Array, radius: number) {
    const count = boxes.length / 5;
    let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = 0; i < boxes.length; i += 5) {
      minX = Math.min(minX, boxes[i]);
      minY = Math.min(minY, boxes[i + 1]);
      maxX = Math.max(maxX, boxes[i + 2]);
      maxY = Math.max(maxY, boxes[i + 3]);
    }
    if (count === 0) [minX, minY, maxX, maxY] = [0, 0, 0, 0];
    const size = Math.max(radius / ACROSS, Math.sqrt(((maxX - minX) * (maxY - minY)) / MOST_CELLS), 1e-3);
    this.size = size;
    this.minX = minX;
    this.minY = minY;
    this.columns = Math.floor((maxX - minX) / size) + 1;
    this.rows = Math.floor((maxY - minY) / size) + 1;
    this.tops = new Float64Array(this.columns * this.rows).fill(-Infinity);
    this.start = new Int32Array(this.columns * this.rows + 1);
    // Count, sum up, fill.
    for (let t = 0; t < count; t++)
      this.visit(terrain, boxes, t, (cell) => {
        this.start[cell + 1]++;
        this.tops[cell] = Math.max(this.tops[cell], boxes[5 * t + 4]);
      });
    for (let cell = 0; cell < this.tops.length; cell++) this.start[cell + 1] += this.start[cell];
    this.members = new Int32Array(this.start[this.tops.length]);
    const fill = this.start.slice(0, -1);
    for (let t = 0; t < count; t++) this.visit(terrain, boxes, t, (cell) => (this.members[fill[cell]++] = t));
    this.around = stepsWithin(Math.ceil(radius / size) + 1);
  }

  columnOf(x: number): number {
    return Math.floor((x - this.minX) / this.size);
  }

  rowOf(y: number): number {
    return Math.floor((y - this.minY) / this.size);
  }

  /** The cell of a column and a row; −1 where nothing is. */
  at(column: number, row: number): number {
    return column < 0 || row < 0 || column >= this.columns || row >= this.rows ? -1 : row * this.columns + column;
  }

  /** The triangles of the cell over which a place lies. */
  under(x: number, y: number): Int32Array {
    const cell = this.at(this.columnOf(x), this.rowOf(y));
    return cell < 0 ? new Int32Array() : this.members.subarray(this.start[cell], this.start[cell + 1]);
  }

  /** Calls `visit` for the cells that a triangle comes into, row by row. */
  private visit({ positions: p, triangles }: Terrain, boxes: Float64Array, t: number, visit: (cell: number) => void): void {
    const [first, last] = [this.rowOf(boxes[5 * t + 1]), this.rowOf(boxes[5 * t + 3])];
    for (let row = first; row <= last; row++) {
      const low = this.minY + row * this.size;
      const high = low + this.size;
      let [left, right] = [Infinity, -Infinity];
      for (let k = 0; k < 3; k++) {
        const [a, b] = [3 * triangles[3 * t + k], 3 * triangles[3 * t + ((k + 1) % 3)]];
        const [ax, ay, bx, by] = [p[a], p[a + 1], p[b], p[b + 1]];
        if (Math.max(ay, by) < low || Math.min(ay, by) > high) continue;
        // The stretch of the edge within the row.
        const across = (y: number): number => (ay === by ? ax : ax + ((bx - ax) * (y - ay)) / (by - ay));
        const [from, to] = [across(Math.min(high, Math.max(low, ay))), across(Math.min(high, Math.max(low, by)))];
        const ends = ay === by ? [ax, bx] : [from, to];
        left = Math.min(left, ...ends);
        right = Math.max(right, ...ends);
      }
      if (left > right) continue;
      // A hair more: rounding is not to lose a cell.
      const until = Math.min(this.columns - 1, this.columnOf(right + HAIR));
      for (let column = Math.max(0, this.columnOf(left - HAIR)); column <= until; column++) visit(row * this.columns + column);
    }
  }
}

const HAIR = 1e-9;

function stepsWithin(reach: number): number[] {
  const steps: (readonly [number, number])[] = [];
  for (let column = -reach; column <= reach; column++) for (let row = -reach; row <= reach; row++) steps.push([column, row]);
  steps.sort((a, b) => Math.hypot(...a) - Math.hypot(...b) || a[0] - b[0] || a[1] - b[1]);
  return steps.flat();
}
