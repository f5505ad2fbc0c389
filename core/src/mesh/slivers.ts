import { facetNormals } from './facets.js';

/**
 * Slivers out of a closed mesh: triangles so thin that slicers and machines stumble over them. A sliver with a short edge loses
 * that edge, one whose corner nearly lies on its longest edge gives that edge the other diagonal, and where neither goes a corner is moved
 * just far enough. What moves is thousandths of a millimetre; the surface stays closed and keeps its sides.
 */

/** Triangles over corners in space, with what each is part of. */
export interface Surface3D {
  /** x, y, z of every corner in mm. */
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
  readonly belongs: Int32Array;
}

/** Triangles smaller than this, in mm², are slivers. */
export const LEAST_AREA = 1e-6;

/** How far the surface may be changed for a sliver to go. */
interface Reach {
  /** Edges shorter than this, in mm, may be drawn together. */
  readonly short: number;
  /** A corner may be moved by this, in mm, to widen a sliver. */
  readonly shift: number;
  /** The least cosine between where a triangle faced and where it faces. */
  readonly facing: number;
}

/** Tried in turn: more is allowed only where less did not do. */
const REACHES: readonly Reach[] = [
  { short: 0.004, shift: 0.003, facing: 0.9 },
  { short: 0.012, shift: 0.006, facing: 0.5 },
];

/** Triangles smaller than this, in mm², may turn far, as those about the tip of a cone do. */
const SPECK = 2e-5;

const MOST_PASSES = 12;

interface Worked {
  readonly p: Float64Array;
  readonly t: Int32Array;
  readonly belongs: Int32Array;
  /** Triangles at each corner; those that are gone have −1 for their corners. */
  readonly at: number[][];
  reach: Reach;
}

/**
 * A mesh without the slivers that can be taken out; the mesh itself where it has none.
 * @param isLast whether nothing comes after it that could take out more: then a surface may give way further
 */
export function withoutSlivers(mesh: Surface3D, isLast = true): Surface3D {
  const { positions, triangles, belongs } = mesh;
  let slivers = sliversOf(positions, triangles);
  if (slivers.length === 0) return mesh;
  // Only the neighbourhood of slivers is worked on: their corners, and those of what touches them.
  const near = new Uint8Array(positions.length / 3);
  for (const f of slivers) for (let k = 0; k < 3; k++) near[triangles[3 * f + k]] = 1;
  for (const f of touching(triangles, near)) for (let k = 0; k < 3; k++) near[triangles[3 * f + k]] = 1;
  const at = new Array<number[] | undefined>(near.length);
  const local = touching(triangles, near);
  for (const f of local)
    for (let k = 0; k < 3; k++) {
      const v = triangles[3 * f + k];
      if (near[v]) (at[v] ??= []).push(f);
    }
  const work: Worked = { p: positions.slice(), t: Int32Array.from(triangles), belongs, at: at as number[][], reach: REACHES[0] };
  const stages = isLast ? [...REACHES] : [REACHES[0]];
  for (let pass = 0; pass < MOST_PASSES && slivers.length > 0 && stages.length > 0; pass++) {
    [work.reach] = stages;
    const mended = (how: (work: Worked, f: number) => boolean) => slivers.filter((f) => isSliver(work, f) && how(work, f)).length;
    if (mended(collapse) + mended(flip) + mended(widen) === 0) stages.shift();
    slivers = local.filter((f) => isSliver(work, f) && [0, 1, 2].every((k) => work.at[work.t[3 * f + k]]));
  }
  return packed(work);
}

/** Triangles that have a corner among those marked. */
function touching(triangles: Uint32Array, marked: Uint8Array): number[] {
  const out: number[] = [];
  for (let t = 0; t < triangles.length; t += 3)
    if (marked[triangles[t]] || marked[triangles[t + 1]] || marked[triangles[t + 2]]) out.push(t / 3);
  return out;
}

const isSliver = (work: Worked, f: number): boolean => isThere(work, f) && areaOf(work, f) < LEAST_AREA;

const isThere = ({ t }: Worked, f: number): boolean => t[3 * f] >= 0;

function sliversOf(p: Float64Array, t: Uint32Array): number[] {
  const normals = facetNormals(p, t);
  const out: number[] = [];
  for (let f = 0; f < t.length; f += 3) {
    const [x, y, z] = [normals[f], normals[f + 1], normals[f + 2]];
    if (x * x + y * y + z * z < 4 * LEAST_AREA * LEAST_AREA) out.push(f / 3);
  }
  return out;
}

const cross = (p: Float64Array, ...corners: readonly [number, number, number]): Float64Array => facetNormals(p, corners);

