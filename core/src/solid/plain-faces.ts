import { type Edge, loopsOf, triangulatedLoops } from '../boolean/index.js';
import { type Contour, type Vector } from '../geometry/index.js';
import { belongsTo, type ReliefMesh } from '../mesh/index.js';
import { type BlockFace } from '../sign/index.js';
import { Corners, type Fronts, LEVEL, ON_EDGE } from './block-edges.js';

/** A closed mesh, and what its triangles are of. */
export interface Solid {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
  readonly from: Int32Array;
}

const TOP: Vector = [0, 0, 1];

/** The faces of a block without some pieces of their relief: places of the plan in the level of the face, and what was cut through filled. */
export class PlainFaces {
  readonly positions: Float64Array;
  readonly fronts: Fronts;
  readonly on: Corners;
  /** By face the triangles that were made level. */
  private readonly levelled: number[][];

  /** @param apart by triangle of the front whether it is of such a piece */
  constructor(flat: ReliefMesh, front: Fronts, on: Corners, faces: readonly BlockFace[], apart: Uint8Array) {
    const { positions: p } = flat;
    const places = new Map<string, number>();
    const corners: number[] = [];
    const cornerAt = (x: number, y: number, z: number): number => {
      const key = `${x} ${y} ${Math.abs(z) < LEVEL ? 0 : z}`;
      let v = places.get(key);
      if (v === undefined) {
        places.set(key, (v = corners.length / 3));
        corners.push(x, y, z);
      }
      return v;
    };
    const triangles: number[] = [];
    const from: number[] = [];
    const rims = faces.map((): Edge[] => []);
    this.levelled = faces.map(() => []);
    const anyOn: number[] = [];
    front.from.forEach((origin, t) => {
      const own = [0, 1, 2].map((k) => front.triangles[3 * t + k]);
      const face = on.face[own[0]];
      anyOn[face] ??= origin;
      const isWall = belongsTo(flat.belongs[origin]).isWall;
      const level = isWall ? [] : own.map((v) => cornerAt(p[3 * v], p[3 * v + 1], 0));
      const isThere = !isWall && level[0] !== level[1] && level[1] !== level[2] && level[2] !== level[0];
      if (isThere) rims[face].push([level[0], level[1]], [level[1], level[2]], [level[2], level[0]]);
      if (apart[t] === 1) {
        if (!isThere) return;
        this.levelled[face].push(triangles.length / 3);
        triangles.push(...level);
      } else triangles.push(...own.map((v) => cornerAt(p[3 * v], p[3 * v + 1], p[3 * v + 2])));
      from.push(origin);
    });
    faces.forEach(({ outline }, i) => {
      for (let k = 0; k < outline.length; k += 2) cornerAt(outline[k], outline[k + 1], 0);
      const filling = triangulatedLoops(loopsOf(missingEdges(rims[i], ringWith(outline, corners))), corners, TOP);
      for (let t = 0; t < filling.length; t += 3) {
        this.levelled[i].push(triangles.length / 3);
        triangles.push(filling[t], filling[t + 1], filling[t + 2]);
        from.push(anyOn[i] ?? -1);
      }
    });
    this.positions = Float64Array.from(corners);
    this.fronts = { triangles: Uint32Array.from(triangles), from: Int32Array.from(from) };
    this.on = new Corners(this.positions, faces);
  }

  /** Whether anything of a face was made level. */
  isWorked(face: number): boolean {
    return this.levelled[face].length > 0;
  }

  /** What is over, or under, all that was made level of a face, from one height to another. */
  prism(face: number, low: number, high: number): Solid {
    const { positions: p, fronts: own } = this;
    const number = new Map<number, number>();
    const of = (v: number): number => {
      if (!number.has(v)) number.set(v, number.size);
      return number.get(v)!;
    };
    const level = this.levelled[face].map((t) => [0, 1, 2].map((k) => of(own.triangles[3 * t + k])));
    const count = number.size;
    const triangles: number[] = [];
    const from: number[] = [];
    const open = new Map<string, readonly [number, number, number]>();
    const add = (a: number, b: number, c: number, origin: number): void => {
      triangles.push(a, b, c);
      from.push(origin);
    };
    level.forEach(([a, b, c], i) => {
      const origin = own.from[this.levelled[face][i]];
      add(a, b, c, origin);
      add(count + a, count + c, count + b, origin);
      for (const [u, v] of [[a, b], [b, c], [c, a]]) if (!open.delete(`${v} ${u}`)) open.set(`${u} ${v}`, [u, v, origin]); // prettier-ignore
    });
    for (const [u, v, origin] of open.values()) {
      add(v, u, count + u, origin);
      add(v, count + u, count + v, origin);
    }
    const positions = new Float64Array(6 * count);
    for (const [v, n] of number) {
      positions.set([p[3 * v], p[3 * v + 1], high], 3 * n);
      positions.set([p[3 * v], p[3 * v + 1], low], 3 * (count + n));
    }
    return { positions, triangles: Uint32Array.from(triangles), from: Int32Array.from(from) };
  }
}

/** The corners along an outline, in its order, all that lie on it among them. */
function ringWith(outline: Contour, corners: readonly number[]): number[] {
  const ring: number[] = [];
  const count = outline.length / 2;
  for (let i = 0; i < count; i++) {
    const j = (i + 1) % count;
    const [x, y] = [outline[2 * i], outline[2 * i + 1]];
    const [dx, dy] = [outline[2 * j] - x, outline[2 * j + 1] - y];
    const length = Math.hypot(dx, dy);
    const on: { v: number; at: number }[] = [];
    for (let v = 0; v < corners.length / 3; v++) {
      const [px, py] = [corners[3 * v] - x, corners[3 * v + 1] - y];
      const at = (px * dx + py * dy) / length;
      if (Math.abs(dx * py - dy * px) <= ON_EDGE * length && at > -LEVEL && at < length - LEVEL) on.push({ v, at });
    }
    ring.push(...on.sort((a, b) => a.at - b.at).map(({ v }) => v));
  }
  return ring;
}

/** The edges around what is missing of a face. @param own those of its triangles @param ring the corners along its outline */
function missingEdges(own: readonly Edge[], ring: readonly number[]): Edge[] {
  const open = new Map<string, Edge>();
  for (const [a, b] of own) if (!open.delete(`${b} ${a}`)) open.set(`${a} ${b}`, [a, b]);
  const around = ring.map((v, i): Edge => [v, ring[(i + 1) % ring.length]]).filter(([a, b]) => !open.delete(`${a} ${b}`));
  return [...around, ...[...open.values()].map(([a, b]): Edge => [b, a])];
}
