import Flatbush from 'flatbush';
import { type Mesh } from '../src/mesh/index.js';

/** What a vertical line meets of a closed mesh: heights where it enters and leaves, from below. */
export class Columns {
  private readonly index: Flatbush;
  private readonly upright: number[] = [];

  constructor(private readonly mesh: Mesh) {
    const { positions: p, triangles } = mesh;
    for (let t = 0; t < triangles.length; t += 3) if (twiceArea(p, triangles, t) !== 0) this.upright.push(t);
    this.index = new Flatbush(Math.max(1, this.upright.length));
    if (this.upright.length === 0) this.index.add(0, 0, 0, 0);
    for (const t of this.upright) {
      const xs = [0, 1, 2].map((k) => p[3 * triangles[t + k]]);
      const ys = [0, 1, 2].map((k) => p[3 * triangles[t + k] + 1]);
      this.index.add(Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys));
    }
    this.index.finish();
  }

  /** Heights in ascending order, each with whether the surface looks up there. */
  at(x: number, y: number): { readonly z: number; readonly isUp: boolean }[] {
    const { positions: p, triangles } = this.mesh;
    const out: { z: number; isUp: boolean }[] = [];
    if (this.upright.length === 0) return out;
    for (const found of this.index.search(x, y, x, y)) {
      const t = this.upright[found];
      const [a, b, c] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
      const twice = twiceArea(p, triangles, t);
      const u = ((p[b] - x) * (p[c + 1] - y) - (p[b + 1] - y) * (p[c] - x)) / twice;
      const v = ((p[c] - x) * (p[a + 1] - y) - (p[c + 1] - y) * (p[a] - x)) / twice;
      if (u < 0 || v < 0 || u + v > 1) continue;
      out.push({ z: u * p[a + 2] + v * p[b + 2] + (1 - u - v) * p[c + 2], isUp: twice > 0 });
    }
    return out.sort((one, other) => one.z - other.z);
  }
}

function twiceArea(p: Float64Array, triangles: Uint32Array, t: number): number {
  const [a, b, c] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
  return (p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[b + 1] - p[a + 1]) * (p[c] - p[a]);
}
