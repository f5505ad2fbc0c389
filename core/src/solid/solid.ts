import { type Inset, relabelled, triangulate } from '../arrangement/index.js';
import { IntList, pointKey, STEPS_PER_MM } from '../geometry/index.js';
import { withoutSlivers, BACK, type ReliefMesh, UNDERSIDE, volume, withoutTouching } from '../mesh/index.js';
import {
  BACK_LAYER,
  type Evaluation,
  heightOf,
  insertAt,
  isInPlane,
  isSolid,
  type Place,
  type PlacedSlopeMesh,
  placeOf,
  type Surface,
} from '../relief/index.js';
import { withFlatLevels } from './flat-levels.js';
import { inSpaceOrFlat } from './in-space.js';

/**
 * Heights at one point of the plan that differ by less than this, in mm, are one where a slope has part in them: slopes of
 * different parts meet in lines that are chords of the true ones.
 */
const MEETING = 0.012;

/** The places that a solid is made of. */
export type Kept = 'all' | 'inserts' | 'all but inserts';

/**
 * The solid of a relief, straight from its plan: a cap on every place, in front and behind, and a wall on every edge of the plan
 * from the lower side to the higher. Caps and walls share the plan's own points, and a wall's upright edges have a corner at every
 * height that meets there, so that the surface closes without any 3D boolean. Letters that keep their slopes to themselves bring
 * their own caps.
 * @param kept inserts of another material, or all that is not, where not all is wanted
 */
export function solidOf(evaluation: Evaluation, kept: Kept = 'all'): ReliefMesh {
  const isThere = placesKept(evaluation, kept);
  const corners = cornersOf(evaluation, isThere);
  const facets = new FacetList(8 * evaluation.arrangement.edges.lo.length);
  addCaps(evaluation, isThere, corners, facets);
  addBacks(evaluation, isThere, corners, facets);
  addWalls(evaluation, isThere, corners, facets);
  const mesh = { positions: corners.positions(), ...facets.arrays() };
  const slopeMeshes = [...evaluation.slopeMeshes].filter(([{ inside }]) => isThere(inside));
  const whole = slopeMeshes.length === 0 ? mesh : withSlopeMeshes(evaluation, slopeMeshes, mesh, rampPoints(evaluation), corners); // prettier-ignore
  return withoutTouching(withoutSlivers(withFlatLevels(evaluation, whole, corners, isThere)));
}

/** Whether a label of the plan has material that is wanted. */
type IsThere = (label: number) => boolean;

/** The corners of a solid: at every point of the plan one for each height that meets there. */
function cornersOf(evaluation: Evaluation, isThere: IsThere): Corners {
  const { lo, hi, left, right } = evaluation.arrangement.edges;
  const corners = new Corners(evaluation, isThere);
  for (let e = 0; e < lo.length; e++) {
    for (const v of [lo[e], hi[e]]) {
      corners.meet(v, left[e]);
      corners.meet(v, right[e]);
    }
  }
  if (evaluation.places.some(({ sides }) => sides)) {
    for (let e = 0; e < lo.length; e++) for (const v of [lo[e], hi[e]]) corners.meetBands(v, left[e], right[e]);
  }
  corners.settle();
  return corners;
}

const isRamp = (evaluation: Evaluation, label: number): boolean => placeOf(evaluation, label)?.surface.kind === 'profile';

/** A cap in front of every place but of letters that bring their own. */
function addCaps(evaluation: Evaluation, isThere: IsThere, corners: Corners, facets: FacetList): void {
  const tops = triangulate(evaluation.arrangement.edges, (label) => isThere(label) && !isRamp(evaluation, label));
  for (let t = 0; t < tops.labels.length; t++) {
    const label = tops.labels[t];
    const [a, b, c] = [tops.corners[3 * t], tops.corners[3 * t + 1], tops.corners[3 * t + 2]];
    facets.add(corners.top(a, label), corners.top(b, label), corners.top(c, label), label);
  }
}

/** A cap behind every place; places with the plain back are covered as one. */
function addBacks(evaluation: Evaluation, isThere: IsThere, corners: Corners, facets: FacetList): void {
  const isPlain = (label: number): boolean => {
    const under = placeOf(evaluation, label)?.under;
    return under?.layer === BACK_LAYER && under.marked === undefined;
  };
  let plain: number | undefined;
  const backs = triangulate(
    relabelled(
      evaluation.arrangement.edges,
      (label) => {
        if (!isThere(label)) return 0;
        return isPlain(label) ? (plain ??= label) : label;
      },
      (label) => placeOf(evaluation, label)?.under.kind === 'embedded',
    ),
    isThere,
  );
  for (let t = 0; t < backs.labels.length; t++) {
    const label = backs.labels[t];
    const [a, b, c] = [backs.corners[3 * t], backs.corners[3 * t + 1], backs.corners[3 * t + 2]];
    const part = isPlain(label) ? BACK : UNDERSIDE + label;
    facets.add(corners.bottom(a, label), corners.bottom(c, label), corners.bottom(b, label), part);
  }
}

