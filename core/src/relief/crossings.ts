import Flatbush from 'flatbush';
import {
  arrange,
  type Contour,
  type Creases,
  type DrawnField,
  movedBy,
  snapRun,
  STEPS_PER_MM,
  toStep,
  triangulate,
} from '../outline/index.js';
import type { Piece, Woven } from './weave.js';

/** Where one woven slope lies above another that it overlaps. */
export interface Crossing {
  /** Layers of the relief. */
  readonly first: number;
  readonly second: number;
  /** The border of the places where the first lies above the second, those on its left; in grid steps. */
  readonly border: Creases;
  /** Layer of the plan that those are. */
  layer: number;
}

/** Triangles over a slope: x, y and height of three corners in turn. */
type Facets = Float64Array;

/** Where slopes of different layers overlap, the places where one is the higher. */
export function crossingsOf(woven: readonly Woven[]): Crossing[] {
  const facets = new Map<Woven, Facets>();
  const of = (each: Woven): Facets => {
    let known = facets.get(each);
    if (!known) facets.set(each, (known = facetsOf(each)));
    return known;
  };
  const out: Crossing[] = [];
  woven.forEach((first, i) => {
    for (const second of woven.slice(i + 1)) {
      if (first.area === second.area || !meet(first, second) || areApart(first, second)) continue;
      const border = placesAbove(of(first), of(second));
      out.push({ first: first.layer, second: second.layer, border, layer: 0 });
    }
  });
  return out;
}

const meet = (a: Woven, b: Woven): boolean =>
  a.index.minX <= b.index.maxX && b.index.minX <= a.index.maxX && a.index.minY <= b.index.maxY && b.index.minY <= a.index.maxY;

/** Whether all of one lies higher than all of the other, so that a height of each tells which is above. */
function areApart(a: Woven, b: Woven): boolean {
  const [p, q] = [heightsOf(a), heightsOf(b)];
  return Math.min(...p) > Math.max(...q) || Math.min(...q) > Math.max(...p);
}

/** The heights at which a slope breaks, as far as its strokes let it come. */
function heightsOf({ ramp, pieces }: Woven): number[] {
  const deepest = Math.max(...pieces.map(({ drawn }) => drawn.field.deepest));
  return [ramp.at(deepest), ...ramp.heights.filter((_, i) => ramp.distances[i] <= deepest)];
}

/** Triangles over the outline that a field was drawn from: x and y in grid steps and the distance of three corners in turn. */
const drawnFacets = new WeakMap<DrawnField, Float64Array>();

function facetsOfField({ outline, drawn, stepX, stepY }: Piece): Float64Array {
  let known = drawnFacets.get(drawn);
  if (known) return known;
  const own = movedBy(outline, -stepX / STEPS_PER_MM, -stepY / STEPS_PER_MM);
  const isInside = (label: number): boolean => label === 1;
  const { edges } = arrange([own], (windings) => (windings.length > 0 ? 1 : 0), { segments: drawn.creases, on: isInside });
  const { corners } = triangulate(edges, isInside);
  known = new Float64Array(3 * corners.length);
  corners.forEach((v, i) => known!.set([edges.x[v], edges.y[v], drawn.distanceOfPoint(edges.x[v], edges.y[v])], 3 * i));
  drawnFacets.set(drawn, known);
  return known;
}

function facetsOf({ pieces, ramp }: Woven): Facets {
  const out: number[] = [];
  for (const piece of pieces) {
    const { stepX, stepY } = piece;
    const own = facetsOfField(piece);
    for (let t = 0; t < own.length; t += 9) {
      // Its level top is a level like others.
      if (own[t + 2] >= ramp.run && own[t + 5] >= ramp.run && own[t + 8] >= ramp.run) continue;
      for (let k = t; k < t + 9; k += 3)
        out.push((own[k] + stepX) / STEPS_PER_MM, (own[k + 1] + stepY) / STEPS_PER_MM, ramp.at(own[k + 2]));
    }
  }
  return Float64Array.from(out);
}

