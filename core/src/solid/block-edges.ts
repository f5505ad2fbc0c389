import { type Contour, dot, IntList, minus, STEPS_PER_MM, unit, type Vector, weightedSum } from '../geometry/index.js';
import { belongsTo, type ReliefMesh } from '../mesh/index.js';
import { type BlockFace } from '../sign/index.js';
import { placeOnFace } from '../support/index.js';

/** A solid in space, and for every triangle that of the flat solid. */
export interface BlockMesh {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
  readonly from: Int32Array;
  /** x, y and height of corners in the plan of the face that they were first met on. */
  readonly plan: Float64Array;
}

/** mm by which corners on an edge of a face may lie beside it: they lie on a grid. */
export const ON_EDGE = 2 / STEPS_PER_MM;
/** mm by which corners of two faces along their common edge may lie apart and be one. */
const SAME = 3 / STEPS_PER_MM;
/** Heights nearer to 0 than this, in mm, are level with the face. */
export const LEVEL = 1e-9;

/** The fronts of faces whose edges are as they were, corners along those edges shared. */
export function joined(plan: Float64Array, front: Fronts, on: Corners, faces: readonly BlockFace[]): BlockMesh {
  const positions = new Float64Array(plan.length);
  for (let v = 0; v < plan.length; v += 3) placeOnFace(faces[on.face[v / 3]], plan[v], plan[v + 1], plan[v + 2], positions, v);
  const edges = new BlockEdges(faces, on, plan, positions);
  return { positions, ...edges.joined(front), plan };
}

/** Which face corners of the plan are on, and on which of its edges. */
export class Corners {
  readonly face: Int32Array;
  /** A bit for every edge of the face that the corner is on. */
  readonly edges: Int32Array;

  constructor(plan: Float64Array, faces: readonly BlockFace[]) {
    const count = plan.length / 3;
    this.face = new Int32Array(count);
    this.edges = new Int32Array(count);
    const boxes = faces.map(({ outline }) => boxOf(outline));
    for (let v = 0; v < count; v++) {
      const [x, y] = [plan[3 * v], plan[3 * v + 1]];
      const at = boxes.findIndex(([x0, y0, x1, y1]) => x >= x0 && x <= x1 && y >= y0 && y <= y1);
      this.face[v] = at;
      this.edges[v] = edgesAt(faces[at].outline, x, y);
    }
  }
}

function boxOf(outline: Contour): readonly [number, number, number, number] {
  const [xs, ys] = [0, 1].map((k) => outline.filter((_, i) => i % 2 === k));
  return [Math.min(...xs) - ON_EDGE, Math.min(...ys) - ON_EDGE, Math.max(...xs) + ON_EDGE, Math.max(...ys) + ON_EDGE];
}

function edgesAt(outline: Contour, x: number, y: number): number {
  let bits = 0;
  const count = outline.length / 2;
  for (let i = 0; i < count; i++) {
    const j = (i + 1) % count;
    const [dx, dy] = [outline[2 * j] - outline[2 * i], outline[2 * j + 1] - outline[2 * i + 1]];
    const [px, py] = [x - outline[2 * i], y - outline[2 * i + 1]];
    if (Math.abs(dx * py - dy * px) <= ON_EDGE * Math.hypot(dx, dy)) bits |= 1 << i;
  }
  return bits;
}

export interface Fronts {
  readonly triangles: Uint32Array;
  readonly from: Int32Array;
}

/** The triangles that are of no back and of no wall around a face. */
export function fronts({ triangles, belongs }: ReliefMesh, { edges }: Corners): Fronts {
  const kept = new IntList(triangles.length);
  const from = new IntList(belongs.length);
  for (let t = 0; t < belongs.length; t++) {
    const [a, b, c] = [triangles[3 * t], triangles[3 * t + 1], triangles[3 * t + 2]];
    if (belongsTo(belongs[t]).isBehind || (edges[a] & edges[b] & edges[c]) !== 0) continue;
    for (const v of [a, b, c]) kept.push(v);
    from.push(t);
  }
  return { triangles: Uint32Array.from(kept.toArray()), from: from.toArray() };
}

/** The edges of a block, along which corners of two faces become one. */
class BlockEdges {
  /** For corners on edges those that stand for them. */
  private readonly partner = new Map<number, number>();
  /** Edge by edge where those that are on it stand in their order. */
  private readonly orders: Map<number, number>[] = [];
  private readonly rows: number[][] = [];
  private readonly edgesOf = new Map<number, number[]>();

