import { facetNormals } from './facets.js';

/** A closed surface of triangles. */
export interface Mesh {
  /** x, y, z of every corner in mm. */
  readonly positions: Float64Array;
  /** Three corner numbers a triangle, anticlockwise seen from outside. */
  readonly triangles: Uint32Array;
}

/** The mesh of a relief, with what each triangle is part of. */
export interface ReliefMesh extends Mesh {
  /**
   * What every triangle is part of: the label of the place whose top it is, the label below 0 of the place that its side was made
   * with, or {@link BACK}; on the side that is turned away, where it is not plain, {@link UNDERSIDE} more, or less.
   */
  readonly belongs: Int32Array;
}

/** The plain back. */
export const BACK = 0;
/** What labels of the side that is turned away are told apart by. */
export const UNDERSIDE = 1 << 24;

/** The place that a triangle is part of, none for the plain back; whether it is a wall, and whether of the side that is turned away. */
export function belongsTo(value: number): { readonly label?: number; readonly isWall: boolean; readonly isBehind: boolean } {
  const size = Math.abs(value);
  const isBehind = size >= UNDERSIDE || value === BACK;
  return { label: value === BACK ? undefined : size % UNDERSIDE, isWall: value < 0, isBehind };
}

/** Volume in mm³ by the divergence theorem: sum of signed tetrahedra from the first corner. */
export function volume({ positions: p, triangles }: Mesh): number {
  let six = 0;
  const [ox, oy, oz] = [p[0], p[1], p[2]];
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
    const [ax, ay, az] = [p[a] - ox, p[a + 1] - oy, p[a + 2] - oz];
    const [bx, by, bz] = [p[b] - ox, p[b + 1] - oy, p[b + 2] - oz];
    const [cx, cy, cz] = [p[c] - ox, p[c + 1] - oy, p[c + 2] - oz];
    six += ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
  }
  return six / 6;
}

/** Area of all triangles in mm². */
export function surfaceArea({ positions, triangles }: Mesh): number {
  const normals = facetNormals(positions, triangles);
  let twice = 0;
  for (let t = 0; t < normals.length; t += 3) twice += Math.hypot(normals[t], normals[t + 1], normals[t + 2]);
  return twice / 2;
}

/** Least and greatest corner in mm: x, y, z. */
export function meshBounds({ positions }: Mesh): { min: [number, number, number]; max: [number, number, number] } {
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i++) {
    const axis = i % 3;
    if (positions[i] < min[axis]) min[axis] = positions[i];
    if (positions[i] > max[axis]) max[axis] = positions[i];
  }
  return { min, max };
}
