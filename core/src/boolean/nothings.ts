import { type Mesh } from '../mesh/index.js';

type From = Mesh & { readonly from: Int32Array };

/** Lengths, in mm, below which distances between corners and heights of triangles are those that rounding left. */
const NOTHING = 1e-6;
const MOST_ROUNDS = 8;

/**
 * A closed mesh without what has no size: corners in one place are one, triangles that lie on each other and look either way go, and triangles
 * without height give their longest edge the other diagonal. Surfaces that touch may have edges in common then.
 */
export function withoutNothings<M extends From>(mesh: M): M {
  const of = cornersByPlace(mesh.positions);
  const triangles = Int32Array.from(mesh.triangles, (v) => of[v]);
  const work = new Working(mesh.positions, triangles);
  for (let round = 0; round < MOST_ROUNDS && work.cancelled() + work.turnedOver() > 0; round++);
  const kept = [...mesh.from.keys()].filter((f) => triangles[3 * f] >= 0);
  return {
    ...mesh,
    triangles: Uint32Array.from(kept.flatMap((f) => [...triangles.subarray(3 * f, 3 * f + 3)])),
    from: Int32Array.from(kept, (f) => mesh.from[f]),
  };
}

/** For every corner the first one in its place. */
function cornersByPlace(p: Float64Array): Int32Array {
  const cells = new Map<string, number[]>();
  const of = new Int32Array(p.length / 3);
  const cellOf = (value: number): number => Math.floor(value / (8 * NOTHING));
  for (let v = 0; v < of.length; v++) {
    const at = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    // The cells that something so near may lie in: mostly one.
    const cells3 = at.map((value) => [...new Set([cellOf(value - NOTHING), cellOf(value + NOTHING)])]);
    const keys = cells3[0].flatMap((x) => cells3[1].flatMap((y) => cells3[2].map((z) => `${x} ${y} ${z}`)));
    const near = keys
      .flatMap((key) => cells.get(key) ?? [])
      .find((w) => Math.hypot(p[3 * w] - at[0], p[3 * w + 1] - at[1], p[3 * w + 2] - at[2]) < NOTHING);
    of[v] = near ?? v;
    if (near !== undefined) continue;
    const own = at.map(cellOf).join(' ');
    const list = cells.get(own);
    if (list) list.push(v);
    else cells.set(own, [v]);
  }
  return of;
}

/** Triangles that are worked on; those that are gone have −1 for their corners. */
class Working {
  private readonly at: number[][];

  constructor(
    private readonly p: Float64Array,
    private readonly triangles: Int32Array,
  ) {
    this.at = Array.from({ length: p.length / 3 }, () => []);
    for (let h = 0; h < triangles.length; h++) this.at[triangles[h]].push(Math.floor(h / 3));
  }

  /** Takes out triangles of which corners are one, and those that lie on each other and look either way; gives how many. */
  cancelled(): number {
    const { triangles } = this;
    let count = 0;
    const open = new Map<string, number[]>();
    for (let f = 0; f < triangles.length / 3; f++) {
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
    for (let f = 0; f < this.triangles.length / 3; f++) if (this.triangles[3 * f] >= 0 && this.turn(f)) count++;
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
