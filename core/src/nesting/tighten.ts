import { area, bounds, type Box, type Outline } from '../geometry/index.js';
import {
  isBetter,
  type Laid,
  laidOutline,
  type Nest,
  type NestChoice,
  numbersFrom,
  rectangleOf,
  shareOf,
  sizeOfSheet,
} from './nest-choice.js';
import { OverlapSearch, type Room, type Spot } from './overlap.js';
import { type Bodies, type Parted, parted } from './part.js';

/** Outlines that are laid anew at most: those of the last sheets. */
const MOST = 400;
/** Cells along the side of a square as large as the boxes of outlines are in the middle, and of finer ones along one of those. */
const CELLS = 36;
const FINER = 4;
/** Cells along the longest box at most. */
const MOST_CELLS = 400;
/** Rounds in which nothing gets better before a search is left, and how often outlines are looked at in one. */
const PATIENCE = 500;
const FINE_PATIENCE = 60;
const MOST_MOVES = 40_000;
/** What is taken of the last sheet, as shares: at the first try, after one that went well, after one that did not, and up to the best known. */
const FIRST = 0.96;
const LESS = 0.982;
const MORE = 1.008;
const ALMOST = 0.995;
/** Share of the outlines' area that may overlap by cells before finer ones are tried, and cells before outlines are moved apart. */
const NEARLY = 0.0015;
const FEW = 1;
/** Tries that fail one after the other before it goes on from the best that is known. */
const MOST_FAILED = 4;
/** How often finer cells are tried, and what is given more of the sheet each time. */
const ATTEMPTS = 6;
const STEP = 0.003;
/** Share of a cell by which outlines are taken as larger that had less room than their cells said. */
const TIGHT = 0.12;
/** Share of the outlines in the area of the other sheets up to which it is tried whether the last one can be done without. */
const DENSE = 0.6;

/**
 * A nest in which less of the last sheet is taken, or one sheet less: outlines are pressed together until they overlap, moved until they
 * overlap as little as can be found (by cells, then by finer ones), and then apart (exactly). The same for the same outlines.
 * @param effort how often outlines are looked at
 */
export function tightened(outlines: readonly Outline[], nest: Nest, choice: NestChoice, effort: number): Nest {
  const { locked = [], onProgress } = choice;
  const fixed = new Set(locked.map(({ item }) => item));
  // From the last sheet back, as many as there is time for.
  const count = (sheet: number): number => nest.laid.filter((each) => each.sheet === sheet && !fixed.has(each.item)).length;
  let first = nest.sheets - 1;
  for (let sum = count(first); first > 0 && sum + count(first - 1) <= MOST;) sum += count(--first);
  const moved = nest.laid.filter(({ item, sheet }) => sheet >= first && !fixed.has(item));
  if (moved.length < 2 || moved.length > MOST) return nest;
  const budget = new Budget(effort, onProgress);
  const random = numbersFrom(outlines.length);
  let best = nest;
  const lastLocked = Math.max(-1, ...locked.map(({ sheet }) => sheet));
  while (best.sheets - 1 > Math.max(first, lastLocked)) {
    const fewer = new Tightening(outlines, best, choice, first, best.sheets - 1, budget, random);
    if (fewer.density > DENSE) break;
    const found = fewer.tried(fewer.room, Infinity);
    if (!found) break;
    best = found;
  }
  const press = new Tightening(outlines, best, choice, first, best.sheets, budget, random);
  let [height, failed] = [FIRST * press.taken, 0];
  while (budget.isLeft && height > 0) {
    const found = press.tried(height, press.taken);
    if (found && isBetter(found, best)) best = found;
    failed = found ? 0 : failed + 1;
    if (failed % MOST_FAILED === MOST_FAILED - 1) press.beginAnew();
    height *= found ? LESS : MORE;
    if (height >= ALMOST * press.taken) height = LESS * press.taken;
  }
  onProgress?.(1);
  return best;
}

/** How often outlines may be looked at. */
class Budget {
  private spent = 0;

