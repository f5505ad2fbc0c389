import { LARGEST_STEP, orient2d } from '../geometry/index.js';

/** Edges between numbered grid points, each from its lower end `lo` to its upper end `hi` (by y, then x). */
export interface UpwardEdges {
  readonly x: Int32Array;
  readonly y: Int32Array;
  readonly lo: Int32Array;
  readonly hi: Int32Array;
}

/** What a sweep meets at a point: edges that end there, edges that begin there, both from left to right. */
export interface SweepEvent {
  readonly vertex: number;
  readonly ended: readonly number[];
  readonly begun: readonly number[];
  /** The edge next to the point on the left and on the right, or −1. */
  readonly left: number;
  readonly right: number;
}

/**
 * Runs a line upwards over edges that meet in shared end points only and reports every point in turn. At the time of the
 * call the edges of `ended` have gone and those of `begun` stand between `left` and `right`. The event object is reused.
 *
 * O(n log n) for the search, with a moved block of the active list for each change.
 */
export function sweep(edges: UpwardEdges, report: (event: SweepEvent) => void): void {
  const { x, y, lo, hi } = edges;
  const n = lo.length;
  if (n === 0) return;

  // Edges by their lower end.
  let vertexCount = 0;
  for (let e = 0; e < n; e++) vertexCount = Math.max(vertexCount, lo[e] + 1, hi[e] + 1);
  const start = new Int32Array(vertexCount + 1);
  const used = new Uint8Array(vertexCount);
  for (let e = 0; e < n; e++) {
    start[lo[e] + 1]++;
    used[lo[e]] = used[hi[e]] = 1;
  }
  for (let v = 0; v < vertexCount; v++) start[v + 1] += start[v];
  const starting = new Int32Array(n);
  const fill = start.slice(0, -1);
  for (let e = 0; e < n; e++) starting[fill[lo[e]]++] = e;

  const order = sweepOrder(x, y, used);
  const active = new Int32Array(n + 1);
  let activeCount = 0;
  const ended: number[] = [];
  const begun: number[] = [];
  const event = { vertex: 0, ended, begun, left: -1, right: -1 };

  for (const v of order) {
    const vx = x[v];
    const vy = y[v];
    // The first active edge that is not wholly to the left of the point.
    let at = 0;
    let end = activeCount;
    while (at < end) {
      const middle = (at + end) >> 1;
      const e = active[middle];
      if (orient2d(x[lo[e]], y[lo[e]], x[hi[e]], y[hi[e]], vx, vy) < 0) at = middle + 1;
      else end = middle;
    }
    ended.length = 0;
    while (at + ended.length < activeCount && hi[active[at + ended.length]] === v) ended.push(active[at + ended.length]);

    begun.length = 0;
    for (let i = start[v]; i < start[v + 1]; i++) {
      const e = starting[i];
      let place = begun.length;
      while (place > 0) {
        const before = begun[place - 1];
        if (orient2d(vx, vy, x[hi[before]], y[hi[before]], x[hi[e]], y[hi[e]]) < 0) break;
        place--;
      }
      for (let k = begun.length; k > place; k--) begun[k] = begun[k - 1];
      begun[place] = e;
    }

    if (ended.length !== begun.length) {
      active.copyWithin(at + begun.length, at + ended.length, activeCount);
      activeCount += begun.length - ended.length;
    }
    for (let i = 0; i < begun.length; i++) active[at + i] = begun[i];
    event.vertex = v;
    event.left = at > 0 ? active[at - 1] : -1;
    event.right = at + begun.length < activeCount ? active[at + begun.length] : -1;
    report(event);
  }
}

const DIGIT = 13;
const DIGITS = 1 << DIGIT;

/** The used points by y, then x: a radix sort in four passes of 13 bits, of coordinates below 2^26 once made positive. */
function sweepOrder(x: Int32Array, y: Int32Array, used: Uint8Array): Int32Array {
  let count = 0;
  for (let v = 0; v < used.length; v++) count += used[v];
  let order = new Int32Array(count);
  for (let v = 0, i = 0; v < used.length; v++) if (used[v]) order[i++] = v;
  let other = new Int32Array(count);
  const start = new Int32Array(DIGITS + 1);
  for (const [key, shift] of [
    [x, 0],
    [x, DIGIT],
    [y, 0],
    [y, DIGIT],
  ] as const) {
    start.fill(0);
    for (let i = 0; i < count; i++) start[(((key[order[i]] + LARGEST_STEP + 1) >> shift) & (DIGITS - 1)) + 1]++;
    for (let d = 0; d < DIGITS; d++) start[d + 1] += start[d];
    for (let i = 0; i < count; i++) other[start[((key[order[i]] + LARGEST_STEP + 1) >> shift) & (DIGITS - 1)]++] = order[i];
    [order, other] = [other, order];
  }
  return order;
}
