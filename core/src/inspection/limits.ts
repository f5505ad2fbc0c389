import { materialFor, type Shop } from '../shop/index.js';

/** What a sign is measured against. Lengths in mm. */
export interface Limits {
  /** Diameter of the smallest end mill that is at hand. */
  readonly tool: number;
  readonly leastStroke: number;
  readonly leastWall: number;
  /** Height of a stroke in times its width. */
  readonly slenderness: number;
  readonly leastStep: number;
  /** From which it is read, in m; not measured where nobody knows. */
  readonly distance?: number;
}

/** Where no shop says otherwise (common practice, no source). */
export const USUAL_LIMITS: Limits = { tool: 1.5, leastStroke: 1, leastWall: 1.5, slenderness: 4, leastStep: 0.2 };

/** The limits of a sign in a material: of the shop's library as far as it has it. */
export function limitsOf(shop: Pick<Shop, 'materials' | 'tools'>, words: string): Limits {
  const mills = shop.tools.flatMap(({ form, left }) => (form.kind === 'end' && left > 0 ? [form.diameter] : []));
  const material = materialFor(shop, words);
  return {
    ...USUAL_LIMITS,
    ...(mills.length > 0 && { tool: Math.min(...mills) }),
    ...(material && {
      leastStroke: material.leastStroke,
      leastWall: material.leastWall,
      slenderness: material.slenderness,
    }),
  };
}
