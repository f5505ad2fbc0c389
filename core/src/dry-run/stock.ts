import { type Arc, type Motion, type Place, placeOn } from '../program/index.js';
import { Helix, piecesOf, Sector } from './arc-ways.js';
import { lowestAlong, rise, type ToolForm } from '../tooling/index.js';

/** mm by which chords may leave an arc. */
const CHORD = 0.001;
/** mm by which a piece of an arc may leave its chord, so that most of what a flat tool passes over there is what it passes over on the chord. */
const FLATTEST = 0.15;
/** mm of material that a move has to take for it to count as cut: what rounding leaves is none. */
const LEAST_CUT = 1e-4;
/** mm by which a place may be thought nearer by rounding. */
const ROUNDING = 1e-9;
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

  private readonly span = { first: 0, last: 0 };

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
    if (arc?.plane === 'xy' && form.kind === 'end') {
      const turn = from.z === to.z ? this.turn.bind(this) : this.wind.bind(this);
      const pieces = from.z === to.z ? piecesOf(arc, FLATTEST) : 1;
      let start = from;
      for (let i = 1; i <= pieces; i++) {
        const end = i === pieces ? to : placeOn(motion, i / pieces);
        turn(start, end, { ...arc, sweep: arc.sweep / pieces }, form.diameter / 2, taking);
        start = end;
      }
    } else if (arc) {
      const pieces = piecesOf(arc, CHORD);
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
    const { cell, columns, heights } = this;
    if (form.kind === 'end' && (from.z === to.z || length === 0)) {
      const isOnward = this.stoodAt(from, lowest, radius);
      this.overRows(from, to, radius, (row, left, right) =>
        this.lowerBeyond(row, left, right, from, lowest, isOnward ? radius : 0, taking),
      );
      Object.assign(this.stood, { x: to.x, y: to.y, z: lowest, radius });
      return;
    }
    const [ux, uy] = length > 0 ? [(to.x - from.x) / length, (to.y - from.y) / length] : [1, 0];
    const slope = length > 0 ? (to.z - from.z) / length : 0;
    const isFlat = form.kind === 'end';
    // Under a flat tool everything comes to its lowest height where it stands there.
    const base = slope < 0 ? to : from;
    this.overRows(from, to, radius, (row, left, right) => {
      const dy = this.from.y + (row / columns + 0.5) * cell - from.y;
      const under = isFlat ? radius * radius - (from.y + dy - base.y) ** 2 : 0;
      const half = under > 0 ? Math.sqrt(under) : 0;
      const firstUnder = half > 0 ? this.first(base.x - half, this.from.x) : Infinity;
      const lastUnder = half > 0 ? this.last(base.x + half, this.from.x, columns) : -Infinity;
      for (let column = left; column <= right; column++) {
        const at = row + column;
        if (heights[at] <= lowest) continue;
        if (column >= firstUnder && column <= lastUnder) {
          this.lower(at, lowest, taking);
          continue;
        }
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
        this.lower(at, stands, taking);
      }
    });
  }

  /**
   * Lowers the places of a row.
   * @param row where it begins in the heights
   * @param done radius around a place within which all have been lowered, but for what rounding left at the rim
   */
  private lowerBeyond(row: number, left: number, right: number, from: Place, height: number, done: number, taking: Taking): void {
    const { cell, columns } = this;
    const dy = this.from.y + (row / columns + 0.5) * cell - from.y;
    const half = dy * dy < done * done ? Math.sqrt(done * done - dy * dy) : 0;
    if (half === 0) {
      this.lowerAll(row + left, row + right, height, taking);
      return;
    }
    this.lowerAll(row + left, row + Math.min(right, this.first(from.x - half, this.from.x)), height, taking);
    this.lowerAll(row + Math.max(left, this.last(from.x + half, this.from.x, columns)), row + right, height, taking);
  }

  private lowerAll(first: number, last: number, height: number, taking: Taking): void {
    const { heights } = this;
    for (let at = first; at <= last; at++) if (heights[at] > height) this.lower(at, height, taking);
  }

  /** Lowers one place, where it stands higher. */
  private lower(at: number, height: number, taking: Taking): void {
    const taken = this.heights[at] - height;
    if (taken <= LEAST_CUT) return;
    this.heights[at] = height;
    if (this.lowered) this.lowered[at] = this.tool;
    taking.take(taken);
  }

  /** Lowers every place that a flat tool passes over on a level arc that hardly leaves its chord. */
  private turn(from: Place, to: Place, arc: Arc, tool: number, taking: Taking): void {
    const { cell, columns, heights } = this;
    const sector = new Sector(from, to, arc, tool);
    const isOnward = this.stoodAt(from, from.z, tool);
    const aside = arc.radius * (1 - Math.cos(arc.sweep / 2)) + ROUNDING;
    const beside = (row: number, left: number, right: number): void => {
      const y = this.from.y + (row / columns + 0.5) * cell;
      for (let column = left; column <= right; column++) {
        if (heights[row + column] - from.z <= LEAST_CUT) continue;
        if (sector.covers(this.from.x + (column + 0.5) * cell, y)) this.lower(row + column, from.z, taking);
      }
    };
    this.overRows(from, to, tool + aside, (row, left, right) => {
      const y = this.from.y + (row / columns + 0.5) * cell;
      // What is so near to the chord is near enough to the arc.
      if (aside >= tool || !this.hasSpanAt(y, from, to, tool - aside)) {
        beside(row, left, right);
        return;
      }
      const { first, last } = this.span;
      beside(row, left, Math.min(right, first - 1));
      this.lowerBeyond(row, first, last, from, from.z, isOnward ? tool : 0, taking);
      beside(row, Math.max(left, last + 1), right);
    });
    Object.assign(this.stood, { x: to.x, y: to.y, z: to.z, radius: tool });
  }

  /** Lowers every place that a flat tool passes over on an arc that rises or falls evenly: to where it stands lowest over it. */
  private wind(from: Place, to: Place, arc: Arc, tool: number, taking: Taking): void {
    const { cell, columns, heights, first, last } = this;
    const { x: startX, y: startY } = this.from;
    const [cx, cy] = arc.centre;
    const helix = new Helix(from, to, arc, tool);
    const { lowest, base, box, outer } = helix;
    const [left, right] = [first(box.minX - tool, startX), last(box.maxX + tool, startX, columns)];
    const top = last(box.maxY + tool, startY, this.rows);
    for (let row = first(box.minY - tool, startY); row <= top; row++) {
      const y = startY + (row + 0.5) * cell;
      const across = outer * outer - (y - cy) ** 2;
      if (across < 0) continue;
      const start = Math.max(left, first(cx - Math.sqrt(across), startX));
      const end = Math.min(right, last(cx + Math.sqrt(across), startX, columns));
      const beside = (from: number, to: number): void => {
        for (let column = from; column <= to; column++) {
          const at = row * columns + column;
          if (heights[at] - lowest <= LEAST_CUT) continue;
          const stands = helix.heightAt(startX + (column + 0.5) * cell, y);
          if (stands < heights[at]) this.lower(at, stands, taking);
        }
      };
      const under = tool * tool - (y - base.y) ** 2;
      if (under < 0) {
        beside(start, end);
        continue;
      }
      const half = Math.sqrt(under);
      const [firstUnder, lastUnder] = [first(base.x - half, startX), last(base.x + half, startX, columns)];
      beside(start, Math.min(end, firstUnder - 1));
      this.lowerAll(row * columns + firstUnder, row * columns + lastUnder, lowest, taking);
      beside(Math.max(start, lastUnder + 1), end);
    }
    Object.assign(this.stood, { x: to.x, y: to.y, z: to.z, radius: tool });
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
    const top = last(Math.max(from.y, to.y) + radius, this.from.y, this.rows);
    for (let row = first(Math.min(from.y, to.y) - radius, this.from.y); row <= top; row++) {
      if (this.hasSpanAt(this.from.y + (row + 0.5) * cell, from, to, radius))
        told(row * columns, this.span.first, this.span.last);
    }
  }

  /** Puts the columns within a radius of a straight way at a height of the plan in `span`; false where there are none. */
  private hasSpanAt(y: number, from: Place, to: Place, radius: number): boolean {
    let [low, high] = [Infinity, -Infinity];
    const atBegin = radius * radius - (y - from.y) * (y - from.y);
    if (atBegin >= 0) {
      const half = Math.sqrt(atBegin);
      [low, high] = [from.x - half, from.x + half];
    }
    const atEnd = radius * radius - (y - to.y) * (y - to.y);
    if (atEnd >= 0) {
      const half = Math.sqrt(atEnd);
      low = Math.min(low, to.x - half);
      high = Math.max(high, to.x + half);
    }
    const [wayX, wayY] = [to.x - from.x, to.y - from.y];
    if (wayY !== 0) {
      // The sides of the way, to the left and the right.
      const share = radius / Math.sqrt(wayX * wayX + wayY * wayY);
      for (let side = -share; side <= share; side += 2 * share) {
        const part = (y - from.y - side * wayX) / wayY;
        if (part < 0 || part > 1) continue;
        const x = from.x - side * wayY + part * wayX;
        low = Math.min(low, x);
        high = Math.max(high, x);
      }
    }
    this.span.first = this.first(low, this.from.x);
    this.span.last = this.last(high, this.from.x, this.columns);
    return low <= high;
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
