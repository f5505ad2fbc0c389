import type { Fetch } from './fetch-bytes';
import { FontBook, type FontEntry } from '@plain-relief/core/type';

export const readJson = <T>(bytes: Uint8Array): T => JSON.parse(new TextDecoder().decode(bytes)) as T;

/** The fonts that come with the application, and those of the shop. */
export async function pageFonts(bring: Fetch): Promise<FontBook> {
  const [shipped, own] = await Promise.all([bring('/fonts/catalogue.json'), bring('/api/shop/fonts')]);
  const book = new FontBook(readJson<FontEntry[]>(shipped), ({ file }) => bring(`/fonts/${file}`));
  book.learn(readJson<{ entry: FontEntry }[]>(own).map(({ entry }) => entry));
  return book;
}
