/** Places and directions in space. */
export type Vector = readonly [number, number, number];

export const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** A direction of length 1. */
export function unit(a: Vector): Vector {
  const length = Math.hypot(...a);
  return [a[0] / length, a[1] / length, a[2] / length];
}

/** The sum of vectors, each so many times. */
export function weightedSum(...terms: readonly (readonly [number, Vector])[]): Vector {
  let [x, y, z] = [0, 0, 0];
  for (const [times, a] of terms) [x, y, z] = [x + times * a[0], y + times * a[1], z + times * a[2]];
  return [x, y, z];
}
