import Flatbush from 'flatbush';
import { cross, minus, unit, type Vector } from '../geometry/index.js';
import { type Mesh } from '../mesh/index.js';
import { CombineError } from './combine-error.js';

/**
 * A closed mesh with its half edges: the one numbered 3·f + k runs along triangle f from its corner k to the next. What neighbours it on the other
 * side runs the other way.
 */
export class HalfEdges {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
  readonly pair: Int32Array;
  /** A vector out of the solid by corner: which way it is moved where two solids touch. */
  readonly outwards: Float64Array;
  private boxes: Flatbush | undefined;

  /** @throws CombineError where an edge has no opposite */
  constructor({ positions, triangles }: Mesh) {
    this.positions = positions;
    this.triangles = triangles;
    this.pair = pairsOf(triangles);
    this.outwards = outwardsOf(positions, triangles);
  }

  get faces(): number {
    return this.triangles.length / 3;
  }

  start(h: number): number {
    return this.triangles[h];
  }

  end(h: number): number {
    return this.triangles[h % 3 === 2 ? h - 2 : h + 1];
  }

  /** Whether a half edge stands for its edge. */
  isForward(h: number): boolean {
    return h < this.pair[h];
  }

  /** The half edge that stands for the edge of this one. */
  forward(h: number): number {
    return Math.min(h, this.pair[h]);
  }

  point(v: number): Vector {
    return [this.positions[3 * v], this.positions[3 * v + 1], this.positions[3 * v + 2]];
  }

  /** The direction that a face looks to. */
  normal(f: number): Vector {
    const [a, b, c] = [0, 1, 2].map((k) => this.point(this.triangles[3 * f + k]));
    const area = cross(minus(b, a), minus(c, a));
    return Math.hypot(...area) > 0 ? unit(area) : [0, 0, 1];
  }

  /** Faces whose boxes have something in common with this one; touching counts. */
  facesNear(min: Vector, max: Vector): number[] {
    this.boxes ??= this.boxed();
    if (this.faces === 0) return [];
    return this.boxes.search(min[0], min[1], max[0], max[1], (f) => {
      let [low, high] = [Infinity, -Infinity];
      for (let k = 0; k < 3; k++) {
        const z = this.positions[3 * this.triangles[3 * f + k] + 2];
        if (z < low) low = z;
        if (z > high) high = z;
      }
      return low <= max[2] && high >= min[2];
    });
  }

  /** Whether a stretch is clearly beside a face, seen from above, or clearly on one side of it. */
  isApart(f: number, a: Vector, b: Vector): boolean {
    const { positions: p, triangles } = this;
    const [i, j, k] = [3 * triangles[3 * f], 3 * triangles[3 * f + 1], 3 * triangles[3 * f + 2]];
    if (isLeftOf(p, i, j, k, a, b) || isLeftOf(p, j, k, i, a, b) || isLeftOf(p, k, i, j, a, b)) return true;
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const beside = (v: number): number => dx * (p[v + 1] - a[1]) - dy * (p[v] - a[0]);
    const margin = CLEARLY * (Math.abs(dx) + Math.abs(dy));
    const [s, t, u] = [beside(i), beside(j), beside(k)];
    if ((s > margin && t > margin && u > margin) || (s < -margin && t < -margin && u < -margin)) return true;
    const [ux, uy, uz] = [p[j] - p[i], p[j + 1] - p[i + 1], p[j + 2] - p[i + 2]];
    const [wx, wy, wz] = [p[k] - p[i], p[k + 1] - p[i + 1], p[k + 2] - p[i + 2]];
    const [nx, ny, nz] = [uy * wz - uz * wy, uz * wx - ux * wz, ux * wy - uy * wx];
    const over = (at: Vector): number => nx * (at[0] - p[i]) + ny * (at[1] - p[i + 1]) + nz * (at[2] - p[i + 2]);
    const most = CLEARLY * (Math.abs(nx) + Math.abs(ny) + Math.abs(nz));
    const [above, then] = [over(a), over(b)];
    return (above > most && then > most) || (above < -most && then < -most);
  }

  private boxed(): Flatbush {
    const boxes = new Flatbush(Math.max(1, this.faces));
    for (let f = 0; f < this.faces; f++) {
      const corners = [0, 1, 2].map((k) => this.point(this.triangles[3 * f + k]));
      const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
      boxes.add(Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys));
    }
    if (this.faces === 0) boxes.add(0, 0, 0, 0);
    boxes.finish();
    return boxes;
  }
}

function pairsOf(triangles: Uint32Array): Int32Array {
  const count = triangles.length;
  const pair = new Int32Array(count).fill(-1);
  const corners = triangles.reduce((most, v) => Math.max(most, v + 1), 0);
  /** By edge the last half edge that has no opposite yet; by half edge the one before it on the same edge. */
  const open = new Map<number, number>();
  const before = new Int32Array(count).fill(-1);
  for (let h = 0; h < count; h++) {
    const [a, b] = [triangles[h], triangles[h % 3 === 2 ? h - 2 : h + 1]];
    const other = open.get(b * corners + a);
    if (other === undefined) {
      before[h] = open.get(a * corners + b) ?? -1;
      open.set(a * corners + b, h);
      continue;
    }
    pair[h] = other;
    pair[other] = h;
    if (before[other] < 0) open.delete(b * corners + a);
    else open.set(b * corners + a, before[other]);
  }
  if (pair.includes(-1)) throw new CombineError('A mesh that is not closed cannot be put together with another.');
  return pair;
}

/** By corner the normals of the faces around it, each as wide as its angle there. */
function outwardsOf(p: Float64Array, triangles: Uint32Array): Float64Array {
  const out = new Float64Array(p.length);
  const at = (v: number): Vector => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [at(triangles[t]), at(triangles[t + 1]), at(triangles[t + 2])];
    const area = cross(minus(b, a), minus(c, a));
    const length = Math.hypot(...area);
    if (length === 0) continue;
    [
      [a, b, c],
      [b, c, a],
      [c, a, b],
    ].forEach(([here, next, last], k) => {
      const [u, w] = [minus(next, here), minus(last, here)];
      const angle = Math.atan2(length, u[0] * w[0] + u[1] * w[1] + u[2] * w[2]);
      for (let i = 0; i < 3; i++) out[3 * triangles[t + k] + i] += (angle * area[i]) / length;
    });
  }
  return out;
}

/** mm by which something is beside something else beyond all rounding. */
const CLEARLY = 1e-5;

/** Whether a stretch lies, seen from above, clearly on the other side of an edge of a triangle than its third corner. */
function isLeftOf(p: Float64Array, i: number, j: number, k: number, a: Vector, b: Vector): boolean {
  const [dx, dy] = [p[j] - p[i], p[j + 1] - p[i + 1]];
  const third = dx * (p[k + 1] - p[i + 1]) - dy * (p[k] - p[i]);
  const margin = CLEARLY * (Math.abs(dx) + Math.abs(dy));
  const [s, t] = [dx * (a[1] - p[i + 1]) - dy * (a[0] - p[i]), dx * (b[1] - p[i + 1]) - dy * (b[0] - p[i])];
  return third > 0 ? s < -margin && t < -margin : third < 0 ? s > margin && t > margin : false;
}
