import { DisjointSets } from '../geometry/index.js';
import { type ReliefMesh } from './mesh.js';

/** The pieces of a mesh that hang together by their corners, the largest number of triangles first. */
export function piecesOf(mesh: ReliefMesh): ReliefMesh[] {
  const { positions, triangles, belongs } = mesh;
  const joined = new DisjointSets(positions.length / 3);
  for (let t = 0; t < triangles.length; t += 3) {
    joined.join(triangles[t + 1], triangles[t]);
    joined.join(triangles[t + 2], triangles[t]);
  }
  const groups = new Map<number, number[]>();
  for (let f = 0; f < belongs.length; f++) {
    const key = joined.rootOf(triangles[3 * f]);
    const list = groups.get(key);
    if (list) list.push(f);
    else groups.set(key, [f]);
  }
  return [...groups.values()].sort((a, b) => b.length - a.length).map((facets) => pickedFacets(mesh, facets));
}

/** A mesh of some triangles of another, with only the corners that they use. */
function pickedFacets({ positions, triangles, belongs }: ReliefMesh, facets: readonly number[]): ReliefMesh {
  const numbers = new Map<number, number>();
  const corners: number[] = [];
  const picked = new Uint32Array(3 * facets.length);
  facets.forEach((f, i) => {
    for (let k = 0; k < 3; k++) {
      const v = triangles[3 * f + k];
      let number = numbers.get(v);
      if (number === undefined) {
        number = numbers.size;
        numbers.set(v, number);
        corners.push(positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]);
      }
      picked[3 * i + k] = number;
    }
  });
  return { positions: Float64Array.from(corners), triangles: picked, belongs: Int32Array.from(facets, (f) => belongs[f]) };
}
