import { formatLength, type LengthUnit, MM_PER_INCH } from '@plain-relief/core/units';
import type { Facts } from '../relief/views';

export interface FactView {
  readonly name: string;
  readonly value: string;
}

/** The figures that are always in view. */
export function facts({ volumeMm3, highest, deepest, letters }: Facts, unit: LengthUnit): FactView[] {
  const volume = unit === 'mm' ? `${(volumeMm3 / 1000).toFixed(1)} cm³` : `${(volumeMm3 / MM_PER_INCH ** 3).toFixed(2)} in³`;
  return [
    { name: 'tallest raise', value: formatLength(highest, unit) },
    { name: 'deepest carve', value: formatLength(-deepest, unit) },
    { name: 'volume', value: volume },
    { name: 'letters', value: String(letters) },
  ];
}
