import { heightReach } from '@plain-relief/core/drawing';
import { pictureOf, THREE_QUARTER } from '@plain-relief/core/picture';
import { Evaluator } from '@plain-relief/core/relief';
import { solidOf } from '@plain-relief/core/solid';
import { openFontBook } from '../fonts/font-files.js';
import { pngFile } from '../production/png.js';
import type { PictureOrder } from './pictures.js';

let evaluator: Evaluator | undefined;

/** Runs in a thread: the picture of a sign as a PNG file. */
export default async function picture({ sign, width, height, fontsDir }: PictureOrder): Promise<Uint8Array> {
  evaluator ??= new Evaluator(openFontBook(fontsDir));
  const evaluation = await evaluator.evaluate(sign);
  return pngFile(pictureOf(solidOf(evaluation), heightReach(evaluation.levels), THREE_QUARTER, width, height));
}
