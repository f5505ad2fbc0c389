import { snap } from './grid.js';

/** A closed ring of points, x and y in turn, in mm; the last point joins the first. Anticlockwise rings enclose area. */
export type Contour = Float64Array;

/** An open or closed polyline, x and y in turn, in mm, without area of its own. */
export interface Stroke {
  readonly points: Float64Array;
  readonly closed: boolean;
}

/** An area of the plan: outer rings anticlockwise, holes clockwise, none crossing another. */
export type Outline = readonly Contour[];

/** An upright rectangle in mm. */
export interface Box {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

/** The corners of a box, anticlockwise from the lower left. */
export const boxRing = ({ minX, minY, maxX, maxY }: Box): Contour =>
  Float64Array.of(minX, minY, maxX, minY, maxX, maxY, minX, maxY);

/** Signed area of a ring in mm² by the shoelace formula: positive anticlockwise. */
export function contourArea(contour: Contour): number {
  let twice = 0;
  const n = contour.length;
  if (n < 6) return 0;
  // Measured from the first point, so that a small ring far from the origin loses no digits.
  const ox = contour[0];
  const oy = contour[1];
  for (let i = 2; i + 3 < n; i += 2) {
    twice += (contour[i] - ox) * (contour[i + 3] - oy) - (contour[i + 2] - ox) * (contour[i + 1] - oy);
  }
  return twice / 2;
}

/** Area in mm², holes taken off. */
export const area = (outline: Outline): number => outline.reduce((sum, contour) => sum + contourArea(contour), 0);

/** Length of every ring together, in mm. */
export function perimeter(outline: Outline): number {
  let sum = 0;
  for (const contour of outline) {
    const n = contour.length;
    for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
      sum += Math.hypot(contour[i] - contour[j], contour[i + 1] - contour[j + 1]);
    }
  }
  return sum;
}

/** The middle of a box. */
export const middleOfBox = ({ minX, minY, maxX, maxY }: Box): { readonly x: number; readonly y: number } => ({
  x: (minX + maxX) / 2,
  y: (minY + maxY) / 2,
});

/** Bounds of polylines, or undefined where there are no points. */
export function bounds(polylines: Iterable<Float64Array>): Box | undefined {
  let minX = Infinity;
  let minY = Infinity;
  let maxX = -Infinity;
  let maxY = -Infinity;
  for (const polyline of polylines) {
    for (let i = 0; i < polyline.length; i += 2) {
      if (polyline[i] < minX) minX = polyline[i];
      if (polyline[i] > maxX) maxX = polyline[i];
      if (polyline[i + 1] < minY) minY = polyline[i + 1];
      if (polyline[i + 1] > maxY) maxY = polyline[i + 1];
    }
  }
  return minX <= maxX ? { minX, minY, maxX, maxY } : undefined;
}

/** The least box around both; either may be missing. */
export function joinBoxes(a: Box | undefined, b: Box | undefined): Box | undefined {
  if (!a || !b) return a ?? b;
  return {
    minX: Math.min(a.minX, b.minX),
    minY: Math.min(a.minY, b.minY),
    maxX: Math.max(a.maxX, b.maxX),
    maxY: Math.max(a.maxY, b.maxY),
  };
}

/** Whether the point lies inside by the even-odd rule (exactly on the edge: either answer). */
export function contains(outline: Outline, x: number, y: number): boolean {
  let inside = false;
  for (const contour of outline) {
    const n = contour.length;
    for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
      const yi = contour[i + 1];
      const yj = contour[j + 1];
      if (yi > y !== yj > y && x < ((contour[j] - contour[i]) * (y - yi)) / (yj - yi) + contour[i]) inside = !inside;
    }
  }
  return inside;
}

/** The same ring the other way round. */
export function reversed(contour: Contour): Contour {
  const out = new Float64Array(contour.length);
  for (let i = 0, n = contour.length; i < n; i += 2) {
    out[i] = contour[n - 2 - i];
    out[i + 1] = contour[n - 1 - i];
  }
  return out;
}

/** Points of a closed ring brought to the grid, repeated neighbours dropped. */
export function snapRing(points: ArrayLike<number>): Contour {
  const out = snapStroke(points);
  let n = out.length;
  while (n > 2 && out[0] === out[n - 2] && out[1] === out[n - 1]) n -= 2;
  return n === out.length ? out : out.slice(0, n);
}

/** The same of a ring or of an open stroke. */
export const snapPolyline = (points: ArrayLike<number>, closed: boolean): Float64Array =>
  closed ? snapRing(points) : snapStroke(points);

/** The same of an open stroke. */
export function snapStroke(points: ArrayLike<number>): Float64Array {
  const out = new Float64Array(points.length - (points.length % 2));
  let n = 0;
  for (let i = 0; i + 1 < points.length; i += 2) {
    const x = snap(points[i]);
    const y = snap(points[i + 1]);
    if (n >= 2 && out[n - 2] === x && out[n - 1] === y) continue;
    out[n++] = x;
    out[n++] = y;
  }
  return n === out.length ? out : out.slice(0, n);
}

/** The same rings with the inside on their left. */
export function insideLeft(contours: readonly Contour[]): readonly Contour[] {
  return contours.reduce((sum, contour) => sum + contourArea(contour), 0) < 0 ? contours.map(reversed) : contours;
}
