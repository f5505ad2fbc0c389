import { type Place, pictureOfPlace } from '@plain-relief/core/in-place';
import { type Evaluator } from '@plain-relief/core/relief';
import { type Sign } from '@plain-relief/core/sign';
import { type ColouredMesh, signModel } from '@plain-relief/core/solid';
import { FIGURES_MM, type Sheet } from './sheet.js';
import { POINTS_PER_MM } from './pdf-drawing.js';
import { pngFile } from './png.js';

/** Signs as they will hang, with all that is needed to draw them. */
export interface FrozenPlace {
  readonly title: string;
  readonly place: Place;
  readonly signs: readonly (Sign | null)[];
  readonly photograph?: Uint8Array;
}

/** The solids of signs in their finishes; undefined of those that are gone. */
export async function solidsOf(evaluator: Evaluator, signs: readonly (Sign | null)[]): Promise<(ColouredMesh | undefined)[]> {
  const solids: (ColouredMesh | undefined)[] = [];
  for (const sign of signs) {
    const evaluation = sign && (await evaluator.evaluate(sign));
    solids.push(evaluation ? signModel(evaluation) : undefined);
  }
  return solids;
}

/** Pixels along the longer side of a place on paper. */
const PIXELS = 2000;

/** A page for every place: its photograph, and the signs over it. */
export async function placePages(sheet: Sheet, places: readonly FrozenPlace[], evaluator: Evaluator): Promise<void> {
  const pt = POINTS_PER_MM;
  for (const { title, place, signs, photograph } of places) {
    const picture = pictureOfPlace(place, await solidsOf(evaluator, signs), PIXELS);
    sheet.turn(picture.height > picture.width);
    sheet.start();
    const { x, y, width, height } = sheet.body;
    sheet.heading(`In place: ${title}`, x, y + 3);
    const top = y + 3 + 2 * FIGURES_MM;
    const scale = Math.min(width / picture.width, (y + height - top) / picture.height);
    const [w, h] = [picture.width * scale, picture.height * scale];
    const at = [(x + (width - w) / 2) * pt, top * pt] as const;
    const size = { width: w * pt, height: h * pt };
    if (photograph) sheet.pdf.image(Buffer.from(photograph), ...at, size);
    sheet.pdf.image(Buffer.from(pngFile(picture, place.ground.kind !== 'plain')), ...at, size);
    sheet.end(title, '', 'Not to scale: drawn as it will be seen.');
  }
  sheet.turn();
}
