import { CombineError } from './combine-error.js';
import { cross, dot, type Vector } from '../geometry/index.js';

/** Two corners, from the first to the second. */
export type Edge = readonly [number, number];

/** Edges that lead on from one another, as loops of corners. @throws CombineError where they lead nowhere */
export function loopsOf(edges: readonly Edge[]): number[][] {
  const next = new Map<number, number[]>();
  for (const [a, b] of edges) {
    const list = next.get(a);
    if (list) list.push(b);
    else next.set(a, [b]);
  }
  const loops: number[][] = [];
  for (const [start, ends] of next) {
    while (ends.length > 0) {
      const loop = [start];
      for (let v = ends.pop(); v !== start; v = next.get(v)?.pop()) {
        if (v === undefined) throw new CombineError();
        loop.push(v);
      }
      if (loop.length > 2) loops.push(loop);
    }
  }
  return loops;
}

/** A corner of a polygon in the plane that it is looked at in. */
interface Corner {
  readonly v: number;
  readonly x: number;
  readonly y: number;
}

/**
 * Triangles over the area that loops enclose: those that run anticlockwise, as seen against the normal, are around it, the others around holes.
 * Every edge of every loop is that of one triangle, however thin they are.
 * @param positions of corners @returns their numbers, three for every triangle
 */
