import { type Box, bounds, direction, gapBetween, type Outline } from '../geometry/index.js';
import { DistanceField, pointsAlong } from './distance-field.js';
import { laidOutline } from './nest-choice.js';
import { type Room, type Spot } from './overlap.js';
import { Weights } from './weights.js';

/** mm that two may be nearer than they should be before they are moved, and that the smallest step has. */
const SLIGHT = 1e-3;
const STEP = 0.01;
/** Rounds in which nothing gets better before more room is given, and by which share. */
const PATIENCE = 12;
const MORE = 0.002;
/** Coordinates of points along an outline that take as long as a look by cells. */
const LOOK_POINTS = 400;
/** By how much what is too near weighs more after a round: the least of it and the most. */
const HEAVIER = { least: 1.2, most: 2 };
const DIAGONAL = Math.SQRT1_2;
const WAYS = [1, 0, -1, 0, 0, 1, 0, -1, DIAGONAL, DIAGONAL, -DIAGONAL, -DIAGONAL, DIAGONAL, -DIAGONAL, -DIAGONAL, DIAGONAL];

/** An outline in one turn, as it is measured. */
interface Body {
  readonly field: DistanceField;
  /** Along its edges, turned. */
  readonly points: Float64Array;
  readonly box: Box;
  readonly cos: number;
  readonly sin: number;
  readonly width: number;
  readonly height: number;
}

/** Outlines as they are measured, by their turns in degrees: kept from one time to the next, by spacing and cell alike. */
export type Bodies = Map<Outline, Map<number, Body>>;

interface Lying {
  sheet: number;
  body: Body;
  x: number;
  y: number;
}

/** Where outlines lie, how far up the last sheet, and those that are still too near to others. */
export interface Parted {
  readonly spots: readonly Spot[];
  readonly height: number;
  readonly stuck: readonly number[];
}

/**
 * Moves outlines that are nearer to each other than they may be apart, by a little, without cells: as long as there is not enough room
 * the last sheet is taken farther up. How near they are is looked up in fields of distances, and measured exactly before they are told.
 * @param start where they lie, some nearer than they may, turned as they stay
 * @param height mm of the last sheet that are taken at first, and at most
 * @param bodies kept by whoever asks again with the same spacing and cell
 * @param spend told what moves took, in looks by cells; says whether more may be
 * @returns where they lie apart, and mm of the last sheet; or those that stay too near to others with all that may be taken
 */
export function parted(
  outlines: readonly Outline[],
  turns: readonly number[],
  rooms: readonly Room[],
  spacing: number,
  cell: number,
  start: readonly Spot[],
  height: { readonly first: number; readonly most: number },
  bodies: Bodies,
  random: () => number,
  spend: (moves: number) => boolean,
): Parted {
  const search = new Parting(outlines, turns, rooms, spacing, cell, start, bodies, random);
  let limit = height.first;
  let [best, idle] = [Infinity, 0];
  search.takeTo(limit);
  for (;;) {
    const { worst, total, near } = search.violations();
    const stuck = worst <= SLIGHT ? search.tooNear() : near;
    if (stuck.length === 0) return { spots: search.spots(start), height: search.top, stuck };
    if (worst > SLIGHT && total < 0.98 * best) [best, idle] = [total, 0];
    else if (++idle > PATIENCE) {
      limit *= 1 + MORE;
      if (limit > height.most) return { spots: search.spots(start), height: search.top, stuck };
      search.takeTo(limit);
      [best, idle] = [Infinity, 0];
      continue;
    }
    if (!spend(near.reduce((sum, i) => sum + search.costOf(i), 1)))
      return { spots: search.spots(start), height: search.top, stuck };
    for (const i of near) search.move(i);
  }
}

class Parting {
  private readonly lying: Lying[];
  private readonly fixed: readonly Lying[];
  private readonly weights: Weights;
  private readonly reach: number;
  /** How far apart two have to be by their fields, where that is more than the spacing. */
  private readonly farther = new Map<number, number>();
  private limit = 0;

