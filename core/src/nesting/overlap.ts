import { bounds, type Box, type Outline } from '../geometry/index.js';
import { cellsOf, grownBy } from './cover.js';
import { laidOutline, type Size } from './nest-choice.js';
import { Weights } from './weights.js';

/** A sheet inside of its margins, in mm, and what lies there that is not moved, from its lower left corner there. */
export interface Room extends Size {
  readonly taken: readonly Outline[];
}

/** Where an outline lies: its box's lower left corner on a sheet inside of its margins, in mm, and which of the turns it has. */
export interface Spot {
  readonly sheet: number;
  readonly turn: number;
  readonly x: number;
  readonly y: number;
}

/** Of an outline in one of its turns: cells in rows, from the lower left corner of its box, that are within half the spacing of it. */
interface Shape {
  readonly runs: Int32Array;
  readonly minColumn: number;
  readonly maxColumn: number;
  readonly minRow: number;
  readonly maxRow: number;
  /** Cells that its box takes, and parts of them. */
  readonly width: number;
  readonly height: number;
}

/** A place in whole cells. */
interface Place {
  readonly sheet: number;
  readonly turn: number;
  readonly column: number;
  readonly row: number;
  readonly cost: number;
}

/** Cells around a place that are looked at when an outline is moved a little, and on each side of a place of a sheet. */
const REACH = 12;
const WINDOW = 50;
/** Places that are tried, near the outline and far from it, and those that are made better. */
const NEAR = 30;
const FAR = 60;
const KEPT = 3;
/** What a look at an outline takes: for itself, and cells of its window that take as long as a usual look. */
const LOOK = 0.5;
const LOOK_CELLS = 20_000;
/** How often places far from the outline are tried. */
const FAR_SHARE = 0.2;
/** By how much what overlaps weighs more after a round: the least of it and the most. */
const HEAVIER = { least: 1.02, most: 1.1 };
const WAYS = [1, 0, -1, 0, 0, 1, 0, -1, 1, 1, -1, -1, 1, -1, -1, 1];

/**
 * Outlines on sheets as cells, which may overlap, and are moved one after the other to where they overlap less, as long as overlaps that
 * stay weigh more and more (guided local search: J. Egeblad, B. K. Nielsen and A. Odgaard, Fast neighborhood search for two- and
 * three-dimensional nesting problems, 2007; places sampled and made better as J. Gardeyn, G. Vanden Berghe and T. Wauters do, 2025).
 */
export class OverlapSearch {
  private readonly shapes: Shapes[];
  private readonly grown = new Map<number, number>();
  private readonly made = new Map<Outline, Shapes>();
  private readonly fixed: readonly { readonly sheet: number; readonly shape: Shape }[];
  private places: Place[] = [];
  private readonly weights: Weights;
  /** Sums along rows of the weights of what lies on a window of cells. */
  private sums = new Float64Array(0);
  private column = 0;
  private row = 0;
  private columns = 0;
  private rows = 0;
  /** Those that overlapped where everything was left. */
  overlapping: readonly number[] = [];
  /** Looks at outlines: what it took. */
  private moves = 0;

  /**
   * @param turns degrees
   * @param spend told of looks at outlines, larger ones counting more
   */
  constructor(
    private readonly outlines: readonly Outline[],
    private readonly turns: readonly number[],
    private readonly rooms: readonly Room[],
    private readonly spacing: number,
    private readonly cell: number,
    private readonly random: () => number,
    private readonly spend: (moves: number) => void,
  ) {
    this.shapes = outlines.map((outline) => this.shapesOf(outline));
    this.fixed = rooms.flatMap(({ taken }, sheet) =>
      taken.map((outline) => ({
        sheet,
        shape: shapeOf(grownBy(outline, spacing / 2), bounds(outline)!, cell, [0, 0]),
      })),
    );
    this.weights = new Weights(outlines.length, outlines.length + this.fixed.length, HEAVIER);
  }

  private shapesOf(outline: Outline): Shapes {
    let own = this.made.get(outline);
    if (!own) this.made.set(outline, (own = new Shapes(outline, this.turns, this.spacing, this.cell)));
    return own;
  }

