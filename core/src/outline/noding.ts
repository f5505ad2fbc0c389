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
const SEGMENTS_PER_CELL = 1;

/**
 * Splits segments wherever they cross, touch or overlap, so that any two meet in shared end points only. A crossing is
 * rounded to the grid, which can bend its segments by half a grid step; pieces bent that way are looked at again until
 * none crosses. All questions of side are exact.
 */
export function node(points: PointSet, input: Segments): Segments {
  let { from, to, tag } = input;
  let fresh = new Uint8Array(from.length).fill(1);
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const splits = findSplits(points, from, to, fresh);
    if (splits.size === 0) return { from, to, tag };
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
function findSplits(points: PointSet, from: number[], to: number[], fresh: Uint8Array): Map<number, number[]> {
  const splits = new Map<number, number[]>();
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
      add(s, p);
      add(t, p);
      return;
    }
    if (sideC === 0 && within(ax, ay, bx, by, cx, cy)) add(s, c);
    if (sideD === 0 && within(ax, ay, bx, by, dx, dy)) add(s, d);
    if (sideA === 0 && within(cx, cy, dx, dy, ax, ay)) add(t, a);
    if (sideB === 0 && within(cx, cy, dx, dy, bx, by)) add(t, b);
  };

  forEachNearPair(points, from, to, fresh, meet);
  return splits;
}

const within = (ax: number, ay: number, bx: number, by: number, px: number, py: number): boolean =>
  px >= Math.min(ax, bx) && px <= Math.max(ax, bx) && py >= Math.min(ay, by) && py <= Math.max(ay, by);

/**
 * Calls `meet` for every two segments that share a cell of a uniform grid, one of them fresh. A segment is entered only
 * in the cells it runs through, row by row, so that a long diagonal costs its length and not its box.
 */
function forEachNearPair(
  points: PointSet,
  from: number[],
  to: number[],
  fresh: Uint8Array,
  meet: (s: number, t: number) => void,
): void {
  const n = from.length;
  if (n < 2) return;
  const { x, y } = points;
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let s = 0; s < n; s++) {
    for (const p of [from[s], to[s]]) {
      if (x[p] < minX) minX = x[p];
      if (x[p] > maxX) maxX = x[p];
      if (y[p] < minY) minY = y[p];
      if (y[p] > maxY) maxY = y[p];
    }
  }
  const width = maxX - minX + 1;
  const height = maxY - minY + 1;
  const cell = Math.max(64, Math.sqrt((width * height * SEGMENTS_PER_CELL) / n), Math.max(width, height) / 4096);
  const columns = Math.ceil(width / cell);
  const rows = Math.ceil(height / cell);

  const forEachCell = (s: number, visit: (cell: number) => void) => {
    const isUp = y[from[s]] <= y[to[s]];
    const low0 = isUp ? from[s] : to[s];
    const high0 = isUp ? to[s] : from[s];
    const x0 = x[low0];
    const y0 = y[low0];
    const x1 = x[high0];
    const y1 = y[high0];
    const row0 = Math.floor((y0 - minY) / cell);
    const row1 = Math.floor((y1 - minY) / cell);
    for (let row = row0; row <= row1; row++) {
      let left = x0;
      let right = x1;
      if (row0 !== row1) {
        // Where the segment enters and leaves this row, a step wider against rounding.
        const slope = (x1 - x0) / (y1 - y0);
        const low = Math.max(y0, minY + row * cell);
        const high = Math.min(y1, minY + (row + 1) * cell);
        left = x0 + slope * (low - y0);
        right = x0 + slope * (high - y0);
      }
      const first = Math.max(0, Math.floor((Math.min(left, right) - 1 - minX) / cell));
      const last = Math.min(columns - 1, Math.floor((Math.max(left, right) + 1 - minX) / cell));
      for (let column = first; column <= last; column++) visit(row * columns + column);
    }
  };

  // Segments of each cell one after the other: count, sum up, fill.
  const start = new Int32Array(columns * rows + 1);
  for (let s = 0; s < n; s++) forEachCell(s, (c) => start[c + 1]++);
  for (let c = 0; c < columns * rows; c++) start[c + 1] += start[c];
  const members = new Int32Array(start[columns * rows]);
  const fill = start.slice(0, -1);
  for (let s = 0; s < n; s++) forEachCell(s, (c) => (members[fill[c]++] = s));

  for (let c = 0; c < columns * rows; c++) {
    for (let i = start[c]; i < start[c + 1]; i++) {
      for (let j = i + 1; j < start[c + 1]; j++) {
        if (fresh[members[i]] || fresh[members[j]]) meet(members[i], members[j]);
      }
    }
  }
}