  constructor(
    private readonly outlines: readonly Outline[],
    turns: readonly number[],
    private readonly rooms: readonly Room[],
    private readonly spacing: number,
    private readonly cell: number,
    start: readonly Spot[],
    private readonly bodies: Bodies,
    private readonly random: () => number,
  ) {
    this.reach = spacing + 2 * cell;
    this.lying = start.map(({ sheet, turn, x, y }, i) => ({ sheet, x, y, body: this.bodyOf(outlines[i], turns[turn]) }));
    this.fixed = rooms.flatMap(({ taken }, sheet) =>
      taken.map((outline) => ({ sheet, x: bounds(outline)!.minX, y: bounds(outline)!.minY, body: this.bodyOf(outline, 0) })),
    );
    this.weights = new Weights(start.length, start.length + this.fixed.length, HEAVIER);
    this.weights.reset();
  }

  private bodyOf(outline: Outline, turn: number): Body {
    let own = this.bodies.get(outline);
    if (!own) this.bodies.set(outline, (own = new Map<number, Body>()));
    let body = own.get(turn);
    if (body) return body;
    const first = own.values().next().value;
    const turned = laidOutline(outline, { x: 0, y: 0, turn });
    const box = bounds(turned)!;
    const points = pointsAlong(turned, this.cell / 2);
    const { cos, sin } = direction(turn);
    body = {
      field: first?.field ?? new DistanceField(outline, this.cell / 2, this.reach),
      points, box, cos, sin, width: box.maxX - box.minX, height: box.maxY - box.minY,
    }; // prettier-ignore
    own.set(turn, body);
    return body;
  }

  /** How far up the last sheet is taken. */
  get top(): number {
    const last = this.rooms.length - 1;
    return this.lying.reduce((top, { sheet, y, body }) => (sheet === last ? Math.max(top, y + body.height) : top), 0);
  }

  /** Gives more of the last sheet, or less: everything on it is moved by its share. */
  takeTo(height: number): void {
    this.weights.reset();
    const last = this.rooms.length - 1;
    const share = this.limit === 0 ? 1 : height / this.limit;
    this.limit = height;
    for (const each of this.lying) {
      if (each.sheet === last) each.y *= share;
      this.keepIn(each);
    }
  }

  private heightOf(sheet: number): number {
    return sheet === this.rooms.length - 1 ? this.limit : this.rooms[sheet].height;
  }

  private keepIn(each: Lying): void {
    each.x = Math.max(0, Math.min(this.rooms[each.sheet].width - each.body.width, each.x));
    each.y = Math.max(0, Math.min(this.heightOf(each.sheet) - each.body.height, each.y));
  }

  /** By how much outlines are too near, which are, and what is to weigh more. */
  violations(): { readonly worst: number; readonly total: number; readonly near: number[] } {
    const near = new Set<number>();
    let [worst, total] = [0, 0];
    for (let i = 0; i < this.lying.length; i++) {
      const others = this.others(i, this.spacing);
      for (const j of others) {
        if (j < i) continue;
        const by = this.between(i, j, this.lying[i].x, this.lying[i].y);
        if (by <= SLIGHT) continue;
        [worst, total] = [Math.max(worst, by), total + by];
        near.add(i);
        if (j < this.lying.length) near.add(j);
        this.weights.found(i, j, by);
      }
    }
    this.weights.update();
    const order = [...near];
    for (let k = order.length - 1; k > 0; k--) {
      const j = Math.floor(this.random() * (k + 1));
      [order[k], order[j]] = [order[j], order[k]];
    }
    return { worst, total, near: order };
  }

  /** What it takes to move one, in looks by cells. */
  costOf(i: number): number {
    return this.lying[i].body.points.length / LOOK_POINTS;
  }

  private at(j: number): Lying {
    return j < this.lying.length ? this.lying[j] : this.fixed[j - this.lying.length];
  }

  /** Whose boxes are near. */
  private others(i: number, near: number): number[] {
    const own = this.lying[i];
    const found: number[] = [];
    for (let j = 0; j < this.lying.length + this.fixed.length; j++) {
      const other = this.at(j);
      if (j === i || other.sheet !== own.sheet) continue;
      if (own.x > other.x + other.body.width + near || other.x > own.x + own.body.width + near) continue;
      if (own.y > other.y + other.body.height + near || other.y > own.y + own.body.height + near) continue;
      found.push(j);
    }
    return found;
  }

