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
