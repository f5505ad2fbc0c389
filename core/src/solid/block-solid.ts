import { weightedSum, type Contour, dot, IntList, minus, STEPS_PER_MM, unit, type Vector } from '../geometry/index.js';
import { combinedSolids, type Edge, loopsOf, type Operation, triangulatedLoops } from '../boolean/index.js';
import { belongsTo, type ReliefMesh } from '../mesh/index.js';
import { type BlockFace } from '../sign/index.js';
import { placeOnFace } from '../support/index.js';

/** A solid in space, and for every triangle that of the flat solid. */
export interface BlockMesh {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
  readonly from: Int32Array;
  /** x, y and height of corners in the plan of the face that they were first met on. */
  readonly plan: Float64Array;
}

/** mm by which corners on an edge of a face may lie beside it: they lie on a grid. */
const ON_EDGE = 2 / STEPS_PER_MM;
/** mm by which corners of two faces along their common edge may lie apart and be one. */
const SAME = 3 / STEPS_PER_MM;

/**
 * The faces of a flat solid put together to a block. Where the relief leaves the edges of the block as they are, and nothing that is carved from one
 * face comes near what is carved from another, they are joined along those edges; otherwise what each face takes away and adds is taken from the
 * plain block and added to it.
 * @param flat the solid of the plan @param thickness of the blank
 */
export function blockSolid(flat: ReliefMesh, faces: readonly BlockFace[], thickness: number): BlockMesh {
  const on = new Corners(flat.positions, faces);
  const front = fronts(flat, on);
  if (isPlain(flat.positions, front, on) && !areMeeting(flat.positions, front, on, faces))
    return joined(flat.positions, front, on, faces);
  return withEachOthers(flat, on, faces, thickness);
}

/** The fronts of faces whose edges are as they were, corners along those edges shared. */
function joined(plan: Float64Array, front: Fronts, on: Corners, faces: readonly BlockFace[]): BlockMesh {
  const positions = new Float64Array(plan.length);
  for (let v = 0; v < plan.length; v += 3) placeOnFace(faces[on.face[v / 3]], plan[v], plan[v + 1], plan[v + 2], positions, v);
  const edges = new BlockEdges(faces, on, plan, positions);
  return { positions, ...edges.joined(front), plan };
}

/** Whether all that is on the edges of faces is level with them, and nothing is cut through. */
function isPlain(plan: Float64Array, { triangles }: Fronts, { edges }: Corners): boolean {
  const open = new Set<number>();
  const count = plan.length / 3;
  for (let t = 0; t < triangles.length; t++) {
    const [a, b] = [triangles[t], triangles[t % 3 === 2 ? t - 2 : t + 1]];
    if (edges[a] !== 0 && Math.abs(plan[3 * a + 2]) > LEVEL) return false;
    if (!open.delete(b * count + a)) open.add(a * count + b);
  }
  return [...open].every((key) => (edges[Math.floor(key / count)] & edges[key % count]) !== 0);
}

/** Heights nearer to 0 than this, in mm, are level with the face. */
const LEVEL = 1e-9;

/** Whether what is carved from a face may come out elsewhere: its box leaves the block, or that of another face comes into it. */
function areMeeting(plan: Float64Array, { triangles }: Fronts, on: Corners, faces: readonly BlockFace[]): boolean {
  const boxes = faces.map((): { min: number[]; max: number[] } => ({
    min: [Infinity, Infinity, 0],
    max: [-Infinity, -Infinity, 0],
  }));
  for (const v of triangles) {
    if (plan[3 * v + 2] >= -LEVEL) continue;
    const face = faces[on.face[v]];
    const { min, max } = boxes[on.face[v]];
    const at = [plan[3 * v] - face.x, plan[3 * v + 1] - face.y, plan[3 * v + 2]];
    at.forEach((value, k) => {
      min[k] = Math.min(min[k], value);
      max[k] = Math.max(max[k], value);
    });
  }
  const cornersOf = ({ across, up, out, middle }: BlockFace, { min, max }: (typeof boxes)[number]): Vector[] =>
    [0, 1, 2, 3, 4, 5, 6, 7].map((bits) => {
      const [x, y, z] = [0, 1, 2].map((k) => ((bits >> k) & 1 ? max[k] + APART : min[k] - APART));
      return weightedSum([1, middle], [x, across], [y, up], [Math.min(0, z), out]);
    });
  const within = (face: BlockFace, corners: readonly Vector[]) => {
    const local = corners.map((corner) => {
      const from = minus(corner, face.middle);
      return [dot(from, face.across), dot(from, face.up), dot(from, face.out)];
    });
    return [0, 1, 2].map((k) => [Math.min(...local.map((at) => at[k])), Math.max(...local.map((at) => at[k]))]);
  };
  return faces.some((face, i) => {
    if (boxes[i].min[0] > boxes[i].max[0]) return false;
    const corners = cornersOf(face, boxes[i]);
    return faces.some((other, j) => {
      if (i === j) return false;
      const spans = within(other, corners);
      if (spans[2][1] > -APART) return true;
      const { min, max } = boxes[j];
      return min[0] <= max[0] && spans.every(([low, high], k) => low < max[k] && high > min[k]);
    });
  });
}

