import { followsPrograms, materialFor, type Shop } from '../shop/index.js';
import { typicalDensity } from '../sign/index.js';

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
  /** What machines that cut reach, and the sheets of the material; not measured where nobody knows. */
  readonly machines?: readonly { readonly name: string; readonly width: number; readonly height: number }[];
  readonly sheets?: readonly { readonly width: number; readonly height: number; readonly thickness: number }[];
  /** kg/m³ of the material; not weighed where nobody knows. */
  readonly density?: number;
  /** Percent by which the material shrinks when it is cast; not looked at where it is not. */
  readonly shrinkage?: number;
}

/** Where no shop says otherwise (common practice, no source). */
export const USUAL_LIMITS: Limits = { tool: 1.5, leastStroke: 1, leastWall: 1.5, slenderness: 4, leastStep: 0.2 };

/** The limits of a sign in a material: of the shop's library as far as it has it. */
export function limitsOf(shop: Pick<Shop, 'materials' | 'tools'> & Partial<Pick<Shop, 'machines'>>, words: string): Limits {
  const mills = shop.tools.flatMap(({ form, left }) => (form.kind === 'end' && left > 0 ? [form.diameter] : []));
  const machines = (shop.machines ?? []).filter(followsPrograms).map(({ name, area }) => ({ name, ...area }));
  const material = materialFor(shop, words);
  const density = material?.density ?? typicalDensity(words);
  return {
    ...USUAL_LIMITS,
    ...(mills.length > 0 && { tool: Math.min(...mills) }),
    ...(machines.length > 0 && { machines }),
    ...(density !== undefined && { density }),
    ...(material && {
      leastStroke: material.leastStroke,
      leastWall: material.leastWall,
      slenderness: material.slenderness,
      ...(material.shrinkage > 0 && { shrinkage: material.shrinkage }),
      ...(material.sheets.length > 0 && { sheets: material.sheets }),
    }),
  };
}