  constructor(
    readonly effort: number,
    private readonly onProgress?: (done: number) => void,
  ) {}

  get isLeft(): boolean {
    return this.spent < this.effort;
  }

  get left(): number {
    return Math.max(0, this.effort - this.spent);
  }

  /** @returns whether more may be spent */
  spend(moves: number): boolean {
    this.spent += moves;
    this.onProgress?.(Math.min(1, this.spent / this.effort));
    return this.isLeft;
  }
}

/** Some of the sheets of a nest, on which all that is not locked is laid anew. */
class Tightening {
  private readonly moved: readonly Laid[];
  private readonly kept: readonly Laid[];
  private readonly own: readonly Outline[];
  private readonly rooms: readonly Room[];
  private readonly boxes: readonly (readonly Box[])[];
  /** mm of a cell. */
  private readonly cell: number;
  private readonly area: number;
  private best: readonly Spot[];
  private readonly search: OverlapSearch;
  private readonly fine: OverlapSearch;
  private readonly bodies: Bodies = new Map();
  /** mm of the last sheet inside of its margins that the best nest takes, and that what is locked there does. */
  taken: number;
  private readonly lockedTop: number;

  /** @param first sheet that is laid anew, up to `sheets` */
  constructor(
    private readonly outlines: readonly Outline[],
    nest: Nest,
    private readonly choice: NestChoice,
    private readonly first: number,
    sheets: number,
    private readonly budget: Budget,
    private readonly random: () => number,
  ) {
    const { spacing, margin, turns, locked = [] } = choice;
    const fixed = new Set(locked.map(({ item }) => item));
    this.moved = nest.laid.filter(({ item, sheet }) => sheet >= first && !fixed.has(item));
    this.kept = nest.laid.filter(({ item, sheet }) => sheet < first || fixed.has(item));
    this.own = this.moved.map(({ item }) => outlines[item]);
    this.rooms = Array.from({ length: sheets - first }, (_, k) => this.roomOf(first + k));
    const last = locked.filter(({ sheet }) => sheet === sheets - 1);
    this.lockedTop = last.reduce((top, each) => Math.max(top, bounds(laidOutline(outlines[each.item], each))!.maxY - margin), 0);
    this.boxes = this.own.map((outline) => turns.map((turn) => bounds(laidOutline(outline, { x: 0, y: 0, turn }))!));
    const squares = this.boxes.reduce((sum, [box]) => sum + (box.maxX - box.minX + spacing) * (box.maxY - box.minY + spacing), 0);
    const longest = this.boxes.reduce((most, [box]) => Math.max(most, box.maxX - box.minX, box.maxY - box.minY), 0);
    this.cell = Math.max(Math.sqrt(squares / this.own.length) / CELLS, longest / MOST_CELLS);
    this.area = this.own.reduce((sum, outline) => sum + area(outline), 0);
    this.search = this.searchOf(this.cell);
    this.fine = this.searchOf(this.cell / FINER);
    this.best = this.moved.map((each, i) => this.spotOf(each, i));
    this.search.begin(this.best);
    this.taken = nest.lastMm - margin;
  }

  /** Goes on from the best that is known, all as large as they are. */
  beginAnew(): void {
    this.search.ungrow();
    this.search.begin(this.best);
  }

  /** mm of the last sheet inside of its margins. */
  get room(): number {
    return this.rooms[this.rooms.length - 1].height;
  }

  /** Area of outlines in that of the sheets. */
  get density(): number {
    return this.area / this.rooms.reduce((sum, { width, height }) => sum + width * height, 0);
  }

  private roomOf(sheet: number): Room {
    const { margin, locked = [], clamps = [], offcuts = [] } = this.choice;
    const { width, height } = sizeOfSheet(this.choice, sheet);
    const lying = locked.filter((each) => each.sheet === sheet).map((each) => laidOutline(this.outlines[each.item], each));
    const all = [...(sheet < offcuts.length ? [] : clamps.map(rectangleOf)), ...lying];
    const taken = all.map((outline) => outline.map((ring) => ring.map((value) => value - margin)));
    return { width: width - 2 * margin, height: height - 2 * margin, taken };
  }

