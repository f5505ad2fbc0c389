/// <reference lib="webworker" />
import {
  type Artwork,
  ArtworkError,
  type GreyPicture,
  importArtwork,
  middleOf,
  MOST_PIXELS,
  outlinePath,
  pictureSize,
  tracePicture,
} from '@plain-relief/core/artwork';
import { screenRings, screenStrokes } from '../relief/screen-path';
import { lineFromDrawing, LineError } from '@plain-relief/core/sign';
import type { ArtworkAnswer, ArtworkOrder, ArtworkView, LineOrder, LineView } from './artwork.service';

/** Reads one file and answers; the page ends this worker when it takes too long. */
addEventListener('message', async ({ data }: MessageEvent<ArtworkOrder | LineOrder>) => postMessage(await answer(data)));

async function answer(order: ArtworkOrder | LineOrder): Promise<ArtworkAnswer> {
  try {
    if ('corner' in order) return { line: lineOf(order) };
    if (order.kind === 'picture') return { artwork: viewOf(tracePicture(await greyOf(order.bytes), order.choice)) };
    return { artwork: viewOf(importArtwork(order.kind, order.text, order.choice)) };
  } catch (error) {
    if (error instanceof ArtworkError || error instanceof LineError) return { refusal: error.message };
    return { refusal: `The file could not be read: ${(error as Error).message}` };
  }
}

const viewOf = ({ colours, ...page }: Artwork): ArtworkView => ({
  ...page,
  colours: colours.map(({ colour, name, outline, strokes, areaMm2, box }) => ({
    colour,
    name,
    areaMm2,
    lines: strokes.length,
    width: box.maxX - box.minX,
    height: box.maxY - box.minY,
    ...middleOf(box),
    path: outlinePath(outline, strokes),
    preview: screenRings(outline),
    linesPreview: screenStrokes(strokes),
  })),
});

function lineOf({ kind, text, corner }: LineOrder): LineView {
  const { colours, isSized } = importArtwork(kind, text, { strokes: 'outlines' });
  const lines = colours.flatMap(({ outline, strokes }) => [
    ...outline.map((points) => ({ points: [...points], closed: true })),
    ...strokes.map((points) => ({ points: [...points], closed: false })),
  ]);
  return { ...lineFromDrawing(lines, corner), isSized };
}

/** A picture in shades of grey, on white, made smaller where it is larger than is traced. */
async function greyOf(bytes: ArrayBuffer): Promise<GreyPicture> {
  const size = pictureSize(new Uint8Array(bytes));
  const shrink = Math.min(1, Math.sqrt(MOST_PIXELS / (size.width * size.height)));
  const [width, height] = [Math.max(1, Math.floor(size.width * shrink)), Math.max(1, Math.floor(size.height * shrink))];
  let bitmap: ImageBitmap;
  try {
    const smaller: ImageBitmapOptions = { resizeWidth: width, resizeHeight: height, resizeQuality: 'high' };
    bitmap = await createImageBitmap(new Blob([bytes]), shrink < 1 ? smaller : {});
  } catch {
    throw new ArtworkError('not-traced', 'its file is damaged: save it again.');
  }
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  context.fillStyle = '#fff';
  context.fillRect(0, 0, width, height);
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  const { data } = context.getImageData(0, 0, width, height);
  const shades = new Uint8Array(width * height);
  // Luma of ITU-R BT.709.
  for (let i = 0; i < shades.length; i++)
    shades[i] = Math.round(0.2126 * data[4 * i] + 0.7152 * data[4 * i + 1] + 0.0722 * data[4 * i + 2]);
  return { width, height, shades };
}