function areaOf({ p, t }: Worked, f: number): number {
  // One by one: it is asked more often than anything else here.
  const a = 3 * t[3 * f];
  const b = 3 * t[3 * f + 1];
  const c = 3 * t[3 * f + 2];
  const ux = p[b] - p[a];
  const uy = p[b + 1] - p[a + 1];
  const uz = p[b + 2] - p[a + 2];
  const vx = p[c] - p[a];
  const vy = p[c + 1] - p[a + 1];
  const vz = p[c + 2] - p[a + 2];
  const nx = uy * vz - uz * vy;
  const ny = uz * vx - ux * vz;
  const nz = ux * vy - uy * vx;
  return Math.sqrt(nx * nx + ny * ny + nz * nz) / 2;
}

const distance = (p: Float64Array, a: number, b: number): number =>
  Math.hypot(p[3 * a] - p[3 * b], p[3 * a + 1] - p[3 * b + 1], p[3 * a + 2] - p[3 * b + 2]);

const has = ({ t }: Worked, f: number, v: number): boolean => t[3 * f] === v || t[3 * f + 1] === v || t[3 * f + 2] === v;

/** Draws a short edge of a sliver together, where that keeps the surface closed and no other triangle turns over. */
function collapse(work: Worked, f: number): boolean {
  const { p, t } = work;
  const edges = [0, 1, 2]
    .map((k) => [t[3 * f + k], t[3 * f + ((k + 1) % 3)]] as const)
    .map(([a, b]) => ({ a, b, length: distance(p, a, b) }))
    .filter(({ length }) => length < work.reach.short)
    .sort((one, other) => one.length - other.length);
  for (const { a, b } of edges) if (drawTogether(work, a, b) || drawTogether(work, b, a)) return true;
  return false;
}

/** Corner `gone` becomes `kept`. */
function drawTogether(work: Worked, gone: number, kept: number): boolean {
  const { p, t, at, belongs } = work;
  const around = (at[gone] ?? []).filter((f) => isThere(work, f));
  const both = around.filter((f) => has(work, f, kept));
  if (both.length !== 2) return false;
  // The two corners may share no other neighbours than those of the edge's two triangles.
  const ofKept = linkOf(work, kept);
  const common = [...linkOf(work, gone)].filter((v) => v !== gone && v !== kept && ofKept.has(v));
  if (common.length !== 2 || !isInside(work, gone)) return false;
  // A corner on the border between parts stays on it.
  const parts = new Set(around.map((f) => belongs[f]));
  const keptParts = new Set((at[kept] ?? []).filter((f) => isThere(work, f)).map((f) => belongs[f]));
  if ([...parts].some((part) => !keptParts.has(part))) return false;
  for (const f of around) {
    if (both.includes(f)) continue;
    const [a, b, c] = [0, 1, 2].map((k) => (t[3 * f + k] === gone ? kept : t[3 * f + k]));
    const after = cross(p, a, b, c);
    if (!looksAs(facingOf(work, f), after, Math.hypot(...after) / 2 < SPECK ? 0.1 : work.reach.facing)) return false;
  }
  for (const f of around) {
    if (both.includes(f)) {
      t[3 * f] = t[3 * f + 1] = t[3 * f + 2] = -1;
      continue;
    }
    for (let k = 0; k < 3; k++) if (t[3 * f + k] === gone) t[3 * f + k] = kept;
    (at[kept] ??= []).push(f);
  }
  at[gone] = [];
  return true;
}

/** Gives the longest edge of a sliver the other diagonal, where both new triangles look the same way and are no worse. */
function flip(work: Worked, f: number): boolean {
  const { p, t, at, belongs } = work;
  const k = [0, 1, 2].sort((i, j) => edgeLength(work, f, j) - edgeLength(work, f, i))[0];
  const [a, b, c] = [t[3 * f + k], t[3 * f + ((k + 1) % 3)], t[3 * f + ((k + 2) % 3)]];
  const others = at[b].filter((other) => other !== f && isThere(work, other) && has(work, other, a) && has(work, other, b));
  if (others.length !== 1 || belongs[others[0]] !== belongs[f]) return false;
  const [g] = others;
  const d = [0, 1, 2].map((i) => t[3 * g + i]).find((v) => v !== a && v !== b)!;
  // One that was not looked at has triangles that are not known.
  if (!at[d] || d === c || at[c].some((other) => isThere(work, other) && has(work, other, d))) return false;
  // (a, b, c) and (b, a, d) become (a, d, c) and (d, b, c).
  const before = cross(p, t[3 * g], t[3 * g + 1], t[3 * g + 2]);
  const [one, two] = [cross(p, a, d, c), cross(p, d, b, c)];
  if (![one, two].every((after) => looksAs(before, after, work.reach.facing))) return false;
  if (Math.min(Math.hypot(...one), Math.hypot(...two)) <= Math.min(Math.hypot(...before), 2 * areaOf(work, f))) return false;
  t.set([a, d, c], 3 * f);
  t.set([d, b, c], 3 * g);
  at[d].push(f);
  at[c].push(g);
  at[b] = at[b].filter((other) => other !== f);
  at[a] = at[a].filter((other) => other !== g);
  return true;
}

