import { type Mesh } from '../mesh/index.js';

type From = Mesh & { readonly from: Int32Array };

/** Lengths, in mm, below which distances between corners and heights of triangles are those that rounding left. */
const NOTHING = 1e-6;
const MOST_ROUNDS = 8;

/**
 * A closed mesh without what has no size: corners in one place are one, triangles that lie on each other and look either way go, and triangles
 * without height give their longest edge the other diagonal. Surfaces that touch may have edges in common then.
 * @param known how many corners, the first ones, were there before
 */
export function withoutNothings<M extends From>(mesh: M, known: number): M {
  const { of, isMet } = cornersByPlace(mesh.positions, known);
  const triangles = Int32Array.from(mesh.triangles, (v) => of[v]);
  const work = new Working(mesh.positions, triangles, isMet);
  for (let round = 0; round < MOST_ROUNDS && work.cancelled() + work.turnedOver() > 0; round++);
  let count = 0;
  const kept = new Int32Array(mesh.from.length);
  for (let f = 0; f < kept.length; f++) if (triangles[3 * f] >= 0) kept[count++] = f;
  const left = new Uint32Array(3 * count);
  for (let i = 0; i < count; i++) for (let k = 0; k < 3; k++) left[3 * i + k] = triangles[3 * kept[i] + k];
  return { ...mesh, triangles: left, from: Int32Array.from(kept.subarray(0, count), (f) => mesh.from[f]) };
}

/** mm of the cells by which near corners are found. */
const CELL = 8 * NOTHING;
const cellOf = (value: number): number => Math.floor(value / CELL);

/** For every corner the first one in its place, and whether a corner is new, or not alone in its place. */
function cornersByPlace(p: Float64Array, known: number): { of: Int32Array; isMet: Uint8Array } {
  const count = p.length / 3;
  const of = Int32Array.from({ length: count }, (_, v) => v);
  const isMet = new Uint8Array(count).fill(1, known);
  const near = new NearCorners(p);
  for (let v = 0; v < count; v++) {
    const first = near.firstAt(v);
    if (first < 0) continue;
    of[v] = first;
    isMet[v] = isMet[first] = 1;
  }
  return { of, isMet };
}

/** Corners in cells, several of which may share a list. */
class NearCorners {
  private readonly last: Int32Array;
  private readonly before: Int32Array;

  constructor(private readonly p: Float64Array) {
    const count = p.length / 3;
    this.last = new Int32Array(2 ** Math.ceil(Math.log2(2 * count + 2))).fill(-1);
    this.before = new Int32Array(count).fill(-1);
  }

  /** The corner before that lies in the place of this one; where there is none −1, and it is found from now on. */
  firstAt(v: number): number {
    const { p } = this;
    const [x, y, z] = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    // The cells that something so near may lie in: mostly one.
    for (let i = cellOf(x - NOTHING); i <= cellOf(x + NOTHING); i++)
      for (let j = cellOf(y - NOTHING); j <= cellOf(y + NOTHING); j++)
        for (let k = cellOf(z - NOTHING); k <= cellOf(z + NOTHING); k++)
          for (let w = this.last[this.listOf(i, j, k)]; w >= 0; w = this.before[w])
            if (Math.hypot(p[3 * w] - x, p[3 * w + 1] - y, p[3 * w + 2] - z) < NOTHING) return w;
    const list = this.listOf(cellOf(x), cellOf(y), cellOf(z));
    this.before[v] = this.last[list];
    this.last[list] = v;
    return -1;
  }

  private listOf(i: number, j: number, k: number): number {
    const mixed = Math.imul(i, 73_856_093) ^ Math.imul(j, 19_349_663) ^ Math.imul(k, 83_492_791);
    return (mixed ^ (mixed >>> 15)) & (this.last.length - 1);
  }
}

/** Triangles that are worked on; those that are gone have −1 for their corners. */
class Working {
  private readonly at: number[][];
  /** Triangles with a corner that is new, or was not alone in its place: the only ones that may have no size. */
  private readonly near: readonly number[];

