import { readFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { FontBook, type FontEntry } from '@plain-relief/core/type';

/** The catalogue of the fonts in a folder. */
export const readCatalogue = (fontsDir: string): readonly FontEntry[] =>
  JSON.parse(readFileSync(join(fontsDir, 'catalogue.json'), 'utf8')) as FontEntry[];

/**
 * A book of the fonts in a folder, read as they are needed.
 * @param others brings fonts that the book learns of later and that are not in the folder; undefined for those that are
 */
export function openFontBook(
  fontsDir: string,
  others: (entry: FontEntry) => Promise<Uint8Array> | undefined = () => undefined,
): FontBook {
  return new FontBook(
    readCatalogue(fontsDir),
    async (entry) => (await others(entry)) ?? new Uint8Array(await readFile(join(fontsDir, entry.file))),
  );
}
