import type { Contour } from './contour.js';
import { STEPS_PER_MM, toStep } from './grid.js';

/** What was remembered for a shape, and how far the shape has been moved since, in mm. */
export interface Remembered<T> {
  readonly value: T;
  readonly dx: number;
  readonly dy: number;
}

interface Entry<T> {
  /** Whole steps from the first point to every other, ring after ring, with the lengths of the rings. */
  readonly shape: Int32Array;
  readonly x: number;
  readonly y: number;
  readonly values: Map<string, T>;
}

const MOST_SHAPES = 4000;

/**
 * Remembers what was worked out for outlines, and finds it again for the same outline elsewhere: the e of one word is the e of
 * the next, moved by whole steps of the grid.
 */
export class ShapeCache<T> {
  private entries = new Map<number, Entry<T>[]>();
  private count = 0;

  /** The value for an outline under a name, made where it is not known yet; made values belong to the place (dx, dy) = (0, 0). */
  get(contours: readonly Contour[], name: string, make: (contours: readonly Contour[]) => T): Remembered<T> {
    const [x, y] = [contours[0][0], contours[0][1]];
    const { shape, hash } = shapeOf(contours);
    let list = this.entries.get(hash);
    if (!list) {
      // Rarely full: then everything is forgotten at once.
      if (this.count > MOST_SHAPES) this.clear();
      this.entries.set(hash, (list = []));
    }
    let entry = list.find((each) => isSame(each.shape, shape));
    if (!entry) {
      entry = { shape, x, y, values: new Map() };
      list.push(entry);
      this.count++;
    }
    let value = entry.values.get(name);
    if (value === undefined) {
      // A value made for a copy would lie elsewhere than the first.
      const moved = entry.x === x && entry.y === y ? contours : movedBy(contours, entry.x - x, entry.y - y);
      value = make(moved);
      entry.values.set(name, value);
    }
    return { value, dx: x - entry.x, dy: y - entry.y };
  }

  private clear(): void {
    this.entries = new Map();
    this.count = 0;
  }
}

/** An outline moved by whole steps of the grid. */
export function movedBy(contours: readonly Contour[], dx: number, dy: number): Contour[] {
  if (dx === 0 && dy === 0) return [...contours];
  const [sx, sy] = [toStep(dx), toStep(dy)];
  return contours.map((contour) => contour.map((value, i) => (toStep(value) + (i % 2 === 0 ? sx : sy)) / STEPS_PER_MM));
}

function shapeOf(contours: readonly Contour[]): { shape: Int32Array; hash: number } {
  let count = contours.length;
  for (const contour of contours) count += contour.length;
  const shape = new Int32Array(count);
  const [x0, y0] = [toStep(contours[0][0]), toStep(contours[0][1])];
  let at = 0;
  let hash = 0x811c9dc5;
  const put = (value: number) => {
    shape[at++] = value;
    hash = Math.imul(hash ^ value, 0x01000193);
    hash ^= hash >>> 15;
  };
  for (const contour of contours) {
    put(contour.length);
    for (let i = 0; i < contour.length; i += 2) {
      put(Math.round(contour[i] * STEPS_PER_MM) - x0);
      put(Math.round(contour[i + 1] * STEPS_PER_MM) - y0);
    }
  }
  return { shape, hash };
}

function isSame(a: Int32Array, b: Int32Array): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}