  /** Takes all as large as they are again. */
  ungrow(): void {
    for (const i of this.grown.keys()) this.shapes[i] = this.shapesOf(this.outlines[i]);
    this.grown.clear();
  }

  /** Lays everything where it is to be moved from. */
  begin(spots: readonly Spot[]): void {
    const { cell } = this;
    this.places = spots.map(({ sheet, turn, x, y }) => ({
      sheet,
      turn,
      column: Math.round(x / cell),
      row: Math.round(y / cell),
      cost: 0,
    }));
  }

  /** Takes one as larger than it is from now on, by `by` mm to all sides: it had less room than its cells said. */
  grow(i: number, by: number): void {
    const grown = (this.grown.get(i) ?? 0) + by;
    this.grown.set(i, grown);
    this.shapes[i] = new Shapes(this.outlines[i], this.turns, this.spacing + 2 * grown, this.cell);
  }

  /** Where everything lies. */
  get spots(): Spot[] {
    const { cell } = this;
    return this.places.map(({ sheet, turn, column, row }) => ({ sheet, turn, x: column * cell, y: row * cell }));
  }

  /**
   * Moves outlines until none overlap, or nothing has got better for long, or too many were looked at.
   * @param height mm that may be taken of the last sheet
   * @param patience rounds in which nothing gets better after which it is left
   * @returns how many cells overlap at the best, where everything is left; Infinity where one has no room by itself
   */
  settle(height: number, patience: number, mostMoves: number): number {
    this.weights.reset();
    const limit = this.roomsWithin(height);
    this.spend(this.places.length);
    const places = this.places.map((place, i) => this.inside(i, place, limit));
    if (places.includes(undefined)) return Infinity;
    this.places = places as Place[];
    let { total, overlapping } = this.overlaps();
    let best = total;
    let kept = [...this.places];
    this.overlapping = [...overlapping];
    const until = this.moves + mostMoves;
    for (let idle = 0; total > 0 && idle < patience && this.moves < until; idle++) {
      for (let k = overlapping.length - 1; k > 0; k--) {
        const j = Math.floor(this.random() * (k + 1));
        [overlapping[k], overlapping[j]] = [overlapping[j], overlapping[k]];
      }
      let cost = 0;
      for (const i of overlapping) cost += this.move(i, limit);
      this.moves += cost;
      this.spend(cost);
      ({ total, overlapping } = this.overlaps());
      if (total < best) {
        if (total < 0.98 * best) idle = 0;
        [best, kept] = [total, [...this.places]];
        this.overlapping = [...overlapping];
      }
    }
    kept.forEach((place, i) => (this.places[i] = place));
    return best;
  }

  /** Cells of every sheet inside of its margins. */
  private roomsWithin(height: number): Size[] {
    const { rooms, cell } = this;
    return rooms.map((room, i) => ({ width: room.width / cell, height: (i === rooms.length - 1 ? height : room.height) / cell }));
  }

  /** A place near by from which an outline does not leave its sheet; on another one where this has no room for it; undefined where none has. */
  private inside(i: number, place: Place, limit: readonly Size[]): Place | undefined {
    const own = this.shapes[i];
    for (let on = 0; on < limit.length; on++) {
      const sheet = (place.sheet + on) % limit.length;
      const { width, height } = limit[sheet];
      for (let k = 0; k < own.length; k++) {
        const turn = (place.turn + k) % own.length;
        const shape = own.at(turn);
        const [most, highest] = [Math.floor(width - shape.width + 1e-9), Math.floor(height - shape.height + 1e-9)];
        if (most < 0 || highest < 0) continue;
        return {
          ...place,
          sheet,
          turn,
          column: Math.max(0, Math.min(most, place.column)),
          row: Math.max(0, Math.min(highest, place.row)),
        };
      }
    }
    return undefined;
  }

