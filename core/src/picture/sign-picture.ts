import { heightReach } from '../drawing/index.js';
import type { Evaluation } from '../relief/index.js';
import { coloured, type ColouredMesh, solidOf } from '../solid/index.js';
import { finishPaint, heightPaint, type Paint, type Picture, pictureOf, THREE_QUARTER } from './picture.js';

/** What a sign is painted in where it is shown as it will be: its finishes where it has some, else the colours of its heights. */
export const ownPaint = (evaluation: Evaluation, mesh: ColouredMesh): Paint =>
  (evaluation.sign.finishes?.length ?? 0) > 0 ? finishPaint(mesh) : heightPaint(mesh.mesh, heightReach(evaluation));

/**
 * A sign from three quarters as proofs and jobs show it.
 * @param mesh its solid, where that is worked out already
 */
export function signPicture(
  evaluation: Evaluation,
  width: number,
  height: number,
  mesh: ColouredMesh = coloured(evaluation, solidOf(evaluation)),
): Picture {
  return pictureOf(mesh.mesh, ownPaint(evaluation, mesh), THREE_QUARTER, width, height);
}
