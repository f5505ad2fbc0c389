/// <reference lib="webworker" />
import { ArtworkError, importSvg, middleOf, outlinePath } from '@plain-relief/core/artwork';
import { screenPath } from '../relief/screen-path';
import type { ArtworkAnswer, ArtworkOrder } from './artwork.service';

/** Reads one file and answers; the page ends this worker when it takes too long. */
addEventListener('message', ({ data }: MessageEvent<ArtworkOrder>) => postMessage(answer(data)));

function answer({ source, choice }: ArtworkOrder): ArtworkAnswer {
  try {
    const { colours, ...page } = importSvg(source, choice);
    return {
      artwork: {
        ...page,
        colours: colours.map(({ colour, outline, areaMm2, box }) => ({
          colour,
          areaMm2,
          width: box.maxX - box.minX,
          height: box.maxY - box.minY,
          ...middleOf(box),
          path: outlinePath(outline),
          preview: screenPath(outline, true),
        })),
      },
    };
  } catch (error) {
    if (error instanceof ArtworkError) return { refusal: error.message };
    return { refusal: `The file could not be read: ${(error as Error).message}` };
  }
}