  /** All that overlaps; what does weighs more from now on. */
  private overlaps(): { readonly total: number; readonly overlapping: number[] } {
    const { places, shapes, weights, fixed } = this;
    const found = new Set<number>();
    let total = 0;
    for (let i = 0; i < places.length; i++) {
      const place = places[i];
      const own = shapes[i].at(place.turn);
      for (let j = i + 1; j < places.length; j++) {
        const other = places[j];
        if (other.sheet !== place.sheet) continue;
        const cells = shared(own, place.column, place.row, shapes[j].at(other.turn), other.column, other.row);
        if (cells === 0) continue;
        weights.found(i, j, cells);
        found.add(i).add(j);
        total += cells;
      }
      fixed.forEach(({ sheet, shape }, k) => {
        const cells = sheet === place.sheet ? shared(own, place.column, place.row, shape, 0, 0) : 0;
        if (cells === 0) return;
        weights.found(i, places.length + k, cells);
        found.add(i);
        total += cells;
      });
    }
    weights.update();
    return { total, overlapping: [...found] };
  }

  /**
   * Moves one outline to where it overlaps less, where there is such a place.
   * @returns what it took, 1 for a look that is usual
   */
  private move(i: number, limit: readonly Size[]): number {
    const { random, shapes } = this;
    const own = shapes[i];
    const place = this.places[i];
    const isFar = random() < FAR_SHARE;
    const sheet = isFar ? Math.floor(random() * limit.length) : place.sheet;
    const room = limit[sheet];
    // Where the corner of its box may be: around it, or anywhere on a part of a sheet.
    let [left, right, low, high] = [place.column - REACH, place.column + REACH, place.row - REACH, place.row + REACH];
    if (isFar) {
      const [column, row] = [Math.floor(random() * room.width), Math.floor(random() * room.height)];
      [left, right, low, high] = [column - WINDOW, column + WINDOW, row - WINDOW, row + WINDOW];
    }
    [left, low, right, high] = [
      Math.max(0, left),
      Math.max(0, low),
      Math.min(Math.floor(room.width), right),
      Math.min(Math.floor(room.height), high),
    ];
    const before = this.costOf(i, place);
    if (before === 0) return LOOK;
    this.weigh(i, sheet, room, left, right, low, high);
    let kept: Place[] = isFar ? [] : [{ ...place, cost: before }];
    const look = (turn: number, column: number, row: number): void => {
      const { width, height } = own.at(turn);
      const [most, highest] = [
        Math.min(right, Math.floor(room.width - width + 1e-9)),
        Math.min(high, Math.floor(room.height - height + 1e-9)),
      ];
      if (most < left || highest < low) return;
      const at = { column: Math.max(left, Math.min(most, column)), row: Math.max(low, Math.min(highest, row)) };
      const cost = this.costAt(own.at(turn), at.column, at.row, kept.length < KEPT ? Infinity : kept[kept.length - 1].cost);
      if (kept.length === KEPT && cost >= kept[KEPT - 1].cost) return;
      kept = [...kept, { sheet, turn, ...at, cost }].sort((a, b) => a.cost - b.cost).slice(0, KEPT);
    };
    for (let k = 0; k < (isFar ? FAR : NEAR); k++) {
      const turn = !isFar && random() < 0.5 ? place.turn : Math.floor(random() * own.length);
      look(turn, left + Math.floor(random() * (right - left + 1)), low + Math.floor(random() * (high - low + 1)));
    }
    let best = { ...place, cost: before };
    for (const each of kept) {
      const bettered = this.bettered(own, each, room, left, right, low, high);
      if (bettered.cost < best.cost - 1e-9) best = bettered;
      if (best.cost < 1e-9) break;
    }
    this.places[i] = best;
    return LOOK + (this.columns * this.rows) / LOOK_CELLS;
  }

