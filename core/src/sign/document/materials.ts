import { type LengthUnit } from '../../units/index.js';
import { BARE, colourOfWord } from './finishes.js';
import { type Finish } from './schema.js';

/** What a material is like, found by the words of its name. */
interface Kind {
  readonly words: RegExp;
  /** In kg/m³, typical, from memory. */
  readonly density?: number;
  /** Of the bare material; colours are ours. */
  readonly colour: string;
  readonly gloss: Finish['gloss'];
  /** It comes in any colour, which its name tells: “black acrylic”. */
  readonly isDyed?: boolean;
}

const KINDS: readonly Kind[] = [
  { words: /acrylic|pmma|perspex/iu, density: 1190, colour: '#dde7e9', gloss: 'gloss', isDyed: true },
  { words: /polycarbonate/iu, density: 1200, colour: '#dfe6e6', gloss: 'gloss', isDyed: true },
  { words: /stainless|steel|iron/iu, density: 8000, colour: '#a9adaf', gloss: 'metal' },
  { words: /alumin/iu, density: 2700, colour: '#b9bcbe', gloss: 'metal' },
  { words: /bronze/iu, density: 8800, colour: '#7c5a36', gloss: 'metal' },
  { words: /brass/iu, density: 8500, colour: '#b89a4e', gloss: 'metal' },
  { words: /copper/iu, density: 8900, colour: '#a9663f', gloss: 'metal' },
  { words: /pvc|foam board|foam/iu, density: 550, colour: '#f1f0ec', gloss: 'matt', isDyed: true },
  { words: /plywood|birch/iu, density: 680, colour: '#d9bf92', gloss: 'matt' },
  { words: /mdf|fibreboard/iu, density: 750, colour: '#b79a73', gloss: 'matt' },
  { words: /walnut/iu, density: 640, colour: '#6d4b33', gloss: 'matt' },
  { words: /mahogany|sapele|teak|iroko/iu, density: 650, colour: '#8a5233', gloss: 'matt' },
  { words: /maple|ash|beech|sycamore/iu, density: 700, colour: '#dcc3a0', gloss: 'matt' },
  { words: /cedar|redwood/iu, density: 380, colour: '#b0764e', gloss: 'matt' },
  { words: /pine|spruce|larch|fir/iu, density: 500, colour: '#dbb87f', gloss: 'matt' },
  { words: /oak/iu, density: 720, colour: '#c29f6c', gloss: 'matt' },
  { words: /urethane|hdu/iu, density: 240, colour: '#d8c48f', gloss: 'matt' },
  { words: /slate/iu, density: 2800, colour: '#565b60', gloss: 'matt' },
  { words: /granite/iu, density: 2700, colour: '#8b8886', gloss: 'satin' },
  { words: /marble|limestone|portland|sandstone|stone/iu, density: 2600, colour: '#d6cfc0', gloss: 'matt' },
  { words: /glass/iu, density: 2500, colour: '#d6e4e0', gloss: 'gloss' },
  { words: /laminate/iu, density: 1250, colour: '#e6e3da', gloss: 'satin', isDyed: true },
  { words: /wood|timber/iu, colour: '#c7a778', gloss: 'matt' },
];

const kindOf = (material: string): Kind | undefined => KINDS.find(({ words }) => words.test(material));

/** Density in kg/m³ of a material by its words, or undefined where they tell none. */
export type DensityOf = (material: string) => number | undefined;

/** Typical densities, where nobody who weighed the material has told. */
export const typicalDensity: DensityOf = (material) => kindOf(material)?.density;

/** Whether the words of two materials tell that they are not of one kind: “black granite” is no “black acrylic”. */
export function areOtherKinds(one: string, other: string): boolean {
  const [a, b] = [kindOf(one), kindOf(other)];
  return a !== undefined && b !== undefined && a !== b;
}

/**
 * What a bare material is seen as. Of a material that its name does not tell it is pale and matt.
 * @param material in any words
 * @param isOfBlank or of something else in the sign, which is told apart from the blank's
 */
export function bareFinish(material: string, isOfBlank = true): Finish {
  const kind = kindOf(material);
  const { colour, gloss } = kind ?? { colour: '#e4ddcd', gloss: 'matt' };
  const dyed = kind?.isDyed
    ? material
        .split(/[^\p{L}]+/u)
        .map(colourOfWord)
        .find((found) => found !== undefined)
    : undefined;
  return {
    id: isOfBlank ? BARE : `${BARE} ${material}`,
    name: isOfBlank ? 'bare material' : material,
    colour: dyed ?? colour,
    gloss,
  };
}

/** Weight in kg of a volume in mm³. */
export const weightOf = (volumeMm3: number, density: number): number => volumeMm3 * 1e-9 * density;

/** Something of one material. */
export interface Piece {
  readonly material: string;
  readonly volumeMm3: number;
}

/** Weight in kg of a sign with its inserts; undefined where the density of a material is not known. */
export function weightInAll(
  material: string,
  { volumeMm3, inserts }: { volumeMm3: number; inserts: readonly Piece[] },
  densityOf: DensityOf = typicalDensity,
): number | undefined {
  const all = [{ material, volumeMm3 }, ...inserts].map((each) => {
    const density = densityOf(each.material);
    return density === undefined ? NaN : weightOf(each.volumeMm3, density);
  });
  const sum = all.reduce((kilograms, each) => kilograms + each, 0);
  return Number.isNaN(sum) ? undefined : sum;
}

const POUNDS_PER_KG = 1 / 0.45359237;

/** "1.24 kg", "380 g", "0.84 lb". */
export const weightWords = (kilograms: number, unit: LengthUnit): string =>
  unit === 'in'
    ? `${(kilograms * POUNDS_PER_KG).toFixed(2)} lb`
    : kilograms < 1
      ? `${Math.round(kilograms * 1000)} g`
      : `${kilograms.toFixed(2)} kg`;
