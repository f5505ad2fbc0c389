import { pointKey, relabelled, STEPS_PER_MM, triangulate, withoutSlivers } from '../outline/index.js';
import { type Evaluation, heightAt, isSolid, type PlacedPatch, placeOf, type Ramp } from '../relief/index.js';
import { type ReliefMesh, volume } from './mesh.js';

/**
 * Heights at one point of the plan that differ by less than this, in mm, are one where a slope has part in them: slopes of
 * different parts meet in lines that are chords of the true ones.
 */
const MEETING = 0.012;

const BACK = 0;

/**
 * The solid of a relief, straight from its plan: a cap on every place, a wall on every edge of the plan from the lower side to the
 * higher, and the back. Caps and walls share the plan's own points, and a wall's upright edges have a corner at every height that
 * meets there, so that the surface closes without any 3D boolean. Letters that keep their slopes to themselves bring their own caps.
 */
export function solidOf(evaluation: Evaluation): ReliefMesh {
  const { edges } = evaluation.arrangement;
  const { x, y, lo, hi, left, right } = edges;
  const back = -evaluation.sign.blank.thickness;
  const corners = new Corners(evaluation);
  for (let e = 0; e < lo.length; e++) {
    for (const v of [lo[e], hi[e]]) {
      corners.meet(v, left[e]);
      corners.meet(v, right[e]);
    }
  }
  corners.settle();

  const facets = new FacetList(8 * lo.length);
  const isRamp = (label: number): boolean => placeOf(evaluation, label)?.surface.kind === 'ramp';
  const tops = triangulate(edges, (label) => isSolid(label) && !isRamp(label));
  for (let t = 0; t < tops.labels.length; t++) {
    const label = tops.labels[t];
    const [a, b, c] = [tops.corners[3 * t], tops.corners[3 * t + 1], tops.corners[3 * t + 2]];
    facets.add(corners.at(a, label), corners.at(b, label), corners.at(c, label), label);
  }
  const pointAt = new Map<number, number>();
  if (evaluation.patches.size > 0) {
    for (let e = 0; e < lo.length; e++) {
      if (!isRamp(left[e]) && !isRamp(right[e])) continue;
      for (const v of [lo[e], hi[e]]) pointAt.set(pointKey(x[v], y[v]), v);
    }
  }
  const backs = triangulate(
    relabelled(edges, (label) => (isSolid(label) ? 1 : 0)),
    (label) => label === 1,
  );
  for (let t = 0; t < backs.corners.length; t += 3) {
    const [a, b, c] = [backs.corners[t], backs.corners[t + 1], backs.corners[t + 2]];
    facets.add(corners.atHeight(a, back), corners.atHeight(c, back), corners.atHeight(b, back), BACK);
  }

  for (let e = 0; e < lo.length; e++) {
    const [l, r] = [left[e], right[e]];
    if (l === r) continue;
    const [a, b] = [lo[e], hi[e]];
    const [al, ar, bl, br] = [corners.at(a, l), corners.at(a, r), corners.at(b, l), corners.at(b, r)];
    // Corners of one point are numbered from below.
    const isLeftHigher = al - ar + (bl - br) > 0;
    const from = isLeftHigher ? a : b;
    const [lowA, topA, lowB, topB] = from === a ? [ar, al, br, bl] : [bl, br, al, ar];
    if (lowA === topA && lowB === topB) continue;
    wall(lowA, topA, lowB, topB, corners, facets, -makerOf(evaluation, isLeftHigher ? l : r, isLeftHigher ? r : l));
  }
  // Slopes of letters were cleaned when they were made.
  const mesh = withoutSlivers({ positions: corners.positions(), ...facets.arrays() });
  if (evaluation.patches.size === 0) return mesh;
  return withPatches(evaluation, mesh, pointAt, corners);
}

/** Which of two places a wall between them is made with: the later built, as a pocket's walls are made with its floor. */
function makerOf(evaluation: Evaluation, higher: number, lower: number): number {
  const [above, below] = [placeOf(evaluation, higher), placeOf(evaluation, lower)];
  return below && above && below.surface.layer > above.surface.layer ? lower : higher;
}

/** Triangles as they are found, with what they are part of. */
class FacetList {
  private triangles: Int32Array;
  private belongs: Int32Array;
  private count = 0;

  constructor(expected: number) {
    this.triangles = new Int32Array(3 * Math.max(16, expected));
    this.belongs = new Int32Array(Math.max(16, expected));
  }

  add(a: number, b: number, c: number, part: number): void {
    if (this.count === this.belongs.length) {
      this.triangles = grownTo(this.triangles, this.triangles.length * 2);
      this.belongs = grownTo(this.belongs, this.belongs.length * 2);
    }
    const at = 3 * this.count;
    this.triangles[at] = a;
    this.triangles[at + 1] = b;
    this.triangles[at + 2] = c;
    this.belongs[this.count++] = part;
  }

