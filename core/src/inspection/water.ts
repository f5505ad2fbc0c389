import FlatQueue from 'flatqueue';
import { direction, DisjointSets } from '../geometry/index.js';
import { type Mesh } from '../mesh/index.js';
import { type Evaluation } from '../relief/index.js';
import { formatLength } from '../units/index.js';
import { type Finding } from './finding.js';

/** mm of water that is told. */
const LEAST_DEEP = 0.5;
/** mm by which heights that are one may differ. */
const SAME = 1e-6;
const MOST_PLACES = 20;

/** Water that stands in a recess. */
export interface Basin {
  /** mm, along the plumb line. */
  readonly deepest: number;
  readonly mm3: number;
  /** In the plan, where it is deepest, with room around: the middle of the largest triangle of its ground. */
  readonly at: { readonly x: number; readonly y: number };
}

/**
 * Where water stands on a solid that leans back from level by so many degrees, its upper end at +y: what rises to a place on its surface
 * before it finds a way over the edge (the least highest point of all ways there: priority flood, after Barnes, Lehman and Mulla, 2014).
 * On a surface of triangles the way along their sides is never higher than any other.
 * @param thickness of the blank: water leaves at its back
 */
export function basinsOf({ positions: p, triangles }: Mesh, thickness: number, tilt: number): Basin[] {
  const { cos, sin } = direction(tilt);
  const count = p.length / 3;
  const heights = Float64Array.from({ length: count }, (_, i) => p[3 * i + 2] * cos + p[3 * i + 1] * sin);
  const levels = flooded(heights, triangles, (i) => p[3 * i + 2] <= -thickness + SAME);
  const isWet = (i: number): boolean => levels[i] > heights[i] + SAME;
  const joined = new DisjointSets(count);
  const wet: number[] = [];
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [triangles[t], triangles[t + 1], triangles[t + 2]];
    const under = corners.filter(isWet);
    if (under.length === 0) continue;
    wet.push(t);
    for (const corner of under) joined.join(corner, under[0]);
  }
  const basins = new Map<number, { deepest: number; mm3: number; largest: number; at: { x: number; y: number } }>();
  for (const t of wet) {
    const corners = [triangles[t], triangles[t + 1], triangles[t + 2]];
    const root = joined.rootOf(corners.find(isWet)!);
    const level = Math.min(...corners.filter(isWet).map((corner) => levels[corner]));
    // Of the area as it is seen from above.
    const [x, y] = [0, 1].map((axis) => corners.map((i) => (axis === 0 ? p[3 * i] : p[3 * i + 1] * cos - p[3 * i + 2] * sin)));
    const mm2 = ((x[1] - x[0]) * (y[2] - y[0]) - (x[2] - x[0]) * (y[1] - y[0])) / 2;
    if (mm2 <= SAME) continue;
    const depths = corners.map((i) => level - heights[i]);
    const basin = basins.get(root) ?? { deepest: 0, mm3: 0, largest: 0, at: { x: 0, y: 0 } };
    basin.mm3 += mm2 * meanAbove(depths);
    basin.deepest = Math.max(basin.deepest, ...depths);
    const own = mm2 * Math.max(0, Math.min(...depths));
    if (own >= basin.largest) {
      basin.largest = own;
      basin.at = { x: middle(corners.map((i) => p[3 * i])), y: middle(corners.map((i) => p[3 * i + 1])) };
    }
    basins.set(root, basin);
  }
  return [...basins.values()].filter(({ mm3 }) => mm3 > 0).sort((a, b) => b.mm3 - a.mm3);
}

const middle = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;

/** The mean over a triangle of what of a value is above 0, which is linear on it. */
function meanAbove(values: readonly number[]): number {
  const [low, mid, high] = [...values].sort((a, b) => a - b);
  if (low >= 0) return (low + mid + high) / 3;
  if (high <= 0) return 0;
  // A pyramid over the corner that is cut off, or over all less that below.
  if (mid <= 0) return (high * high * high) / (3 * (high - mid) * (high - low));
  return (low + mid + high) / 3 - (low * low * low) / (3 * (mid - low) * (high - low));
}

/** How high water stands at most at every corner. */
function flooded(heights: Float64Array, triangles: Uint32Array, isOut: (corner: number) => boolean): Float64Array {
  const count = heights.length;
  // Which triangles are at a corner, in one list.
  const first = new Int32Array(count + 1);
  for (const corner of triangles) first[corner + 1]++;
  for (let i = 0; i < count; i++) first[i + 1] += first[i];
  const at = new Int32Array(triangles.length);
  const filled = first.slice();
  triangles.forEach((corner, i) => (at[filled[corner]++] = i - (i % 3)));
  const levels = new Float64Array(count).fill(Infinity);
  const queue = new FlatQueue<number>();
  for (let i = 0; i < count; i++) {
    if (!isOut(i)) continue;
    levels[i] = heights[i];
    queue.push(i, heights[i]);
  }
  while (queue.length > 0) {
    const level = queue.peekValue()!;
    const corner = queue.pop()!;
    if (level > levels[corner]) continue;
    for (let k = first[corner]; k < first[corner + 1]; k++) {
      for (let j = 0; j < 3; j++) {
        const next = triangles[at[k] + j];
        const own = Math.max(level, heights[next]);
        if (own >= levels[next]) continue;
        levels[next] = own;
        queue.push(next, own);
      }
    }
  }
  return levels;
}

/** Water that stands on a sign outdoors, where it is said how it leans. */
export function waterFindings({ sign }: Evaluation, solid: Mesh): Finding[] {
  const tilt = sign.checks?.tilt;
  if (tilt === undefined) return [];
  const basins = basinsOf(solid, sign.blank.thickness, tilt).filter(({ deepest }) => deepest >= LEAST_DEEP - SAME);
  if (basins.length === 0) return [];
  const deepest = Math.max(...basins.map((basin) => basin.deepest));
  const cm3 = basins.reduce((sum, { mm3 }) => sum + mm3, 0) / 1000;
  const places = basins.length === 1 ? 'one place' : `${basins.length} places`;
  const text = `Water stands in ${places}, up to ${formatLength(Number(deepest.toFixed(2)), sign.unit)} deep, ${cm3.toFixed(1)} cm³ in all: it freezes there, and dirt gathers.`;
  return [{ check: 'standing-water', text, measured: deepest, limit: LEAST_DEEP, places: basins.slice(0, MOST_PLACES).map(({ at }) => at) }]; // prettier-ignore
}
