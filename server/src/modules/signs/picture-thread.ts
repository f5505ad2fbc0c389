import { notesOf } from '@plain-relief/core/checks';
import { callOutsOf, comparisonDrawing, sizesDrawing } from '@plain-relief/core/drawing';
import { closedGlb, svgFile } from '@plain-relief/core/format';
import { pictureSize, reliefPicture, signPicture } from '@plain-relief/core/picture';
import { Evaluator } from '@plain-relief/core/relief';
import { heldPlates, valuesOfRun } from '@plain-relief/core/runs';
import { extentOfShape, fontsOf } from '@plain-relief/core/sign';
import { coloured, figuresOf, signModel, solidOf } from '@plain-relief/core/solid';
import { rowBraille } from '../braille/row-braille.js';
import { ThreadBook } from '../fonts/thread-book.js';
import { pictureOfPlace } from '@plain-relief/core/in-place';
import { solidsOf } from '../production/place-pages.js';
import { pngFile } from '../production/png.js';
import type { PictureOrder } from './pictures.js';

/** mm by which chords of a model that is looked at may lie beside the surface that it is bent to: it is shaded smoothly. */
const SHOWN_CHORDS = 0.1;

/** ms for which plates of a run are looked at: well within the limits of a thread. */
const PLATES_MS = 15_000;

const own = new ThreadBook();
let evaluator: Evaluator | undefined;

/** Runs in a thread: a picture of a sign as a PNG file, or its model as a GLB file. */
export default async function picture({ sign, view, fontsDir, fonts }: PictureOrder): Promise<Uint8Array> {
  const book = own.with(fontsDir, fonts);
  evaluator ??= new Evaluator(book);
  if (view.kind === 'in place')
    return pngFile(
      pictureOfPlace(view.place, await solidsOf(evaluator, view.signs), view.longest),
      view.place.ground.kind !== 'plain',
    );
  if (!sign) throw new Error(`Nothing to be drawn for ${view.kind}.`);
  if (view.kind === 'plates') {
    await book.need(fontsOf(sign));
    const until = Date.now() + PLATES_MS;
    const values = valuesOfRun(sign, view.run);
    const cellsOf = await rowBraille(sign, values.map((each, i) => ({ values: each, corrections: view.run.rows[i].corrections }))); // prettier-ignore
    return Buffer.from(JSON.stringify(heldPlates(sign, view.run, evaluator, () => Date.now() > until, cellsOf)));
  }
  const evaluation = await evaluator.evaluate(sign);
  if (view.kind === 'notes') {
    const open = notesOf(evaluation).filter(({ weight }) => weight !== 'said');
    return Buffer.from(JSON.stringify(open.map(({ text }) => text)));
  }
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
  if (view.kind === 'model') return closedGlb(signModel(evaluation, undefined, SHOWN_CHORDS), sign.title);
  const mesh = coloured(evaluation, solidOf(evaluation));
  const { width, height } = pictureSize(evaluation, view.longest);
  return pngFile(reliefPicture(mesh, width, height), true);
}
