import { type Shop, type ShopMaterial } from './schema.js';

const wordsOf = (text: string): string[] =>
  text
    .toLocaleLowerCase('en')
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word.length > 2);

/**
 * The material of a shop that a sign's words name: by its id or name, else the one with the most words in common; undefined where none
 * has any.
 */
export function materialFor({ materials }: Shop, words: string): ShopMaterial | undefined {
  const exact = materials.find(({ id, name }) => id === words || name.toLocaleLowerCase('en') === words.toLocaleLowerCase('en'));
  if (exact) return exact;
  const wanted = new Set(wordsOf(words));
  let [best, most]: [ShopMaterial | undefined, number] = [undefined, 0];
  for (const material of materials) {
    const shared = wordsOf(material.name).filter((word) => wanted.has(word)).length;
    if (shared > most) [best, most] = [material, shared];
  }
  return best;
}