/** mm that what is carved from two faces is apart at least to be known as such. */
const APART = 0.01;

/** The plain block from which each face takes away what it carves, and to which it adds what it raises. */
function withEachOthers(flat: ReliefMesh, on: Corners, faces: readonly BlockFace[], thickness: number): BlockMesh {
  const plain = new PlainFaces(flat, on, faces);
  const parts = faces.flatMap((face, i) => {
    const relief = pieceOn(flat, on, i);
    const isPlainFace = relief.positions.every((z, at) => at % 3 !== 2 || Math.abs(z) < LEVEL || z <= -thickness + LEVEL);
    if (isPlainFace && !plain.hasHoles(i)) return [];
    const slab = plain.slab(i, thickness);
    return { face, away: part(slab, relief, 'cut', face), more: part(relief, slab, 'cut', face) };
  });
  let block = joined(plain.positions, plain.fronts, plain.on, faces);
  // What is raised from one face is not cut from another.
  for (const { face, away } of parts)
    if (away.from.length > 0) block = onFace(block, face, (own) => part(own, deeper(away, thickness), 'cut'));
  for (const { face, more } of parts) if (more.from.length > 0) block = onFace(block, face, (own) => part(own, more, 'join'));
  return block;
}

interface Fronted {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
  readonly from: Int32Array;
}

/** Two solids put together, with the flat triangles that theirs come from; in the coordinates of a face where one is given. */
function part(first: Fronted, second: Fronted, operation: Operation, face?: BlockFace): Fronted {
  const [one, other] = face
    ? [first, second].map((mesh) => onGrid(mesh, (p) => [p[0] - face.x, p[1] - face.y, p[2]]))
    : [first, second];
  const made = combinedSolids(one, other, operation);
  const count = one.from.length;
  return { ...made, from: made.from.map((f) => (f < count ? one.from[f] : other.from[f - count])) };
}

/** A block worked on as one face sees it, where its own corners are level with it and where the plan has them. */
function onFace({ plan, ...block }: BlockMesh, face: BlockFace, made: (own: Fronted) => Fronted): BlockMesh {
  const { across, up, out, middle } = face;
  const own = onGrid(block, (p) => {
    const from = minus(p, middle);
    return [dot(from, across), dot(from, up), dot(from, out)];
  });
  const { positions, ...rest } = made(own);
  return {
    ...rest,
    plan,
    positions: eachCorner(positions, ([x, y, z]) => weightedSum([1, middle], [x, across], [y, up], [z, out])),
  };
}

/** Through and through: what is carved as deep as the block goes further than that. */
const deeper = (mesh: Fronted, thickness: number): Fronted => ({
  ...mesh,
  positions: mesh.positions.map((value, i) => (i % 3 === 2 && value < -thickness + LEVEL ? value - 1 : value)),
});

/** mm that coordinates are multiples of, where what is turned in space and back is to be where it was. */
const GRID = 1e-9;

const onGrid = (mesh: Fronted, at: (p: Vector) => Vector): Fronted => ({
  ...mesh,
  positions: eachCorner(mesh.positions, (p) => at(p).map((value) => Math.round(value / GRID) * GRID) as unknown as Vector),
});

function eachCorner(positions: Float64Array, at: (p: Vector) => Vector): Float64Array {
  const out = new Float64Array(positions.length);
  for (let v = 0; v < out.length; v += 3) out.set(at([positions[v], positions[v + 1], positions[v + 2]]), v);
  return out;
}

