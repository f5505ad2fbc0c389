/** Parts that can be added besides a line of text. */
export type AddedShape =
  | 'rectangle'
  | 'circle'
  | 'ellipse'
  | 'stadium'
  | 'polygon'
  | 'arch'
  | 'sector'
  | 'border'
  | 'line'
  | 'fixings'
  | 'braille'
  | 'code'
  | 'outline';

/** Shapes that are carved as wide as the blank when they are new: words stand on their floor, not in their way. */
export const SUNK: ReadonlySet<AddedShape> = new Set(['rectangle', 'ellipse', 'stadium', 'polygon', 'arch', 'sector']);
