import { facetNormals } from '../outline/index.js';

/** A closed surface of triangles. */
export interface Mesh {
  /** x, y, z of every corner in mm. */
  readonly positions: Float64Array;
  /** Three corner numbers a triangle, anticlockwise seen from outside. */
  readonly triangles: Uint32Array;
}

/** The mesh of a relief, with what each triangle is part of. */
export interface ReliefMesh extends Mesh {
  /** For every triangle the label of the place whose top it is, the label below 0 of the place that its side was made with, or 0 at the back. */
  readonly belongs: Int32Array;
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

/** Whether every edge is met by as many triangles one way as the other way round, so that the surface has no rim. */
export function isWatertight({ positions, triangles }: Mesh): boolean {
  const corners = positions.length / 3;
  const balance = new Map<number, number>();
  for (let t = 0; t < triangles.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const from = triangles[t + k];
      const to = triangles[t + ((k + 1) % 3)];
      const [key, step] = from < to ? [from * corners + to, 1] : [to * corners + from, -1];
      const sum = (balance.get(key) ?? 0) + step;
      if (sum === 0) balance.delete(key);
      else balance.set(key, sum);
    }
  }
  return triangles.length > 0 && balance.size === 0;
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
