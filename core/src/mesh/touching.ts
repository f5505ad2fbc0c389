import { facetNormals } from './facets.js';
import { type ReliefMesh } from './mesh.js';

/**
 * Solids that touch in a line, such as two raised squares that share a corner of their outlines, have edges that more than two triangles
 * meet in, which many readers of files refuse. Each of the solids gets corners of its own there, a hair inside of itself, so that every
 * edge has two triangles, by the numbers of corners and by their places.
 */

/**
 * mm by which a corner moves into its own solid: below the tolerance of everything else, above the digits of a file, and three and a half
 * steps of the grid, so that it comes to lie on no other corner.
 */
const HAIR = 0.0004375;

/** Two triangles that meet in an edge, each with the place of its corner there among three: of the edge's start, then of its end. */
interface Pair {
  readonly a: number;
  readonly b: number;
  readonly forward: number;
  readonly backward: number;
}

/** A triangle that has two such edges is parted along one of them at a time. */
const MOST_ROUNDS = 6;

/** The mesh without edges that more than two triangles meet in; the mesh itself where it has none. */
export function withoutTouching(whole: ReliefMesh): ReliefMesh {
  let mesh = whole;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const crowded = edgesTouching(mesh);
    if (crowded.length === 0) break;
    mesh = partedAt(mesh, crowded);
  }
  return mesh;
}

interface CrowdedEdge {
  readonly a: number;
  readonly b: number;
  readonly facets: readonly number[];
}

function partedAt(whole: ReliefMesh, crowded: readonly CrowdedEdge[]): ReliefMesh {
  const mesh = withoutFlaps(whole, new Set(crowded.flatMap(({ facets }) => facets)));
  const touching = mesh === whole ? crowded : edgesTouching(mesh);
  if (touching.length === 0) return mesh;
  const { positions, belongs } = mesh;
  const triangles = mesh.triangles.slice();
  const marked = new Set(touching.flatMap(({ a, b }) => [a, b]));
  const around = new Map<number, number[]>([...marked].map((v) => [v, []]));
  for (let i = 0; i < triangles.length; i++) around.get(triangles[i])?.push(i);
  const pairs = new Map<string, Pair[]>();
  for (const { a, b, facets } of touching) pairs.set(`${a} ${b}`, pairsAround(mesh, a, b, facets));

  const out: number[] = [];
  const normals = facetNormals(positions, triangles);
  const corners = positions.length / 3;
  /** A new corner at a place, moved a hair against the normals of its triangles in the plan. */
  const added = (x: number, y: number, z: number, facets: Iterable<number>): number => {
    let [nx, ny] = [0, 0];
    for (const f of facets) {
      const length = Math.hypot(normals[3 * f], normals[3 * f + 1], normals[3 * f + 2]) || 1;
      nx += normals[3 * f] / length;
      ny += normals[3 * f + 1] / length;
    }
    const length = Math.hypot(nx, ny) || 1;
    out.push(x - (HAIR * nx) / length, y - (HAIR * ny) / length, z);
    return corners + out.length / 3 - 1;
  };

  for (const [v, places] of around) {
    const fans = fansAt(mesh, v, places, pairs);
    for (const fan of fans.length > 1 ? fans : []) {
      const own = added(positions[3 * v], positions[3 * v + 1], positions[3 * v + 2], new Set(fan.map((i) => Math.floor(i / 3))));
      for (const i of fan) triangles[i] = own;
    }
  }
  return parted({ positions: joined(positions, out), triangles, belongs }, [...pairs.values()].flat(), added, out);
}

