import { type Mesh } from './mesh.js';

/** Edges of a mesh at which it is not closed. */
export interface EdgeFaults {
  /** How many: a directed edge that has not exactly one opposite, or that several triangles run along the same way. */
  readonly count: number;
  /** The middle of the first of them in mm. */
  readonly at?: readonly [number, number, number];
}

/**
 * The edges at which a mesh is not closed: in one that is, every directed edge belongs to exactly one triangle and its opposite to
 * exactly one other, by the numbers of its corners.
 */
export function edgeFaults({ positions, triangles }: Mesh): EdgeFaults {
  const corners = positions.length / 3;
  // Of every directed edge a number in which its opposite is the next one up: sorted, good edges come in such pairs.
  const keys = new Float64Array(triangles.length);
  for (let t = 0; t < triangles.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const from = triangles[t + k];
      const to = triangles[t + (k === 2 ? 0 : k + 1)];
      keys[t + k] = from < to ? 2 * (from * corners + to) : 2 * (to * corners + from) + 1;
    }
  }
  keys.sort();
  let count = 0;
  let first: number | undefined;
  for (let i = 0; i < keys.length;) {
    const edge = Math.floor(keys[i] / 2);
    let end = i + 1;
    while (end < keys.length && Math.floor(keys[end] / 2) === edge) end++;
    if (end - i !== 2 || keys[i] === keys[i + 1]) {
      count++;
      first ??= edge;
    }
    i = end;
  }
  if (first === undefined) return { count };
  const [a, b] = [Math.floor(first / corners), first % corners];
  const middle = (axis: number): number => (positions[3 * a + axis] + positions[3 * b + axis]) / 2;
  return { count, at: [middle(0), middle(1), middle(2)] };
}

/** Whether a mesh has triangles and is closed, see {@link edgeFaults}. */
export const isWatertight = (mesh: Mesh): boolean => mesh.triangles.length > 0 && edgeFaults(mesh).count === 0;
