import type { Picture } from '@plain-relief/core/picture';
import { PNG } from 'pngjs';

/** A picture as a PNG file. */
export function pngFile({ width, height, rgba }: Picture): Uint8Array {
  const png = new PNG({ width, height });
  png.data = Buffer.from(rgba.buffer, rgba.byteOffset, rgba.byteLength);
  return PNG.sync.write(png, { colorType: 2 });
}