/** The lower and the upper corners of material at both ends of an edge of the plan. */
interface WallEnds {
  readonly lowA: number;
  readonly topA: number;
  readonly lowB: number;
  readonly topB: number;
}

const NO_WALL: WallEnds = { lowA: 0, topA: 0, lowB: 0, topB: 0 };

/** A wall on every edge of the plan, from the lower side to the higher. */
function addWalls(evaluation: Evaluation, isThere: IsThere, corners: Corners, facets: FacetList): void {
  const { lo, hi, left, right } = evaluation.arrangement.edges;
  /** A wall of material on the left of an edge, or on its right. */
  const put = (side: 'left' | 'right', { lowA, topA, lowB, topB }: WallEnds, part: number): void => {
    if (lowA === topA && lowB === topB) return;
    const ends = side === 'left' ? { lowA, topA, lowB, topB } : { lowA: lowB, topA: topB, lowB: lowA, topB: topA };
    addWall(ends, corners, facets, part);
  };
  for (let e = 0; e < lo.length; e++) {
    const [l, r, a, b] = [left[e], right[e], lo[e], hi[e]];
    if (l === r) continue;
    const endsOf = (label: number): WallEnds =>
      isThere(label)
        ? {
            lowA: corners.bottom(a, label),
            topA: corners.top(a, label),
            lowB: corners.bottom(b, label),
            topB: corners.top(b, label),
          }
        : NO_WALL;
    const [onLeft, onRight] = [endsOf(l), endsOf(r)];
    if (!areMeeting(onLeft, onRight)) {
      // Beside nothing, or beside material that lies wholly above or below.
      put('left', onLeft, -l);
      put('right', onRight, -r);
      continue;
    }
    if (onLeft.topA !== onRight.topA || onLeft.topB !== onRight.topB) {
      if (onLeft.topA + onLeft.topB > onRight.topA + onRight.topB)
        put('left', between(onRight, onLeft, 'top'), -makerOf(evaluation, 'surface', l, r));
      else put('right', between(onLeft, onRight, 'top'), -makerOf(evaluation, 'surface', r, l));
    }
    if (onLeft.lowA !== onRight.lowA || onLeft.lowB !== onRight.lowB) {
      if (onLeft.lowA + onLeft.lowB < onRight.lowA + onRight.lowB)
        put('left', between(onLeft, onRight, 'low'), -UNDERSIDE - makerOf(evaluation, 'under', l, r));
      else put('right', between(onRight, onLeft, 'low'), -UNDERSIDE - makerOf(evaluation, 'under', r, l));
    }
  }
}

/** Whether materials on both sides of an edge touch: corners of one point are numbered from below. */
const areMeeting = (one: WallEnds, other: WallEnds): boolean =>
  one.topA + one.topB > other.lowA + other.lowB && other.topA + other.topB > one.lowA + one.lowB;

/** The ends from one side's corners in front, or behind, to those of the other. */
const between = (low: WallEnds, high: WallEnds, corner: 'low' | 'top'): WallEnds =>
  corner === 'top'
    ? { lowA: low.topA, topA: high.topA, lowB: low.topB, topB: high.topB }
    : { lowA: low.lowA, topA: high.lowA, lowB: low.lowB, topB: high.lowB };

/** The points of the plan on the edges of letters that bring their own caps, by their places. */
function rampPoints(evaluation: Evaluation): ReadonlyMap<number, number> {
  const { x, y, lo, hi, left, right } = evaluation.arrangement.edges;
  const pointAt = new Map<number, number>();
  for (let e = 0; e < lo.length; e++) {
    if (!isRamp(evaluation, left[e]) && !isRamp(evaluation, right[e])) continue;
    for (const v of [lo[e], hi[e]]) pointAt.set(pointKey(x[v], y[v]), v);
  }
  return pointAt;
}

/** Which labels have material that is wanted. */
function placesKept(evaluation: Evaluation, kept: Kept): (label: number) => boolean {
  if (kept === 'all') return isSolid;
  return (label) => {
    const place = placeOf(evaluation, label);
    return place !== undefined && (insertAt(evaluation, place) !== undefined) === (kept === 'inserts');
  };
}