function placesAbove(a: Facets, b: Facets): Creases {
  if (a.length === 0 || b.length === 0) return [];
  const index = new Flatbush(b.length / 9);
  for (let t = 0; t < b.length; t += 9)
    index.add(
      Math.min(b[t], b[t + 3], b[t + 6]),
      Math.min(b[t + 1], b[t + 4], b[t + 7]),
      Math.max(b[t], b[t + 3], b[t + 6]),
      Math.max(b[t + 1], b[t + 4], b[t + 7]),
    );
  index.finish();
  const border = new Border();
  for (let t = 0; t < a.length; t += 9) {
    const found = index.search(
      Math.min(a[t], a[t + 3], a[t + 6]),
      Math.min(a[t + 1], a[t + 4], a[t + 7]),
      Math.max(a[t], a[t + 3], a[t + 6]),
      Math.max(a[t + 1], a[t + 4], a[t + 7]),
    );
    for (const i of found) {
      const common = clippedAbove(a.subarray(t, t + 9), b.subarray(9 * i, 9 * i + 9));
      if (common.length < 6) continue;
      const ring = snapRun(common, true);
      if (ring.length >= 6) border.add(ring);
    }
  }
  return border.segments();
}

/** The border of many rings together: what one has one way and another the other way is none. */
class Border {
  private readonly edges = new Map<string, { from: readonly [number, number]; to: readonly [number, number]; count: number }>();

  add(ring: Contour): void {
    const n = ring.length;
    for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
      const from = [toStep(ring[j]), toStep(ring[j + 1])] as const;
      const to = [toStep(ring[i]), toStep(ring[i + 1])] as const;
      const isUp = from[0] < to[0] || (from[0] === to[0] && from[1] < to[1]);
      const key = (isUp ? [from, to] : [to, from]).join(' ');
      const known = this.edges.get(key);
      if (!known) this.edges.set(key, { from: isUp ? from : to, to: isUp ? to : from, count: isUp ? 1 : -1 });
      else known.count += isUp ? 1 : -1;
    }
  }

  segments(): Creases {
    const out: number[] = [];
    for (const { from, to, count } of this.edges.values())
      for (let i = 0; i < Math.abs(count); i++) out.push(...(count > 0 ? [...from, ...to] : [...to, ...from]));
    return out;
  }
}

/** Height of a facet's plane at a point, as a function a + b·x + c·y. */
function planeOf(f: Facets): readonly [number, number, number] {
  const [ux, uy, uz] = [f[3] - f[0], f[4] - f[1], f[5] - f[2]];
  const [vx, vy, vz] = [f[6] - f[0], f[7] - f[1], f[8] - f[2]];
  const n = ux * vy - uy * vx;
  if (n === 0) return [f[2], 0, 0];
  const b = (uz * vy - uy * vz) / n;
  const c = (ux * vz - uz * vx) / n;
  return [f[2] - b * f[0] - c * f[1], b, c];
}

/** The part of facet a over facet b where a is the higher, as x and y in turn, anticlockwise. */
function clippedAbove(a: Facets, b: Facets): number[] {
  let ring = [a[0], a[1], a[3], a[4], a[6], a[7]];
  for (let k = 0; k < 9 && ring.length >= 6; k += 3) {
    const j = (k + 3) % 9;
    const [px, py, dx, dy] = [b[k], b[k + 1], b[j] - b[k], b[j + 1] - b[k + 1]];
    ring = clipped(ring, (x, y) => dx * (y - py) - dy * (x - px));
  }
  if (ring.length < 6) return [];
  const [p, q] = [planeOf(a), planeOf(b)];
  return clipped(ring, (x, y) => p[0] - q[0] + (p[1] - q[1]) * x + (p[2] - q[2]) * y);
}

/** The part of a convex ring where a linear function is above 0 (I. Sutherland, G. Hodgman, 1974, from memory). */
function clipped(ring: readonly number[], side: (x: number, y: number) => number): number[] {
  const out: number[] = [];
  const n = ring.length;
  for (let i = 0; i < n; i += 2) {
    const j = (i + 2) % n;
    const [s, t] = [side(ring[i], ring[i + 1]), side(ring[j], ring[j + 1])];
    if (s > 0) out.push(ring[i], ring[i + 1]);
    if (s > 0 === t > 0) continue;
    const at = s / (s - t);
    out.push(ring[i] + at * (ring[j] - ring[i]), ring[i + 1] + at * (ring[j + 1] - ring[i + 1]));
  }
  return out;
}