  arrays(): { triangles: Uint32Array; belongs: Int32Array } {
    return {
      triangles: Uint32Array.from(this.triangles.subarray(0, 3 * this.count)),
      belongs: this.belongs.slice(0, this.count),
    };
  }
}

function grownTo(values: Int32Array, length: number): Int32Array {
  const out = new Int32Array(length);
  out.set(values);
  return out;
}

/**
 * A wall between two uprights, seen from its lower side with `a` on the left: from corner `low` to corner `top` of each. Where the
 * sides change places along it, which only happens by a rounding, it is turned over itself.
 */
function wall(
  lowA: number,
  topA: number,
  lowB: number,
  topB: number,
  { heights }: Corners,
  facets: FacetList,
  part: number,
): void {
  if (lowA > topA || lowB > topB) {
    crossedWall(lowA, topA, lowB, topB, facets, part);
    return;
  }
  let [a, b] = [lowA, lowB];
  while (a < topA || b < topB) {
    const climbsB = a === topA || (b < topB && heights[b + 1] <= heights[a + 1]);
    if (climbsB) facets.add(a, b, ++b, part);
    else facets.add(a, b, ++a, part);
  }
}

function crossedWall(lowA: number, topA: number, lowB: number, topB: number, facets: FacetList, part: number): void {
  // Along the lower side, up at b, back along the upper side, down at a: a fan over every corner on the way.
  const ring: number[] = [lowA];
  const climb = (from: number, to: number) => {
    const step = from < to ? 1 : -1;
    for (let c = from; c !== to; c += step) ring.push(c);
  };
  climb(lowB, topB);
  ring.push(topB);
  climb(topA, lowA);
  for (let i = 1; i + 1 < ring.length; i++) {
    const [p, q, r] = [ring[0], ring[i], ring[i + 1]];
    if (p !== q && q !== r && p !== r) facets.add(p, q, r, part);
  }
}

/** The mesh with the slopes of letters, whose edges have the points of the plan. */
function withPatches(
  evaluation: Evaluation,
  mesh: ReliefMesh,
  pointAt: ReadonlyMap<number, number>,
  corners: Corners,
): ReliefMesh {
  let [points, facets] = [0, 0];
  for (const { patch } of evaluation.patches.values()) {
    points += patch.x.length;
    facets += patch.corners.length / 3;
  }
  const count = mesh.belongs.length;
  const positions = new Float64Array(mesh.positions.length + 3 * points);
  positions.set(mesh.positions);
  const triangles = new Uint32Array(3 * (count + facets));
  triangles.set(mesh.triangles);
  const belongs = new Int32Array(count + facets);
  belongs.set(mesh.belongs);
  let corner = mesh.positions.length / 3;
  let at = count;
  for (const [{ inside }, { patch, stepX, stepY }] of evaluation.patches) {
    const surface = placeOf(evaluation, inside)?.surface;
    if (surface?.kind !== 'ramp') continue;
    const { ramp } = surface;
    const heights = heightsOf(ramp, patch.distances);
    const cornerOf = new Int32Array(patch.x.length).fill(-1);
    for (let t = 0; t < patch.corners.length; t++) {
      const p = patch.corners[t];
      if (cornerOf[p] < 0) {
        const [px, py] = [patch.x[p] + stepX, patch.y[p] + stepY];
        const point = patch.isOnEdge[p] ? pointAt.get(pointKey(px, py)) : undefined;
        if (point !== undefined) cornerOf[p] = corners.at(point, inside);
        else {
          positions[3 * corner] = px / STEPS_PER_MM;
          positions[3 * corner + 1] = py / STEPS_PER_MM;
          positions[3 * corner + 2] = heights[p];
          cornerOf[p] = corner++;
        }
      }
      triangles[3 * at + t] = cornerOf[p];
    }
    belongs.fill(inside, at, at + patch.corners.length / 3);
    at += patch.corners.length / 3;
  }
  return { positions: positions.subarray(0, 3 * corner), triangles, belongs };
}

const heightsOf = (ramp: Ramp, distances: Float64Array): Float64Array => distances.map((d) => ramp.at(d));

/** The heights that meet at every point of the plan, with a corner of the mesh for each, numbered from below. */
class Corners {
  readonly heights: number[] = [];
  private readonly xs: number[] = [];
  private readonly ys: number[] = [];
  /** At every point its heights, ascending, and the first corner. */
  private readonly stacks: (number[] | undefined)[];
  private readonly first: Int32Array;
  /** Heights of slopes by label and point. */
  private readonly slopes = new Map<number, number>();
  /** Heights that count as others, by point. */
  private readonly settled = new Map<number, Map<number, number>>();
  /** By point the heights that slopes have there. */
  private readonly sloping = new Map<number, Set<number>>();
  private readonly isSloped: boolean[] = [];
  private readonly level: number[] = [];