/** Without triangles that lie on each other and look to both sides, as where a slope comes to the back: there is nothing between them. */
function withoutFlaps(mesh: ReliefMesh, facets: ReadonlySet<number>): ReliefMesh {
  const { positions, triangles, belongs } = mesh;
  const open = new Map<string, number>();
  const gone = new Set<number>();
  for (const f of facets) {
    const corners = [0, 1, 2].map((k) => triangles[3 * f + k]);
    const first = corners.indexOf(Math.min(...corners));
    const [a, b, c] = [0, 1, 2].map((k) => corners[(first + k) % 3]);
    const other = open.get(`${a} ${c} ${b}`);
    if (other === undefined) open.set(`${a} ${b} ${c}`, f);
    else {
      gone.add(f).add(other);
      open.delete(`${a} ${c} ${b}`);
    }
  }
  if (gone.size === 0) return mesh;
  const isKept = (f: number): boolean => !gone.has(f);
  return {
    positions,
    triangles: triangles.filter((_, i) => isKept(Math.floor(i / 3))),
    belongs: belongs.filter((_, f) => isKept(f)),
  };
}

const joined = (positions: Float64Array, more: readonly number[]): Float64Array => {
  const all = new Float64Array(positions.length + more.length);
  all.set(positions);
  all.set(more, positions.length);
  return all;
};

/** Edges that are met by more than two triangles, with those. */
function edgesTouching({ positions, triangles }: ReliefMesh): CrowdedEdge[] {
  const endOf = (i: number): number => triangles[i % 3 === 2 ? i - 2 : i + 1];
  // Half edges by the lower of their corners, those of one corner by the other one: each as a number, the other corner first.
  const start = new Int32Array(positions.length / 3 + 1);
  for (let i = 0; i < triangles.length; i++) start[Math.min(triangles[i], endOf(i)) + 1]++;
  for (let v = 1; v < start.length; v++) start[v] += start[v - 1];
  const next = start.slice();
  const halves = new Float64Array(triangles.length);
  for (let i = 0; i < triangles.length; i++) {
    const [from, to] = [triangles[i], endOf(i)];
    halves[next[Math.min(from, to)]++] = Math.max(from, to) * triangles.length + i;
  }
  const out: CrowdedEdge[] = [];
  for (let a = 0; a + 1 < start.length; a++) {
    const own = halves.subarray(start[a], start[a + 1]).sort();
    for (let i = 0, j = 0; i < own.length; i = j) {
      const b = Math.floor(own[i] / triangles.length);
      while (j < own.length && own[j] < (b + 1) * triangles.length) j++;
      if (j - i > 2)
        out.push({ a, b, facets: Array.from(own.subarray(i, j), (half) => Math.floor((half % triangles.length) / 3)) });
    }
  }
  return out;
}

/**
 * The triangles about an edge in pairs with solid between them. Seen along the edge, anticlockwise about it, solid begins at a
 * triangle that runs the edge backward and ends at one that runs it forward.
 */
function pairsAround({ positions: p, triangles }: ReliefMesh, a: number, b: number, facets: readonly number[]): Pair[] {
  const axis = [0, 1, 2].map((k) => p[3 * b + k] - p[3 * a + k]);
  const across = Math.abs(axis[0]) < Math.abs(axis[2]) ? [1, 0, 0] : [0, 0, 1];
  const u = crossOf(axis, across);
  const v = crossOf(axis, u);
  const length = Math.hypot(...axis);
  const all = facets.map((f) => {
    const at = [0, 1, 2].find((k) => triangles[3 * f + k] !== a && triangles[3 * f + k] !== b)!;
    const c = triangles[3 * f + at];
    const aside = [0, 1, 2].map((k) => p[3 * c + k] - p[3 * a + k]);
    const angle = Math.atan2(dotOf(aside, v) / length, dotOf(aside, u));
    return { f, angle, isForward: triangles[3 * f + ((at + 1) % 3)] === a };
  });
  // Where two lie on each other there is nothing between them: the one that ends comes first.
  all.sort((one, other) => one.angle - other.angle || Number(other.isForward) - Number(one.isForward));
  const out: Pair[] = [];
  const open: number[] = [];
  for (const { f, isForward } of [...all, ...all]) {
    if (!isForward) {
      if (out.every(({ backward }) => backward !== f) && !open.includes(f)) open.push(f);
    } else if (open.length > 0 && out.every(({ forward }) => forward !== f))
      out.push({ a, b, forward: f, backward: open.pop()! });
  }
  return out;
}

