import { covers, type FontEntry } from '../../type/index.js';
import { type Sign } from '../document/schema.js';

/**
 * Every line of words that is made, in the order of the parts, for somebody to read; without characters that the font has no letter for
 * and that are not made therefore.
 * @param catalogue fonts at hand; words in others are given as they are
 */
export function spellingOf({ parts }: Sign, catalogue: readonly FontEntry[]): string[] {
  return parts.flatMap((part) => {
    if (part.kind !== 'text' || part.hidden) return [];
    const font = catalogue.find(({ id }) => id === part.font);
    const isMade = (character: string): boolean => /\s/u.test(character) || !font || covers(font, character.codePointAt(0)!);
    const made = Array.from(part.words.replace(/\r\n?/gu, '\n')).filter((character) => character === '\n' || isMade(character));
    return made
      .join('')
      .split('\n')
      .filter((line) => line.trim() !== '');
  });
}
