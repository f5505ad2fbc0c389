import { ContourSet } from '../../arrangement/index.js';
import {
  bounds,
  CHORD_TOLERANCE,
  type Contour,
  cross,
  dot,
  minus,
  snapPolyline,
  snapRing,
  unit,
  type Vector,
  weightedSum,
} from '../../geometry/index.js';
import { type SupportSurface } from '../../support/index.js';
import { type PlacedPart } from '../placing/part-outline.js';

/** mm by which lengths are looked for around a place to tell how the surface runs there. */
const BESIDE = 1e-4;
/** mm within which a place is found. */
const FOUND = 1e-7;
const MOST_STEPS = 40;
/** Of what is seen so much of a length is left at least: less is seen at more than 85° aside. */
const LEAST_SEEN = 0.087;
/** How often an edge is halved at most. */
const MOST_HALVINGS = 12;

/** A part cannot be seen as a whole from before its place. */
export class HiddenError extends Error {}

/**
 * How a part is laid on a surface so that it looks as it is drawn to one who stands straight before a place: lengths across are longer than they
 * are seen the further aside they lie.
 * @param at the place, in the plan
 * @param sense −1 where x is counted to the left
 */
export const viewFromBefore = (at: { readonly x: number; readonly y: number }, surface: SupportSurface, sense: 1 | -1): View =>
  new View(surface, at, sense);

/** A surface, or what lies over it, as it is seen from straight before a place. */
export class View {
  private readonly x: number;
  private readonly y: number;
  private readonly out = new Float64Array(3);
  private readonly from: Vector;
  private readonly across: Vector;
  private readonly up: Vector;

  /**
   * @param at the place, in the plan
   * @param sense −1 where x is counted to the left
   * @param heightAt of what is seen over a place of the plan, in mm above the face of the front: of a level in a plane that touches the surface
   * at the place, so that what is drawn is true in it
   */
  constructor(
    private readonly surface: SupportSurface,
    at: { readonly x: number; readonly y: number },
    private readonly sense: 1 | -1,
    private readonly heightAt: (x: number, y: number) => number = () => 0,
  ) {
    [this.x, this.y] = [sense * at.x, at.y];
    this.from = this.place(this.x, this.y);
    surface.normal(this.x, this.y, this.out, 0);
    const normal: Vector = [this.out[0], this.out[1], this.out[2]];
    const along = minus(this.place(this.x + BESIDE, this.y), this.place(this.x - BESIDE, this.y));
    this.across = unit(weightedSum([1, along], [-dot(along, normal), normal]));
    this.up = cross(normal, this.across);
  }

  /** A part as it lies in the plan to look as it is drawn. @throws HiddenError where some of it lies too far round */
  part(one: PlacedPart): PlacedPart {
    const area = ContourSet.loose(this.rings(one.area.contours));
    const strokes = one.strokes.map(({ points, closed }) => ({
      points: snapPolyline(this.laid(points, closed), closed),
      closed,
    }));
    return {
      ...one,
      area,
      strokes,
      ink: bounds([...area.contours, ...strokes.map(({ points }) => points)]),
      areas: new Map(),
      ...(one.groups && { groups: one.groups.map((group) => ({ ...group, placed: this.part(group.placed) })) }),
    };
  }

  /** The same of rings. @throws HiddenError */
  rings(rings: readonly Contour[]): Contour[] {
    return rings.map((ring) => snapRing(this.laid(ring, true)));
  }

  /** A line of the plan, or a ring, where it looks as it is drawn. */
  private laid(line: Contour, closed: boolean): Contour {
    const { sense } = this;
    const out: number[] = [];
    const n = line.length / 2;
    const at = (i: number): readonly [number, number] => [line[2 * (i % n)], line[2 * (i % n) + 1]];
    const put = ([x, y]: readonly [number, number]): readonly [number, number] => {
      const [px, py] = this.planOf(sense * x - this.x, y - this.y);
      return [sense * px, py];
    };
    let last = put(at(0));
    out.push(...last);
    for (let i = 1; i < n + (closed ? 1 : 0); i++) {
      const next = put(at(i));
      this.halve(at(i - 1), at(i), last, next, put, out, 0);
      if (i < n) out.push(...next);
      last = next;
    }
    return Float64Array.from(out);
  }

  /** Puts places between the ends of an edge as long as its chord would leave it. */
  private halve(
    a: readonly [number, number],
    b: readonly [number, number],
    from: readonly [number, number],
    to: readonly [number, number],
    put: (place: readonly [number, number]) => readonly [number, number],
    out: number[],
    depth: number,
  ): void {
    if (depth === MOST_HALVINGS) return;
    const middle: readonly [number, number] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
    const there = put(middle);
    if (Math.hypot(there[0] - (from[0] + to[0]) / 2, there[1] - (from[1] + to[1]) / 2) < CHORD_TOLERANCE) return;
    this.halve(a, middle, from, there, put, out, depth + 1);
    out.push(...there);
    this.halve(middle, b, there, to, put, out, depth + 1);
  }

  /** The place of the plan that is seen so far across and up from where one stands. @throws HiddenError */
  private planOf(across: number, up: number): readonly [number, number] {
    let [x, y] = [this.x + across, this.y + up];
    for (let step = 0; step < MOST_STEPS; step++) {
      const [u, v] = this.seen(x, y);
      const [du, dv] = [across - u, up - v];
      if (Math.hypot(du, dv) < FOUND) return [x, y];
      const [right, above] = [this.seen(x + BESIDE, y), this.seen(x, y + BESIDE)];
      const [a, b, c, d] = [right[0] - u, above[0] - u, right[1] - v, above[1] - v].map((mm) => mm / BESIDE);
      const determinant = a * d - b * c;
      if (determinant < LEAST_SEEN) break;
      // Never further than to what would be seen at the rim.
      const [dx, dy] = [(d * du - b * dv) / determinant, (a * dv - c * du) / determinant];
      const shorter = Math.min(1, (2 * Math.hypot(across, up) + 1) / Math.hypot(dx, dy));
      [x, y] = [x + shorter * dx, y + shorter * dy];
    }
    throw new HiddenError();
  }

  private seen(x: number, y: number): readonly [number, number] {
    const from = minus(this.place(x, y), this.from);
    return [dot(from, this.across), dot(from, this.up)];
  }

  private place(x: number, y: number): Vector {
    this.surface.place(x, y, this.heightAt(x, y), this.out, 0);
    return [this.out[0], this.out[1], this.out[2]];
  }
}
