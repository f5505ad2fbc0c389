import { type Box } from '../geometry/index.js';
import { type Arc, type Motion, type Place, placeOn } from '../program/index.js';
import { lowestAlong, rise, type ToolForm } from '../tooling/index.js';

/** mm by which chords may leave an arc. */
const CHORD = 0.001;
/** mm of material that a move has to take for it to count as cut: what rounding leaves is none. */
const LEAST_CUT = 1e-4;
/** Places of a stock at most. */
const MOST_PLACES = 60_000_000;

/** What a stock looked like at a moment. */
export interface KeptStock {
  readonly heights: Float32Array;
  readonly lowered: Uint8Array | undefined;
}

/** What a move took away. */
export interface Removed {
  readonly volumeMm3: number;
  /** mm, at one place. */
  readonly deepest: number;
}

/**
 * A block of material, as its height at places of a square grid. Tools lower it; at the places themselves the height that is left is
 * exact for straight moves, and for arcs within a thousandth of a millimetre.
 */
export class Stock {
  readonly columns: number;
  readonly rows: number;
  private readonly heights: Float32Array;
  /** Which tool was the last to lower each place, where that is kept: 0 for none. */
  private readonly lowered: Uint8Array | undefined;
  private tool = 0;
  /** Where a flat tool stood last, so that everything under it is at its height: the next move need not look there again. */
  private readonly stood = { x: NaN, y: NaN, z: NaN, radius: NaN };

  /**
   * @param from its corner of least x and y, in mm; the first place lies half a cell from it
   * @param top height of its face
   * @param keepsTools whether it is kept which tool lowered a place last
   * @throws RangeError where there would be too many places
   */
  constructor(
    private readonly from: { readonly x: number; readonly y: number },
    width: number,
    height: number,
    private readonly top: number,
    readonly cell: number,
    keepsTools = false,
  ) {
    this.columns = Math.ceil(width / cell);
    this.rows = Math.ceil(height / cell);
    if (!(this.columns * this.rows <= MOST_PLACES))
      throw new RangeError(`A stock of ${width} × ${height} mm has too many places ${cell} mm apart: choose a coarser grid.`);
    this.heights = new Float32Array(this.columns * this.rows).fill(top);
    if (keepsTools) this.lowered = new Uint8Array(this.heights.length);
  }

  /** From here on places are lowered by this tool, of 1 to 255. */
  takeUp(tool: number): void {
    this.tool = tool;
  }

  /** The tool that lowered a place last, 0 where none did or that is not kept. */
  toolAt(column: number, row: number): number {
    return this.lowered?.[row * this.columns + column] ?? 0;
  }

  /** What it looks like now, to be come back to. */
  kept(): KeptStock {
    return { heights: this.heights.slice(), lowered: this.lowered?.slice() };
  }

  /** Brings back what it looked like. */
  restore({ heights, lowered }: KeptStock): void {
    this.heights.set(heights);
    if (lowered) this.lowered?.set(lowered);
    this.stood.radius = NaN;
  }

  /** Where a place lies. */
  placeOf(column: number, row: number): { readonly x: number; readonly y: number } {
    return { x: this.from.x + (column + 0.5) * this.cell, y: this.from.y + (row + 0.5) * this.cell };
  }

  heightAt(column: number, row: number): number {
    return this.heights[row * this.columns + column];
  }

  /** The heights of the row that is nearest to a place, from the least x on. */
  rowAt(y: number): Float32Array {
    const row = Math.min(this.rows - 1, Math.max(0, Math.floor((y - this.from.y) / this.cell)));
    return this.heights.slice(row * this.columns, (row + 1) * this.columns);
  }

  /** Takes away what a tool cuts on a move. */
  cut(motion: Motion, form: ToolForm): Removed {
    const { from, to, arc } = motion;
    const taking = new Taking();
    if (Math.min(from.z, to.z) >= this.top && !(arc && arc.plane !== 'xy')) return { volumeMm3: 0, deepest: 0 };
    if (arc?.plane === 'xy' && form.kind === 'end' && from.z === to.z) this.turn(from, to, arc, form.diameter / 2, taking);
    else if (arc) {
      const pieces = Math.max(1, Math.ceil(Math.abs(arc.sweep) / (2 * Math.acos(Math.max(0, 1 - CHORD / arc.radius)))));
      let start = from;
      for (let i = 1; i <= pieces; i++) {
        const end = placeOn(motion, i / pieces);
        this.sweep(start, end, form, taking);
        start = end;
      }
    } else this.sweep(from, to, form, taking);
    return { volumeMm3: taking.depths * this.cell ** 2, deepest: taking.deepest };
  }

