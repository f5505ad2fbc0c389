import { type CreaseLines, IntList } from '../geometry/index.js';

/** A mesh whose corners are places of the plan with heights, and for every triangle the one that it was cut from, or −1. */
export interface Creased {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
  readonly from: Int32Array;
}

/** Tells the heights of new corners where they do not lie straight between those of the edge that is cut. */
export interface CutHeights {
  /**
   * @param corner the number that the new one gets
   * @param a one end of the edge, with its height
   * @param t the share of the way from there
   * @returns undefined where it lies straight between both
   */
  between(corner: number, a: number, b: number, heightA: number, heightB: number, t: number, x: number, y: number): number | undefined; // prettier-ignore
}

/** Corners nearer to a line than this, in what the function gives, lie on it. */
const ON_LINE = 1e-9;

/**
 * A closed mesh cut along lines of its plan, so that no triangle lies on both sides of one. Every edge is cut once, and what lies on either
 * side of it gets the same corners: what was closed stays so, without anything being worked out anew.
 */
export function creased(
  mesh: { readonly positions: Float64Array; readonly triangles: Uint32Array },
  lines: CreaseLines,
  heights?: CutHeights,
): Creased {
  const { positions: p, triangles } = mesh;
  const corners = p.length / 3;
  const classes = classesOf(p, lines);
  const cuts = new EdgeCuts(p, classes, lines, heights);
  const out = new IntList(2 * triangles.length);
  const from = new IntList(triangles.length);
  const add = (a: number, b: number, c: number, turned: boolean, origin: number): void => {
    out.push(a);
    out.push(turned ? c : b);
    out.push(turned ? b : c);
    from.push(origin);
  };
  for (let t = 0; t < triangles.length; t += 3) {
    const origin = t / 3;
    let [a, b, c] = [triangles[t], triangles[t + 1], triangles[t + 2]];
    // The lowest first, the highest last; every exchange turns the triangle over.
    let exchanges = 0;
    if (classes[a] > classes[b]) [a, b, exchanges] = [b, a, exchanges + 1];
    if (classes[b] > classes[c]) [b, c, exchanges] = [c, b, exchanges + 1];
    if (classes[a] > classes[b]) [a, b, exchanges] = [b, a, exchanges + 1];
    const turned = exchanges % 2 === 1;
    if (linesBetween(classes[a], classes[c]) === 0) {
      add(a, b, c, turned, origin);
      continue;
    }
    // Two chains from the lowest to the highest corner, each with a corner on every line between: ladders of triangles.
    const far = cuts.on(a, c);
    const [near, then] = [cuts.on(a, b), cuts.on(b, c)];
    const [farCount, nearCount, thenCount] = [
      linesBetween(classes[a], classes[c]),
      linesBetween(classes[a], classes[b]),
      linesBetween(classes[b], classes[c]),
    ];
    const shortSize = nearCount + thenCount + 2;
    const onLong = (i: number): number => (i === 0 ? a : i <= farCount ? far + i - 1 : c);
    const onShort = (i: number): number => {
      if (i === 0) return a;
      if (i <= nearCount) return near + i - 1;
      if (i === nearCount + 1) return b;
      return i < shortSize ? then + i - nearCount - 2 : c;
    };
    let [i, j] = [0, 0];
    while (i < farCount + 1 || j < shortSize) {
      const [long, short] = [onLong(i), onShort(j)];
      const takesLong = j === shortSize || (i < farCount + 1 && cuts.classOf(onLong(i + 1)) < cuts.classOf(onShort(j + 1)));
      if (takesLong) {
        const next = onLong(++i);
        if (long !== short && next !== short) add(long, short, next, turned, origin);
      } else {
        const next = onShort(++j);
        if (long !== short && next !== long) add(long, short, next, turned, origin);
      }
    }
  }
  return { positions: cuts.positions(corners), triangles: Uint32Array.from(out.toArray()), from: from.toArray() };
}

/** Twice the number of lines below a corner, one more where it lies on a line. */
function classesOf(p: Float64Array, { values, valueAt }: CreaseLines): Int32Array {
  const classes = new Int32Array(p.length / 3);
  for (let v = 0; v < classes.length; v++) {
    const value = valueAt(p[3 * v], p[3 * v + 1]);
    let [low, high] = [0, values.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (values[middle] < value - ON_LINE) low = middle + 1;
      else high = middle;
    }
    classes[v] = 2 * low + (low < values.length && Math.abs(values[low] - value) <= ON_LINE ? 1 : 0);
  }
  return classes;
}

/** How many lines lie strictly between two classes of corners. */
const linesBetween = (low: number, high: number): number => Math.max(0, (high >> 1) - ((low + 1) >> 1));

/** The corners that edges get on lines. */
class EdgeCuts {
  private readonly firstOn = new Map<number, number>();
  private readonly added: number[] = [];
  private readonly addedClasses: number[] = [];
  private readonly corners: number;

  constructor(
    private readonly p: Float64Array,
    private readonly classes: Int32Array,
    private readonly lines: CreaseLines,
    private readonly heights: CutHeights | undefined,
  ) {
    this.corners = p.length / 3;
  }

  /** The first corner on an edge from the lower to the higher of two, the others following. */
  on(low: number, high: number): number {
    const { p, classes, lines, corners, heights } = this;
    const first = (classes[low] + 1) >> 1;
    const end = classes[high] >> 1;
    if (first >= end) return -1;
    const key = low < high ? low * corners + high : high * corners + low;
    let known = this.firstOn.get(key);
    if (known !== undefined) return known;
    known = corners + this.addedClasses.length;
    this.firstOn.set(key, known);
    const [ax, ay, az] = [p[3 * low], p[3 * low + 1], p[3 * low + 2]];
    const [bx, by, bz] = [p[3 * high], p[3 * high + 1], p[3 * high + 2]];
    for (let line = first; line < end; line++) {
      const t = Math.min(1, Math.max(0, lines.shareAt(line, ax, ay, bx, by)));
      const [x, y] = [ax + t * (bx - ax), ay + t * (by - ay)];
      const straight = az === bz ? az : az + t * (bz - az);
      this.added.push(x, y, heights?.between(corners + this.addedClasses.length, low, high, az, bz, t, x, y) ?? straight);
      this.addedClasses.push(2 * line + 1);
    }
    return known;
  }

  classOf(corner: number): number {
    return corner < this.corners ? this.classes[corner] : this.addedClasses[corner - this.corners];
  }

  positions(corners: number): Float64Array {
    const all = new Float64Array(3 * corners + this.added.length);
    all.set(this.p);
    all.set(this.added, 3 * corners);
    return all;
  }
}
