import { heightReach } from '../drawing/index.js';
import type { Evaluation } from '../relief/index.js';
import { coloured, solidOf } from '../solid/index.js';
import { finishPaint, heightPaint, type Picture, pictureOf, THREE_QUARTER } from './picture.js';

/** A sign from three quarters as proofs and jobs show it: in its finishes where it wears some, else in the colours of its heights. */
export function signPicture(evaluation: Evaluation, width: number, height: number): Picture {
  const mesh = solidOf(evaluation);
  const isInFinishes = (evaluation.sign.finishes?.length ?? 0) > 0;
  const paint = isInFinishes ? finishPaint(coloured(evaluation, mesh)) : heightPaint(mesh, heightReach(evaluation));
  return pictureOf(mesh, paint, THREE_QUARTER, width, height);
}