/** Moves a corner of a sliver away from the edge before it until the sliver is one no longer, where no other triangle suffers. */
function widen(work: Worked, f: number): boolean {
  const { p, t, at } = work;
  const longestFirst = [0, 1, 2].sort((i, j) => edgeLength(work, f, j) - edgeLength(work, f, i));
  return longestFirst.some((k) => {
    const [a, b, c] = [t[3 * f + k], t[3 * f + ((k + 1) % 3)], t[3 * f + ((k + 2) % 3)]];
    if (!isInside(work, c)) return false;
    const around = at[c].filter((other) => isThere(work, other));
    const before = around.map((other) => areaOf(work, other));
    const facings = around.map((other) => facingOf(work, other));
    const facing = facings[around.indexOf(f)];
    const along = [0, 1, 2].map((axis) => p[3 * b + axis] - p[3 * a + axis]);
    const inward = [0, 1, 2].map((i) => facing[(i + 1) % 3] * along[(i + 2) % 3] - facing[(i + 2) % 3] * along[(i + 1) % 3]);
    const size = Math.hypot(...inward);
    if (size === 0) return false;
    const height = inward.reduce((sum, value, axis) => sum + (value / size) * (p[3 * c + axis] - p[3 * a + axis]), 0);
    const shift = (4 * LEAST_AREA) / Math.hypot(...along) - height;
    if (Math.abs(shift) > work.reach.shift) return false;
    const place = p.slice(3 * c, 3 * c + 3);
    const heights = [...linkOf(work, c)].map((v) => p[3 * v + 2]);
    inward.forEach((value, axis) => (p[3 * c + axis] += (value / size) * shift));
    // Never higher or lower than what is around.
    const isBetween = p[3 * c + 2] <= Math.max(...heights) && p[3 * c + 2] >= Math.min(...heights);
    const isSound =
      isBetween &&
      around.every((other, i) => {
        const isGrown = areaOf(work, other) >= Math.min(before[i], LEAST_AREA);
        return isGrown && looksAs(facings[i], cross(p, t[3 * other], t[3 * other + 1], t[3 * other + 2]), work.reach.facing);
      });
    if (!isSound) p.set(place, 3 * c);
    return isSound;
  });
}

/** Where a triangle faces. A sliver is too thin to tell: it faces as its neighbour of the same part does over its longest edge. */
function facingOf(work: Worked, f: number): Float64Array {
  const { p, t, at, belongs } = work;
  const own = cross(p, t[3 * f], t[3 * f + 1], t[3 * f + 2]);
  if (Math.hypot(...own) / 2 >= LEAST_AREA) return own;
  const longestFirst = [0, 1, 2].sort((i, j) => edgeLength(work, f, j) - edgeLength(work, f, i));
  for (const k of longestFirst) {
    const [a, b] = [t[3 * f + k], t[3 * f + ((k + 1) % 3)]];
    const over = (at[a] ?? []).find((g) => g !== f && isThere(work, g) && has(work, g, b));
    if (over === undefined || belongs[over] !== belongs[f] || areaOf(work, over) < LEAST_AREA) continue;
    return cross(p, t[3 * over], t[3 * over + 1], t[3 * over + 2]);
  }
  return own;
}

/** Whether a triangle still faces nearly the same way, by its normals before and after; one of no area faced every way. */
function looksAs(before: Float64Array, after: Float64Array, least: number): boolean {
  const [was, is] = [Math.hypot(...before), Math.hypot(...after)];
  if (was === 0 || is === 0) return was === 0;
  return (before[0] * after[0] + before[1] * after[1] + before[2] * after[2]) / (was * is) > least;
}

/** Whether a corner has triangles all round: none on the rim of an open mesh may move. */
const isInside = (work: Worked, v: number): boolean =>
  linkOf(work, v).size - 1 === work.at[v].filter((f) => isThere(work, f)).length;

/** A corner with all that it shares triangles with. */
const linkOf = (work: Worked, v: number): Set<number> =>
  new Set((work.at[v] ?? []).filter((f) => isThere(work, f)).flatMap((f) => [...work.t.subarray(3 * f, 3 * f + 3)]));

const edgeLength = ({ p, t }: Worked, f: number, k: number): number => distance(p, t[3 * f + k], t[3 * f + ((k + 1) % 3)]);

/** Without what is gone. Corners keep their numbers. */
function packed({ p, t, belongs }: Worked): Surface3D {
  const triangles = new Uint32Array(t.length);
  const kept = new Int32Array(belongs.length);
  let count = 0;
  for (let f = 0; f < belongs.length; f++) {
    if (t[3 * f] < 0) continue;
    for (let k = 0; k < 3; k++) triangles[3 * count + k] = t[3 * f + k];
    kept[count++] = belongs[f];
  }
  return { positions: p, triangles: triangles.slice(0, 3 * count), belongs: kept.slice(0, count) };
}
