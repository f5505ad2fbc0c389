import { type LengthUnit } from '@plain-relief/core/units';

const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
};

/** The direction that an arrow key stands for, to the right and up; undefined of any other key. */
export const arrowOf = ({ key }: Pick<KeyboardEvent, 'key'>): readonly [number, number] | undefined => STEPS[key];

/** How far an arrow key moves, in mm: 1 mm or 1/16 in, ten times as far with Shift. */
export const nudgeLength = (unit: LengthUnit, { shiftKey }: Pick<KeyboardEvent, 'shiftKey'>): number =>
  (unit === 'mm' ? 1 : 25.4 / 16) * (shiftKey ? 10 : 1);
