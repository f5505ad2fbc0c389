import { type Evaluation } from '../relief/index.js';
import { type ColouredMesh, signModel } from '../solid/index.js';
import { CORNER, finishPaint, type Picture, pictureOf, THREE_QUARTER } from './picture.js';

/**
 * A sign from three quarters in its finishes, as proofs and jobs show it; a block with its front, right side and top.
 * @param mesh its solid, where that is worked out already
 */
export function signPicture(
  evaluation: Evaluation,
  width: number,
  height: number,
  mesh: ColouredMesh = signModel(evaluation),
): Picture {
  return pictureOf(
    mesh.mesh,
    finishPaint(mesh),
    evaluation.sign.support?.kind === 'block' ? CORNER : THREE_QUARTER,
    width,
    height,
  );
}
