import Flatbush from 'flatbush';
import { type Contour, STEPS_PER_MM as STEPS, toStep, orient2d } from '../geometry/index.js';
import { type Spot } from './findings.js';

/** Where edges of outlines cross, at most `most` of them; edges that only touch do not. Vertices lie on the grid. */
export function crossings(contours: readonly Contour[], most: number): Spot[] {
  const edges = contours.reduce((sum, contour) => sum + contour.length / 2, 0);
  if (edges < 4) return [];
  const coordinates = new Int32Array(4 * edges);
  const index = new Flatbush(edges);
  let n = 0;
  for (const contour of contours) {
    let [ax, ay] = [toStep(contour[contour.length - 2]), toStep(contour[contour.length - 1])];
    for (let i = 0; i < contour.length; i += 2) {
      const [bx, by] = [toStep(contour[i]), toStep(contour[i + 1])];
      coordinates.set([ax, ay, bx, by], 4 * n++);
      index.add(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by));
      [ax, ay] = [bx, by];
    }
  }
  index.finish();
  const out: Spot[] = [];
  for (let i = 0; i < n && out.length < most; i++) {
    const [ax, ay, bx, by] = coordinates.subarray(4 * i, 4 * i + 4);
    const later = (j: number) => j > i;
    for (const j of index.search(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by), later)) {
      const [cx, cy, dx, dy] = coordinates.subarray(4 * j, 4 * j + 4);
      const [c, d] = [orient2d(ax, ay, bx, by, cx, cy), orient2d(ax, ay, bx, by, dx, dy)];
      if (!((c > 0 && d < 0) || (c < 0 && d > 0))) continue;
      const [a, b] = [orient2d(cx, cy, dx, dy, ax, ay), orient2d(cx, cy, dx, dy, bx, by)];
      if (!((a > 0 && b < 0) || (a < 0 && b > 0))) continue;
      const t = c / (c - d);
      out.push({ x: (cx + t * (dx - cx)) / STEPS, y: (cy + t * (dy - cy)) / STEPS });
    }
  }
  return out.slice(0, most);
}
