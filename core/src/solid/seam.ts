import { type Contour, IntList, STEPS_PER_MM } from '../geometry/index.js';
import { type Round } from '../support/index.js';
import { type Creased } from '../mesh/index.js';

/** mm by which corners may lie apart and be one: they lie on a grid, and slopes meet the seam in chords. */
const SAME = 0.004;
/** The same, along the seam, of corners on both of its sides: where an edge runs nearly along it, what the grid moves it by is many times that. */
const ACROSS = 0.03;
/** mm by which the ends of a blank may lie beside the seam. */
const BESIDE = 0.007;
/** The same of a corner and the end that it is on: two steps of the grid, on which corners lie. */
const ON_END = 2 / STEPS_PER_MM;

/**
 * A mesh whose ends meet all the way round: what stands in the seam is taken out, and corners on both of its sides become one. A corner that
 * only one side has is given to the other. Where the sides do not meet, as where something is on one alone, the ends stay as they are, and close
 * the solid each for itself.
 */
export function closedRound(mesh: Creased, round: Round, blank: Contour): Creased {
  const { positions: p, triangles } = mesh;
  const ends = new Int8Array(p.length / 3);
  for (const side of [-1, 1] as const) {
    const end = endOf(blank, round, side);
    if (!end) return mesh;
    for (let v = 0; v < ends.length; v++) if (distanceTo(end, p[3 * v], p[3 * v + 1]) < ON_END) ends[v] = side;
  }
  const standing = (t: number): number =>
    ends[triangles[t]] === ends[triangles[t + 1]] && ends[triangles[t]] === ends[triangles[t + 2]] ? ends[triangles[t]] : 0;
  const rims = { left: rimOf(triangles, (t) => standing(t) === -1), right: rimOf(triangles, (t) => standing(t) === 1) };
  if (rims.left.length === 0 || rims.right.length === 0) return mesh;
  const kept = new IntList(triangles.length);
  const from = new IntList(triangles.length / 3);
  for (let t = 0; t < triangles.length; t += 3) {
    if (standing(t) !== 0) continue;
    for (let k = 0; k < 3; k++) kept.push(triangles[t + k]);
    from.push(mesh.from[t / 3]);
  }
  const sides = new SeamSides(p, round);
  const open = { positions: p, triangles: Uint32Array.from(kept.toArray()), from: from.toArray() };
  const filled = sides.withEachOthers(open, rims);
  return filled ?? mesh;
}

/** A straight end of a blank: x, y of its lower and of its upper corner. */
type End = readonly [number, number, number, number];

/** The end of a blank on one side of its seam. */
function endOf(blank: Contour, { turns, up, length }: Round, side: -1 | 1): End | undefined {
  let [low, high] = [Infinity, -Infinity];
  const end: [number, number, number, number] = [0, 0, 0, 0];
  for (let i = 0; i < blank.length; i += 2) {
    const [x, y] = [blank[i], blank[i + 1]];
    if (Math.abs(turns(x, y) - side / 2) * length > BESIDE) continue;
    const at = up(x, y);
    if (at < low) [low, end[0], end[1]] = [at, x, y];
    if (at > high) [high, end[2], end[3]] = [at, x, y];
  }
  return high > low ? end : undefined;
}