/** The solid of one face, by itself. */
function pieceOn({ positions, triangles }: ReliefMesh, { face }: Corners, i: number): Fronted {
  const from: number[] = [];
  for (let t = 0; t < triangles.length; t += 3) if (face[triangles[t]] === i) from.push(t / 3);
  const number = new Map<number, number>();
  const kept = from.flatMap((f) =>
    [0, 1, 2].map((k) => {
      const v = triangles[3 * f + k];
      if (!number.has(v)) number.set(v, number.size);
      return number.get(v)!;
    }),
  );
  const own = new Float64Array(3 * number.size);
  for (const [v, n] of number) own.set(positions.subarray(3 * v, 3 * v + 3), 3 * n);
  return { positions: own, triangles: Uint32Array.from(kept), from: Int32Array.from(from) };
}

/** Which face corners of the plan are on, and on which of its edges. */
class Corners {
  readonly face: Int32Array;
  /** A bit for every edge of the face that the corner is on. */
  readonly edges: Int32Array;

  constructor(plan: Float64Array, faces: readonly BlockFace[]) {
    const count = plan.length / 3;
    this.face = new Int32Array(count);
    this.edges = new Int32Array(count);
    const boxes = faces.map(({ outline }) => boxOf(outline));
    for (let v = 0; v < count; v++) {
      const [x, y] = [plan[3 * v], plan[3 * v + 1]];
      const at = boxes.findIndex(([x0, y0, x1, y1]) => x >= x0 && x <= x1 && y >= y0 && y <= y1);
      this.face[v] = at;
      this.edges[v] = edgesAt(faces[at].outline, x, y);
    }
  }
}

function boxOf(outline: Contour): readonly [number, number, number, number] {
  const [xs, ys] = [0, 1].map((k) => outline.filter((_, i) => i % 2 === k));
  return [Math.min(...xs) - ON_EDGE, Math.min(...ys) - ON_EDGE, Math.max(...xs) + ON_EDGE, Math.max(...ys) + ON_EDGE];
}

function edgesAt(outline: Contour, x: number, y: number): number {
  let bits = 0;
  const count = outline.length / 2;
  for (let i = 0; i < count; i++) {
    const j = (i + 1) % count;
    const [dx, dy] = [outline[2 * j] - outline[2 * i], outline[2 * j + 1] - outline[2 * i + 1]];
    const [px, py] = [x - outline[2 * i], y - outline[2 * i + 1]];
    if (Math.abs(dx * py - dy * px) <= ON_EDGE * Math.hypot(dx, dy)) bits |= 1 << i;
  }
  return bits;
}

interface Fronts {
  readonly triangles: Uint32Array;
  readonly from: Int32Array;
}

/** The triangles that are of no back and of no wall around a face. */
function fronts({ triangles, belongs }: ReliefMesh, { edges }: Corners): Fronts {
  const kept = new IntList(triangles.length);
  const from = new IntList(belongs.length);
  for (let t = 0; t < belongs.length; t++) {
    const [a, b, c] = [triangles[3 * t], triangles[3 * t + 1], triangles[3 * t + 2]];
    if (belongsTo(belongs[t]).isBehind || (edges[a] & edges[b] & edges[c]) !== 0) continue;
    for (const v of [a, b, c]) kept.push(v);
    from.push(t);
  }
  return { triangles: Uint32Array.from(kept.toArray()), from: from.toArray() };
}

/** The faces as they were before anything was carved or raised: the places of the plan in the level of the face, what was cut through filled. */
class PlainFaces {
  readonly positions: Float64Array;
  readonly fronts: Fronts;
  readonly on: Corners;
  private readonly filled = new Set<number>();

