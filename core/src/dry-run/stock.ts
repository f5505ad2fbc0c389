import { type Motion, type Place, placeOn } from '../program/index.js';
import { lowestAlong, rise, type ToolForm } from './tool-form.js';

/** mm by which chords may leave an arc. */
const CHORD = 0.001;
/** mm of material that a move has to take for it to count as cut: what rounding leaves is none. */
const LEAST_CUT = 1e-4;
/** Places of a stock at most. */
const MOST_PLACES = 60_000_000;

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

  /**
   * @param from its corner of least x and y, in mm; the first place lies half a cell from it
   * @param top height of its face
   * @throws RangeError where there would be too many places
   */
  constructor(
    private readonly from: { readonly x: number; readonly y: number },
    width: number,
    height: number,
    top: number,
    readonly cell: number,
  ) {
    this.columns = Math.ceil(width / cell);
    this.rows = Math.ceil(height / cell);
    if (!(this.columns * this.rows <= MOST_PLACES))
      throw new RangeError(`A stock of ${width} × ${height} mm has too many places ${cell} mm apart: choose a coarser grid.`);
    this.heights = new Float32Array(this.columns * this.rows).fill(top);
  }

  /** Where a place lies. */
  placeOf(column: number, row: number): { readonly x: number; readonly y: number } {
    return { x: this.from.x + (column + 0.5) * this.cell, y: this.from.y + (row + 0.5) * this.cell };
  }

  heightAt(column: number, row: number): number {
    return this.heights[row * this.columns + column];
  }

  /** Takes away what a tool cuts on a move. */
  cut(motion: Motion, form: ToolForm): Removed {
    let [depths, deepest] = [0, 0];
    const pieces = motion.arc
      ? Math.max(1, Math.ceil(Math.abs(motion.arc.sweep) / (2 * Math.acos(Math.max(0, 1 - CHORD / motion.arc.radius)))))
      : 1;
    let from = motion.from;
    for (let i = 1; i <= pieces; i++) {
      const to = placeOn(motion, i / pieces);
      this.sweep(from, to, form, (taken) => {
        depths += taken;
        deepest = Math.max(deepest, taken);
      });
      from = to;
    }
    return { volumeMm3: depths * this.cell ** 2, deepest };
  }

  /** Lowers every place that a straight move passes over. */
  private sweep(from: Place, to: Place, form: ToolForm, told: (taken: number) => void): void {
    const radius = form.diameter / 2;
    const length = Math.hypot(to.x - from.x, to.y - from.y);
    const [ux, uy] = length > 0 ? [(to.x - from.x) / length, (to.y - from.y) / length] : [1, 0];
    const lowest = Math.min(from.z, to.z);
    const slope = length > 0 ? (to.z - from.z) / length : 0;
    const { cell, columns, heights } = this;
    const first = (low: number, start: number): number => Math.max(0, Math.ceil((low - radius - start) / cell - 0.5));
    const last = (high: number, start: number, count: number): number =>
      Math.min(count - 1, Math.floor((high + radius - start) / cell - 0.5));
    const [left, right] = [first(Math.min(from.x, to.x), this.from.x), last(Math.max(from.x, to.x), this.from.x, columns)];
    const top = last(Math.max(from.y, to.y), this.from.y, this.rows);
    for (let row = first(Math.min(from.y, to.y), this.from.y); row <= top; row++) {
      const dy = this.from.y + (row + 0.5) * cell - from.y;
      for (let column = left; column <= right; column++) {
        const at = row * columns + column;
        if (heights[at] <= lowest) continue;
        const dx = this.from.x + (column + 0.5) * cell - from.x;
        const along = dx * ux + dy * uy;
        const aside = Math.abs(dy * ux - dx * uy);
        if (aside > radius) continue;
        const reach = Math.sqrt(radius ** 2 - aside ** 2);
        const [low, high] = [Math.max(0, along - reach), Math.min(length, along + reach)];
        if (low > high) continue;
        const s = length > 0 ? Math.min(high, Math.max(low, along + lowestAlong(form, slope, aside))) : 0;
        const base = length > 0 ? from.z + slope * s : lowest;
        const height = base + rise(form, Math.min(radius, Math.hypot(aside, s - along)));
        const taken = heights[at] - height;
        if (taken <= LEAST_CUT) continue;
        heights[at] = height;
        told(taken);
      }
    }
  }
}