  constructor(
    faces: readonly BlockFace[],
    { face, edges }: Corners,
    plan: Float64Array,
    private readonly positions: Float64Array,
  ) {
    const rims = faces.map((): number[] => []);
    for (let v = 0; v < face.length; v++) if (edges[v] !== 0 && Math.abs(plan[3 * v + 2]) < LEVEL) rims[face[v]].push(v);
    const found = new Map<string, { from: Vector; to: Vector; on: { v: number; at: number }[] }>();
    const ends = new Map<string, number>();
    faces.forEach(({ corners }, f) =>
      corners.forEach((corner, i) => {
        const next = corners[(i + 1) % corners.length];
        const [from, to] = keyOf(corner) < keyOf(next) ? [corner, next] : [next, corner];
        const key = `${keyOf(from)} ${keyOf(to)}`;
        const edge = found.get(key) ?? { from, to, on: [] };
        found.set(key, edge);
        for (const v of rims[f]) if ((edges[v] & (1 << i)) !== 0) edge.on.push({ v, at: this.along(from, to, v) });
      }),
    );
    for (const { from, to, on } of found.values()) {
      const length = Math.hypot(...minus(to, from));
      const row: number[] = [];
      let last = -Infinity;
      for (const { v, at } of on.sort((a, b) => a.at - b.at)) {
        const end = at < SAME ? from : at > length - SAME ? to : undefined;
        const first = end ? this.endAt(ends, end, v) : at - last < SAME ? row[row.length - 1] : v;
        if (!end && first === v) this.positions.set(weightedSum([1 - at / length, from], [at / length, to]), 3 * v);
        if (!end && first === v) last = at;
        this.partner.set(v, first);
        if (row[row.length - 1] !== first) row.push(first);
      }
      this.orders.push(new Map(row.map((v, place) => [v, place])));
      for (const v of row) this.edgesOf.set(v, [...(this.edgesOf.get(v) ?? []), this.rows.length]);
      this.rows.push(row);
    }
  }

  /** Triangles with the corners of both faces along every edge. */
  joined({ triangles, from }: Fronts): Fronts {
    const [joined, origins] = [new IntList(triangles.length), new IntList(from.length)];
    const add = (a: number, b: number, c: number, origin: number): void => {
      if (a === b || b === c || a === c) return;
      for (const [p, q, r] of [
        [a, b, c],
        [b, c, a],
        [c, a, b],
      ] as const) {
        const between = this.between(p, q);
        if (between.length === 0) continue;
        // From p over the corners to q, each with the corner across.
        const way = [p, ...between, q];
        for (let i = 0; i + 1 < way.length; i++) add(way[i], way[i + 1], r, origin);
        return;
      }
      for (const v of [a, b, c]) joined.push(v);
      origins.push(origin);
    };
    const of = (v: number): number => this.partner.get(v) ?? v;
    for (let t = 0; t < from.length; t++) add(of(triangles[3 * t]), of(triangles[3 * t + 1]), of(triangles[3 * t + 2]), from[t]);
    return { triangles: Uint32Array.from(joined.toArray()), from: origins.toArray() };
  }

  /** Corners between two of one edge, from the first on. */
  private between(a: number, b: number): number[] {
    for (const edge of this.edgesOf.get(a) ?? []) {
      const [from, to] = [this.orders[edge].get(a)!, this.orders[edge].get(b)];
      if (to === undefined) continue;
      return to > from ? this.rows[edge].slice(from + 1, to) : this.rows[edge].slice(to + 1, from).reverse();
    }
    return [];
  }

  /** The one corner of all faces at an end of an edge. */
  private endAt(ends: Map<string, number>, end: Vector, v: number): number {
    const key = keyOf(end);
    const known = ends.get(key);
    if (known !== undefined) return known;
    ends.set(key, v);
    this.positions.set(end, 3 * v);
    return v;
  }

  private along(from: Vector, to: Vector, v: number): number {
    const here: Vector = [this.positions[3 * v], this.positions[3 * v + 1], this.positions[3 * v + 2]];
    return dot(minus(here, from), unit(minus(to, from)));
  }
}

/** Corners of a block are told apart by their places. */
const keyOf = (corner: Vector): string => corner.map((value) => Math.round(value / CORNERS) + 0).join(' ');
const CORNERS = 1e-6;
