import { areOtherKinds, type DensityOf, typicalDensity } from '../sign/index.js';
import { type ShopMaterial } from './schema.js';

const wordsOf = (text: string): string[] =>
  text
    .toLocaleLowerCase('en')
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word.length > 2);

/**
 * The material of a shop that a sign's words name: by its id or name, else the one with the most words in common that is not known to be
 * of another kind; undefined where none has any.
 */
export function materialFor<M extends Pick<ShopMaterial, 'id' | 'name'>>(
  { materials }: { readonly materials: readonly M[] },
  words: string,
): M | undefined {
  const exact = materials.find(({ id, name }) => id === words || name.toLocaleLowerCase('en') === words.toLocaleLowerCase('en'));
  if (exact) return exact;
  const wanted = new Set(wordsOf(words));
  let [best, most]: [M | undefined, number] = [undefined, 0];
  for (const material of materials) {
    const shared = wordsOf(material.name).filter((word) => wanted.has(word)).length;
    if (shared > most && !areOtherKinds(material.name, words)) [best, most] = [material, shared];
  }
  return best;
}

/** What is to be known of a material to tell what a sign of it weighs. */
export type Weighed = Pick<ShopMaterial, 'id' | 'name' | 'density'>;

/** Densities as a shop's library has them; typical ones of what is not in it. */
export const densityIn =
  (shop: { readonly materials: readonly Weighed[] }): DensityOf =>
  (words) =>
    materialFor(shop, words)?.density ?? typicalDensity(words);
