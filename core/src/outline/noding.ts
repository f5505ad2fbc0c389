import { CellGrid } from './cell-grid.js';
import { turn } from './grid.js';
import type { PointSet } from './points.js';

/** Directed segments between numbered points, in parallel arrays; `tag` travels with a segment and its pieces. */
export interface Segments {
  readonly from: number[];
  readonly to: number[];
  readonly tag: number[];
}

/** Thrown where crossings do not settle on the grid, which no real outline has shown. */
export class NodingError extends Error {
  constructor(rounds: number) {
    super(`Crossing outlines did not settle on the grid within ${rounds} rounds.`);
    this.name = 'NodingError';
  }
}

const MOST_ROUNDS = 64;

/**
 * Splits segments wherever they cross, touch or overlap, so that any two meet in shared end points only. All questions of side
 * are exact.
 *
 * Crossings are rounded to the grid, which bends their segments by up to half a grid step. So that what is bent crosses nothing
 * anew, every segment is led through the middle of every grid square that it passes and in which an end or a crossing lies
 * (snap rounding; J. D. Hobby, "Practical segment intersection with finite precision output", 1999, from memory). Crossings that
 * fell into the wrong square by the rounding of their own computation are found by the next round.
 */
export function node(points: PointSet, input: Segments): Segments {
  let { from, to, tag } = input;
  let fresh = new Uint8Array(from.length).fill(1);
  /** Points before this one have been held against all segments that are not fresh. */
  let settled = 0;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const { splits, isRounded } = findSplits(points, from, to, fresh, settled);
    if (splits.size === 0) return { from, to, tag };
    if (isRounded) settled = points.size;
    const next: Segments = { from: [], to: [], tag: [] };
    const nextFresh: number[] = [];
    for (let s = 0; s < from.length; s++) {
      const at = splits.get(s);
      let previous = from[s];
      if (at) {
        const [x0, y0] = [points.x[previous], points.y[previous]];
        const [dx, dy] = [points.x[to[s]] - x0, points.y[to[s]] - y0];
        const along = (p: number) => (points.x[p] - x0) * dx + (points.y[p] - y0) * dy;
        at.sort((p, q) => along(p) - along(q));
        for (const p of at) {
          if (p === previous || p === to[s]) continue;
          push(next, previous, p, tag[s]);
          nextFresh.push(1);
          previous = p;
        }
      }
      push(next, previous, to[s], tag[s]);
      nextFresh.push(at ? 1 : 0);
    }
    ({ from, to, tag } = next);
    fresh = Uint8Array.from(nextFresh);
  }
  throw new NodingError(MOST_ROUNDS);
}

function push(list: Segments, from: number, to: number, tag: number): void {
  list.from.push(from);
  list.to.push(to);
  list.tag.push(tag);
}

/** Points at which segments must be split, by segment; pairs of which neither is fresh were settled before. */
function findSplits(
  points: PointSet,
  from: number[],
  to: number[],
  fresh: Uint8Array,
  settled: number,
): { readonly splits: Map<number, number[]>; readonly isRounded: boolean } {
  const splits = new Map<number, number[]>();
  const grid = new CellGrid(points, from, to);
  let isRounded = false;
  const add = (s: number, p: number) => {
    if (p === from[s] || p === to[s]) return;
    const list = splits.get(s);
    if (list) list.push(p);
    else splits.set(s, [p]);
  };

  const meet = (s: number, t: number) => {
    const { x, y } = points;
    // One by one: this is the innermost place of all.
    const a = from[s];
    const b = to[s];
    const c = from[t];
    const d = to[t];
    const ax = x[a];
    const ay = y[a];
    const bx = x[b];
    const by = y[b];
    const cx = x[c];
    const cy = y[c];
    const dx = x[d];
    const dy = y[d];
    if (ax < cx ? ax < dx && bx < cx && bx < dx : ax > dx && bx > cx && bx > dx) return;
    if (ay < cy ? ay < dy && by < cy && by < dy : ay > dy && by > cy && by > dy) return;
    if (b === c || a === d) {
      // One goes on where the other ends, as along every outline: they meet again only where it turns back on itself.
      const back = b === c ? turn(ax, ay, bx, by, dx, dy) : turn(cx, cy, dx, dy, bx, by);
      if (back !== 0) return;
    }
    const sideC = turn(ax, ay, bx, by, cx, cy);
    const sideD = turn(ax, ay, bx, by, dx, dy);
    if ((sideC > 0 && sideD > 0) || (sideC < 0 && sideD < 0)) return;
    const sideA = turn(cx, cy, dx, dy, ax, ay);
    const sideB = turn(cx, cy, dx, dy, bx, by);
    if ((sideA > 0 && sideB > 0) || (sideA < 0 && sideB < 0)) return;
    if (sideA !== 0 && sideB !== 0 && sideC !== 0 && sideD !== 0) {
      const t01 = sideC / (sideC - sideD);
      const p = points.add(Math.round(cx + t01 * (dx - cx)), Math.round(cy + t01 * (dy - cy)));
      isRounded = true;
      add(s, p);
      add(t, p);
      return;
    }
    if (sideC === 0 && within(ax, ay, bx, by, cx, cy)) add(s, c);
    if (sideD === 0 && within(ax, ay, bx, by, dx, dy)) add(s, d);
    if (sideA === 0 && within(cx, cy, dx, dy, ax, ay)) add(t, a);
    if (sideB === 0 && within(cx, cy, dx, dy, bx, by)) add(t, b);
  };

  grid.forEachPair(fresh, meet);
  if (isRounded) {
    const { x, y } = points;
    grid.forEachPoint((s, p) => {
      if (p < settled && !fresh[s]) return;
      if (passes(x[from[s]], y[from[s]], x[to[s]], y[to[s]], x[p], y[p])) add(s, p);
    });
  }
  return { splits, isRounded };
}

/**
 * Whether a segment passes the grid square about a point. Squares have their lower and left sides and not the others, as rounding has it:
 * two that both counted a corner would bend segments to and fro between them.
 */
function passes(ax: number, ay: number, bx: number, by: number, px: number, py: number): boolean {
  if (px + 0.5 < Math.min(ax, bx) || px - 0.5 > Math.max(ax, bx) || py + 0.5 < Math.min(ay, by) || py - 0.5 > Math.max(ay, by))
    return false;
  // Of the square's corners the two furthest to the sides, seen along the segment.
  const [dx, dy] = [bx - ax, by - ay];
  const reach = (Math.abs(dx) + Math.abs(dy)) / 2;
  const side = turn(ax, ay, bx, by, px, py);
  if (Math.abs(side) !== reach) return Math.abs(side) < reach;
  // Through one corner: only the lower left one is the square's own.
  return dx * dy < 0 && side === (dx - dy) / 2;
}

const within = (ax: number, ay: number, bx: number, by: number, px: number, py: number): boolean =>
  px >= Math.min(ax, bx) && px <= Math.max(ax, bx) && py >= Math.min(ay, by) && py <= Math.max(ay, by);
