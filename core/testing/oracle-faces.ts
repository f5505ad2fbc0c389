import { type Contour } from '../src/geometry/index.js';
import { type BlockFace, faceAt } from '../src/sign/index.js';
import { type Ring } from './brute-area.js';

interface Place {
  readonly x: number;
  readonly y: number;
}

/** A contour as the pairs of its corners. */
export const ringOf = (contour: Contour): Ring =>
  Array.from({ length: contour.length / 2 }, (_, i): [number, number] => [contour[2 * i], contour[2 * i + 1]]);

/** The face of a block that a place is on, or nearest to, about its middle. */
export function faceAround({ x, y }: Place, faces: readonly BlockFace[]): Ring {
  const face = faceAt(faces, x, y)!;
  return ringOf(face.outline).map(([px, py]) => [px - face.x, py - face.y]);
}

/** By how much what is on a face is moved to be on every side, or on every face, as well as on its own. */
export function movesToFaces({ x, y }: Place, faces: readonly BlockFace[], isOnAll: boolean): [number, number][] {
  const own = faceAt(faces, x, y);
  if (!own) return [[0, 0]];
  const meant = faces.filter(({ isSide, id }) => id === own.id || isSide || isOnAll);
  return meant.map((face) => [face.x - own.x, face.y - own.y]);
}
