import { type Picture } from '@plain-relief/core/picture';
import { PNG } from 'pngjs';

/** A quarter of the time of the highest level, for a file a few percent larger. */
const DEFLATE_LEVEL = 5;

/** A picture as a PNG file; clear where there is nothing, if that is wanted. */
export function pngFile({ width, height, rgba }: Picture, isClear = false): Uint8Array {
  const png = new PNG({ width, height });
  png.data = Buffer.from(rgba.buffer, rgba.byteOffset, rgba.byteLength);
  return PNG.sync.write(png, { colorType: isClear ? 6 : 2, deflateLevel: DEFLATE_LEVEL });
}
