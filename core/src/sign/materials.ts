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
