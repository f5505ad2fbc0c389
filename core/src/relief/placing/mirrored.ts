import { markGlyph, separateGlyphs } from '../../arrangement/index.js';
import { type Contour, reversed } from '../../geometry/index.js';

const known = new WeakMap<readonly Contour[], readonly Contour[]>();

/** Contours as they are seen from the other side, x counted the other way; the same ones for the same ones. */
export function mirrored(contours: readonly Contour[]): readonly Contour[] {
  let turned = known.get(contours);
  if (!turned) {
    const { letters, others } = separateGlyphs(contours);
    const whole = letters.map((letter) => letter.map(mirroredRing));
    whole.forEach(markGlyph);
    known.set(contours, (turned = [...whole.flat(), ...others.map(mirroredRing)]));
  }
  return turned;
}

/** A ring with x counted the other way, and still with its inside on the same hand. */
export const mirroredRing = (ring: Contour): Contour => reversed(ring.map((value, i) => (i % 2 === 0 ? -value : value)));