  /** A place made better by steps that get smaller, and by turns beside its own. */
  private bettered(own: Shapes, place: Place, room: Size, left: number, right: number, low: number, high: number): Place {
    let { turn, column, row, cost } = place;
    const fits = (shape: Shape, x: number, y: number): boolean =>
      x >= left &&
      y >= low &&
      x <= right &&
      y <= high &&
      x + shape.width <= room.width + 1e-9 &&
      y + shape.height <= room.height + 1e-9;
    for (let step = 4; step >= 1 && cost > 1e-9;) {
      let isBetter = false;
      for (let k = 0; k < WAYS.length && cost > 1e-9; k += 2) {
        const [x, y] = [column + WAYS[k] * step, row + WAYS[k + 1] * step];
        if (!fits(own.at(turn), x, y)) continue;
        const next = this.costAt(own.at(turn), x, y, cost);
        if (next < cost) [column, row, cost, isBetter] = [x, y, next, true];
      }
      for (const by of own.length > 4 ? [1, own.length - 1] : []) {
        const next = (turn + by) % own.length;
        const [shape, was] = [own.at(next), own.at(turn)];
        const [x, y] = [Math.round(column + (was.width - shape.width) / 2), Math.round(row + (was.height - shape.height) / 2)];
        if (cost < 1e-9 || !fits(shape, x, y)) continue;
        const less = this.costAt(shape, x, y, cost);
        if (less < cost) [turn, column, row, cost, isBetter] = [next, x, y, less, true];
      }
      if (!isBetter) step >>= 1;
    }
    return { ...place, turn, column, row, cost };
  }

  /** What the overlaps of an outline weigh where it lies. */
  private costOf(i: number, { sheet, turn, column, row }: Place): number {
    const { places, shapes, weights, fixed } = this;
    let cost = 0;
    for (let j = 0; j < places.length; j++) {
      const other = places[j];
      if (j === i || other.sheet !== sheet) continue;
      const cells = shared(shapes[i].at(turn), column, row, shapes[j].at(other.turn), other.column, other.row);
      if (cells > 0) cost += cells * weights.of(i, j);
    }
    fixed.forEach((each, k) => {
      if (each.sheet === sheet)
        cost += shared(shapes[i].at(turn), column, row, each.shape, 0, 0) * weights.of(i, places.length + k);
    });
    return cost;
  }

  /** Sums up what lies on a part of a sheet, as it weighs for an outline whose box has its lower left corner there. */
  private weigh(i: number, sheet: number, room: Size, left: number, right: number, low: number, high: number): void {
    // Where its cells are before the corner of its box is half the spacing; after it they are as far as it is long.
    const { reach, before } = this.shapes[i];
    [this.column, this.row] = [left - before, low - before];
    // None is on cells farther over the edge of the sheet than before its corner.
    this.columns = Math.min(right + reach, Math.ceil(room.width) + before) - this.column + 2;
    this.rows = Math.min(high + reach, Math.ceil(room.height) + before) - this.row + 1;
    const { columns, rows } = this;
    const size = columns * rows;
    if (this.sums.length < size) this.sums = new Float64Array(size);
    else this.sums.fill(0, 0, size);
    const { sums, places, shapes, weights, fixed } = this;
    for (let j = 0; j < places.length; j++) {
      const other = places[j];
      if (j !== i && other.sheet === sheet) this.add(shapes[j].at(other.turn), other.column, other.row, weights.of(i, j));
    }
    fixed.forEach((each, k) => {
      if (each.sheet === sheet) this.add(each.shape, 0, 0, weights.of(i, places.length + k));
    });
    for (let row = 0; row < rows; row++) {
      let [weight, sum] = [0, 0];
      for (let at = row * columns; at < (row + 1) * columns; at++) {
        weight += sums[at];
        sums[at] = sum;
        sum += weight;
      }
    }
  }

  private add({ runs, minColumn, maxColumn, minRow, maxRow }: Shape, column: number, row: number, weight: number): void {
    const { sums, columns, rows } = this;
    const [dx, dy] = [column - this.column, row - this.row];
    if (dx + maxColumn < 0 || dx + minColumn >= columns - 1 || dy + maxRow < 0 || dy + minRow >= rows) return;
    for (let k = 0; k < runs.length; k += 3) {
      const own = runs[k] + dy;
      if (own < 0 || own >= rows) continue;
      const [from, to] = [runs[k + 1] + dx, runs[k + 2] + dx + 1];
      if (to <= 0 || from >= columns - 1) continue;
      const base = own * columns;
      sums[base + (from > 0 ? from : 0)] += weight;
      sums[base + (to < columns - 1 ? to : columns - 1)] -= weight;
    }
  }

