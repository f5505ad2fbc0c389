import { arrange, type Windings } from './arrangement.js';
import { ringsOf } from './rings.js';
import { type Contours } from './contour-set.js';
import { type Outline } from '../geometry/index.js';

/** Winding number of a layer, 0 where it does not reach. */
export function windingOf(windings: Windings, layer: number): number {
  for (let i = 0; i < windings.length; i += 2) if (windings[i] === layer) return windings[i + 1];
  return 0;
}

const isInside = (label: number): boolean => label === 1;

/** Everything that any of the outlines covers (non-zero rule inside each), as rings that do not cross. */
export function union(...outlines: readonly Contours[]): Outline {
  return ringsOf(
    arrange(outlines, (windings) => (windings.length > 0 ? 1 : 0)),
    isInside,
  );
}

/** What `outline` covers and `taken` does not. */
export function difference(outline: Contours, taken: Contours): Outline {
  return ringsOf(
    arrange([outline, taken], (w) => (windingOf(w, 0) !== 0 && windingOf(w, 1) === 0 ? 1 : 0)),
    isInside,
  );
}

/** What both outlines cover. */
export function intersection(a: Contours, b: Contours): Outline {
  return ringsOf(
    arrange([a, b], (w) => (windingOf(w, 0) !== 0 && windingOf(w, 1) !== 0 ? 1 : 0)),
    isInside,
  );
}