  constructor(
    private readonly p: Float64Array,
    private readonly triangles: Int32Array,
    isMet: Uint8Array,
  ) {
    const near: number[] = [];
    for (let f = 0; f < triangles.length / 3; f++)
      if (isMet[triangles[3 * f]] | isMet[triangles[3 * f + 1]] | isMet[triangles[3 * f + 2]]) near.push(f);
    this.near = near;
    this.at = Array.from({ length: p.length / 3 }, () => []);
    for (let h = 0; h < triangles.length; h++) this.at[triangles[h]].push(Math.floor(h / 3));
  }

  /** Takes out triangles of which corners are one, and those that lie on each other and look either way; gives how many. */
  cancelled(): number {
    const { triangles } = this;
    let count = 0;
    const open = new Map<string, number[]>();
    for (const f of this.near) {
      const [a, b, c] = triangles.subarray(3 * f, 3 * f + 3);
      if (a < 0) continue;
      if (a === b || b === c || c === a) {
        this.remove(f);
        count++;
        continue;
      }
      const sorted = [a, b, c].sort((u, v) => u - v);
      const isEven = sorted[(sorted.indexOf(a) + 1) % 3] === b;
      const opposite = open.get(`${sorted.join(' ')} ${!isEven}`)?.pop();
      if (opposite !== undefined) {
        this.remove(f);
        this.remove(opposite);
        count += 2;
        continue;
      }
      const key = `${sorted.join(' ')} ${isEven}`;
      const list = open.get(key);
      if (list) list.push(f);
      else open.set(key, [f]);
    }
    return count;
  }

  /** Turns over the longest edges of triangles without height; gives how many. */
  turnedOver(): number {
    let count = 0;
    for (const f of this.near) if (this.triangles[3 * f] >= 0 && this.turn(f)) count++;
    return count;
  }

  private remove(f: number): void {
    for (let k = 0; k < 3; k++) this.leave(this.triangles[3 * f + k], f);
    this.triangles.fill(-1, 3 * f, 3 * f + 3);
  }

  private leave(v: number, f: number): void {
    this.at[v] = this.at[v].filter((other) => other !== f);
  }

  private corner(f: number, k: number): number {
    return this.triangles[3 * f + (k % 3)];
  }

  private length(a: number, b: number): number {
    const { p } = this;
    return Math.hypot(p[3 * a] - p[3 * b], p[3 * a + 1] - p[3 * b + 1], p[3 * a + 2] - p[3 * b + 2]);
  }

  private turn(f: number): boolean {
    const lengths = [0, 1, 2].map((k) => this.length(this.corner(f, k), this.corner(f, k + 1)));
    const longest = lengths.indexOf(Math.max(...lengths));
    const [a, b, c] = [this.corner(f, longest), this.corner(f, longest + 1), this.corner(f, longest + 2)];
    if (this.height(a, b, c) >= NOTHING) return false;
    const other = this.at[a].find(
      (g) => g !== f && [0, 1, 2].some((k) => this.corner(g, k) === b && this.corner(g, k + 1) === a),
    );
    if (other === undefined) return false;
    const d = [0, 1, 2].map((k) => this.corner(other, k)).find((v) => v !== a && v !== b)!;
    const isJoined = this.at[c].some((g) => [0, 1, 2].some((k) => this.corner(g, k) === d));
    if (d === c || isJoined) return false;
    // Two flat ones over one edge: only where the corners become better spread.
    if (this.height(b, a, d) < NOTHING && this.length(c, d) >= lengths[longest]) return false;
    this.triangles.set([a, d, c], 3 * f);
    this.triangles.set([d, b, c], 3 * other);
    this.leave(b, f);
    this.leave(a, other);
    this.at[c].push(other);
    this.at[d].push(f);
    return true;
  }

  /** mm that c is away from the line through a and b. */
  private height(a: number, b: number, c: number): number {
    const { p } = this;
    const [u, w] = [b, c].map((v) => [p[3 * v] - p[3 * a], p[3 * v + 1] - p[3 * a + 1], p[3 * v + 2] - p[3 * a + 2]]);
    const area = Math.hypot(u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]);
    const length = Math.hypot(u[0], u[1], u[2]);
    return length === 0 ? 0 : area / length;
  }
}
