import { bounds, type Box, type Outline } from '../../geometry/index.js';
import { type Sign, type TextPart } from '../../sign/index.js';
import { type FontBook, placeLetter, plainWords, setBlock, type TextTrack } from '../../type/index.js';
import { textChoice } from './part-outline.js';

/** A letter of a text in its place in the plan, with its marks. */
export interface LetterPlace {
  /** Index in the words, and the character there. */
  readonly at: number;
  readonly character: string;
  readonly line: number;
  /** Whether a space, or the end of the line, comes after it. */
  readonly endsWord: boolean;
  readonly outline: Outline;
  readonly box: Box;
}

/** The letters of a text that have an outline, line by line from left to right. */
export function letterPlaces(part: TextPart, book: FontBook, on: TextTrack | undefined, slots: Sign['slots']): LetterPlace[] {
  const words = plainWords(part.words);
  const groups = new Map<string, { readonly at: number; readonly line: number; readonly outline: Outline[number][] }>();
  for (const letter of setBlock(book, textChoice(part, book, slots), on).letters) {
    const key = `${letter.line} ${letter.at}`;
    const group = groups.get(key) ?? { at: letter.at, line: letter.line, outline: [] };
    group.outline.push(...placeLetter(letter, part.place).outline);
    groups.set(key, group);
  }
  const seen = [...groups.values()].flatMap(({ at, line, outline }) => {
    const box = bounds(outline);
    return box ? [{ at, line, outline, box }] : [];
  });
  return seen.map((letter, i) => {
    const next = seen[i + 1];
    const [from, to] = [letter.at, next?.at ?? 0].sort((a, b) => a - b);
    const endsWord = next?.line !== letter.line || /\s/u.test(words.slice(from, to));
    return { ...letter, endsWord, character: String.fromCodePoint(words.codePointAt(letter.at) ?? 0) };
  });
}