  private searchOf(cell: number): OverlapSearch {
    const { turns, spacing } = this.choice;
    return new OverlapSearch(this.own, turns, this.rooms, spacing, cell, this.random, (moves) => this.budget.spend(moves));
  }

  private spotOf({ sheet, x, y, turn }: Laid, i: number): Spot {
    const { turns, margin } = this.choice;
    const at = Math.max(0, turns.indexOf(turn));
    const { minX, minY } = this.boxes[i][at];
    // What lay on a sheet that there is no longer has to find a place on another.
    return { sheet: Math.min(sheet - this.first, this.rooms.length - 1), turn: at, x: x + minX - margin, y: y + minY - margin };
  }

  /**
   * A nest that takes no more than so many mm of the last sheet, or a little more.
   * @param most mm that it has to take less than
   */
  tried(height: number, most: number): Nest | undefined {
    const { search, budget, cell } = this;
    const overlap = search.settle(height, PATIENCE, Math.min(MOST_MOVES, budget.effort / 5, budget.left));
    if (overlap * cell * cell > NEARLY * this.area) return undefined;
    const tight = new Set<number>();
    const apart = this.partedNear(height, most, tight);
    if (!apart) {
      for (const each of tight) search.grow(each, TIGHT * cell);
      return undefined;
    }
    this.taken = Math.max(apart.height, this.lockedTop);
    this.best = apart.spots;
    search.begin(apart.spots);
    return this.nestOf(apart.spots);
  }

  /** What the search found, by finer cells and then moved apart. @param tight those that had no room are added to it */
  private partedNear(height: number, most: number, tight: Set<number>): Parted | undefined {
    const { budget, own, rooms, choice, fine } = this;
    const fineCell = this.cell / FINER;
    fine.ungrow();
    fine.begin(this.search.spots);
    for (let attempt = 0; attempt < ATTEMPTS && budget.isLeft; attempt++) {
      const limit = Math.min(this.room, height * (1 + attempt * STEP));
      if (limit >= most) return undefined;
      const overlap = fine.settle(limit, FINE_PATIENCE, budget.left) / FINER ** 2;
      if (overlap > FEW) {
        for (const each of fine.overlapping) tight.add(each);
        continue;
      }
      const reach = Math.min(most, this.room, limit * (1 + (ATTEMPTS / 2) * STEP));
      const apart = parted(own, choice.turns, rooms, choice.spacing, 2 * fineCell, fine.spots, { first: limit, most: reach }, this.bodies, this.random, (moves) => budget.spend(moves)); // prettier-ignore
      if (apart.stuck.length === 0) return apart;
      for (const each of apart.stuck) {
        fine.grow(each, fineCell / 4);
        tight.add(each);
      }
    }
    return undefined;
  }

  private nestOf(spots: readonly Spot[]): Nest {
    const { turns, margin } = this.choice;
    const laid = spots.map(({ sheet, turn, x, y }, i): Laid => {
      const { minX, minY } = this.boxes[i][turn];
      return {
        item: this.moved[i].item,
        sheet: sheet + this.first,
        turn: turns[turn],
        x: x + margin - minX,
        y: y + margin - minY,
      };
    });
    const all = [...this.kept, ...laid];
    const placed = new Set(all.map(({ item }) => item));
    const left = this.outlines.flatMap((_, item) => (placed.has(item) ? [] : [item]));
    const sheets = all.reduce((most, { sheet }) => Math.max(most, sheet + 1), 0);
    const last = all.filter(({ sheet }) => sheet === sheets - 1);
    const lastMm = last.reduce((top, each) => Math.max(top, bounds(laidOutline(this.outlines[each.item], each))!.maxY), 0);
    return { laid: all, left, sheets, share: shareOf(this.outlines, all, sheets, this.choice), lastMm };
  }
}
