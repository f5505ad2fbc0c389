import { area, type Outline } from '../geometry/index.js';
import { DistanceField } from './distance-field.js';

/** mm by which lines may leave the curves that they stand for. */
const TOLERANCE = 0.005;
/** Where places are exactly as wide as a disc its lines may not close: then one a hair smaller is asked for. */
const HAIR = 0.98;
/** Halvings by which the narrowest place is told. */
const HALVINGS = 7;
/** mm² of a place that counts. */
const LEAST = 0.02;

/** How wide an outline's inside is: where discs of a diameter do not fit. */
export class Widths {
  private readonly field: DistanceField | undefined;
  private readonly known = new Map<number, Outline>();
  private narrowest: number | undefined;

  /**
   * @param most mm of width that are asked for at most
   * @param tip how far a tip reaches beyond the disc that fits into it, in times the disc's radius, before it counts: a square corner does
   *   by 0.41, one of 60° by 1, of 29° by 3
   */
  constructor(
    outline: Outline,
    private readonly most: number,
    private readonly tip: number,
  ) {
    this.field = outline.length > 0 ? new DistanceField(outline, most / 2, TOLERANCE) : undefined;
  }

  /** Every place narrower than a width: the inside less its opening by a disc (J. Serra, Image Analysis and Mathematical Morphology, 1982). */
  narrowerThan(width: number): Outline {
    let places = this.known.get(width);
    if (!places) this.known.set(width, (places = this.placesBelow(width)));
    return places;
  }

  /**
   * The narrowest width, to 1/128 of the most that is asked for; undefined where nothing is narrower than `below`. It is looked for once:
   * what is narrowest does not depend on how much is asked for.
   */
  least(below = this.most): number | undefined {
    if (area(this.narrowerThan(below)) < LEAST) return undefined;
    this.narrowest ??= this.searched(below);
    return this.narrowest;
  }

  private searched(below: number): number {
    let [fits, fails] = [0, below];
    for (let i = 0; i < HALVINGS; i++) {
      const width = (fits + fails) / 2;
      if (area(this.placesBelow(width)) >= LEAST) fails = width;
      else fits = width;
    }
    return fails;
  }

  private placesBelow(width: number): Outline {
    const radius = width / 2;
    const places = (r: number): Outline | undefined => this.field?.narrow(r, this.tip * r);
    return places(radius) ?? places(radius * HAIR) ?? [];
  }
}