/** Which of two places a wall between them is made with: the later built, as a pocket's walls are made with its floor. */
function makerOf(evaluation: Evaluation, side: 'surface' | 'under', outer: number, inner: number): number {
  const [a, b] = [placeOf(evaluation, outer), placeOf(evaluation, inner)];
  return a && b && b[side].layer > a[side].layer ? inner : outer;
}

/** Triangles as they are found, with what they are part of. */
class FacetList {
  private readonly triangles: IntList;
  private readonly belongs: IntList;

  constructor(expected: number) {
    this.triangles = new IntList(3 * expected);
    this.belongs = new IntList(expected);
  }

  add(a: number, b: number, c: number, part: number): void {
    this.triangles.push(a);
    this.triangles.push(b);
    this.triangles.push(c);
    this.belongs.push(part);
  }

  arrays(): { triangles: Uint32Array; belongs: Int32Array } {
    return { triangles: Uint32Array.from(this.triangles.toArray()), belongs: this.belongs.toArray() };
  }
}

/**
 * A wall between two uprights, seen from its lower side with `a` on the left: from corner `low` to corner `top` of each. Where the
 * sides change places along it, which only happens by a rounding, it is turned over itself.
 */
function addWall(ends: WallEnds, { heights }: Corners, facets: FacetList, part: number): void {
  const { lowA, topA, lowB, topB } = ends;
  if (lowA > topA || lowB > topB) {
    addCrossedWall(ends, facets, part);
    return;
  }
  let [a, b] = [lowA, lowB];
  while (a < topA || b < topB) {
    const climbsB = a === topA || (b < topB && heights[b + 1] <= heights[a + 1]);
    if (climbsB) facets.add(a, b, ++b, part);
    else facets.add(a, b, ++a, part);
  }
}

