import { readFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { FontBook, type FontEntry } from '@plain-relief/core/type';

/** The catalogue of the fonts in a folder. */
export const readCatalogue = (fontsDir: string): readonly FontEntry[] =>
  JSON.parse(readFileSync(join(fontsDir, 'catalogue.json'), 'utf8')) as FontEntry[];

/** A book of the fonts in a folder, read as they are needed. */
export function openFontBook(fontsDir: string): FontBook {
  return new FontBook(readCatalogue(fontsDir), async ({ file }) => new Uint8Array(await readFile(join(fontsDir, file))));
}
