/**
 * The grid on which outlines live. Every vertex of an outline is a whole multiple of 1/8000 mm (a hundredth of the chord
 * tolerance and less). Whole numbers make every side-of-line question exact in double arithmetic; three decimals of a
 * millimetre and 1/64 of an inch are whole steps, so that what is typed is what is written to the files.
 */

/** Grid steps in a millimetre. */
export const STEPS_PER_MM = 8000;

/** Largest coordinate in grid steps: cross products of differences stay below 2^53. */
export const LARGEST_STEP = 2 ** 25 - 1;

/** Largest coordinate of an outline in millimetres, measured from the origin (4194 mm). */
export const LARGEST_MM = LARGEST_STEP / STEPS_PER_MM;

/** Chord tolerance in mm at finished size where none is given. */
export const CHORD_TOLERANCE = 0.02;

/** Thrown where a coordinate lies outside the grid or is not a number. */
export class CoordinateError extends Error {
  constructor(readonly value: number) {
    super(`A coordinate of ${value} mm lies outside the ±${Math.floor(LARGEST_MM)} mm that a sign may span.`);
    this.name = 'CoordinateError';
  }
}

/** Millimetres to the nearest grid step. @throws CoordinateError */
export function toStep(mm: number): number {
  const step = Math.round(mm * STEPS_PER_MM);
  if (!(step >= -LARGEST_STEP && step <= LARGEST_STEP)) throw new CoordinateError(mm);
  return step;
}

/** A number for a grid point, by which it is found again; {@link keyX} and {@link keyY} take it apart. */
export const pointKey = (x: number, y: number): number => (x + KEY_MIDDLE) * KEY_SIDE + (y + KEY_MIDDLE);
export const keyX = (key: number): number => Math.floor(key / KEY_SIDE) - KEY_MIDDLE;
export const keyY = (key: number): number => (key % KEY_SIDE) - KEY_MIDDLE;

const KEY_SIDE = 2 ** 26;
const KEY_MIDDLE = KEY_SIDE / 2;

/** The nearest point of the grid, in mm. @throws CoordinateError */
export const snap = (mm: number): number => toStep(mm) / STEPS_PER_MM;

/**
 * Twice the signed area of the triangle a, b, c: positive where c lies left of the line from a to b. Exact for
 * coordinates in grid steps.
 */
export function orient2d(ax: number, ay: number, bx: number, by: number, cx: number, cy: number): number {
  return (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
}
