import { type Plate, type PlateState } from '@plain-relief/core/runs';
import { pictureSize, reliefPicture } from '@plain-relief/core/picture';
import { type Evaluation } from '@plain-relief/core/relief';
import { coloured, solidOf } from '@plain-relief/core/solid';
import { pngFile } from './png.js';

/** Pixels along the longer side of a plate. */
const PIXELS = 360;

/** A plate of a run as it will look, as a PNG for a contact sheet. */
export function pictureOfPlate(evaluation: Evaluation): Uint8Array {
  const { width, height } = pictureSize(evaluation, PIXELS);
  return pngFile(reliefPicture(coloured(evaluation, solidOf(evaluation)), width, height));
}

/** How a plate fits, as it is said below its picture. */
export const stateBelow = ({ state, narrowed }: Pick<Plate, 'narrowed'> & { readonly state: PlateState }): string =>
  state !== 'fitted' || narrowed === undefined ? state : `narrowed to ${narrowed.toFixed(0)} %`;
