import { callOutsOf, comparisonDrawing, sizesDrawing } from '@plain-relief/core/drawing';
import { glbFile, svgFile } from '@plain-relief/core/format';
import { ownPaint, pictureSize, reliefPicture, signPicture } from '@plain-relief/core/picture';
import { Evaluator } from '@plain-relief/core/relief';
import { extentOfShape } from '@plain-relief/core/sign';
import { coloured, figuresOf, solidOf } from '@plain-relief/core/solid';
import type { FontBook } from '@plain-relief/core/type';
import { openFontBook } from '../fonts/font-files.js';
import { pngFile } from '../production/png.js';
import type { PictureOrder } from './pictures.js';

const shopFonts = new Map<string, Uint8Array>();
let book: FontBook | undefined;
let evaluator: Evaluator | undefined;

/** Runs in a thread: a picture of a sign as a PNG file, or its model as a GLB file. */
export default async function picture({ sign, view, fontsDir, fonts }: PictureOrder): Promise<Uint8Array> {
  for (const { entry, bytes } of fonts) shopFonts.set(entry.id, bytes);
  book ??= openFontBook(fontsDir, ({ id }) => (shopFonts.has(id) ? Promise.resolve(shopFonts.get(id)!) : undefined));
  book.learn(fonts.map(({ entry }) => entry));
  evaluator ??= new Evaluator(book);
  const evaluation = await evaluator.evaluate(sign);
  if (view.kind === 'comparison') {
    const was = await evaluator.evaluate(view.was);
    const { width, height } = extentOfShape(sign.blank.outline);
    return Buffer.from(
      svgFile(comparisonDrawing(was, evaluation, Math.max(width, height) / 60), { unit: 'mm', title: sign.title }),
    );
  }
  if (view.kind === 'sizes') {
    const solid = coloured(evaluation, solidOf(evaluation));
    const [callOuts] = callOutsOf([{ solid, areas: figuresOf(evaluation, solid.mesh).areas }]);
    return Buffer.from(svgFile(sizesDrawing(evaluation, callOuts), { unit: 'mm', title: sign.title }));
  }
  if (view.kind === 'aside') return pngFile(signPicture(evaluation, view.width, view.height));
  const mesh = coloured(evaluation, solidOf(evaluation));
  if (view.kind === 'model') return glbFile(mesh, sign.title);
  const { width, height } = pictureSize(evaluation, view.longest);
  return pngFile(reliefPicture(mesh, width, height, ownPaint(evaluation, mesh)), true);
}
