/** A point of the wall in mm from its origin, x to the right and y up; or of a picture in pixels, x to the right and y down. */
export interface Point {
  readonly x: number;
  readonly y: number;
}

/** Something about a place that cannot be, in a sentence that says what would. */
export class PlaceError extends Error {
  override readonly name = 'PlaceError';
}

/** Nine numbers of a matrix of three rows, row by row. */
export type Matrix3 = readonly [number, number, number, number, number, number, number, number, number];

/** Share of the longest side by which corners have to stand off a line. */
const LEAST_ASIDE = 0.01;

/**
 * The projective map that takes four points to four others, exactly: eight equations of its numbers, the ninth being 1
 * (R. Hartley and A. Zisserman, Multiple View Geometry in Computer Vision, 2nd ed., 4.1).
 * @throws PlaceError where three of either four are on one line, or where they do not go round
 */
export function homographyBetween(from: readonly Point[], to: readonly Point[]): Matrix3 {
  for (const points of [from, to]) refuseUnlessRound(points);
  const rows: number[][] = [];
  from.forEach(({ x, y }, i) => {
    const { x: u, y: v } = to[i];
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y, u], [0, 0, 0, x, y, 1, -v * x, -v * y, v]);
  });
  const [a, b, c, d, e, f, g, h] = solved(rows);
  return [a, b, c, d, e, f, g, h, 1];
}

/** Where a map takes a point. */
export function mapped([a, b, c, d, e, f, g, h, i]: Matrix3, { x, y }: Point): Point {
  const w = g * x + h * y + i;
  return { x: (a * x + b * y + c) / w, y: (d * x + e * y + f) / w };
}

/** The map back, but for its scale. */
export function inverse([a, b, c, d, e, f, g, h, i]: Matrix3): Matrix3 {
  const [A, B, C] = [e * i - f * h, c * h - b * i, b * f - c * e];
  const determinant = a * A + d * B + g * C;
  const all = [A, B, C, f * g - d * i, a * i - c * g, c * d - a * f, d * h - e * g, b * g - a * h, a * e - b * d];
  return all.map((each) => each / determinant) as unknown as Matrix3;
}

/** Four corners go round one way, and none of them lies on the line between its neighbours. */
function refuseUnlessRound(points: readonly Point[]): void {
  const turns = points.map((b, i) => {
    const [a, c] = [points[(i + 3) % 4], points[(i + 1) % 4]];
    return (b.x - a.x) * (c.y - b.y) - (b.y - a.y) * (c.x - b.x);
  });
  const longest = Math.max(...points.map((b, i) => Math.hypot(b.x - points[(i + 3) % 4].x, b.y - points[(i + 3) % 4].y)));
  const least = LEAST_ASIDE * longest * longest;
  if (turns.every((turn) => turn > least) || turns.every((turn) => turn < -least)) return;
  throw new PlaceError(
    'The four corners do not go round a rectangle on the wall: put each on its own corner, one after the other.',
  );
}

/** Gauss and Jordan, with the largest of each column. */
function solved(rows: number[][]): number[] {
  const n = rows.length;
  for (let column = 0; column < n; column++) {
    let best = column;
    for (let row = column + 1; row < n; row++) if (Math.abs(rows[row][column]) > Math.abs(rows[best][column])) best = row;
    [rows[column], rows[best]] = [rows[best], rows[column]];
    const pivot = rows[column][column];
    for (let k = column; k <= n; k++) rows[column][k] /= pivot;
    for (let row = 0; row < n; row++) {
      const factor = rows[row][column];
      if (row === column || factor === 0) continue;
      for (let k = column; k <= n; k++) rows[row][k] -= factor * rows[column][k];
    }
  }
  return rows.map((row) => row[n]);
}
