import { type DensityOf, weightInAll, weightWords } from '@plain-relief/core/sign';
import { formatLength, type LengthUnit, MM_PER_INCH } from '@plain-relief/core/units';
import type { Facts, FiguresView } from '../relief/views';

export interface FactView {
  readonly name: string;
  readonly value: string;
  /** A colour beside it. */
  readonly colour?: string;
  /** What the value means, where it is not plain. */
  readonly words?: string;
}

/** The figures that are always in view; those of the solid follow when it has been worked out. */
export function facts(
  { highest, deepest, thinnest, letters }: Facts,
  unit: LengthUnit,
  material: string,
  figures: FiguresView | undefined,
  densityOf?: DensityOf,
): FactView[] {
  const volume = (mm3: number): string =>
    unit === 'mm' ? `${(mm3 / 1000).toFixed(1)} cm³` : `${(mm3 / MM_PER_INCH ** 3).toFixed(2)} in³`;
  const area = (mm2: number): string => (unit === 'mm' ? (mm2 / 100).toFixed(0) : (mm2 / MM_PER_INCH ** 2).toFixed(1));
  const kilograms = figures && weightInAll(material, figures, densityOf);
  return [
    { name: 'tallest raise', value: formatLength(tidy(highest), unit) },
    { name: 'deepest carve', value: formatLength(tidy(-deepest), unit) },
    { name: 'thinnest floor', value: formatLength(tidy(thinnest), unit) },
    { name: 'letters', value: String(letters) },
    ...(figures ? [{ name: 'taken out', value: volume(figures.removedMm3) }] : []),
    ...(kilograms === undefined ? [] : [{ name: 'weight', value: weightWords(kilograms, unit) }]),
    ...(figures?.areas ?? []).map(({ name, colour, topMm2, sidesMm2 }) => ({
      name,
      colour,
      value: `${area(topMm2)} faces + ${area(sidesMm2)} sides ${unit === 'mm' ? 'cm²' : 'in²'}`,
      words: 'what lies level, and what stands or slopes',
    })),
  ];
}

const tidy = (mm: number): number => Number(mm.toFixed(6));
