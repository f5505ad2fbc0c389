import { area, bounds, type Outline } from '../geometry/index.js';
import { type Cover, coverOf, grownNear } from './cover.js';
import {
  isBetter,
  type Laid,
  laidOutline,
  type Nest,
  type NestChoice,
  numbersFrom,
  rectangleOf,
  shareOf,
  type Size,
  sizeOfSheet,
  type Clamp,
} from './nest-choice.js';
import { tightened } from './tighten.js';

/** mm of a cell where nothing else is said, at least, and cells along the longer side of a sheet at most. */
const CELL = 0.5;
const MOST_CELLS = 1600;
/** Turns that are tried when one is laid after the other. */
const MOST_TURNS = 8;

/**
 * Outlines on as few sheets as a simple rule finds: one after the other, each turned so that its centroid lies lowest, there farthest to the left (after bottom-left
 * fill; B. S. Baker, E. G. Coffman and R. L. Rivest, Orthogonal Packings in Two Dimensions, 1980, there of rectangles), in holes of others, too.
 * Places are whole cells apart. No two outlines come nearer to each other than the spacing: what lies in cells of its own does by
 * {@link coverOf}.
 */
export function nested(outlines: readonly Outline[], choice: NestChoice): Nest {
  const { keepsOrder = false, effort = 0 } = choice;
  const usual = { ...choice, onProgress: keepsOrder || effort === 0 ? choice.onProgress : undefined };
  const quarters = choice.turns.filter((turn) => turn % 90 === 0);
  const isMany = quarters.length > 0 && choice.turns.length > MOST_TURNS;
  // One after the other they are laid by quarters, since more turns take longer than they save; unless one fits in no other way.
  let nest = filled(outlines, isMany ? { ...usual, turns: quarters } : usual);
  if (isMany && nest.left.length > 0) nest = filled(outlines, usual);
  return keepsOrder || effort === 0 ? nest : tightened(outlines, nest, choice, effort);
}

/** The best of some orders, or the one that is kept. */
function filled(outlines: readonly Outline[], choice: NestChoice): Nest {
  const { sheet, spacing, margin, turns, keepsOrder = false, tries = 1, onProgress } = choice;
  const cell = choice.cell ?? Math.max(CELL, Math.max(sheet.width, sheet.height) / MOST_CELLS);
  const made = new Map<Outline, Turned[]>();
  const ways = outlines.map((outline) => {
    let own = made.get(outline);
    if (!own) made.set(outline, (own = turnedBy(outline, turns, cell, spacing / 2, margin)));
    return own;
  });
  const locked = new Set(choice.locked?.map(({ item }) => item));
  const given = outlines.flatMap((_, i) => (locked.has(i) ? [] : [i]));
  if (keepsOrder) return filledBy(given, outlines, ways, cell, choice);
  let best: Nest | undefined;
  let order = given;
  // Swaps that are the same for the same outlines.
  const random = numbersFrom(outlines.length);
  for (let attempt = 0; attempt < Math.max(1, tries); attempt++) {
    const next = attempt < SORTS.length ? [...given].sort((a, b) => SORTS[attempt](outlines[b], ways[b]) - SORTS[attempt](outlines[a], ways[a]) || a - b) : swapped(order, random); // prettier-ignore
    const nest = filledBy(next, outlines, ways, cell, { ...choice, onProgress: undefined });
    if (!best || isBetter(nest, best)) [best, order] = [nest, next];
    onProgress?.((attempt + 1) / Math.max(1, tries));
  }
  return best!;
}

/** What may be large: area, the box around it, its longer side, its shorter one. */
const SORTS: readonly ((outline: Outline, ways: readonly Turned[]) => number)[] = [
  (outline) => area(outline),
  (_, [{ width, height }]) => width * height,
  (_, [{ width, height }]) => Math.max(width, height),
  (_, [{ width, height }]) => Math.min(width, height) + Math.max(width, height) / 4,
];

/** An order with some of it swapped, mostly with neighbours. */
function swapped(order: readonly number[], random: () => number): number[] {
  const next = [...order];
  const count = 1 + Math.floor(random() * Math.max(2, order.length / 8));
  for (let k = 0; k < count; k++) {
    const i = Math.floor(random() * next.length);
    const j = Math.min(next.length - 1, Math.max(0, i + Math.round((random() - 0.5) * 2 * Math.min(12, next.length))));
    [next[i], next[j]] = [next[j], next[i]];
  }
  return next;
}

