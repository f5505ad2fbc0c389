import Flatbush from 'flatbush';
import { type Box, type Outline } from '../geometry/index.js';

/** mm from its ends within which a way may touch the edge of the region: it begins and ends there. */
const TOUCH = 0.02;

/** The edges of a region, asked whether a way stays within it. */
export class Border {
  private readonly edges: number[] = [];
  private readonly index?: Flatbush;

  constructor(region: Outline) {
    for (const ring of region)
      for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
        this.edges.push(ring[j], ring[j + 1], ring[i], ring[i + 1]);
    if (this.edges.length === 0) return;
    this.index = new Flatbush(this.edges.length / 4);
    for (let e = 0; e < this.edges.length; e += 4) {
      const [ax, ay, bx, by] = this.edges.slice(e, e + 4);
      this.index.add(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by));
    }
    this.index.finish();
  }

  /** Whether a straight way, which may begin and end on the edge, lies within the region. */
  isWithin(ax: number, ay: number, bx: number, by: number): boolean {
    const length = Math.hypot(bx - ax, by - ay);
    if (!this.index || length <= TOUCH) return true;
    if (!this.contains((ax + bx) / 2, (ay + by) / 2)) return false;
    const [ux, uy] = [(bx - ax) / length, (by - ay) / length];
    const found = this.index.search(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by));
    return !found.some((at) => {
      const [cx, cy, dx, dy] = this.edges.slice(4 * at, 4 * at + 4);
      // Along the way, and to its left.
      const [left, right] = [ux * (cy - ay) - uy * (cx - ax), ux * (dy - ay) - uy * (dx - ax)];
      if (left > 0 === right > 0) return false;
      const share = left / (left - right);
      const along = ux * (cx - ax) + uy * (cy - ay) + share * (ux * (dx - cx) + uy * (dy - cy));
      return along > TOUCH && along < length - TOUCH;
    });
  }

  /** Whether any edge comes into a box. */
  meets({ minX, minY, maxX, maxY }: Box): boolean {
    return (this.index?.search(minX, minY, maxX, maxY) ?? []).some((at) => {
      const [ax, ay, bx, by] = this.edges.slice(4 * at, 4 * at + 4);
      return meetsBox(ax, ay, bx, by, minX, minY, maxX, maxY);
    });
  }

  /** By how often a line to the right crosses the edges. */
  contains(x: number, y: number): boolean {
    let isIn = false;
    for (const at of this.index?.search(x, y, Infinity, y) ?? []) {
      const [cx, cy, dx, dy] = this.edges.slice(4 * at, 4 * at + 4);
      if (cy > y !== dy > y && cx + ((y - cy) / (dy - cy)) * (dx - cx) > x) isIn = !isIn;
    }
    return isIn;
  }
}

/** Whether a straight way comes into a box (Liang and Barsky, 1984). */
function meetsBox(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  minX: number,
  minY: number,
  maxX: number,
  maxY: number,
): boolean {
  let [from, to] = [0, 1];
  for (const [start, way, low, high] of [
    [ax, bx - ax, minX, maxX],
    [ay, by - ay, minY, maxY],
  ]) {
    if (way === 0) {
      if (start < low || start > high) return false;
      continue;
    }
    const [one, other] = [(low - start) / way, (high - start) / way];
    from = Math.max(from, Math.min(one, other));
    to = Math.min(to, Math.max(one, other));
  }
  return from <= to;
}
