import type { FieldPath } from '@plain-relief/core/sign';

/** Least and greatest value of a field, as the sign document allows them (docs/sign-format.md). */
export interface Limits {
  readonly min: number;
  readonly max: number;
}

const BY_NAME: Readonly<Record<string, Limits>> = {
  width: { min: 0.01, max: 8000 },
  height: { min: 0.01, max: 8000 },
  diameter: { min: 0.01, max: 8000 },
  thickness: { min: 0.1, max: 1000 },
  cornerRadius: { min: 0, max: 4000 },
  capHeight: { min: 0.5, max: 4000 },
  by: { min: 0, max: 1000 },
  depth: { min: 0, max: 1000 },
  to: { min: -1000, max: 1000 },
  x: { min: -4000, max: 4000 },
  y: { min: -4000, max: 4000 },
  turn: { min: -360, max: 360 },
  tracking: { min: -50, max: 500 },
  leading: { min: 50, max: 1000 },
};

export function limitsOf(path: FieldPath): Limits {
  const name = String(path[path.length - 1]);
  // A groove's width is that of a tool; a growth may be negative.
  if (name === 'width' && path.includes('action')) return { min: 0.01, max: 100 };
  if (name === 'by' && path.includes('area')) return { min: -500, max: 500 };
  return BY_NAME[name] ?? { min: -1000, max: 1000 };
}