  /** By how much two are nearer than they may be, the first with its box at a place. */
  private between(i: number, j: number, x: number, y: number): number {
    const [own, other] = [this.lying[i], this.at(j)];
    const needed = this.farther.get(i * 1e5 + j) ?? this.farther.get(j * 1e5 + i) ?? this.spacing;
    const [dx, dy] = [
      x - own.body.box.minX - other.x + other.body.box.minX,
      y - own.body.box.minY - other.y + other.body.box.minY,
    ];
    return needed - Math.min(nearest(own.body, dx, dy, other.body, needed), nearest(other.body, -dx, -dy, own.body, needed));
  }

  /** Moves one by steps that get smaller to where it is less too near to others. */
  move(i: number): void {
    const own = this.lying[i];
    const others = this.others(i, this.spacing + 2 * this.cell);
    const cost = (x: number, y: number, most: number): number => {
      let sum = 0;
      for (const j of others) {
        const by = this.between(i, j, x, y);
        if (by > 0) sum += by * this.weights.of(i, j);
        if (sum >= most) return sum;
      }
      return sum;
    };
    let best = cost(own.x, own.y, Infinity);
    const [right, high] = [this.rooms[own.sheet].width - own.body.width, this.heightOf(own.sheet) - own.body.height];
    const [startX, startY] = [own.x, own.y];
    for (let step = this.cell; step >= STEP && best > 0;) {
      let isBetter = false;
      for (let k = 0; k < WAYS.length && best > 0; k += 2) {
        const x = Math.max(0, Math.min(right, own.x + WAYS[k] * step));
        const y = Math.max(0, Math.min(high, own.y + WAYS[k + 1] * step));
        // Others were chosen by how near they are.
        if (Math.abs(x - startX) > this.cell || Math.abs(y - startY) > this.cell) continue;
        const next = cost(x, y, best);
        if (next < best) [own.x, own.y, best, isBetter] = [x, y, next, true];
      }
      if (!isBetter) step /= 2.5;
    }
  }

  /** Those that are nearer than they may be, exactly; they have to be farther apart by their fields from now on. */
  tooNear(): number[] {
    const near = new Set<number>();
    const placed = this.lying.map((each, i) => this.outlineOf(each, this.outlines[i]));
    const taken = this.rooms.flatMap((room) => room.taken);
    for (let i = 0; i < this.lying.length; i++) {
      for (const j of this.others(i, this.spacing)) {
        if (j < i) continue;
        const gap = gapBetween(placed[i], j < placed.length ? placed[j] : taken[j - placed.length], 'edges', this.spacing);
        if (gap >= this.spacing) continue;
        this.farther.set(i * 1e5 + j, (this.farther.get(i * 1e5 + j) ?? this.spacing) + this.spacing - gap + SLIGHT * 2);
        near.add(i);
        if (j < placed.length) near.add(j);
      }
    }
    return [...near];
  }

  private outlineOf({ x, y, body: { box, cos, sin } }: Lying, outline: Outline): Outline {
    const turn = (Math.atan2(sin, cos) * 180) / Math.PI;
    return laidOutline(outline, { x: x - box.minX, y: y - box.minY, turn });
  }

  spots(start: readonly Spot[]): Spot[] {
    return this.lying.map(({ x, y }, i) => ({ ...start[i], x, y }));
  }
}

/** How near points of one are to the edge of another, inside less than 0; `most` where none is nearer. @param dx mm from where the other is unmoved */
function nearest(one: Body, dx: number, dy: number, other: Body, most: number): number {
  const { points } = one;
  const { box, cos, sin, field } = other;
  const [left, right, low, high] = [box.minX - most - dx, box.maxX + most - dx, box.minY - most - dy, box.maxY + most - dy];
  let least = most;
  for (let k = 0; k < points.length; k += 2) {
    const [px, py] = [points[k], points[k + 1]];
    if (px < left || px > right || py < low || py > high) continue;
    const [x, y] = [px + dx, py + dy];
    const value = field.at(cos * x + sin * y, cos * y - sin * x);
    if (value < least) least = value;
  }
  return least;
}