  /** The greatest height that stands within a radius of a move, or −Infinity where a part of it lies outside and nothing within. */
  highestNear(from: Place, to: Place, radius: number): number {
    let most = -Infinity;
    this.overRows(from, to, radius, (row, left, right) => {
      for (let at = row + left; at <= row + right; at++) if (this.heights[at] > most) most = this.heights[at];
    });
    return most;
  }

  /** Lowers every place that a straight move passes over. */
  private sweep(from: Place, to: Place, form: ToolForm, taking: Taking): void {
    const radius = form.diameter / 2;
    const length = Math.hypot(to.x - from.x, to.y - from.y);
    const lowest = Math.min(from.z, to.z);
    if (lowest >= this.top) return;
    const { cell, columns, heights, lowered, tool } = this;
    if (form.kind === 'end' && (from.z === to.z || length === 0)) {
      const isOnward = this.stoodAt(from, lowest, radius);
      const lower = (first: number, last: number): void => {
        for (let at = first; at <= last; at++) {
          const taken = heights[at] - lowest;
          if (taken <= LEAST_CUT) continue;
          heights[at] = lowest;
          if (lowered) lowered[at] = tool;
          taking.take(taken);
        }
      };
      this.overRows(from, to, radius, (row, left, right) => {
        const dy = this.from.y + (row / columns + 0.5) * cell - from.y;
        const half = isOnward && dy * dy < radius * radius ? Math.sqrt(radius * radius - dy * dy) : 0;
        if (half === 0) lower(row + left, row + right);
        else {
          lower(row + left, row + Math.min(right, this.first(from.x - half, this.from.x)));
          lower(row + Math.max(left, this.last(from.x + half, this.from.x, columns)), row + right);
        }
      });
      Object.assign(this.stood, { x: to.x, y: to.y, z: lowest, radius });
      return;
    }
    const [ux, uy] = length > 0 ? [(to.x - from.x) / length, (to.y - from.y) / length] : [1, 0];
    const slope = length > 0 ? (to.z - from.z) / length : 0;
    const isFlat = form.kind === 'end';
    this.overRows(from, to, radius, (row, left, right) => {
      const dy = this.from.y + (row / columns + 0.5) * cell - from.y;
      for (let column = left; column <= right; column++) {
        const at = row + column;
        if (heights[at] <= lowest) continue;
        const dx = this.from.x + (column + 0.5) * cell - from.x;
        const along = dx * ux + dy * uy;
        const aside = Math.abs(dy * ux - dx * uy);
        if (aside > radius) continue;
        const reach = Math.sqrt(radius * radius - aside * aside);
        const low = Math.max(0, along - reach);
        const high = Math.min(length, along + reach);
        if (low > high) continue;
        let stands: number;
        if (isFlat) stands = from.z + slope * (slope < 0 ? high : low);
        else {
          const s = length > 0 ? Math.min(high, Math.max(low, along + lowestAlong(form, slope, aside))) : 0;
          stands = (length > 0 ? from.z + slope * s : lowest) + rise(form, Math.min(radius, Math.hypot(aside, s - along)));
        }
        const taken = heights[at] - stands;
        if (taken <= LEAST_CUT) continue;
        heights[at] -= taken;
        if (lowered) lowered[at] = tool;
        taking.take(taken);
      }
    });
  }

  /** Lowers every place that a flat tool passes over on a level arc. */
  private turn(from: Place, to: Place, { centre: [cx, cy], radius, sweep }: Arc, tool: number, taking: Taking): void {
    const { cell, columns, heights, lowered } = this;
    const z = from.z;
    const begin = Math.atan2(from.y - cy, from.x - cx);
    const box = arcBox(from, to, [cx, cy], radius, begin, sweep);
    const turn = Math.abs(sweep);
    const sign = Math.sign(sweep);
    const [inner, outer] = [Math.max(0, radius - tool), radius + tool];
    const { first, last } = this;
    const [left, right] = [first(box.minX - tool, this.from.x), last(box.maxX + tool, this.from.x, columns)];
    const top = last(box.maxY + tool, this.from.y, this.rows);
    const isOnward = this.stoodAt(from, z, tool);
    for (let row = first(box.minY - tool, this.from.y); row <= top; row++) {
      const y = this.from.y + (row + 0.5) * cell;
      const across = outer * outer - (y - cy) ** 2;
      if (across < 0) continue;
      const end = Math.min(right, last(cx + Math.sqrt(across), this.from.x, columns));
      // What lies under the tool at its beginning has been lowered.
      const under = isOnward ? tool * tool - (y - from.y) ** 2 : 0;
      const skipped = under > 0 ? first(from.x - Math.sqrt(under), this.from.x) + 1 : NaN;
      for (let column = Math.max(left, first(cx - Math.sqrt(across), this.from.x)); column <= end; column++) {
        if (column === skipped) column = Math.max(column, last(from.x + Math.sqrt(under), this.from.x, columns) - 1);
        const at = row * columns + column;
        const taken = heights[at] - z;
        if (taken <= LEAST_CUT) continue;
        const x = this.from.x + (column + 0.5) * cell;
        const square = (x - cx) ** 2 + (y - cy) ** 2;
        let isOver = false;
        if (square <= outer * outer && square >= inner * inner) {
          const angle = sign * (Math.atan2(y - cy, x - cx) - begin);
          isOver = angle - 2 * Math.PI * Math.floor(angle / (2 * Math.PI)) <= turn;
        }
        isOver ||= (x - from.x) ** 2 + (y - from.y) ** 2 <= tool * tool || (x - to.x) ** 2 + (y - to.y) ** 2 <= tool * tool;
        if (!isOver) continue;
        heights[at] = z;
        if (lowered) lowered[at] = this.tool;
        taking.take(taken);
      }
    }
    Object.assign(this.stood, { x: to.x, y: to.y, z, radius: tool });
  }

