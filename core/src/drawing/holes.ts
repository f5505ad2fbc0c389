import { bounds } from '../geometry/index.js';
import { type Evaluation, partsSeen } from '../relief/index.js';

/** A hole that something is fixed by: its middle and its diameter in mm. */
export interface Hole {
  readonly x: number;
  readonly y: number;
  readonly diameter: number;
  readonly kind: 'fixing hole' | 'stud';
}

/** Fixing holes and round holes that are cut through, and the holes for studs, from left to right in rows from the top. */
export function holesOf(evaluation: Evaluation): Hole[] {
  const { sign, studs = [] } = evaluation;
  const holes: Hole[] = [];
  const seen = new Map(partsSeen(evaluation).map((part) => [part.id, part]));
  for (const part of sign.parts) {
    if (part.kind !== 'shape' || (part.shape.kind !== 'fixings' && part.shape.kind !== 'circle')) continue;
    if (!part.tiers.some(({ on, action }) => on && action.kind === 'cut-through')) continue;
    const { diameter } = part.shape;
    for (const ring of seen.get(part.id)?.area.contours ?? []) {
      const { minX, minY, maxX, maxY } = bounds([ring])!;
      holes.push({ x: (minX + maxX) / 2, y: (minY + maxY) / 2, diameter, kind: 'fixing hole' });
    }
  }
  const diameter = sign.blank.cutTo?.studs?.diameter ?? 0;
  holes.push(...studs.map(({ x, y }): Hole => ({ x, y, diameter, kind: 'stud' })));
  return holes.sort((a, b) => b.y - a.y || a.x - b.x);
}