/** mm from a place to the line through an end. */
const distanceTo = ([ax, ay, bx, by]: End, x: number, y: number): number =>
  Math.abs((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / Math.hypot(bx - ax, by - ay);

type Edge = readonly [number, number];
interface Rims {
  readonly left: readonly Edge[];
  readonly right: readonly Edge[];
}

/** The edges of the triangles that are meant which are none between two of them, as those run along them. */
function rimOf(triangles: Uint32Array, isMeant: (t: number) => boolean): Edge[] {
  const edges = new Map<string, Edge>();
  for (let t = 0; t < triangles.length; t += 3) {
    if (!isMeant(t)) continue;
    for (let k = 0; k < 3; k++) {
      const [a, b] = [triangles[t + k], triangles[t + ((k + 1) % 3)]];
      if (!edges.delete(`${b} ${a}`)) edges.set(`${a} ${b}`, [a, b]);
    }
  }
  return [...edges.values()];
}

/** Both sides of a seam, as places along it and heights. */
class SeamSides {
  private readonly up = new Map<number, readonly [number, number]>();

  constructor(
    private readonly p: Float64Array,
    private readonly round: Round,
  ) {}

  /** The open mesh with corners that both sides have, those on the right being those on the left; undefined where the sides differ. */
  withEachOthers(open: Creased, { left, right }: Rims): Creased | undefined {
    const [onLeft, onRight] = [cornersOf(left), cornersOf(right)];
    const partner = new Map<number, number>();
    const lone: { left: number[]; right: number[] } = { left: [], right: [] };
    const taken = new Set<number>();
    for (const v of onLeft) {
      const near = this.nearest(v, onRight, taken, ACROSS);
      if (near === undefined) lone.left.push(v);
      else {
        taken.add(near);
        partner.set(near, v);
      }
    }
    for (const v of onRight) if (!taken.has(v)) lone.right.push(v);
    // Two corners of one side in a place are one.
    const others = [onLeft.filter((v) => !lone.left.includes(v)), [...taken]] as const;
    [lone.left, lone.right].forEach((alone, side) => {
      for (const v of [...alone]) {
        const near = this.nearest(v, others[side], new Set(), SAME);
        if (near === undefined) continue;
        partner.set(v, partner.get(near) ?? near);
        alone.splice(alone.indexOf(v), 1);
      }
    });
    // A corner of the one side alone becomes one of the other.
    const inLeft = this.insertions(lone.right, left);
    const inRight = this.insertions(lone.left, right);
    if (!inLeft || !inRight) return undefined;
    for (const v of lone.right) partner.set(v, v);
    const split = withInserted(withInserted(open, inLeft), inRight);
    const made = withoutCollapsed({ ...split, triangles: split.triangles.map((v) => partner.get(v) ?? v) });
    return isClosedAlong(made.triangles, new Set([...onLeft, ...lone.right])) ? made : undefined;
  }

  private placeOf(v: number): readonly [number, number] {
    let place = this.up.get(v);
    if (!place) this.up.set(v, (place = [this.round.up(this.p[3 * v], this.p[3 * v + 1]), this.p[3 * v + 2]]));
    return place;
  }

  private nearest(v: number, among: readonly number[], taken: ReadonlySet<number>, within: number): number | undefined {
    const [s, z] = this.placeOf(v);
    let [best, least] = [undefined as number | undefined, within];
    for (const other of among) {
      if (taken.has(other)) continue;
      const [os, oz] = this.placeOf(other);
      if (Math.abs(oz - z) > SAME) continue;
      const apart = Math.abs(os - s);
      if (apart < least) [best, least] = [other, apart];
    }
    return best;
  }

  /** By edge the corners that lie on it, in its order; undefined where one lies on none. */
  private insertions(corners: readonly number[], edges: readonly Edge[]): Map<string, number[]> | undefined {
    const found = new Map<string, { at: number; v: number }[]>();
    for (const v of corners) {
      const [s, z] = this.placeOf(v);
      const edge = edges.find(([a, b]) => {
        const [[as, az], [bs, bz]] = [this.placeOf(a), this.placeOf(b)];
        const [ds, dz] = [bs - as, bz - az];
        const length = Math.hypot(ds, dz);
        if (length < SAME) return false;
        const along = ((s - as) * ds + (z - az) * dz) / length;
        return along > 0 && along < length && Math.abs((s - as) * dz - (z - az) * ds) / length < SAME;
      });
      if (!edge) return undefined;
      const [as, az] = this.placeOf(edge[0]);
      const key = `${edge[0]} ${edge[1]}`;
      found.set(key, [...(found.get(key) ?? []), { at: Math.hypot(s - as, z - az), v }]);
    }
    return new Map([...found].map(([key, list]) => [key, list.sort((a, b) => a.at - b.at).map(({ v }) => v)]));
  }
}

const cornersOf = (edges: readonly Edge[]): number[] => [...new Set(edges.flat())];

/** The mesh without triangles of which two corners are one. */
function withoutCollapsed(mesh: Creased): Creased {
  const { triangles, from } = mesh;
  const kept: number[] = [];
  for (let f = 0; f < from.length; f++) {
    const [a, b, c] = [triangles[3 * f], triangles[3 * f + 1], triangles[3 * f + 2]];
    if (a !== b && b !== c && a !== c) kept.push(f);
  }
  if (kept.length === from.length) return mesh;
  const left = new Uint32Array(3 * kept.length);
  kept.forEach((f, i) => left.set(triangles.subarray(3 * f, 3 * f + 3), 3 * i));
  return { ...mesh, triangles: left, from: Int32Array.from(kept, (f) => from[f]) };
}

/** A mesh whose edges along an open rim got these corners, by edges as they run along what was taken out there. */
function withInserted(mesh: Creased, inserted: ReadonlyMap<string, readonly number[]>): Creased {
  if (inserted.size === 0) return mesh;
  const triangles = Array.from(mesh.triangles);
  const from = Array.from(mesh.from);
  const left = new Map(inserted);
  for (let t = 0; t < triangles.length && left.size > 0; t += 3) {
    for (let k = 0; k < 3; k++) {
      const [b, a, c] = [triangles[t + k], triangles[t + ((k + 1) % 3)], triangles[t + ((k + 2) % 3)]];
      const corners = left.get(`${a} ${b}`);
      if (!corners) continue;
      left.delete(`${a} ${b}`);
      // From b over the corners to a, each with the corner across; what follows the first is looked at again for its other edges.
      const way = [b, ...[...corners].reverse(), a];
      [triangles[t], triangles[t + 1], triangles[t + 2]] = [way[0], way[1], c];
      for (let i = 1; i + 1 < way.length; i++) {
        triangles.push(way[i], way[i + 1], c);
        from.push(from[t / 3]);
      }
      k = -1;
    }
  }
  return { ...mesh, triangles: Uint32Array.from(triangles), from: Int32Array.from(from) };
}

/** Whether every edge between corners of a seam has one opposite. */
function isClosedAlong(triangles: Uint32Array, seam: ReadonlySet<number>): boolean {
  const open = new Set<string>();
  for (let t = 0; t < triangles.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [triangles[t + k], triangles[t + ((k + 1) % 3)]];
      if (!seam.has(a) || !seam.has(b)) continue;
      if (open.has(`${a} ${b}`)) return false;
      if (!open.delete(`${b} ${a}`)) open.add(`${a} ${b}`);
    }
  }
  return open.size === 0;
}