function filledBy(
  order: readonly number[],
  outlines: readonly Outline[],
  ways: readonly (readonly Turned[])[],
  cell: number,
  choice: NestChoice,
): Nest {
  const { sheet, margin, spacing, keepsOrder = false, onProgress, offcuts = [], clamps = [], locked = [] } = choice;
  const sheets: Sheet[] = [];
  const begun = (on: number): Sheet => {
    const { width, height } = sizeOfSheet(choice, on);
    return (sheets[on] ??= new Sheet(width, height, margin, cell, on < offcuts.length ? [] : clamps, spacing / 2));
  };
  const laid: Laid[] = [...locked];
  for (const each of locked) {
    for (let on = sheets.length; on <= each.sheet; on++) begun(on);
    sheets[each.sheet].hold(laidOutline(outlines[each.item], each), spacing / 2);
  }
  const left: number[] = [];
  let latest = 0;
  for (const item of order) {
    const fits = (own: Size): boolean =>
      ways[item].some(({ width, height }) => width <= own.width - 2 * margin && height <= own.height - 2 * margin);
    // Of an empty sheet clamps may leave too little: it is begun once and not again and again.
    const isWhole = fits(sheet);
    let place: Place | undefined;
    let on = keepsOrder ? latest : 0;
    for (let isFresh = false; !place && !isFresh && (isWhole || on < offcuts.length); on++) {
      isFresh = on >= Math.max(sheets.length, offcuts.length);
      place = begun(on).lowest(ways[item]);
    }
    if (!place) {
      if (sheets[sheets.length - 1]?.isEmpty) sheets.pop();
      left.push(item);
      continue;
    }
    latest = on - 1;
    sheets[on - 1].take(place);
    laid.push({ item, sheet: on - 1, ...sheets[on - 1].shiftOf(place), turn: place.way.turn });
    if (keepsOrder) onProgress?.(laid.length / order.length);
  }
  const lastMm = sheets[sheets.length - 1]?.highestMm ?? 0;
  return { laid, left, sheets: sheets.length, share: shareOf(outlines, laid, sheets.length, choice), lastMm };
}

/** An outline in one of its turns. */
interface Turned {
  readonly turn: number;
  readonly cover: Cover;
  readonly width: number;
  readonly height: number;
  /** How far its centroid is above its lower edge. */
  readonly centre: number;
  /** The lower left corner of its box, in its own turned coordinates. */
  readonly minX: number;
  readonly minY: number;
}

function turnedBy(outline: Outline, turns: readonly number[], cell: number, near: number, margin: number): Turned[] {
  const grown = grownNear(outline, cell, near);
  return turns.map((turn) => {
    const turned = laidOutline(outline, { x: 0, y: 0, turn });
    const { minX, minY, maxX, maxY } = bounds(turned)!;
    // So that it can lie right at the margin.
    const cover = coverOf(laidOutline(grown, { x: 0, y: 0, turn }), cell, [minX - margin, minY - margin]);
    return { turn, cover, width: maxX - minX, height: maxY - minY, centre: centroidY(turned) - minY, minX, minY };
  });
}

/** The height of an area's centroid (Green's theorem). */
function centroidY(outline: Outline): number {
  let [twice, moment] = [0, 0];
  for (const ring of outline) {
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const cross = ring[j] * ring[i + 1] - ring[i] * ring[j + 1];
      twice += cross;
      moment += cross * (ring[j + 1] + ring[i + 1]);
    }
  }
  return moment / (3 * twice);
}

interface Place {
  readonly way: Turned;
  readonly column: number;
  readonly row: number;
}

/** A sheet as cells that are taken. Around it there is room for the cells beside an outline at its edge. */
class Sheet {
  private readonly words: number;
  private readonly bits: Int32Array;
  private readonly rows: number;
  /** Cells around the sheet. */
  private readonly around: number;
  /** Above it nothing lies. */
  private highest = 0;
  highestMm = 0;
  isEmpty = true;
  /** Before which place an outline has no room. */
  private readonly tried = new Map<Turned, { readonly column: number; readonly row: number }>();

  constructor(
    private readonly width: number,
    private readonly height: number,
    private readonly margin: number,
    private readonly cell: number,
    clamps: readonly Clamp[],
    near: number,
  ) {
    this.around = 64;
    this.rows = Math.ceil(height / cell) + 2 * this.around;
    this.words = (Math.ceil(width / cell) + 2 * this.around + 63) >> 5;
    this.bits = new Int32Array(this.rows * this.words);
    for (const clamp of clamps) this.mark(rectangleOf(clamp), near);
  }

