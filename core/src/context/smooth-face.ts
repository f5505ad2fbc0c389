import { radians } from '../geometry/index.js';
import { unitNormals } from '../mesh/index.js';
import { type ContextMesh } from './context-mesh.js';

/** Degrees by which triangles of one face turn from each to the next at most, where nothing else is asked. */
export const USUAL_TURN = 25;

/**
 * The triangles of the face that a triangle is of: all that are reached from it over sides at which the surface turns no more than so
 * many degrees.
 * @returns their numbers, ascending
 */
export function smoothFace({ positions, triangles, beside }: ContextMesh, from: number, turn = USUAL_TURN): Uint32Array {
  const normals = unitNormals(positions, triangles);
  const least = Math.cos(radians(turn));
  const isTaken = new Uint8Array(triangles.length / 3);
  const open = [from];
  isTaken[from] = 1;
  for (let t = open.pop(); t !== undefined; t = open.pop()) {
    for (let side = 0; side < 3; side++) {
      const other = beside[3 * t + side];
      if (other < 0 || isTaken[other]) continue;
      let cos = 0;
      for (let axis = 0; axis < 3; axis++) cos += normals[3 * t + axis] * normals[3 * other + axis];
      if (cos < least) continue;
      isTaken[other] = 1;
      open.push(other);
    }
  }
  return Uint32Array.from(Array.from(isTaken.keys()).filter((t) => isTaken[t]));
}
