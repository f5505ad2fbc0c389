import { createRequire } from 'node:module';
import {
  codePointsOf,
  FontBook,
  type FontEntry,
  type FontMeasures,
  fontMeasures,
  fontDamage,
  FontError,
  fontNames,
  type FontNames,
  fontWrapping,
  openOutlineFont,
  ranges,
  unpackWoff,
} from '@plain-relief/core/type';

/** wawoff2 is written for require, and its WebAssembly speaks to the console. */
const { decompress } = createRequire(import.meta.url)('wawoff2') as { decompress(bytes: Uint8Array): Promise<Uint8Array> };

export interface ReadFont extends FontNames {
  readonly content: Uint8Array;
  readonly coverage: readonly number[];
  /** Of its capitals, where it has them. */
  readonly proportions?: FontMeasures;
}

/** Runs in a thread: an uploaded font, unwrapped and tried. Gives a sentence where it cannot be used. */
export default async function readFont({ name, bytes }: { name: string; bytes: Uint8Array }): Promise<ReadFont | string> {
  let damage: ReturnType<typeof fontDamage>;
  try {
    const wrapping = fontWrapping(name, bytes);
    const content = wrapping === 'plain' ? bytes : wrapping === 'woff' ? unpackWoff(name, bytes) : await unpackWoff2(name, bytes);
    damage = fontDamage(content);
    if (damage === 'cut off') return cannotBeRead(name, damage);
    const font = openOutlineFont(name, content);
    // A font whose letters have no outlines, such as one of pictures, is found out here and not on a sign.
    font.shape('Hamburg', { rightToLeft: false, script: 'Latn', features: {} });
    const coverage = ranges(codePointsOf(content));
    const proportions = await proportionsOf(content, coverage);
    return { ...fontNames(content), content, coverage, ...(proportions && { proportions }) };
  } catch (error) {
    // Of a damaged file it says little what was found missing in it; fonts with wrong sums that can be read are common.
    if (error instanceof FontError && !damage) return error.message;
    return cannotBeRead(name, 'damaged');
  }
}

async function proportionsOf(content: Uint8Array, coverage: readonly number[]): Promise<FontMeasures | undefined> {
  const entry: FontEntry = { id: 'own', family: 'own', style: '', class: '', kind: 'outline', file: '', coverage };
  const book = new FontBook([entry], () => Promise.resolve(content));
  await book.need([entry.id]);
  return fontMeasures(book, entry.id);
}

const cannotBeRead = (name: string, damage: 'cut off' | 'damaged'): string =>
  new FontError(name, `its file is ${damage}: fetch it once more from where it came`).message;

async function unpackWoff2(name: string, bytes: Uint8Array): Promise<Uint8Array> {
  try {
    return Uint8Array.from(await decompress(bytes));
  } catch {
    throw new FontError(name, 'its file is damaged');
  }
}
