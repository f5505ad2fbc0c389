import { crc32, deflateRawSync } from 'node:zlib';
import { Zip, type ZipInputFile } from 'fflate';
import type { PackedFile } from '../../platform/database/models/lots.js';

/** Files that are packed already, one after the other in their bytes. */
export interface PackedFiles {
  readonly files: readonly PackedFile[];
  readonly data: Uint8Array;
}

/** Of every entry, so that the same files are the same bytes. */
const NO_DAY = '1980-01-01T00:00:00';
/** The method of a ZIP for data that is deflated (APPNOTE 4.4.5). */
const DEFLATED = 8;

/** One file in text, packed as those of lots are. */
export function packedText(name: string, text: string): PackedFiles {
  const bytes = Buffer.from(text);
  const data = deflateRawSync(bytes);
  return { files: [{ name, crc: crc32(bytes), size: bytes.length, packed: data.length }], data };
}

/** An archive of files as they come, of which no more than one part is held at a time: nothing is unpacked for it. */
export async function* archiveOf(parts: AsyncIterable<PackedFiles>): AsyncGenerator<Uint8Array> {
  let ready: Uint8Array[] = [];
  const zip = new Zip((error, chunk) => {
    if (error) throw error;
    ready.push(chunk);
  });
  for await (const { files, data } of parts) {
    let at = 0;
    for (const { name, crc, size, packed } of files) {
      const entry: ZipInputFile = { filename: name, crc, size, compression: DEFLATED, mtime: NO_DAY };
      zip.add(entry);
      entry.ondata!(null, data.subarray(at, at + packed) as Uint8Array<ArrayBuffer>, true);
      at += packed;
    }
    yield Buffer.concat(ready);
    ready = [];
  }
  zip.end();
  yield Buffer.concat(ready);
}
