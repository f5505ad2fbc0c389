import { bounds, type Box } from '../../geometry/index.js';
import { type BlockFace, faceAt, facesOf } from './block-faces.js';
import { tidy } from '../document/new-sign.js';
import { type Part, type Place, type Support } from '../document/schema.js';

/** The face of a block that a part is on, and where it is from the middle of that; undefined where the sign is no block. */
export function onFace(
  support: Support | undefined,
  { x, y }: Pick<Place, 'x' | 'y'>,
): { readonly face: BlockFace; readonly x: number; readonly y: number } | undefined {
  const face = faceAt(facesOf(support), x, y);
  return face && { face, x: tidy(x - face.x), y: tidy(y - face.y) };
}

/** The box that places of something are measured from: that of the face of a block which its middle is on, or of the blank. */
export function boxAround(support: Support | undefined, blank: Box, { minX, maxX, minY, maxY }: Box): Box {
  const face = faceAt(facesOf(support), (minX + maxX) / 2, (minY + maxY) / 2);
  return face ? bounds([face.outline])! : blank;
}

/** Brings a part to the same place of another face, or to another place of its own. */
export function bringOnFace(support: Support | undefined, part: Part, to: { face?: string; x?: number; y?: number }): void {
  const now = onFace(support, part.place);
  if (!now) return;
  const face = facesOf(support).find(({ id }) => id === to.face) ?? now.face;
  part.place = { ...part.place, x: tidy(face.x + (to.x ?? now.x)), y: tidy(face.y + (to.y ?? now.y)) };
}
