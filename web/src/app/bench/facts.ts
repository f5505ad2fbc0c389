import { densityOf, weightOf } from '@plain-relief/core/sign';
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
): FactView[] {
  const volume = (mm3: number): string =>
    unit === 'mm' ? `${(mm3 / 1000).toFixed(1)} cm³` : `${(mm3 / MM_PER_INCH ** 3).toFixed(2)} in³`;
  const area = (mm2: number): string => (unit === 'mm' ? (mm2 / 100).toFixed(0) : (mm2 / MM_PER_INCH ** 2).toFixed(1));
  const kilograms = figures && weightInAll(material, figures);
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
      value: `${area(topMm2)} + ${area(sidesMm2)} ${unit === 'mm' ? 'cm²' : 'in²'}`,
      words: 'tops and sides',
    })),
  ];
}

/** With inserts; undefined where the weight of a material is not known. */
function weightInAll(material: string, { volumeMm3, inserts }: FiguresView): number | undefined {
  const all = [{ material, volumeMm3 }, ...inserts].map((each) => {
    const density = densityOf(each.material);
    return density === undefined ? NaN : weightOf(each.volumeMm3, density);
  });
  const sum = all.reduce((kilograms, each) => kilograms + each, 0);
  return Number.isNaN(sum) ? undefined : sum;
}

const tidy = (mm: number): number => Number(mm.toFixed(3));

const POUNDS_PER_KG = 1 / 0.45359237;

const weightWords = (kilograms: number, unit: LengthUnit): string =>
  unit === 'in'
    ? `${(kilograms * POUNDS_PER_KG).toFixed(2)} lb`
    : kilograms < 1
      ? `${Math.round(kilograms * 1000)} g`
      : `${kilograms.toFixed(2)} kg`;
