import { type Copies } from './schema.js';

/** How wide and how high a part is as it stands, without its copies, in mm. */
export interface PartExtent {
  readonly width: number;
  readonly height: number;
}

type Row = Extract<Copies, { kind: 'row' }>;

/** What one of a part's copies takes up, of what all of them do. */
export function extentOfOne(all: PartExtent, copies: Copies | undefined): PartExtent {
  if (copies?.kind !== 'row') return all;
  const steps = copies.count - 1;
  return { width: all.width - steps * Math.abs(copies.stepX), height: all.height - steps * Math.abs(copies.stepY) };
}

/** The room between copies in a row, and the length of the row, in mm; undefined of a slanted row, and of one that is none. */
export function rowSpacing(copies: Row, one: PartExtent): { readonly gap: number; readonly over: number } | undefined {
  const along = alongOf(copies, one);
  if (!along) return undefined;
  const { step, own } = along;
  return { gap: Math.abs(step) - own, over: own + (copies.count - 1) * Math.abs(step) };
}

/** The row with such a gap between its copies, or spread evenly over such a length. */
export function spacedRow(copies: Row, by: 'gap' | 'over', value: number, one: PartExtent): Row {
  const along = alongOf(copies, one);
  if (!along) return copies;
  const { step, own, key } = along;
  const next = by === 'gap' ? own + value : (value - own) / (copies.count - 1);
  return { ...copies, [key]: Number((Math.max(0, next) * (step < 0 ? -1 : 1)).toFixed(3)) };
}

/** The one direction in which a row runs, and the extent of a copy in it. */
function alongOf({ count, stepX, stepY }: Row, { width, height }: PartExtent) {
  if (count < 2 || (stepX !== 0 && stepY !== 0)) return undefined;
  return stepY === 0
    ? ({ key: 'stepX', step: stepX, own: width } as const)
    : ({ key: 'stepY', step: stepY, own: height } as const);
}
