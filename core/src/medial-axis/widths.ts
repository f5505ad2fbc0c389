import { difference, offset, separated } from '../arrangement/index.js';
import { area, bounds, type Contour, movedBy, type Outline, polygonsOf, ShapeCache } from '../geometry/index.js';
import { DistanceField } from './distance-field.js';

/** mm by which lines may leave the curves that they stand for. */
const TOLERANCE = 0.005;
/** Where places are exactly as wide as a disc its lines may not close: then one a hair smaller is asked for. */
const HAIR = 0.98;
/** Times the most that is asked for up to which distances are told: discs as large as the largest that are told would all seem to be smaller. */
const BEYOND = 1.05;
/** Fields reach as far as the next power of this, so that those of letters are found again where a height, and with it a limit, was changed. */
const GRADE = 1.25;
/** mm by which discs are taken larger, so that no sliver is left along the edge. */
const SLIVER = 0.01;
/** Halvings by which the narrowest place is told. */
const HALVINGS = 7;
/** mm² of a place that counts. */
const LEAST = 0.02;

/** A piece of an outline, wherever it is. */
interface Shape {
  readonly field: DistanceField;
  /** What is narrower than a width, where it was asked for. */
  readonly known: Map<number, Outline>;
}

/** A piece that is there once or more often, each time moved. */
interface Piece extends Shape {
  readonly places: { readonly dx: number; readonly dy: number }[];
}

/** A place in a corner is no wider than the disc beside it; in times the radius of which the tip of a square one reaches beyond it, and more. */
const SQUARE = 0.5;

/** A box around rings, so far away that between both there is room for any disc. */
function frameAround(rings: readonly Contour[], reach: number): Contour {
  const { minX, minY, maxX, maxY } = bounds(rings)!;
  const [west, south, east, north] = [minX - 2 * reach, minY - 2 * reach, maxX + 2 * reach, maxY + 2 * reach];
  return Float64Array.of(west, south, east, south, east, north, west, north);
}

/** Numbers of a shape that is remembered from one outline to the next, such as a letter, and of all that are. */
const SMALL = 1200;
const REMEMBERED = 60_000;
const remembered = new ShapeCache<Shape>(REMEMBERED);

/** How wide an outline's inside is: where discs of a diameter do not fit. Pieces that are alike, as the letters of words, are looked at once. */
export class Widths {
  private readonly pieces: readonly Piece[];
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
    const own = new ShapeCache<Shape>();
    const reach = GRADE ** Math.ceil(Math.log(most * BEYOND) / Math.log(GRADE));
    const pieces = new Map<Shape, Piece>();
    for (const rings of polygonsOf(outline).flatMap((polygon) => {
      if (polygon.holes.length === 0 || tip < SQUARE) return [[polygon.outer, ...polygon.holes]];
      return separated(polygon, reach).map(({ outer, holes }) => [outer ?? frameAround(holes, reach), ...holes]);
    })) {
      const shapes = rings.reduce((sum, ring) => sum + ring.length, 0) <= SMALL ? remembered : own;
      const { value, dx, dy } = shapes.get(rings, `${reach} ${tip}`, (placed) => ({
        field: new DistanceField(placed, reach / 2, TOLERANCE),
        known: new Map(),
      }));
      const piece = pieces.get(value) ?? { ...value, places: [] };
      piece.places.push({ dx, dy });
      pieces.set(value, piece);
    }
    this.pieces = [...pieces.values()];
  }

  /** Every place narrower than a width: the inside less its opening by a disc (J. Serra, Image Analysis and Mathematical Morphology, 1982). */
  narrowerThan(width: number): Outline {
    let found = this.known.get(width);
    if (!found) {
      found = this.pieces.flatMap((piece) => {
        const own = this.placesOf(piece, width);
        return own.length === 0 ? [] : piece.places.flatMap(({ dx, dy }) => movedBy(own, dx, dy));
      });
      this.known.set(width, found);
    }
    return found;
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

  /** By halving, of every piece among what is narrow of it; pieces that are not narrower than the narrowest before are passed over. */
  private searched(below: number): number {
    let narrowest = below;
    for (const piece of this.pieces) {
      const narrow = this.placesOf(piece, below);
      if (area(narrow) < LEAST) continue;
      const among = piece.field.narrowAmong(narrow);
      const isNarrower = (width: number): boolean =>
        area(opened(among, width / 2, this.tip) ?? this.placesOf(piece, width)) >= LEAST;
      let [fits, fails] = [0, narrowest];
      if (narrowest < below && !isNarrower(narrowest)) continue;
      for (let i = 0; i < HALVINGS && fails - fits > below / 2 ** HALVINGS; i++) {
        const width = (fits + fails) / 2;
        if (isNarrower(width)) fails = width;
        else fits = width;
      }
      narrowest = fails;
    }
    return narrowest;
  }

  private placesOf({ field, known }: Piece, width: number): Outline {
    let places = known.get(width);
    if (!places) {
      places = opened((radius, least) => field.narrow(radius, least), width / 2, this.tip) ?? leftBy(field, width / 2, this.tip);
      known.set(width, places);
    }
    return places;
  }
}

/** The same by offsets, slow and sure, for where lines do not close. */
function leftBy(field: DistanceField, radius: number, tip: number): Outline {
  const middles = field.beyond(radius);
  const left = difference(field.outline, offset(middles, radius + SLIVER, TOLERANCE));
  if (tip === 0) return left;
  const around = new DistanceField(middles, (1 + tip) * radius + SLIVER, TOLERANCE);
  return left.filter((ring) => {
    // Where a disc borders it, and how far it reaches beyond.
    let [stretches, farthest] = [0, 0];
    let wasOn = around.distanceAt(ring[ring.length - 2], ring[ring.length - 1]) < radius + 2 * SLIVER;
    for (let i = 0; i < ring.length; i += 2) {
      const away = around.distanceAt(ring[i], ring[i + 1]);
      const isOn = away < radius + 2 * SLIVER;
      if (isOn && !wasOn) stretches++;
      wasOn = isOn;
      farthest = Math.max(farthest, away - radius);
    }
    return stretches !== 1 || farthest >= tip * radius;
  });
}

function opened(
  narrow: (radius: number, least: number) => Outline | undefined,
  radius: number,
  tip: number,
): Outline | undefined {
  return narrow(radius, tip * radius) ?? narrow(radius * HAIR, tip * radius * HAIR);
}
