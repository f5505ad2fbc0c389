import { type Contour, type Outline } from '../geometry/index.js';

/**
 * Contours of an area, and what is known of them. An immutable value: what is worked out with it depends on nothing else.
 *
 * Glyphs are settled outlines: their rings neither cross nor touch but in shared corners, outer rings one way and holes the other,
 * as the results of union, difference and intersection are, moved on the grid, mirrored, or turned by quarters. Where nothing else
 * comes near a glyph, `arrange` asks once what lies around it instead of working through its edges, which for lettering are nearly
 * all there are. The same glyph in several sets is the same array.
 */
export class ContourSet {
  static readonly EMPTY = new ContourSet([], []);

  /** Every contour, those of the glyphs first. */
  readonly contours: readonly Contour[];

  private constructor(
    readonly glyphs: readonly Outline[],
    /** Rings of which nothing is known: they may cross themselves and others. */
    readonly loose: readonly Contour[],
  ) {
    this.contours = [...glyphs.flat(), ...loose];
  }

  /** @param glyphs settled outlines; empty ones are left out */
  static of(glyphs: readonly Outline[], loose: readonly Contour[] = []): ContourSet {
    const some = glyphs.filter((glyph) => glyph.length > 0);
    return some.length + loose.length === 0 ? ContourSet.EMPTY : new ContourSet(some, loose);
  }

  static loose(contours: readonly Contour[]): ContourSet {
    return ContourSet.of([], contours);
  }

  static joined(sets: readonly ContourSet[]): ContourSet {
    if (sets.length === 1) return sets[0];
    return ContourSet.of(
      sets.flatMap(({ glyphs }) => glyphs),
      sets.flatMap(({ loose }) => loose),
    );
  }

  get isEmpty(): boolean {
    return this.contours.length === 0;
  }

  /** @param move of a ring, that keeps settled what is: moved on the grid, mirrored, or turned by quarters */
  map(move: (ring: Contour) => Contour): ContourSet {
    return ContourSet.of(
      this.glyphs.map((glyph) => glyph.map(move)),
      this.loose.map(move),
    );
  }
}

/** Contours as they are given: of a list nothing is known. */
export type Contours = ContourSet | readonly Contour[];

export const contourSet = (contours: Contours): ContourSet => ('glyphs' in contours ? contours : ContourSet.loose(contours));
