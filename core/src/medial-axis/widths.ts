import { difference, offset, separated } from '../arrangement/index.js';
import {
  area,
  bounds,
  type Contour,
  movedBy,
  type Outline,
  polygonsOf,
  regularPolygon,
  reversed,
  ShapeCache,
  STEPS_PER_MM,
  toStep,
} from '../geometry/index.js';
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

/** A corner into which a disc does not come. */
export interface Corner {
  readonly x: number;
  readonly y: number;
  /** mm from the disc to the tip. */
  readonly beyond: number;
}

/** A piece of an outline, wherever it is. */
interface Shape {
  readonly field: DistanceField;
  /** What is narrower than a width, where it was asked for. */
  readonly known: Map<number, Outline>;
  /** Corners by width and by what is told of them. */
  readonly corners: Map<string, readonly Corner[]>;
}

/** A piece that is there once or more often, each time moved. */
interface Piece extends Shape {
  readonly places: { readonly dx: number; readonly dy: number }[];
}

/**
 * Whether a ring is smaller than lines are told: where contours of a glyph cross almost on a corner, their union has a hole of a few µm
 * there, which would keep every larger disc away.
 */
function isSpeck(ring: Contour): boolean {
  const { minX, minY, maxX, maxY } = bounds([ring])!;
  return Math.hypot(maxX - minX, maxY - minY) < 2 * TOLERANCE;
}

/** Sides of a frame: its corners are so blunt that they reach beyond a disc by hundredths of its radius. */
const FRAME_SIDES = 24;

/** A polygon around rings, so far away that between both there is room for any disc; the same around the same rings elsewhere. */
function frameAround(rings: readonly Contour[], reach: number): Contour {
  const { minX, minY, maxX, maxY } = bounds(rings)!;
  const [west, south, wide, high] = [toStep(minX), toStep(minY), toStep(maxX) - toStep(minX), toStep(maxY) - toStep(minY)];
  const radius = (Math.hypot(wide, high) / 2 / STEPS_PER_MM + 2 * reach) / Math.cos(Math.PI / FRAME_SIDES);
  const [x, y] = [west + (wide >> 1), south + (high >> 1)];
  return regularPolygon(FRAME_SIDES, 2 * radius, 'flat').map((mm, i) => (toStep(mm) + (i % 2 === 0 ? x : y)) / STEPS_PER_MM);
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
    for (const rings of polygonsOf(outline.filter((ring) => !isSpeck(ring))).flatMap((polygon) => {
      if (polygon.holes.length === 0) return [[polygon.outer]];
      return separated(polygon, reach).map(({ outer, holes }) => [outer ?? frameAround(holes, reach), ...holes]);
    })) {
      const shapes = rings.reduce((sum, ring) => sum + ring.length, 0) <= SMALL ? remembered : own;
      const { value, dx, dy } = shapes.get(rings, `${reach} ${tip}`, (placed) => ({
        field: new DistanceField(placed, reach / 2, TOLERANCE),
        known: new Map(),
        corners: new Map(),
      }));
      const piece = pieces.get(value) ?? { ...value, places: [] };
      piece.places.push({ dx, dy });
      pieces.set(value, piece);
    }
    this.pieces = [...pieces.values()];
  }

  /** How wide what is around an outline is. */
  static around(outline: Outline, most: number, tip: number): Widths {
    // Outlines lie inside of the frame: what is around them is the same rings turned round.
    return new Widths(outline.length === 0 ? [] : [frameAround(outline, most), ...outline.map(reversed)], most, tip);
  }

  /**
   * Corners into which a disc of a width does not come, and that are no narrow places: how far their tips are beyond the disc, from `least`
   * mm on, which is r · (1 / sin(θ/2) − 1) in a corner of θ.
   */
  corners(width: number, least: number): Corner[] {
    return this.pieces.flatMap(({ corners, field, places }) => {
      const name = `${width} ${least}`;
      let own = corners.get(name);
      if (!own) {
        const [radius, tip] = [width / 2, (2 * least) / width];
        const rings = opened((disc, beyond) => field.narrow(disc, beyond), radius, tip) ?? leftBy(field, radius, tip);
        own = rings.flatMap((ring) => tipOf(ring, width / 2) ?? []).filter(({ beyond }) => beyond >= least);
        corners.set(name, own);
      }
      const told = own.filter(({ beyond }) => beyond < (this.tip * width) / 2);
      return places.flatMap(({ dx, dy }) => told.map(({ x, y, beyond }) => ({ x: x + dx, y: y + dy, beyond })));
    });
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

/** Share of the radius by which an arc's points may be off its circle, and middles of one disc from each other. */
const OFF_CIRCLE = 0.03;
const ONE_DISC = 0.2;

/** The tip of what a disc leaves of a corner: between two sides and one arc, along which the ring turns the other way. */
function tipOf(ring: Contour, radius: number): Corner | undefined {
  const n = ring.length / 2;
  const middles: { readonly x: number; readonly y: number }[] = [];
  const away = (at: number, x: number, y: number): number => Math.abs(Math.hypot(ring[at] - x, ring[at + 1] - y) - radius);
  for (let i = 0; i < n; i++) {
    const [a, b, c] = [i + n - 1, i, i + 1].map((k) => 2 * (k % n));
    const [dx, dy] = [ring[c] - ring[a], ring[c + 1] - ring[a + 1]];
    if ((ring[b] - ring[a]) * dy >= (ring[b + 1] - ring[a + 1]) * dx) continue;
    // The disc is on the right of the ring, straight across from where it runs beside two neighbours.
    const long = Math.hypot(dx, dy);
    const [x, y] = [ring[b] + (dy / long) * radius, ring[b + 1] - (dx / long) * radius];
    if (away(a, x, y) < OFF_CIRCLE * radius && away(c, x, y) < OFF_CIRCLE * radius) middles.push({ x, y });
  }
  if (middles.length === 0) return undefined;
  const { x, y } = middles[middles.length >> 1];
  if (middles.some((other) => Math.hypot(other.x - x, other.y - y) > ONE_DISC * radius)) return undefined;
  let [beyond, tip] = [0, 0];
  for (let i = 0; i < ring.length; i += 2) {
    const own = Math.hypot(ring[i] - x, ring[i + 1] - y) - radius;
    if (own > beyond) [beyond, tip] = [own, i];
  }
  return { x: ring[tip], y: ring[tip + 1], beyond };
}
