import Flatbush from 'flatbush';
import { arrange, type Constraints, triangulate } from '../../arrangement/index.js';
import { type Contour, movedBy, pointKey, snapRing, STEPS_PER_MM, toStep } from '../../geometry/index.js';
import { type DrawnField } from '../../medial-axis/index.js';
import { type Layer } from '../placing/layers.js';
import { type Piece, type EmbeddedSlope } from './embedded-slopes.js';

/** Where one embedded slope lies above another that it overlaps. */
export interface SlopeIntersection {
  /** Layers of the relief. */
  readonly first: number;
  readonly second: number;
  /** The border of the places where the first lies above the second, those on its left; in grid steps. */
  readonly border: Constraints;
}

/** Triangles over a slope: x, y and height of three corners in turn. */
type Facets = Float64Array;

/**
 * Where slopes of different layers overlap, the places where one is the higher.
 * @param mayMeet whether it makes a difference anywhere which of two layers is the higher
 */
export function slopeIntersections(
  embedded: readonly EmbeddedSlope[],
  layers: readonly Layer[],
  mayMeet: (first: number, second: number) => boolean,
): SlopeIntersection[] {
  const facets = new Map<EmbeddedSlope, Facets>();
  const of = (each: EmbeddedSlope): Facets => {
    let known = facets.get(each);
    if (!known) facets.set(each, (known = facetsOf(each)));
    return known;
  };
  const out: SlopeIntersection[] = [];
  embedded.forEach((first, i) => {
    for (const second of embedded.slice(i + 1)) {
      if (first.area === second.area || !areCompared(layers[first.layer], layers[second.layer])) continue;
      if (!mayMeet(first.layer, second.layer) || areApart(first, second)) continue;
      if (!slopeReaches(first, second) || !slopeReaches(second, first)) continue;
      const border = placesAbove(of(first), of(second));
      out.push({ first: first.layer, second: second.layer, border });
    }
  });
  return out;
}

/** Whether the higher of two slopes is asked for: what a later one of the same side sets takes the place of what was there. */
const areCompared = (first: Layer, second: Layer): boolean =>
  second.operation !== 'set' || (first.isBehind ?? false) !== (second.isBehind ?? false);

/** Whether what slopes of one comes near to what the other lies over: beyond its run it is level. */
function slopeReaches({ pieces, profile }: EmbeddedSlope, { index }: EmbeddedSlope): boolean {
  for (const { outline } of pieces) {
    for (const ring of outline) {
      const n = ring.length;
      for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
        const [minX, maxX] = [Math.min(ring[j], ring[i]) - profile.run, Math.max(ring[j], ring[i]) + profile.run];
        const [minY, maxY] = [Math.min(ring[j + 1], ring[i + 1]) - profile.run, Math.max(ring[j + 1], ring[i + 1]) + profile.run];
        if (minX > index.maxX || maxX < index.minX || minY > index.maxY || maxY < index.minY) continue;
        if (index.search(minX, minY, maxX, maxY).length > 0) return true;
      }
    }
  }
  return false;
}

/** Whether all of one lies higher than all of the other, so that a height of each tells which is above. */
function areApart(a: EmbeddedSlope, b: EmbeddedSlope): boolean {
  const [p, q] = [heightsOf(a), heightsOf(b)];
  return p.low > q.high || q.low > p.high;
}

/** The heights of a slope, as far as its strokes let it come. */
export const heightsOf = ({
  profile,
  pieces,
}: Pick<EmbeddedSlope, 'profile' | 'pieces'>): { readonly low: number; readonly high: number } =>
  profile.upTo(Math.max(...pieces.map(({ drawn }) => drawn.field.deepest)));

/** Triangles over the outline that a field was drawn from: x and y in grid steps and the distance of three corners in turn. */
const drawnFacets = new WeakMap<DrawnField, Float64Array>();

