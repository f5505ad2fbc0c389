import { type Contour } from './contour.js';
import { STEPS_PER_MM, toStep } from './grid.js';
import { IntListMap } from './int-lists.js';

/** What was remembered for a shape, and how far the shape has been moved since, in mm. */
export interface Remembered<T> {
  readonly value: T;
  readonly dx: number;
  readonly dy: number;
}

interface Entry<T> {
  readonly x: number;
  readonly y: number;
  readonly values: Map<string, T>;
}

/** Numbers that the shapes may have in all. */
const MOST_NUMBERS = 4_000_000;

/**
 * Remembers what was worked out for outlines, and finds it again for the same outline elsewhere: the e of one word is the e of
 * the next, moved by whole steps of the grid.
 */
export class ShapeCache<T> {
  private readonly entries: IntListMap<Entry<T>>;

  /** @param mostNumbers that the shapes may have in all; beyond it all are forgotten */
  constructor(mostNumbers = MOST_NUMBERS) {
    this.entries = new IntListMap(mostNumbers);
  }

  /** The value for an outline under a name, made where it is not known yet; made values belong to the place (dx, dy) = (0, 0). */
  get(contours: readonly Contour[], name: string, make: (contours: readonly Contour[]) => T): Remembered<T> {
    const [x, y] = [contours[0][0], contours[0][1]];
    const shape = shapeOf(contours);
    let entry = this.entries.get(shape);
    if (!entry) this.entries.set(shape, (entry = { x, y, values: new Map() }));
    let value = entry.values.get(name);
    if (value === undefined) {
      // A value made for a copy would lie elsewhere than the first.
      const moved = entry.x === x && entry.y === y ? contours : movedBy(contours, entry.x - x, entry.y - y);
      value = make(moved);
      entry.values.set(name, value);
    }
    return { value, dx: x - entry.x, dy: y - entry.y };
  }
}

/** An outline moved by whole steps of the grid. */
export function movedBy(contours: readonly Contour[], dx: number, dy: number): Contour[] {
  if (dx === 0 && dy === 0) return [...contours];
  const [sx, sy] = [toStep(dx), toStep(dy)];
  return contours.map((contour) => contour.map((value, i) => (toStep(value) + (i % 2 === 0 ? sx : sy)) / STEPS_PER_MM));
}

/** Whole steps from the first point to every other, ring after ring, with the lengths of the rings. */
function shapeOf(contours: readonly Contour[]): Int32Array {
  let count = contours.length;
  for (const contour of contours) count += contour.length;
  const shape = new Int32Array(count);
  const [x0, y0] = [toStep(contours[0][0]), toStep(contours[0][1])];
  let at = 0;
  for (const contour of contours) {
    shape[at++] = contour.length;
    for (let i = 0; i < contour.length; i += 2) {
      shape[at++] = Math.round(contour[i] * STEPS_PER_MM) - x0;
      shape[at++] = Math.round(contour[i + 1] * STEPS_PER_MM) - y0;
    }
  }
  return shape;
}
