import { facetNormals, LEAST_AREA, type Mesh } from '../src/mesh/index.js';

/** How many triangles of a mesh are smaller than slicers and machines should be given. */
export function sliversIn({ positions, triangles }: Mesh): number {
  const normals = facetNormals(positions, triangles);
  let count = 0;
  for (let t = 0; t < normals.length; t += 3)
    if (Math.hypot(normals[t], normals[t + 1], normals[t + 2]) / 2 < LEAST_AREA) count++;
  return count;
}