const crossOf = (p: readonly number[], q: readonly number[]): number[] =>
  [0, 1, 2].map((k) => p[(k + 1) % 3] * q[(k + 2) % 3] - p[(k + 2) % 3] * q[(k + 1) % 3]);
const dotOf = (p: readonly number[], q: readonly number[]): number => p[0] * q[0] + p[1] * q[1] + p[2] * q[2];

/** The places of a corner in triangles, in groups of those that hang together over edges about it. */
function fansAt(
  { triangles }: ReliefMesh,
  v: number,
  places: readonly number[],
  pairs: ReadonlyMap<string, readonly Pair[]>,
): number[][] {
  const group = new Map(places.map((i) => [i, i]));
  const root = (i: number): number => {
    let at = i;
    while (group.get(at) !== at) at = group.get(at)!;
    return at;
  };
  const placeIn = (f: number): number => [0, 1, 2].map((k) => 3 * f + k).find((i) => triangles[i] === v)!;
  const join = (f: number, g: number): void => void group.set(root(placeIn(f)), root(placeIn(g)));
  const byEdge = new Map<number, number[]>();
  for (const i of places) {
    const f = Math.floor(i / 3);
    for (let k = 0; k < 3; k++) {
      const w = triangles[3 * f + k];
      if (w === v) continue;
      const list = byEdge.get(w);
      if (list) list.push(f);
      else byEdge.set(w, [f]);
    }
  }
  for (const [w, facets] of byEdge) {
    const some = pairs.get(v < w ? `${v} ${w}` : `${w} ${v}`);
    if (some) for (const { forward, backward } of some) join(forward, backward);
    else for (const f of facets.slice(1)) join(facets[0], f);
  }
  const fans = new Map<number, number[]>();
  for (const i of places) {
    const list = fans.get(root(i));
    if (list) list.push(i);
    else fans.set(root(i), [i]);
  }
  return [...fans.values()];
}

/** Edges of which both ends are still shared get a corner in their middle, one for each of the solids that touch there. */
function parted(
  mesh: ReliefMesh,
  pairs: readonly Pair[],
  added: (x: number, y: number, z: number, facets: Iterable<number>) => number,
  out: readonly number[],
): ReliefMesh {
  const { triangles, belongs } = mesh;
  const still = pairs.filter(({ a, b, forward }) => {
    const own = [0, 1, 2].map((k) => triangles[3 * forward + k]);
    return own.includes(a) && own.includes(b);
  });
  const seen = new Set<number>();
  const more: number[] = [];
  const parts: number[] = [];
  const count = mesh.positions.length - out.length;
  for (const { a, b, forward, backward } of still) {
    // A triangle is parted once in a round.
    if (seen.has(forward) || seen.has(backward)) continue;
    seen.add(forward).add(backward);
    const { positions: p } = mesh;
    const middle = added(...([0, 1, 2].map((k) => (p[3 * a + k] + p[3 * b + k]) / 2) as [number, number, number]), [
      forward,
      backward,
    ]);
    for (const f of [forward, backward]) {
      const at = [0, 1, 2].find((k) => triangles[3 * f + k] !== a && triangles[3 * f + k] !== b)!;
      const [c, from, to] = [triangles[3 * f + at], triangles[3 * f + ((at + 1) % 3)], triangles[3 * f + ((at + 2) % 3)]];
      triangles.set([c, from, middle], 3 * f);
      more.push(c, middle, to);
      parts.push(belongs[f]);
    }
  }
  if (more.length === 0) return mesh;
  const allTriangles = new Uint32Array(triangles.length + more.length);
  allTriangles.set(triangles);
  allTriangles.set(more, triangles.length);
  const allBelongs = new Int32Array(belongs.length + parts.length);
  allBelongs.set(belongs);
  allBelongs.set(parts, belongs.length);
  return { positions: joined(mesh.positions.subarray(0, count), out), triangles: allTriangles, belongs: allBelongs };
}