  /** Whether everything under a flat tool at a place has been lowered as far. */
  private stoodAt({ x, y }: Place, z: number, radius: number): boolean {
    const { stood } = this;
    return stood.x === x && stood.y === y && stood.radius === radius && stood.z <= z;
  }

  private readonly first = (low: number, start: number): number => Math.max(0, Math.ceil((low - start) / this.cell - 0.5));
  private readonly last = (high: number, start: number, count: number): number =>
    Math.min(count - 1, Math.floor((high - start) / this.cell - 0.5));

  /**
   * The rows within a radius of a straight way, each with its first and last column there.
   * @param told of where the row begins in the heights
   */
  private overRows(from: Place, to: Place, radius: number, told: (row: number, left: number, right: number) => void): void {
    const { cell, columns, first, last } = this;
    const length = Math.hypot(to.x - from.x, to.y - from.y);
    const [nx, ny] = length > 0 ? [(-(to.y - from.y) / length) * radius, ((to.x - from.x) / length) * radius] : [0, 0];
    const corners = [from.x + nx, from.y + ny, to.x + nx, to.y + ny, to.x - nx, to.y - ny, from.x - nx, from.y - ny];
    const top = last(Math.max(from.y, to.y) + radius, this.from.y, this.rows);
    for (let row = first(Math.min(from.y, to.y) - radius, this.from.y); row <= top; row++) {
      const y = this.from.y + (row + 0.5) * cell;
      let [low, high] = [Infinity, -Infinity];
      for (const end of [from, to]) {
        const square = radius ** 2 - (y - end.y) ** 2;
        if (square < 0) continue;
        const half = Math.sqrt(square);
        low = Math.min(low, end.x - half);
        high = Math.max(high, end.x + half);
      }
      if (length > 0) {
        for (let i = 0, j = 6; i < 8; j = i, i += 2) {
          const [y0, y1] = [corners[j + 1], corners[i + 1]];
          if (y0 > y === y1 > y) continue;
          const x = corners[j] + ((y - y0) / (y1 - y0)) * (corners[i] - corners[j]);
          low = Math.min(low, x);
          high = Math.max(high, x);
        }
      }
      if (low > high) continue;
      told(row * columns, first(low, this.from.x), last(high, this.from.x, columns));
    }
  }
}

/** What is taken away, summed up. */
class Taking {
  depths = 0;
  deepest = 0;

  take(taken: number): void {
    this.depths += taken;
    if (taken > this.deepest) this.deepest = taken;
  }
}

/** The box around an arc: its ends, and where it passes straight right, up, left or down of its centre. */
function arcBox(from: Place, to: Place, [cx, cy]: readonly [number, number], radius: number, begin: number, sweep: number): Box {
  const box = {
    minX: Math.min(from.x, to.x),
    minY: Math.min(from.y, to.y),
    maxX: Math.max(from.x, to.x),
    maxY: Math.max(from.y, to.y),
  };
  const quarter = Math.PI / 2;
  for (let k = 0; k < 4; k++) {
    const angle = Math.sign(sweep) * (k * quarter - begin);
    if (angle - 2 * Math.PI * Math.floor(angle / (2 * Math.PI)) > Math.abs(sweep)) continue;
    if (k === 0) box.maxX = cx + radius;
    if (k === 1) box.maxY = cy + radius;
    if (k === 2) box.minX = cx - radius;
    if (k === 3) box.minY = cy - radius;
  }
  return box;
}
