import { type Contours, type ContourSet, type Windings } from '../../arrangement/index.js';
import { type Contour } from '../../geometry/index.js';
import { type EmbeddedSlope } from '../slopes/embedded-slopes.js';
import { type SlopeIntersection } from '../slopes/slope-intersections.js';

/** Layer of a plan that the blank is; layer i of the relief is i + 1. */
const BLANK = 0;

/** Whether a place with such windings lies on the blank. */
export const isOnBlank = (windings: Windings): boolean => windings[0] === BLANK;

/**
 * The layers of the relief at a place, in build order.
 * @param count of the layers of the relief: what has a greater number in the plan is lines of slopes
 */
export function reliefLayersIn(windings: Windings, count: number): number[] {
  const out: number[] = [];
  for (let i = 0; i < windings.length; i += 2) {
    const layer = windings[i] - 1;
    if (layer >= 0 && layer < count) out.push(layer);
  }
  return out;
}

/**
 * The layers of a plan by number: the blank, the layers of the relief, of each embedded slope its outline and then its lines by distance,
 * and at last the places where one of two slopes lies above the other.
 */
export class PlanLayers {
  /** Rings of every layer but those of intersections, whose borders are constraints. */
  readonly rings: readonly Contours[];
  private readonly outlines = new Map<EmbeddedSlope, number>();
  private readonly above = new Map<SlopeIntersection, number>();

  /** @param contours of the relief's layers */
  constructor(
    blank: Contour,
    contours: readonly ContourSet[],
    embedded: readonly EmbeddedSlope[],
    readonly intersections: readonly SlopeIntersection[],
  ) {
    const rings: Contours[] = [[blank], ...contours];
    for (const each of embedded) {
      this.outlines.set(each, rings.length);
      rings.push(
        each.pieces.flatMap(({ outline }) => outline),
        ...each.rings,
      );
    }
    this.rings = rings;
    intersections.forEach((intersection, i) => this.above.set(intersection, rings.length + i));
  }

  /** The layer of places that a slope's outline holds. */
  outlineOf(embedded: EmbeddedSlope): number {
    return this.outlines.get(embedded)!;
  }

  /** The layer of places beyond a slope's line. */
  lineOf(embedded: EmbeddedSlope, line: number): number {
    return this.outlineOf(embedded) + 1 + line;
  }

  /** The layer of places where the first of two slopes lies above the second. */
  aboveOf(intersection: SlopeIntersection): number {
    return this.above.get(intersection)!;
  }
}
