import { type ReliefMesh } from './mesh.js';

/** The pieces of a mesh that hang together by their corners, the largest number of triangles first. */
export function piecesOf(mesh: ReliefMesh): ReliefMesh[] {
  const { positions, triangles, belongs } = mesh;
  const parent = Int32Array.from({ length: positions.length / 3 }, (_, i) => i);
  const root = (v: number): number => {
    let at = v;
    while (parent[at] !== at) at = parent[at] = parent[parent[at]];
    return at;
  };
  for (let t = 0; t < triangles.length; t += 3) {
    const a = root(triangles[t]);
    parent[root(triangles[t + 1])] = a;
    parent[root(triangles[t + 2])] = a;
  }
  const groups = new Map<number, number[]>();
  for (let f = 0; f < belongs.length; f++) {
    const key = root(triangles[3 * f]);
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
