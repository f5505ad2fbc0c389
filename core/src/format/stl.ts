import { type Mesh } from '../mesh/index.js';

const HEADER_BYTES = 80;
const FACET_BYTES = 50;

/**
 * A binary STL file: 84 bytes and 50 for each triangle, little-endian, facet normals from the corners. The format knows
 * no unit; the header says mm. A corner has one place and is
 * rounded to a 32-bit float alike wherever it is used, so that a closed mesh is a closed file.
 */
export function stlFile({ positions, triangles }: Mesh, title: string): Uint8Array {
  const facets = triangles.length / 3;
  const bytes = new Uint8Array(HEADER_BYTES + 4 + FACET_BYTES * facets);
  const view = new DataView(bytes.buffer);
  // Never “solid” at the start, by which readers know the text form.
  const header = `Binary STL, unit mm: ${title}`.replace(/[^\x20-\x7e]/gu, '?').slice(0, HEADER_BYTES);
  for (let i = 0; i < header.length; i++) bytes[i] = header.charCodeAt(i);
  view.setUint32(HEADER_BYTES, facets, true);
  const corner = new Float64Array(9);
  for (let f = 0; f < facets; f++) {
    for (let k = 0; k < 9; k++) corner[k] = positions[3 * triangles[3 * f + Math.floor(k / 3)] + (k % 3)];
    const [ux, uy, uz] = [corner[3] - corner[0], corner[4] - corner[1], corner[5] - corner[2]];
    const [vx, vy, vz] = [corner[6] - corner[0], corner[7] - corner[1], corner[8] - corner[2]];
    const normal = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const length = Math.hypot(...normal) || 1;
    let at = HEADER_BYTES + 4 + FACET_BYTES * f;
    for (const value of normal) {
      view.setFloat32(at, value / length, true);
      at += 4;
    }
    for (const value of corner) {
      view.setFloat32(at, value, true);
      at += 4;
    }
  }
  return bytes;
}
