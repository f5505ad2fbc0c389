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
