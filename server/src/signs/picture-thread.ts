import { signPicture } from '@plain-relief/core/picture';
import { Evaluator } from '@plain-relief/core/relief';
import type { FontBook } from '@plain-relief/core/type';
import { openFontBook } from '../fonts/font-files.js';
import { pngFile } from '../production/png.js';
import type { PictureOrder } from './pictures.js';

const shopFonts = new Map<string, Uint8Array>();
let book: FontBook | undefined;
let evaluator: Evaluator | undefined;

/** Runs in a thread: the picture of a sign as a PNG file. */
export default async function picture({ sign, width, height, fontsDir, fonts }: PictureOrder): Promise<Uint8Array> {
  for (const { entry, bytes } of fonts) shopFonts.set(entry.id, bytes);
  book ??= openFontBook(fontsDir, ({ id }) => (shopFonts.has(id) ? Promise.resolve(shopFonts.get(id)!) : undefined));
  book.learn(fonts.map(({ entry }) => entry));
  evaluator ??= new Evaluator(book);
  const evaluation = await evaluator.evaluate(sign);
  return pngFile(signPicture(evaluation, width, height));
}
