import Flatbush from 'flatbush';
import { union } from '../src/arrangement/index.js';
import { type Contour, type Outline } from '../src/geometry/index.js';
import { type Evaluation, type Layer } from '../src/relief/index.js';
import { type Mesh } from '../src/mesh/index.js';

/** Whether a point lies inside, by the even-odd rule on rings that do not cross. */
function isInside(outline: Outline, x: number, y: number): boolean {
  let inside = false;
  for (const ring of outline)
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
      if (
        ring[i + 1] > y !== ring[j + 1] > y &&
        x < ((ring[j] - ring[i]) * (y - ring[i + 1])) / (ring[j + 1] - ring[i + 1]) + ring[i]
      )
        inside = !inside;
  return inside;
}

/** Distance of a point from the nearest segment of all, one after the other. */
export function edgeDistance(outline: readonly Contour[], x: number, y: number): number {
  let best = Infinity;
  for (const ring of outline) {
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const [ax, ay, dx, dy] = [ring[j], ring[j + 1], ring[i] - ring[j], ring[i + 1] - ring[j + 1]];
      const length = dx * dx + dy * dy;
      const t = length === 0 ? 0 : Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / length));
      best = Math.min(best, Math.hypot(ax + t * dx - x, ay + t * dy - y));
    }
  }
  return best;
}

/** Least and greatest height that is right at a point: a distance may be read this much aside, which matters on steep slopes. */
export interface Right {
  readonly least: number;
  readonly most: number;
}

/**
 * The relief function at single points, straight from its definition: layer after layer, inside or not, with the distance from the
 * layer's edge by brute force.
 */
export class Definition {
  private readonly outlines: readonly Outline[];

  /** @param rise the height of a layer at a distance from its edge; its own profile where none is given */
  constructor(
    private readonly evaluation: Evaluation,
    private readonly rise = (layer: Layer, d: number): number => (layer.profile ? layer.profile.at(d) : layer.z),
  ) {
    this.outlines = evaluation.layers.map((layer) => union(layer.area));
  }

  /** Undefined outside of the blank and where it is cut through; also nearer to any layer's edge than `aside`. */
  at(x: number, y: number, aside: number): Right | undefined {
    const { blank, layers, sign } = this.evaluation;
    if (!isInside([blank], x, y)) return undefined;
    let [least, most] = [0, 0];
    for (const [i, layer] of layers.entries()) {
      const outline = this.outlines[i];
      const d = edgeDistance(outline, x, y);
      if (d < aside) return undefined;
      if (!isInside(outline, x, y)) continue;
      if (layer.operation === 'through') return undefined;
      const heights = [d - aside, d, d + aside].map((at) => this.rise(layer, Math.max(0, at)));
      const [low, high] = [Math.min(...heights), Math.max(...heights)];
      if (layer.operation === 'raise') [least, most] = [Math.max(least, low), Math.max(most, high)];
      else if (layer.operation === 'carve') [least, most] = [Math.min(least, low), Math.min(most, high)];
      else [least, most] = [low, high];
      if (least <= -sign.blank.thickness) return undefined;
    }
    return { least, most };
  }
}

/** Heights of the top of a mesh, by the triangles above a point. */
export class Tops {
  private readonly index: Flatbush;
  private readonly facing: number[] = [];

  constructor(private readonly mesh: Mesh) {
    const { positions: p, triangles } = mesh;
    for (let t = 0; t < triangles.length; t += 3) {
      const [a, b, c] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
      const twice = (p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[b + 1] - p[a + 1]) * (p[c] - p[a]);
      if (twice > 0) this.facing.push(t);
    }
    this.index = new Flatbush(Math.max(1, this.facing.length));
    for (const t of this.facing) {
      const xs = [0, 1, 2].map((k) => p[3 * triangles[t + k]]);
      const ys = [0, 1, 2].map((k) => p[3 * triangles[t + k] + 1]);
      this.index.add(Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys));
    }
    if (this.facing.length === 0) this.index.add(0, 0, 0, 0);
    this.index.finish();
  }

  at(x: number, y: number): number | undefined {
    const { positions: p, triangles } = this.mesh;
    for (const found of this.index.search(x, y, x, y)) {
      const t = this.facing[found];
      const [a, b, c] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
      const twice = (p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[b + 1] - p[a + 1]) * (p[c] - p[a]);
      const u = ((p[b] - x) * (p[c + 1] - y) - (p[b + 1] - y) * (p[c] - x)) / twice;
      const v = ((p[c] - x) * (p[a + 1] - y) - (p[c + 1] - y) * (p[a] - x)) / twice;
      if (u >= -1e-9 && v >= -1e-9 && u + v <= 1 + 1e-9) return u * p[a + 2] + v * p[b + 2] + (1 - u - v) * p[c + 2];
    }
    return undefined;
  }
}