  /** Takes the place of what lies on the sheet already, wherever that is. */
  hold(outline: Outline, near: number): void {
    this.isEmpty = false;
    this.mark(outline, near);
    this.highestMm = Math.max(this.highestMm, bounds(outline)!.maxY);
  }

  private mark(outline: Outline, near: number): void {
    const cover = coverOf(grownNear(outline, this.cell, near), this.cell, [0, 0]);
    const [column, row] = [Math.round(cover.x / this.cell) + this.around, Math.round(cover.y / this.cell) + this.around];
    const { runs } = cover;
    for (let k = 0; k < runs.length; k += 3) {
      const own = row + runs[k];
      const [from, to] = [Math.max(0, column + runs[k + 1]), Math.min(32 * this.words - 1, column + runs[k + 2])];
      for (let c = from; c <= to && own >= 0 && own < this.rows; c++) this.bits[own * this.words + (c >> 5)] |= 1 << (c & 31);
    }
    this.highest = Math.max(this.highest, Math.min(this.rows, row + cover.rows));
  }

  /** How far an outline is moved to lie at a place. */
  shiftOf({ way: { cover }, column, row }: Place): { readonly x: number; readonly y: number } {
    return { x: (column - this.around) * this.cell - cover.x, y: (row - this.around) * this.cell - cover.y };
  }

  /** The place of the turn whose centroid lies lowest, of those the one farthest to the left. */
  lowest(ways: readonly Turned[]): Place | undefined {
    let best: { readonly place: Place; readonly level: number } | undefined;
    for (const way of ways) {
      const place = this.placeOf(way, best?.level ?? Infinity);
      if (!place) continue;
      const level = place.row * this.cell + way.centre;
      if (!best || level < best.level) best = { place, level };
    }
    return best?.place;
  }

  take({ way, column, row }: Place): void {
    this.isEmpty = false;
    const { cover } = way;
    const { runs, rows } = cover;
    for (let k = 0; k < runs.length; k += 3) {
      const base = (row + runs[k]) * this.words;
      for (let c = column + runs[k + 1]; c <= column + runs[k + 2]; c++) this.bits[base + (c >> 5)] |= 1 << (c & 31);
    }
    this.highest = Math.max(this.highest, row + rows);
    this.highestMm = Math.max(this.highestMm, (row - this.around) * this.cell + way.height + way.minY - cover.y);
  }

  /** @param level mm that its centroid has to lie below */
  private placeOf(way: Turned, level: number): Place | undefined {
    const { cell, margin, around } = this;
    const { cover, minX, minY } = way;
    // Cells at which the outline itself is inside of the margins.
    const [dx, dy] = [minX - cover.x, minY - cover.y];
    const [fromX, toX] = [
      Math.ceil((margin - dx) / cell - 1e-9),
      Math.floor((this.width - margin - dx - way.width) / cell + 1e-9),
    ];
    const [fromY, toY] = [
      Math.ceil((margin - dy) / cell - 1e-9),
      Math.floor((this.height - margin - dy - way.height) / cell + 1e-9),
    ];
    // What had no room before has none now: sheets only fill.
    const known = this.tried.get(way);
    for (let row = known?.row ?? fromY + around; row <= toY + around; row++) {
      if (row * cell + way.centre >= level) return undefined;
      let column = row === known?.row ? known.column : fromX + around;
      while (column <= toX + around) {
        const further = row >= this.highest ? 0 : this.blocked(cover, column, row);
        if (further === 0) {
          this.tried.set(way, { column, row });
          return { way, column, row };
        }
        column += further;
      }
    }
    this.tried.set(way, { column: toX + around + 1, row: toY + around });
    return undefined;
  }

  /** How many columns on it is to be tried next; 0 where all cells are free. */
  private blocked({ runs }: Cover, column: number, row: number): number {
    for (let k = 0; k < runs.length; k += 3) {
      const base = (row + runs[k]) * this.words;
      const [from, to] = [column + runs[k + 1], column + runs[k + 2]];
      const [first, last] = [from >> 5, to >> 5];
      // The last cell that is taken: the run has to begin after it.
      for (let w = last; w >= first; w--) {
        let word = this.bits[base + w];
        if (word === 0) continue;
        if (w === last && (to & 31) !== 31) word &= (1 << ((to & 31) + 1)) - 1;
        if (w === first) word &= -1 << (from & 31);
        if (word !== 0) return w * 32 + 31 - Math.clz32(word) - from + 1;
      }
    }
    return 0;
  }
}
