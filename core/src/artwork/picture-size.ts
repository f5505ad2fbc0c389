import { ArtworkError } from './limits.js';

/** Most pixels of a picture that is opened at all. */
export const MOST_OPENED = 60_000_000;

/** What kind of picture some bytes are, by how they begin. */
export function pictureKind(bytes: Uint8Array): 'png' | 'jpeg' | undefined {
  const begins = (...start: number[]) => start.every((byte, i) => bytes[i] === byte);
  if (begins(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return 'png';
  return begins(0xff, 0xd8, 0xff) ? 'jpeg' : undefined;
}

/**
 * Width and height of a picture as its file says, before it is opened (PNG, ISO/IEC 15948, 11.2.2; JPEG, ITU-T T.81, B.2.2).
 * @throws ArtworkError where it is neither, is cut off, or would be too large when opened
 */
export function pictureSize(bytes: Uint8Array): { readonly width: number; readonly height: number } {
  const kind = pictureKind(bytes);
  if (!kind) throw new ArtworkError('not-traced', 'it is neither PNG nor JPEG: save it as one of them.');
  const size = kind === 'png' ? pngSize(bytes) : jpegSize(bytes);
  if (!size || size.width === 0 || size.height === 0) throw new ArtworkError('not-traced', 'its file is damaged: save it again.');
  if (size.width * size.height > MOST_OPENED)
    throw new ArtworkError('not-traced', `it has ${size.width} × ${size.height} pixels: make it smaller than 60 million.`);
  return size;
}

function pngSize(bytes: Uint8Array) {
  if (bytes.length < 24) return undefined;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return { width: view.getUint32(16), height: view.getUint32(20) };
}

function jpegSize(bytes: Uint8Array) {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = 2; at + 9 < bytes.length;) {
    if (bytes[at] !== 0xff) return undefined;
    const marker = bytes[at + 1];
    // Frame headers are C0 to CF but for the tables C4, C8 and CC.
    if (marker >= 0xc0 && marker <= 0xcf && marker % 4 !== 0)
      return { height: view.getUint16(at + 5), width: view.getUint16(at + 7) };
    if (marker === 0xc0) return { height: view.getUint16(at + 5), width: view.getUint16(at + 7) };
    at += marker === 0xff ? 1 : 2 + view.getUint16(at + 2);
  }
  return undefined;
}
