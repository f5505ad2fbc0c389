import { type Contour } from '../geometry/index.js';
import { crossings } from './crossings.js';
import { ArtworkError } from './limits.js';

/**
 * Refuses outlines that cross each other more often than any logo: every crossing becomes a corner, and some thousand lines drawn over
 * each other have millions.
 * @throws ArtworkError
 */
export function refuseTangles(contours: readonly Contour[], most: number): void {
  if (crossings(contours, most + 1).length > most) throw new ArtworkError('too-many-crossings', most);
}
