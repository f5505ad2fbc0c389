import { difference } from '../arrangement/index.js';
import { type Outline } from '../geometry/index.js';
import { filled, piecesOf, shrunk } from './regions.js';
import { type Terrain } from './terrain.js';

/** Windows in which no larger disc fits are cleared; of others the tool goes along the edge alone. */
const CLEARED_RADIUS = 10;
/** mm² that a level has to have. */
const LEAST_LEVEL = 0.05;
/** mm by which heights differ that are two levels. */
const APART = 1e-3;

/** A height, with what of the relief lies at it, or below it and above the next one. */
export interface Terrace {
  readonly z: number;
  readonly needed: Outline;
  /** What stands higher. */
  readonly keepOut: Outline;
  /** What lies at it or higher: with what stands higher taken away, `needed`. */
  readonly below: Outline;
  readonly kind: 'level' | 'slope' | 'window' | 'cut out';
}

export interface Terraces {
  readonly list: readonly Terrace[];
  /** Windows that are cut out along their edges. */
  readonly windows: readonly Outline[];
}

/**
 * What is to be cleared of a relief from above, height by height: each place once, down to what it is to be in the end.
 * @param levels heights and areas of the level places
 * @param stockTop of the stock's face
 * @param bottom to which it is cut through
 * @param slopeStep mm between heights at which slopes are cleared roughly
 * @param isRough whether slopes between two heights are cleared roughly before they are finished
 */
export function terracesOf(
  terrain: Terrain,
  levels: readonly { readonly z: number; readonly areaMm2: number }[],
  stockTop: number,
  bottom: number,
  slopeStep: number,
  isRough: (low: number, high: number) => boolean,
): Terraces {
  const heights: { readonly z: number; readonly kind: 'level' | 'slope' }[] = [];
  let before = stockTop;
  const to = (z: number): void => {
    if (isRough(z, before))
      for (let sub = before - slopeStep; sub > z + slopeStep / 4; sub -= slopeStep) heights.push({ z: sub, kind: 'slope' });
    if (z > before - APART && heights.length > 0) return;
    heights.push({ z, kind: 'level' });
    before = z;
  };
  for (const { z, areaMm2 } of levels) if (areaMm2 >= LEAST_LEVEL) to(z);
  if (terrain.lowest < before - APART) to(terrain.lowest);
  const list = heights.flatMap(({ z, kind }, i): Terrace[] => {
    if (z > stockTop - APART) return [];
    const keepOut = terrain.above(z);
    const below = i + 1 < heights.length ? terrain.above(heights[i + 1].z) : terrain.footprint;
    const needed = difference(below, keepOut);
    return needed.length > 0 ? [{ z, needed, keepOut, below, kind }] : [];
  });
  const kept = terrain.footprint;
  const windows = piecesOf(difference(filled(kept), kept));
  const isSmall = (window: Outline): boolean => shrunk(window, CLEARED_RADIUS).length === 0;
  const small = windows.filter(isSmall).flat();
  if (small.length > 0) list.push({ z: bottom, needed: small, keepOut: kept, below: small, kind: 'window' });
  return { list, windows: windows.filter((window) => !isSmall(window)) };
}
