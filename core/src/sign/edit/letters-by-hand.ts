import { type LetterByHand, type TextPart } from '../document/schema.js';

/** Words up to this length are compared letter by letter; longer ones by what they share at both ends. */
const MOST_COMPARED = 600;

/**
 * What was set by hand, carried over to changed words: it stays with the letters that stayed, which are those of a longest
 * common subsequence (after what both share at their ends is set aside).
 */
export function movedLetters(letters: readonly LetterByHand[], before: string, after: string): LetterByHand[] {
  let start = 0;
  while (start < before.length && before[start] === after[start]) start++;
  let end = 0;
  while (end < before.length - start && end < after.length - start && before.at(-1 - end) === after.at(-1 - end)) end++;
  const places = new Map<number, number>();
  for (let i = 0; i < start; i++) places.set(i, i);
  for (let i = 1; i <= end; i++) places.set(before.length - i, after.length - i);
  const [a, b] = [before.slice(start, before.length - end), after.slice(start, after.length - end)];
  if (a.length <= MOST_COMPARED && b.length <= MOST_COMPARED)
    for (const [i, k] of commonLetters(a, b)) places.set(start + i, start + k);
  return letters.flatMap((letter) => {
    const at = places.get(letter.at);
    return at === undefined ? [] : [{ ...letter, at }];
  });
}

/** Pairs of indices of a longest common subsequence. */
function commonLetters(a: string, b: string): [number, number][] {
  const width = b.length + 1;
  const longest = new Uint16Array((a.length + 1) * width);
  for (let i = a.length - 1; i >= 0; i--) {
    for (let k = b.length - 1; k >= 0; k--) {
      longest[i * width + k] =
        a[i] === b[k] ? longest[(i + 1) * width + k + 1] + 1 : Math.max(longest[(i + 1) * width + k], longest[i * width + k + 1]);
    }
  }
  const out: [number, number][] = [];
  for (let i = 0, k = 0; i < a.length && k < b.length;) {
    if (a[i] === b[k]) out.push([i++, k++]);
    else if (longest[(i + 1) * width + k] >= longest[i * width + k + 1]) i++;
    else k++;
  }
  return out;
}

/** What the font has; of bridges the part says how many, and any number set by hand is kept. */
const AS_SET = { kern: 0, x: 0, y: 0, turn: 0, size: 100, more: 0, bridges: NaN, bridgeTurn: 0 } as const;

/** Sets something of one letter by hand; what is as the font has it is not kept. */
export function setLetter(part: TextPart, at: number, change: Partial<Omit<LetterByHand, 'at'>>): void {
  const merged = { ...part.letters?.find((letter) => letter.at === at), ...change };
  const kept = Object.fromEntries(
    Object.entries(AS_SET).flatMap(([key, plain]) => {
      const value = merged[key as keyof typeof AS_SET];
      return value === undefined || Math.abs(value - plain) < 1e-9 ? [] : [[key, value]];
    }),
  );
  const others = (part.letters ?? []).filter((letter) => letter.at !== at);
  const letters = Object.keys(kept).length > 0 ? [...others, { at, ...kept }] : others;
  letters.sort((a, b) => a.at - b.at);
  if (letters.length > 0) part.letters = letters;
  else delete part.letters;
}