  constructor(flat: ReliefMesh, on: Corners, faces: readonly BlockFace[]) {
    const { positions: p } = flat;
    const places = new Map<string, number>();
    const corners: number[] = [];
    const cornerAt = (x: number, y: number): number => {
      const key = `${x} ${y}`;
      let v = places.get(key);
      if (v === undefined) {
        places.set(key, (v = corners.length / 3));
        corners.push(x, y, 0);
      }
      return v;
    };
    const triangles: number[] = [];
    const from: number[] = [];
    const rims = faces.map((): Edge[] => []);
    const { triangles: own, from: origins } = fronts(flat, on);
    for (let t = 0; t < origins.length; t++) {
      const [a, b, c] = [0, 1, 2].map((k) => cornerAt(p[3 * own[3 * t + k]], p[3 * own[3 * t + k] + 1]));
      if (belongsTo(flat.belongs[origins[t]]).isWall || a === b || b === c || c === a) continue;
      triangles.push(a, b, c);
      from.push(origins[t]);
      rims[on.face[own[3 * t]]].push([a, b], [b, c], [c, a]);
    }
    const top: Vector = [0, 0, 1];
    faces.forEach(({ outline }, i) => {
      for (let k = 0; k < outline.length; k += 2) cornerAt(outline[k], outline[k + 1]);
      const missing = loopsOf(missingEdges(rims[i], ringWith(outline, corners)));
      if (missing.length === 0) return;
      this.filled.add(i);
      const filling = triangulatedLoops(missing, corners, top);
      for (const v of filling) triangles.push(v);
      for (let t = 0; t < filling.length; t += 3) from.push(origins.find((f) => on.face[flat.triangles[3 * f]] === i) ?? -1);
    });
    this.positions = Float64Array.from(corners);
    this.fronts = { triangles: Uint32Array.from(triangles), from: Int32Array.from(from) };
    this.on = new Corners(this.positions, faces);
  }

  hasHoles(face: number): boolean {
    return this.filled.has(face);
  }

  /** What is behind a face, as thick as the blank. */
  slab(face: number, thickness: number): Fronted {
    const { positions: p, fronts: own, on } = this;
    const count = p.length / 3;
    const triangles: number[] = [];
    const from: number[] = [];
    const open = new Map<string, Edge>();
    const add = (a: number, b: number, c: number, origin: number): void => {
      triangles.push(a, b, c);
      from.push(origin);
    };
    for (let t = 0; t < own.from.length; t++) {
      const [a, b, c] = own.triangles.subarray(3 * t, 3 * t + 3);
      if (on.face[a] !== face) continue;
      add(a, b, c, own.from[t]);
      add(count + a, count + c, count + b, own.from[t]);
      for (const [u, v] of [
        [a, b],
        [b, c],
        [c, a],
      ])
        if (!open.delete(`${v} ${u}`)) open.set(`${u} ${v}`, [u, v]);
    }
    const origin = from[0];
    for (const [u, v] of open.values()) {
      add(v, u, count + u, origin);
      add(v, count + u, count + v, origin);
    }
    const positions = new Float64Array(2 * p.length);
    positions.set(p);
    positions.set(
      p.map((value, i) => (i % 3 === 2 ? -thickness : value)),
      p.length,
    );
    return { positions, triangles: Uint32Array.from(triangles), from: Int32Array.from(from) };
  }
}

/** The corners along an outline, in its order, all that lie on it among them. */
function ringWith(outline: Contour, corners: readonly number[]): number[] {
  const ring: number[] = [];
  const count = outline.length / 2;
  for (let i = 0; i < count; i++) {
    const j = (i + 1) % count;
    const [x, y] = [outline[2 * i], outline[2 * i + 1]];
    const [dx, dy] = [outline[2 * j] - x, outline[2 * j + 1] - y];
    const length = Math.hypot(dx, dy);
    const on: { v: number; at: number }[] = [];
    for (let v = 0; v < corners.length / 3; v++) {
      const [px, py] = [corners[3 * v] - x, corners[3 * v + 1] - y];
      const at = (px * dx + py * dy) / length;
      if (Math.abs(dx * py - dy * px) <= ON_EDGE * length && at > -LEVEL && at < length - LEVEL) on.push({ v, at });
    }
    ring.push(...on.sort((a, b) => a.at - b.at).map(({ v }) => v));
  }
  return ring;
}

/** The edges around what is missing of a face. @param own those of its triangles @param ring the corners along its outline */
function missingEdges(own: readonly Edge[], ring: readonly number[]): Edge[] {
  const open = new Map<string, Edge>();
  for (const [a, b] of own) if (!open.delete(`${b} ${a}`)) open.set(`${a} ${b}`, [a, b]);
  const around = ring.map((v, i): Edge => [v, ring[(i + 1) % ring.length]]).filter(([a, b]) => !open.delete(`${a} ${b}`));
  return [...around, ...[...open.values()].map(([a, b]): Edge => [b, a])];
}

/** The edges of a block, along which corners of two faces become one. */
class BlockEdges {
  /** For corners on edges those that stand for them. */
  private readonly partner = new Map<number, number>();
  /** Edge by edge where those that are on it stand in their order. */
  private readonly orders: Map<number, number>[] = [];
  private readonly rows: number[][] = [];
  private readonly edgesOf = new Map<number, number[]>();

