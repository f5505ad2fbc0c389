import { readFileSync } from 'node:fs';
import { FontBook, type FontEntry } from '../src/type/index.js';

const FONTS = new URL('../../fonts/', import.meta.url);

export const catalogue = JSON.parse(readFileSync(new URL('catalogue.json', FONTS), 'utf8')) as FontEntry[];

export const fontBytes = (entry: FontEntry): Uint8Array => new Uint8Array(readFileSync(new URL(entry.file, FONTS)));

/** The shipped fonts, all loaded. */
export async function loadedBook(): Promise<FontBook> {
  const book = new FontBook(catalogue, (entry) => Promise.resolve(fontBytes(entry)));
  await book.need(catalogue.map(({ id }) => id));
  return book;
}

/** A font's file with another family name of the same length, as a font that does not come with the application. */
export function renamedFont(bytes: Uint8Array, from: string, to: string): Uint8Array {
  const wide = (text: string): Buffer => Buffer.from(text, 'utf16le').swap16();
  const out = Buffer.from(bytes);
  for (let at = out.indexOf(wide(from)); at >= 0; at = out.indexOf(wide(from), at + 1)) wide(to).copy(out, at);
  return new Uint8Array(out);
}
