import type { LengthUnit } from '../units/index.js';

/** Densities in kg/m³, from memory, typical; found by the words of a material. */
const DENSITIES: readonly (readonly [RegExp, number])[] = [
  [/acrylic|pmma/iu, 1190],
  [/stainless|steel/iu, 8000],
  [/alumin/iu, 2700],
  [/bronze/iu, 8800],
  [/brass/iu, 8500],
  [/pvc|foam board/iu, 550],
  [/plywood|birch/iu, 680],
  [/oak/iu, 720],
  [/urethane|hdu/iu, 240],
  [/slate/iu, 2800],
  [/granite/iu, 2700],
  [/laminate/iu, 1250],
];

/** Density in kg/m³ of a material by its name, or undefined where the name tells none. */
export const densityOf = (material: string): number | undefined => DENSITIES.find(([words]) => words.test(material))?.[1];

/** Weight in kg of a volume in mm³. */
export const weightOf = (volumeMm3: number, density: number): number => volumeMm3 * 1e-9 * density;

/** Something of one material. */
export interface Piece {
  readonly material: string;
  readonly volumeMm3: number;
}

/** Weight in kg of a sign with its inserts; undefined where the weight of a material is not known. */
export function weightInAll(
  material: string,
  { volumeMm3, inserts }: { volumeMm3: number; inserts: readonly Piece[] },
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