function facetsOfField({ outline, drawn, stepX, stepY }: Piece): Float64Array {
  let known = drawnFacets.get(drawn);
  if (known) return known;
  const own = movedBy(outline, -stepX / STEPS_PER_MM, -stepY / STEPS_PER_MM);
  const isInside = (label: number): boolean => label === 1;
  const { edges } = arrange([own], (windings) => (windings.length > 0 ? 1 : 0), { segments: drawn.constraints, on: isInside });
  const { corners } = triangulate(edges, isInside);
  known = new Float64Array(3 * corners.length);
  corners.forEach((v, i) => known!.set([edges.x[v], edges.y[v], drawn.distanceOfPoint(edges.x[v], edges.y[v])], 3 * i));
  drawnFacets.set(drawn, known);
  return known;
}

function facetsOf({ pieces, profile }: EmbeddedSlope): Facets {
  const out: number[] = [];
  for (const piece of pieces) {
    const { stepX, stepY } = piece;
    const own = facetsOfField(piece);
    for (let t = 0; t < own.length; t += 9) {
      // Its level top is a level like others.
      if (own[t + 2] >= profile.run && own[t + 5] >= profile.run && own[t + 8] >= profile.run) continue;
      for (let k = t; k < t + 9; k += 3)
        out.push((own[k] + stepX) / STEPS_PER_MM, (own[k + 1] + stepY) / STEPS_PER_MM, profile.at(own[k + 2]));
    }
  }
  return Float64Array.from(out);
}

function placesAbove(a: Facets, b: Facets): Constraints {
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
    const highest = Math.max(a[t + 2], a[t + 5], a[t + 8]);
    const found = index.search(
      Math.min(a[t], a[t + 3], a[t + 6]),
      Math.min(a[t + 1], a[t + 4], a[t + 7]),
      Math.max(a[t], a[t + 3], a[t + 6]),
      Math.max(a[t + 1], a[t + 4], a[t + 7]),
    );
    for (const i of found) {
      if (highest <= Math.min(b[9 * i + 2], b[9 * i + 5], b[9 * i + 8])) continue;
      const common = clippedAbove(a.subarray(t, t + 9), b.subarray(9 * i, 9 * i + 9));
      if (common.length < 6) continue;
      const ring = snapRing(common);
      if (ring.length >= 6) border.add(ring);
    }
  }
  return border.segments();
}

/** The border of many rings together: what one has one way and another the other way is none. */
class Border {
  /** Numbers of points by their places, and how often an edge is run from its first to its second point, less the other way. */
  private readonly numbers = new Map<number, number>();
  private readonly places: number[] = [];
  private readonly counts = new Map<number, number>();

  add(ring: Contour): void {
    const n = ring.length;
    let from = this.numberOf(ring[n - 2], ring[n - 1]);
    for (let i = 0; i < n; i += 2) {
      const to = this.numberOf(ring[i], ring[i + 1]);
      const isUp = from < to;
      const key = isUp ? from * PAIR + to : to * PAIR + from;
      this.counts.set(key, (this.counts.get(key) ?? 0) + (isUp ? 1 : -1));
      from = to;
    }
  }

  segments(): Constraints {
    const { places } = this;
    const out: number[] = [];
    const push = (p: number, q: number) => out.push(places[2 * p], places[2 * p + 1], places[2 * q], places[2 * q + 1]);
    for (const [key, count] of this.counts) {
      const [p, q] = [Math.floor(key / PAIR), key % PAIR];
      for (let i = 0; i < count; i++) push(p, q);
      for (let i = 0; i < -count; i++) push(q, p);
    }
    return out;
  }

  private numberOf(x: number, y: number): number {
    const [stepX, stepY] = [toStep(x), toStep(y)];
    const key = pointKey(stepX, stepY);
    let number = this.numbers.get(key);
    if (number === undefined) {
      number = this.numbers.size;
      this.numbers.set(key, number);
      this.places.push(stepX, stepY);
    }
    return number;
  }
}

/** More points than a border has: two of them make one number. */
const PAIR = 0x4000000;

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

/** The part of a convex ring where a linear function is above 0 (I. Sutherland, G. Hodgman, "Reentrant polygon clipping", CACM 17(1), 1974). */
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
