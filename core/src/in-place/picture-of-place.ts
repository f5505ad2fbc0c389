import { type Picture, rgb } from '../picture/index.js';
import { type ColouredMesh } from '../solid/index.js';
import { cameraOfPlace, type Place, type SignSize } from './place.js';
import { placedPicture } from './placed-picture.js';

/** Height of a picture before a plain ground as a share of its width. */
const PLAIN_SHARE = 0.64;

/** Width and height in pixels of the picture of a place, the longer side as given. */
export function sizeOfPlace(
  { ground }: Pick<Place, 'ground'>,
  longest: number,
): { readonly width: number; readonly height: number } {
  const share = ground.kind === 'photograph' ? ground.height / ground.width : PLAIN_SHARE;
  return share > 1
    ? { width: Math.max(1, Math.round(longest / share)), height: longest }
    : { width: longest, height: Math.max(1, Math.round(longest * share)) };
}

/** Width, height and depth of a solid, in mm. */
export function sizeOfSolid({ mesh: { positions } }: ColouredMesh): SignSize {
  const [low, high] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (let i = 0; i < positions.length; i++) {
    low[i % 3] = Math.min(low[i % 3], positions[i]);
    high[i % 3] = Math.max(high[i % 3], positions[i]);
  }
  const [width, height, depth] = high.map((most, k) => Math.max(0, most - low[k]));
  return { width, height, depth };
}

/**
 * The picture of a place: over a photograph or before nothing clear beside the signs and their shadows, else with its ground.
 * @param solids of its signs, in their order; undefined of those that are gone
 * @throws PlaceError where the marks make no wall, or a sign reaches behind the one who looks
 */
export function pictureOfPlace(place: Place, solids: readonly (ColouredMesh | undefined)[], longest: number): Picture {
  const { width, height } = sizeOfPlace(place, longest);
  const there = place.signs.flatMap((at, i) => {
    const solid = solids[i];
    return solid ? [{ at, solid, size: sizeOfSolid(solid) }] : [];
  });
  const camera = cameraOfPlace({ ...place, signs: there.map(({ at }) => at) }, there.map(({ size }) => size), width, height); // prettier-ignore
  const picture = placedPicture(there, camera, place.light, width, height);
  return place.ground.kind === 'plain' ? onColours(picture, place.ground.colours) : picture;
}

/** A picture before a run of colours from above, which it is clear over. */
function onColours({ width, height, rgba }: Picture, colours: readonly string[]): Picture {
  const stops = colours.map(rgb);
  const out = new Uint8Array(rgba.length);
  for (let row = 0; row < height; row++) {
    const along = (row / Math.max(1, height - 1)) * (stops.length - 1);
    const from = Math.min(Math.floor(along), Math.max(0, stops.length - 2));
    const [a, b] = [stops[from], stops[Math.min(from + 1, stops.length - 1)]];
    for (let column = 0; column < width; column++) {
      const at = 4 * (row * width + column);
      const cover = rgba[at + 3] / 255;
      for (let k = 0; k < 3; k++) {
        const ground = a[k] + (b[k] - a[k]) * (along - from);
        out[at + k] = Math.round(rgba[at + k] * cover + ground * (1 - cover));
      }
      out[at + 3] = 255;
    }
  }
  return { width, height, rgba: out };
}
