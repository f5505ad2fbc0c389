import { type Sign } from './schema.js';

/** A slot by its name, or a brace that is one, in words. */
export const SLOT_TOKEN = /\{\{|\{([^{}\n]{1,40})\}/gu;
/** Has no glyph and no width: stands for what is not shown, so that every letter keeps its place in the words (Unicode: word joiner). */
const UNSHOWN = '\u2060';

/** A piece of words: a slot by its name, or what is said as it stands. */
export interface WordsPiece {
  /** As it is written, with braces. */
  readonly source: string;
  /** As it is shown: of a slot its name. */
  readonly text: string;
  /** Where it begins in the words. */
  readonly at: number;
  readonly isSlot: boolean;
}

type Slots = Sign['slots'] | 'any';

/**
 * Words in pieces, one after the other; together their sources are the words.
 * @param slots those that are declared; `any` where only the words are known
 */
export function wordsPieces(words: string, slots: Slots): WordsPiece[] {
  const pieces: WordsPiece[] = [];
  let said = 0;
  const say = (to: number): void => {
    if (to > said) pieces.push({ source: words.slice(said, to), text: words.slice(said, to), at: said, isSlot: false });
    said = to;
  };
  if (slots === undefined || slots.length === 0) {
    say(words.length);
    return pieces;
  }
  for (const match of words.matchAll(SLOT_TOKEN)) {
    const [source, name] = match as unknown as [string, string | undefined];
    const isSlot = name !== undefined && (slots === 'any' || slots.some((slot) => slot.name === name));
    if (name !== undefined && !isSlot) continue;
    say(match.index);
    pieces.push({ source, text: name ?? '{', at: match.index, isSlot });
    said += source.length;
  }
  say(words.length);
  return pieces;
}

/** Words as they are read where no value is put in: names of slots without braces. */
export const readWords = (words: string, slots: Slots): string => wordsPieces(words, slots).map(({ text }) => text).join(''); // prettier-ignore

/** The same, as long as the words are: what is not shown has a character without width. */
export const shownWords = (words: string, slots: Slots): string =>
  wordsPieces(words, slots)
    .map(({ source, text, isSlot }) => (isSlot ? `${UNSHOWN}${text}${UNSHOWN}` : text.padEnd(source.length, UNSHOWN)))
    .join('');