  constructor(private readonly evaluation: Evaluation) {
    const count = evaluation.arrangement.edges.x.length;
    this.stacks = new Array<number[] | undefined>(count);
    this.first = new Int32Array(count);
  }

  /** Notes that a label meets a point. */
  meet(v: number, label: number): void {
    const z = this.height(v, label);
    const list = (this.stacks[v] ??= []);
    if (!list.includes(z)) list.push(z);
  }

  /** Gives every height its corner, once all have been noted. */
  settle(): void {
    const { x, y } = this.evaluation.arrangement.edges;
    this.stacks.forEach((list, v) => {
      if (!list) return;
      list.sort((a, b) => a - b);
      if (list.length > 1 && this.sloping.has(v)) this.stacks[v] = list = this.merged(v, list);
      this.first[v] = this.heights.length;
      for (const z of list) this.add(x[v], y[v], z);
    });
  }

  /** The corner of a point at the height of a label. */
  at(v: number, label: number): number {
    return this.atHeight(v, this.height(v, label));
  }

  atHeight(v: number, z: number): number {
    const height = this.settled.size === 0 ? z : (this.settled.get(v)?.get(z) ?? z);
    return this.first[v] + this.stacks[v]!.indexOf(height);
  }

  private add(x: number, y: number, z: number): void {
    this.xs.push(x);
    this.ys.push(y);
    this.heights.push(z);
  }

  positions(): Float64Array {
    const out = new Float64Array(3 * this.heights.length);
    for (let i = 0; i < this.heights.length; i++) {
      out[3 * i] = this.xs[i] / STEPS_PER_MM;
      out[3 * i + 1] = this.ys[i] / STEPS_PER_MM;
      out[3 * i + 2] = this.heights[i];
    }
    return out;
  }

  private height(v: number, label: number): number {
    if (this.isSloped[label] === undefined) {
      const kind = placeOf(this.evaluation, label)?.surface.kind;
      this.isSloped[label] = kind === 'woven';
      if (kind !== 'woven') this.level[label] = heightAt(this.evaluation, label, 0, 0);
    }
    if (!this.isSloped[label]) return this.level[label];
    const key = label * this.stacks.length + v;
    let z = this.slopes.get(key);
    if (z === undefined) {
      const { x, y } = this.evaluation.arrangement.edges;
      z = heightAt(this.evaluation, label, x[v], y[v]);
      this.slopes.set(key, z);
      const list = this.sloping.get(v);
      if (list) list.add(z);
      else this.sloping.set(v, new Set([z]));
    }
    return z;
  }

  /** Heights without those that are one with a neighbour; levels keep theirs, and slopes take it. */
  private merged(v: number, heights: readonly number[]): number[] {
    const slopes = this.sloping.get(v)!;
    const levels = heights.filter((z) => !slopes.has(z));
    const kept = [...levels];
    const moved = new Map<number, number>();
    for (const z of heights) {
      if (levels.includes(z)) continue;
      const near = kept.filter((other) => Math.abs(other - z) < MEETING).sort((a, b) => Math.abs(a - z) - Math.abs(b - z))[0];
      if (near === undefined) kept.push(z);
      else moved.set(z, near);
    }
    if (moved.size > 0) this.settled.set(v, moved);
    return kept.sort((a, b) => a - b);
  }
}

/** Volume in mm³: of level places from their areas alone, of others from the solid. */
export function volumeOf(evaluation: Evaluation): number {
  const { places, patches, sign } = evaluation;
  if (places.some(({ surface, areaMm2 }) => surface.kind === 'woven' && areaMm2 > 0)) return volume(solidOf(evaluation));
  let sum = 0;
  for (const { surface, areaMm2 } of places) {
    if (surface.kind === 'level') sum += areaMm2 * (surface.z + sign.blank.thickness);
  }
  for (const [{ inside }, { patch }] of patches) {
    const surface = placeOf(evaluation, inside)?.surface;
    if (surface?.kind === 'ramp') sum += volumeUnder(patch, (d) => surface.ramp.at(d) + sign.blank.thickness);
  }
  return sum;
}

function volumeUnder({ x, y, distances, corners }: PlacedPatch['patch'], height: (d: number) => number): number {
  let sum = 0;
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [corners[t], corners[t + 1], corners[t + 2]];
    const twice = (x[b] - x[a]) * (y[c] - y[a]) - (y[b] - y[a]) * (x[c] - x[a]);
    sum += (twice * (height(distances[a]) + height(distances[b]) + height(distances[c]))) / 6;
  }
  return sum / STEPS_PER_MM ** 2;
}
