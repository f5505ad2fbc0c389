import { type Contour } from './contour.js';
import { STEPS_PER_MM, toStep } from './grid.js';
import { IntListMap } from './int-lists.js';

/** What was worked out for a shape at the origin, and how far from there the shape lies, in mm. */
export interface Remembered<T> {
  readonly value: T;
  readonly dx: number;
  readonly dy: number;
}

/** Numbers that the shapes may have in all. */
const MOST_NUMBERS = 4_000_000;

/**
 * Remembers what was worked out for outlines, and finds it again for the same outline elsewhere: the e of one word is the e of
 * the next, moved by whole steps of the grid. All is worked out with the first point of a shape at the origin, so that it is the same to
 * the last step, whatever was asked before and wherever it lay.
 */
export class ShapeCache<T> {
  private readonly entries: IntListMap<Map<string, T>>;

  /** @param mostNumbers that the shapes may have in all; beyond it all are forgotten */
  constructor(mostNumbers = MOST_NUMBERS) {
    this.entries = new IntListMap(mostNumbers);
  }

  /**
   * The value for an outline under a name.
   * @param make it, where it is not known yet, of the contours as they lie with their first point at the origin
   */
  get(contours: readonly Contour[], name: string, make: (contours: readonly Contour[]) => T): Remembered<T> {
    const [x, y] = [contours[0][0], contours[0][1]];
    const shape = shapeOf(contours);
    let values = this.entries.get(shape);
    if (!values) this.entries.set(shape, (values = new Map()));
    let value = values.get(name);
    if (value === undefined) values.set(name, (value = make(movedBy(contours, -x, -y))));
    return { value, dx: x, dy: y };
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