  constructor(
    faces: readonly BlockFace[],
    { face, edges }: Corners,
    plan: Float64Array,
    private readonly positions: Float64Array,
  ) {
    const rims = faces.map((): number[] => []);
    for (let v = 0; v < face.length; v++) if (edges[v] !== 0 && Math.abs(plan[3 * v + 2]) < LEVEL) rims[face[v]].push(v);
    const found = new Map<string, { from: Vector; to: Vector; on: { v: number; at: number }[] }>();
    const ends = new Map<string, number>();
    faces.forEach(({ corners }, f) =>
      corners.forEach((corner, i) => {
        const next = corners[(i + 1) % corners.length];
        const [from, to] = keyOf(corner) < keyOf(next) ? [corner, next] : [next, corner];
        const key = `${keyOf(from)} ${keyOf(to)}`;
        const edge = found.get(key) ?? { from, to, on: [] };
        found.set(key, edge);
        for (const v of rims[f]) if ((edges[v] & (1 << i)) !== 0) edge.on.push({ v, at: this.along(from, to, v) });
      }),
    );
    for (const { from, to, on } of found.values()) {
      const length = Math.hypot(...minus(to, from));
      const row: number[] = [];
      let last = -Infinity;
      for (const { v, at } of on.sort((a, b) => a.at - b.at)) {
        const end = at < SAME ? from : at > length - SAME ? to : undefined;
        const first = end ? this.endAt(ends, end, v) : at - last < SAME ? row[row.length - 1] : v;
        if (!end && first === v) this.positions.set(weightedSum([1 - at / length, from], [at / length, to]), 3 * v);
        if (!end && first === v) last = at;
        this.partner.set(v, first);
        if (row[row.length - 1] !== first) row.push(first);
      }
      this.orders.push(new Map(row.map((v, place) => [v, place])));
      for (const v of row) this.edgesOf.set(v, [...(this.edgesOf.get(v) ?? []), this.rows.length]);
      this.rows.push(row);
    }
  }

  /** Triangles with the corners of both faces along every edge. */
  joined({ triangles, from }: Fronts): Fronts {
    const [joined, origins] = [new IntList(triangles.length), new IntList(from.length)];
    const add = (a: number, b: number, c: number, origin: number): void => {
      if (a === b || b === c || a === c) return;
      for (const [p, q, r] of [
        [a, b, c],
        [b, c, a],
        [c, a, b],
      ] as const) {
        const between = this.between(p, q);
        if (between.length === 0) continue;
        // From p over the corners to q, each with the corner across.
        const way = [p, ...between, q];
        for (let i = 0; i + 1 < way.length; i++) add(way[i], way[i + 1], r, origin);
        return;
      }
      for (const v of [a, b, c]) joined.push(v);
      origins.push(origin);
    };
    const of = (v: number): number => this.partner.get(v) ?? v;
    for (let t = 0; t < from.length; t++) add(of(triangles[3 * t]), of(triangles[3 * t + 1]), of(triangles[3 * t + 2]), from[t]);
    return { triangles: Uint32Array.from(joined.toArray()), from: origins.toArray() };
  }

  /** Corners between two of one edge, from the first on. */
  private between(a: number, b: number): number[] {
    for (const edge of this.edgesOf.get(a) ?? []) {
      const [from, to] = [this.orders[edge].get(a)!, this.orders[edge].get(b)];
      if (to === undefined) continue;
      return to > from ? this.rows[edge].slice(from + 1, to) : this.rows[edge].slice(to + 1, from).reverse();
    }
    return [];
  }

  /** The one corner of all faces at an end of an edge. */
  private endAt(ends: Map<string, number>, end: Vector, v: number): number {
    const key = keyOf(end);
    const known = ends.get(key);
    if (known !== undefined) return known;
    ends.set(key, v);
    this.positions.set(end, 3 * v);
    return v;
  }

  private along(from: Vector, to: Vector, v: number): number {
    const here: Vector = [this.positions[3 * v], this.positions[3 * v + 1], this.positions[3 * v + 2]];
    return dot(minus(here, from), unit(minus(to, from)));
  }
}

/** Corners of a block are told apart by their places. */
const keyOf = (corner: Vector): string => corner.map((value) => Math.round(value / CORNERS) + 0).join(' ');
const CORNERS = 1e-6;
