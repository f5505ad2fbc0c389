import { radians } from '../geometry/index.js';

/**
 * Normals of triangles over corners in space: x, y, z for each triangle in turn, as long as twice its area, to the side from which
 * its corners run anticlockwise.
 * @param p x, y, z of every corner
 * @param triangles three corners a triangle
 */
export function facetNormals(p: ArrayLike<number>, triangles: ArrayLike<number>): Float64Array {
  const out = new Float64Array(triangles.length);
  for (let t = 0; t < triangles.length; t += 3) {
    const a = 3 * triangles[t];
    const b = 3 * triangles[t + 1];
    const c = 3 * triangles[t + 2];
    const ux = p[b] - p[a];
    const uy = p[b + 1] - p[a + 1];
    const uz = p[b + 2] - p[a + 2];
    const vx = p[c] - p[a];
    const vy = p[c + 1] - p[a + 1];
    const vz = p[c + 2] - p[a + 2];
    out[t] = uy * vz - uz * vy;
    out[t + 1] = uz * vx - ux * vz;
    out[t + 2] = ux * vy - uy * vx;
  }
  return out;
}

/** The same, each of length 1; those of triangles without area stay 0. */
export function unitNormals(p: ArrayLike<number>, triangles: ArrayLike<number>): Float64Array {
  const out = facetNormals(p, triangles);
  for (let t = 0; t < out.length; t += 3) {
    // Many times as fast as Math.hypot, whose care for very large and very small numbers lengths in mm do not need.
    const length = Math.sqrt(out[t] * out[t] + out[t + 1] * out[t + 1] + out[t + 2] * out[t + 2]) || 1;
    out[t] /= length;
    out[t + 1] /= length;
    out[t + 2] /= length;
  }
  return out;
}

/** Facets that meet at less than this are one curved surface: the cosine of 32°. */
const CREASE = Math.cos(radians(32));

/**
 * Normals of all corners of all triangles: the mean over the facets around that meet gently; level caps stay as they are.
 * @param facets their unit normals @param corners how many there are
 */
export function smoothNormals(facets: Float64Array, triangles: Uint32Array, corners: number): Float32Array {
  const start = new Int32Array(corners + 1);
  for (const v of triangles) start[v + 1]++;
  for (let v = 0; v < corners; v++) start[v + 1] += start[v];
  const around = new Int32Array(triangles.length);
  const fill = start.slice(0, -1);
  for (let i = 0; i < triangles.length; i++) around[fill[triangles[i]]++] = i - (i % 3);
  const out = new Float32Array(3 * triangles.length);
  for (let i = 0; i < triangles.length; i++) {
    const own = i - (i % 3);
    let x = facets[own];
    let y = facets[own + 1];
    let z = facets[own + 2];
    if (Math.abs(z) < 1 - 1e-6) {
      const v = triangles[i];
      const [ox, oy, oz] = [x, y, z];
      for (let k = start[v]; k < start[v + 1]; k++) {
        const other = around[k];
        if (other === own || ox * facets[other] + oy * facets[other + 1] + oz * facets[other + 2] < CREASE) continue;
        x += facets[other];
        y += facets[other + 1];
        z += facets[other + 2];
      }
      const length = Math.sqrt(x * x + y * y + z * z) || 1;
      x /= length;
      y /= length;
      z /= length;
    }
    out[3 * i] = x;
    out[3 * i + 1] = y;
    out[3 * i + 2] = z;
  }
  return out;
}