  /** What overlaps weigh at a place of the window, or more than `most`. */
  private costAt({ runs }: Shape, column: number, row: number, most: number): number {
    const { sums, columns } = this;
    const base = (row - this.row) * columns + column - this.column;
    let cost = 0;
    for (let k = 0; k < runs.length; k += 3) {
      const at = base + runs[k] * columns;
      cost += sums[at + runs[k + 2] + 1] - sums[at + runs[k + 1]];
      if (cost >= most) return cost;
    }
    return cost;
  }
}

/** An outline in its turns, each made when it is asked for. */
class Shapes {
  private readonly made: (Shape | undefined)[] = [];
  private readonly grown: Outline;
  /** Cells that it takes from the lower left corner of its box on, however it is turned, and before that. */
  readonly reach: number;
  readonly before: number;

  constructor(
    private readonly outline: Outline,
    private readonly turns: readonly number[],
    spacing: number,
    private readonly cell: number,
  ) {
    this.grown = grownBy(outline, spacing / 2);
    const { minX, minY, maxX, maxY } = bounds(outline)!;
    this.before = Math.ceil(spacing / 2 / cell) + 2;
    this.reach = Math.ceil((Math.hypot(maxX - minX, maxY - minY) + spacing / 2) / cell) + 2;
  }

  get length(): number {
    return this.turns.length;
  }

  at(turn: number): Shape {
    return (this.made[turn] ??= this.turned(this.turns[turn]));
  }

  private turned(turn: number): Shape {
    const way = { x: 0, y: 0, turn };
    const box = bounds(laidOutline(this.outline, way))!;
    return shapeOf(laidOutline(this.grown, way), box, this.cell, [box.minX, box.minY]);
  }
}

/** @param grown the outline with half the spacing around it @param box of the outline itself */
function shapeOf(grown: Outline, box: Box, cell: number, corner: readonly [number, number]): Shape {
  const { minX, minY, maxX, maxY } = box;
  const { runs, x, y } = cellsOf(grown, cell, corner);
  const [column, row] = [Math.round((x - corner[0]) / cell), Math.round((y - corner[1]) / cell)];
  let [minColumn, maxColumn] = [Infinity, -Infinity];
  for (let k = 0; k < runs.length; k += 3) {
    [runs[k], runs[k + 1], runs[k + 2]] = [runs[k] + row, runs[k + 1] + column, runs[k + 2] + column];
    [minColumn, maxColumn] = [Math.min(minColumn, runs[k + 1]), Math.max(maxColumn, runs[k + 2])];
  }
  const [minRow, maxRow] = runs.length === 0 ? [Infinity, -Infinity] : [runs[0], runs[runs.length - 3]];
  return { runs, minColumn, maxColumn, minRow, maxRow, width: (maxX - minX) / cell, height: (maxY - minY) / cell };
}

/** How many cells two shapes share. */
function shared(one: Shape, oneColumn: number, oneRow: number, other: Shape, otherColumn: number, otherRow: number): number {
  const [dx, dy] = [otherColumn - oneColumn, otherRow - oneRow];
  if (one.maxColumn < dx + other.minColumn || dx + other.maxColumn < one.minColumn) return 0;
  if (one.maxRow < dy + other.minRow || dy + other.maxRow < one.minRow) return 0;
  const [a, b] = [one.runs, other.runs];
  let cells = 0;
  for (let k = 0, from = 0; k < a.length; k += 3) {
    const row = a[k] - dy;
    while (from < b.length && b[from] < row) from += 3;
    for (let l = from; l < b.length && b[l] === row; l += 3) {
      const least = Math.max(a[k + 1], b[l + 1] + dx);
      const most = Math.min(a[k + 2], b[l + 2] + dx);
      if (most >= least) cells += most - least + 1;
    }
  }
  return cells;
}