export function triangulatedLoops(loops: readonly (readonly number[])[], positions: ArrayLike<number>, normal: Vector): number[] {
  if (loops.length === 1 && loops[0].length === 3) return [...loops[0]];
  const [across, up] = planeOf(normal);
  const corners = loops.map((loop) =>
    loop.map((v): Corner => {
      const at: Vector = [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
      return { v, x: dot(at, across), y: dot(at, up) };
    }),
  );
  const outers = corners.filter((loop) => areaOf(loop) >= 0);
  const holes = corners.filter((loop) => areaOf(loop) < 0);
  if (outers.length === 0) return holes.flatMap((loop) => clipped(loop));
  const own = outers.map((outer): Corner[][] => [outer]);
  for (const hole of holes) {
    // The smallest outer loop around it; where rounding leaves none, the first.
    const around = outers
      .map((outer, i) => ({ i, size: areaOf(outer) }))
      .filter(({ i }) => isInside(outers[i], hole[0]))
      .sort((a, b) => a.size - b.size);
    own[around[0]?.i ?? 0].push(hole);
  }
  return own.flatMap(([outer, ...within]) => clipped(within.length > 0 ? bridged(outer, within) : outer));
}

function planeOf(normal: Vector): readonly [Vector, Vector] {
  const least = [0, 1, 2].sort((a, b) => Math.abs(normal[a]) - Math.abs(normal[b]))[0];
  const beside: Vector = [least === 0 ? 1 : 0, least === 1 ? 1 : 0, least === 2 ? 1 : 0];
  const raw = cross(beside, normal);
  const length = Math.hypot(...raw);
  const across: Vector = [raw[0] / length, raw[1] / length, raw[2] / length];
  return [across, cross(normal, across)];
}

const turn = (a: Corner, b: Corner, c: Corner): number => (b.x - a.x) * (c.y - a.y) - (c.x - a.x) * (b.y - a.y);

const areaOf = (loop: readonly Corner[]): number =>
  loop.reduce((sum, a, i) => {
    const b = loop[(i + 1) % loop.length];
    return sum + (a.x - loop[0].x) * (b.y - loop[0].y) - (b.x - loop[0].x) * (a.y - loop[0].y);
  }, 0);

function isInside(loop: readonly Corner[], { x, y }: Corner): boolean {
  let is = false;
  loop.forEach((a, i) => {
    const b = loop[(i + 1) % loop.length];
    if (a.y > y !== b.y > y && x < a.x + ((y - a.y) / (b.y - a.y)) * (b.x - a.x)) is = !is;
  });
  return is;
}

/** A loop and the holes in it as one loop: each hole is reached from its rightmost corner by a way there and back. */
function bridged(outer: readonly Corner[], holes: readonly (readonly Corner[])[]): Corner[] {
  let loop = [...outer];
  const rightmost = (hole: readonly Corner[]): number => hole.reduce((best, { x }, i) => (x > hole[best].x ? i : best), 0);
  const ordered = [...holes].sort((a, b) => b[rightmost(b)].x - a[rightmost(a)].x);
  for (const hole of ordered) {
    const from = rightmost(hole);
    const to = bridgeTo(loop, hole[from]);
    const way = [...hole.slice(from), ...hole.slice(0, from + 1)];
    loop = [...loop.slice(0, to + 1), ...way, ...loop.slice(to)];
  }
  return loop;
}

/** A corner of a loop that is seen from a place within: to the right of it, over the edge that lies there. */
function bridgeTo(loop: readonly Corner[], from: Corner): number {
  let [best, nearest] = [-1, Infinity];
  for (let i = 0; i < loop.length; i++) {
    const [a, b] = [loop[i], loop[(i + 1) % loop.length]];
    // The inside is on the left: edges that rise have it on their left, towards the place.
    if (a.y > from.y || b.y < from.y || a.y === b.y) continue;
    const x = a.x + ((from.y - a.y) / (b.y - a.y)) * (b.x - a.x);
    if (x < from.x || x >= nearest) continue;
    nearest = x;
    best = a.x > b.x ? i : (i + 1) % loop.length;
  }
  if (best < 0) {
    // Nothing lies to the right but what rounding moved there: the nearest corner.
    const away = ({ x, y }: Corner): number => (x - from.x) ** 2 + (y - from.y) ** 2;
    return loop.reduce((nearer, corner, i) => (away(corner) < away(loop[nearer]) ? i : nearer), 0);
  }
  // Of the corners that stand in the triangle between, the one most nearly level is seen.
  const seen = loop[best];
  const hit = { v: -1, x: nearest, y: from.y };
  let least = Math.abs(seen.y - from.y) / Math.max(1e-12, seen.x - from.x);
  for (let i = 0; i < loop.length; i++) {
    const corner = loop[i];
    if (corner.x < from.x || corner === seen || !isWithin(from, hit, seen, corner)) continue;
    const before = loop[(i + loop.length - 1) % loop.length];
    const after = loop[(i + 1) % loop.length];
    if (turn(before, corner, after) >= 0 && !isSeenPast(before, corner, after, from)) continue;
    const steep = Math.abs(corner.y - from.y) / Math.max(1e-12, corner.x - from.x);
    if (steep < least) [best, least] = [i, steep];
  }
  return best;
}

const isSeenPast = (before: Corner, corner: Corner, after: Corner, from: Corner): boolean =>
  turn(before, corner, from) >= 0 && turn(corner, after, from) >= 0;

function isWithin(a: Corner, b: Corner, c: Corner, p: Corner): boolean {
  const [ab, bc, ca] = [turn(a, b, p), turn(b, c, p), turn(c, a, p)];
  return (ab >= 0 && bc >= 0 && ca >= 0) || (ab <= 0 && bc <= 0 && ca <= 0);
}

/**
 * The triangles of a loop, ear by ear: a corner is cut off where no other stands in its triangle, and of those the one that leaves the best
 * triangle; where rounding leaves none, that which turns least the wrong way. There are always two fewer than corners.
 */
function clipped(loop: readonly Corner[]): number[] {
  const left = [...loop];
  const triangles: number[] = [];
  while (left.length > 3) {
    const i = earOf(left);
    const [a, b, c] = [left[(i + left.length - 1) % left.length], left[i], left[(i + 1) % left.length]];
    triangles.push(a.v, b.v, c.v);
    left.splice(i, 1);
  }
  if (left.length === 3) triangles.push(left[0].v, left[1].v, left[2].v);
  return triangles;
}

function earOf(loop: readonly Corner[]): number {
  let [best, bestShape] = [-1, -Infinity];
  let [fallback, least] = [0, -Infinity];
  for (let i = 0; i < loop.length; i++) {
    const [a, b, c] = [loop[(i + loop.length - 1) % loop.length], loop[i], loop[(i + 1) % loop.length]];
    const area = turn(a, b, c);
    const longest = Math.max((a.x - b.x) ** 2 + (a.y - b.y) ** 2, (b.x - c.x) ** 2 + (b.y - c.y) ** 2, (c.x - a.x) ** 2 + (c.y - a.y) ** 2); // prettier-ignore
    const shape = longest === 0 ? 0 : area / longest;
    // What has no area is cut off last but for what would turn over.
    if (shape > least) [fallback, least] = [i, shape];
    if (shape <= bestShape || shape < -FLAT) continue;
    if (shape > FLAT && loop.some((other) => isOther(other, a, b, c) && isWithin(a, b, c, other))) continue;
    [best, bestShape] = [i, shape];
    if (loop.length > MANY && shape > GOOD) return i;
  }
  return best < 0 ? fallback : best;
}

/** In loops with more corners than this the first ear is taken whose shape is so good. */
const MANY = 24;
const GOOD = 0.05;

/** Twice the area of a triangle as a share of its longest edge squared, below which it is flat. */
const FLAT = 1e-12;

/** Whether a corner stands in another place than those of a triangle. */
const isOther = (other: Corner, ...triangle: readonly Corner[]): boolean =>
  triangle.every(({ v, x, y }) => v !== other.v && (x !== other.x || y !== other.y));