function addCrossedWall({ lowA, topA, lowB, topB }: WallEnds, facets: FacetList, part: number): void {
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
function withSlopeMeshes(
  evaluation: Evaluation,
  slopeMeshes: readonly (readonly [Inset, PlacedSlopeMesh])[],
  mesh: ReliefMesh,
  pointAt: ReadonlyMap<number, number>,
  corners: Corners,
): ReliefMesh {
  let [points, facets] = [0, 0];
  for (const [, { slopeMesh }] of slopeMeshes) {
    points += slopeMesh.x.length;
    facets += slopeMesh.corners.length / 3;
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
  for (const [{ inside }, { slopeMesh, stepX, stepY }] of slopeMeshes) {
    const surface = placeOf(evaluation, inside)?.surface;
    if (surface?.kind !== 'profile') continue;
    const { profile } = surface;
    const { x, y, isOnEdge, corners: own, distances } = slopeMesh;
    const cornerOf = new Int32Array(x.length).fill(-1);
    for (let t = 0; t < own.length; t++) {
      const p = own[t];
      if (cornerOf[p] < 0) {
        const px = x[p] + stepX;
        const py = y[p] + stepY;
        const point = isOnEdge[p] ? pointAt.get(pointKey(px, py)) : undefined;
        if (point !== undefined) cornerOf[p] = corners.top(point, inside);
        else {
          positions[3 * corner] = px / STEPS_PER_MM;
          positions[3 * corner + 1] = py / STEPS_PER_MM;
          positions[3 * corner + 2] = profile.at(distances[p]);
          cornerOf[p] = corner++;
        }
      }
      triangles[3 * at + t] = cornerOf[p];
    }
    belongs.fill(inside, at, at + own.length / 3);
    at += own.length / 3;
  }
  return { positions: positions.subarray(0, 3 * corner), triangles, belongs };
}

/** The heights that meet at every point of the plan, with a corner of the mesh for each, numbered from below. */
class Corners {
  readonly heights: number[] = [];
  private readonly xs: number[] = [];
  private readonly ys: number[] = [];
  /** At every point its heights, ascending, and the first corner. */
  private readonly stacks: (number[] | undefined)[];
  private readonly first: Int32Array;
  /** Heights that count as others, by point. */
  private readonly settled = new Map<number, Map<number, number>>();
  /** By point the heights that slopes have there. */
  private readonly sloping = new Map<number, Set<number>>();
  private readonly tops: Heights;
  private readonly bottoms: Heights;

  constructor(
    private readonly evaluation: Evaluation,
    private readonly isThere: (label: number) => boolean,
  ) {
    const { edges } = evaluation.arrangement;
    const count = edges.x.length;
    this.stacks = new Array<number[] | undefined>(count);
    this.first = new Int32Array(count);
    const heights = (side: 'surface' | 'under') =>
      new Heights(edges.x, edges.y, (label) => placeOf(evaluation, label)![side], this.sloping);
    this.tops = heights('surface');
    this.bottoms = heights('under');
  }

  /** Notes that a label meets a point. */
  meet(v: number, label: number): void {
    if (!this.isThere(label)) return;
    const list = (this.stacks[v] ??= []);
    const top = this.tops.at(v, label);
    if (!list.includes(top)) list.push(top);
    const bottom = this.bottoms.at(v, label);
    if (!list.includes(bottom)) list.push(bottom);
  }

  /** Notes the heights at which a wall between two places changes what it wears. */
  meetBands(v: number, left: number, right: number): void {
    if (left === right) return;
    const labels = [left, right].filter(this.isThere);
    const [tops, bottoms] = [this.tops, this.bottoms].map((side) => labels.map((label) => side.at(v, label)));
    const walls = labels.length === 1 ? [[bottoms[0], tops[0]]] : labels.length === 2 ? [tops, bottoms] : [];
    for (const label of labels) {
      for (const { to } of placeOf(this.evaluation, label)!.sides ?? []) {
        const isOnWall = walls.some(([a, b]) => to > Math.min(a, b) && to < Math.max(a, b));
        const list = this.stacks[v]!;
        if (isOnWall && list.every((z) => Math.abs(z - to) > 1e-6)) list.push(to);
      }
    }
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
  top(v: number, label: number): number {
    return this.atHeight(v, this.tops.at(v, label));
  }

  /** The same of the side that is turned away. */
  bottom(v: number, label: number): number {
    return this.atHeight(v, this.bottoms.at(v, label));
  }

  private atHeight(v: number, z: number): number {
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

/** The heights of one side by point and label. */
class Heights {
  /** Of every label its level, or undefined where it slopes. */
  private readonly levels: (number | undefined)[] = [];
  private readonly surfaces: Surface[] = [];
  private readonly slopes = new Map<number, number>();

  /** @param sloping where heights of slopes are noted, by point */
  constructor(
    private readonly x: Int32Array,
    private readonly y: Int32Array,
    private readonly surfaceOf: (label: number) => Surface,
    private readonly sloping: Map<number, Set<number>>,
  ) {}

  at(v: number, label: number): number {
    let surface = this.surfaces[label];
    if (!surface) {
      this.surfaces[label] = surface = this.surfaceOf(label);
      this.levels[label] = surface.kind === 'embedded' || isInPlane(surface) ? undefined : heightOf(surface, 0, 0);
    }
    return this.levels[label] ?? this.onSlope(v, label, surface);
  }

  private onSlope(v: number, label: number, surface: Surface): number {
    const key = label * this.x.length + v;
    let z = this.slopes.get(key);
    if (z === undefined) {
      this.slopes.set(key, (z = heightOf(surface, this.x[v], this.y[v])));
      const list = this.sloping.get(v);
      if (list) list.add(z);
      else this.sloping.set(v, new Set([z]));
    }
    return z;
  }
}

/** Volume in mm³: of a sign that is bent as it is in space; of level places from their areas alone, of others from the solid. */
export function volumeOf(evaluation: Evaluation): number {
  const { places, slopeMeshes, sign } = evaluation;
  if (sign.support) return volume(inSpaceOrFlat(evaluation, solidOf(evaluation)).mesh);
  const slopes = ({ surface, under }: Place): boolean => surface.kind === 'embedded' || under.kind !== 'level';
  if (places.some((place) => place.areaMm2 > 0 && slopes(place))) return volume(solidOf(evaluation));
  let sum = 0;
  for (const { surface, under, areaMm2 } of places) {
    if (surface.kind === 'level' && under.kind === 'level') sum += areaMm2 * (surface.z - under.z);
  }
  for (const [{ inside }, { slopeMesh }] of slopeMeshes) {
    const { surface, under } = placeOf(evaluation, inside)!;
    if (surface.kind === 'profile' && under.kind === 'level')
      sum += volumeUnder(slopeMesh, (d) => surface.profile.at(d) - under.z);
  }
  return sum;
}

function volumeUnder({ x, y, distances, corners }: PlacedSlopeMesh['slopeMesh'], height: (d: number) => number): number {
  let sum = 0;
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [corners[t], corners[t + 1], corners[t + 2]];
    const twice = (x[b] - x[a]) * (y[c] - y[a]) - (y[b] - y[a]) * (x[c] - x[a]);
    sum += (twice * (height(distances[a]) + height(distances[b]) + height(distances[c]))) / 6;
  }
  return sum / STEPS_PER_MM ** 2;
}
