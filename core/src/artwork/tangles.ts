import type { Contour } from '../outline/index.js';
import { crossings } from './crossings.js';
import { ArtworkError, MOST_CROSSINGS } from './limits.js';

/**
 * Refuses outlines that cross each other more often than any logo: every crossing becomes a corner, and some thousand lines drawn over
 * each other have millions.
 * @throws ArtworkError
 */
export function refuseTangles(contours: readonly Contour[]): void {
  if (crossings(contours, MOST_CROSSINGS + 1).length > MOST_CROSSINGS)
    throw new ArtworkError('too-many-crossings', MOST_CROSSINGS);
}
