import { type Static, Type } from '@sinclair/typebox';
import { direction } from '../geometry/index.js';
import { type Camera, cameraAt, cameraOf } from './camera.js';
import { homographyBetween, type Matrix3, PlaceError, type Point } from './homography.js';

const closed = { additionalProperties: false };
/** mm of a wall. */
const Length = Type.Number({ exclusiveMinimum: 0, maximum: 100_000 });
const Coordinate = Type.Number({ minimum: -100_000, maximum: 100_000 });
/** Pixels of a photograph: what is marked may lie beside it. */
const Pixel = Type.Number({ minimum: -20_000, maximum: 20_000 });
const Point2 = Type.Object({ x: Pixel, y: Pixel }, closed);
const Degrees = (most: number) => Type.Number({ minimum: -most, maximum: most });
const Colour = Type.String({ pattern: '^#[0-9a-f]{6}$' });
const Id = Type.String({ pattern: '^[A-Za-z0-9-]{1,64}$' });

/** A length on the wall that is known, and where it lies in the photograph. */
const MeasuredLine = Type.Object({ from: Point2, to: Point2, mm: Length }, closed);

/** How the wall lies in a photograph: four corners of a rectangle on it, clockwise from the upper left, or two lengths on a wall that was taken straight. */
export const PhotographScale = Type.Union([
  Type.Object(
    {
      kind: Type.Literal('corners'),
      width: Length,
      height: Length,
      points: Type.Array(Point2, { minItems: 4, maxItems: 4 }),
    },
    closed,
  ),
  Type.Object({ kind: Type.Literal('lengths'), across: MeasuredLine, up: MeasuredLine }, closed),
]);
export type PhotographScale = Static<typeof PhotographScale>;

export const PlaceGround = Type.Union([
  Type.Object(
    {
      kind: Type.Literal('photograph'),
      /** A file of the job. */
      file: Id,
      width: Type.Integer({ minimum: 16, maximum: 10_000 }),
      height: Type.Integer({ minimum: 16, maximum: 10_000 }),
      scale: PhotographScale,
    },
    closed,
  ),
  /** One colour, or a run of them from above. */
  Type.Object({ kind: Type.Literal('plain'), colours: Type.Array(Colour, { minItems: 1, maxItems: 3 }) }, closed),
  Type.Object({ kind: Type.Literal('none') }, closed),
]);
export type PlaceGround = Static<typeof PlaceGround>;

/** A sign as it hangs: where its blank’s middle is on the wall, in mm from the middle of what is marked, or of the picture. */
export const PlacedSign = Type.Object(
  {
    sign: Id,
    option: Type.Optional(Type.String({ maxLength: 64 })),
    x: Coordinate,
    y: Coordinate,
    turn: Degrees(360),
    /** mm between the wall and the sign’s back. */
    standOff: Type.Number({ minimum: 0, maximum: 2000 }),
  },
  closed,
);
export type PlacedSign = Static<typeof PlacedSign>;

export const MOST_SIGNS = 12;

/** Signs as they will hang: before a photograph of the place, or before a plain ground. */
export const Place = Type.Object(
  {
    ground: PlaceGround,
    signs: Type.Array(PlacedSign, { maxItems: MOST_SIGNS }),
    light: Type.Object(
      {
        /** Degrees: from the right 0, from above 90. */
        from: Degrees(360),
        /** Degrees that it stands off the wall. */
        rise: Type.Number({ minimum: 10, maximum: 90 }),
        /** 0 a bare sun, 1 an overcast sky. */
        softness: Type.Number({ minimum: 0, maximum: 1 }),
        /** How bright the sign is, in times its colours. */
        brightness: Type.Number({ minimum: 0.2, maximum: 1.6 }),
      },
      closed,
    ),
    /** From where it is seen where there is no photograph that says it. */
    view: Type.Object({ turn: Degrees(70), tilt: Degrees(60) }, closed),
    /** From where it is read. */
    reading: Type.Object(
      {
        /** m from the wall, and mm from the floor to the middle of the sign and to the eyes. */
        distance: Type.Number({ minimum: 0.2, maximum: 500 }),
        height: Type.Number({ minimum: 0, maximum: 50_000 }),
        eyes: Type.Number({ minimum: 0, maximum: 50_000 }),
      },
      closed,
    ),
  },
  closed,
);
export type Place = Static<typeof Place>;

/** Eyes of a standing grown-up above the floor, in mm (common practice, no source). */
const EYES = 1600;

/** A first place of some signs, beside each other before a plain ground. @param widths of the signs in mm */
export function newPlace(signs: readonly { readonly id: string; readonly width: number }[]): Place {
  const some = signs.slice(0, MOST_SIGNS);
  const gap = 0.25 * Math.max(0, ...some.map(({ width }) => width));
  let left = -some.reduce((sum, { width }) => sum + width, -gap + gap * some.length) / 2;
  const placed = some.map(({ id, width }): PlacedSign => {
    const x = Math.round(left + width / 2);
    left += width + gap;
    return { sign: id, x, y: 0, turn: 0, standOff: 0 };
  });
  return {
    ground: { kind: 'plain', colours: ['#efe9dc', '#d8d0be'] },
    signs: placed,
    light: { from: 125, rise: 48, softness: 0.3, brightness: 1 },
    view: { turn: 18, tilt: 8 },
    reading: { distance: 3, height: EYES, eyes: EYES },
  };
}

/** First marks in a photograph: a rectangle in its middle, to be dragged to something whose size is known. */
export const firstScale = (width: number, height: number): PhotographScale => {
  const [left, right, top, bottom] = [0.3 * width, 0.7 * width, 0.3 * height, 0.7 * height].map(Math.round);
  return { kind: 'corners', width: 1000, height: Math.round((1000 * (bottom - top)) / (right - left)), points: cornersOf(left, top, right, bottom) }; // prettier-ignore
};

const cornersOf = (left: number, top: number, right: number, bottom: number): Point[] => [
  { x: left, y: top },
  { x: right, y: top },
  { x: right, y: bottom },
  { x: left, y: bottom },
];

/**
 * The map from the wall to the photograph. The wall’s origin is the middle of the marked rectangle, or of the length across.
 * @throws PlaceError where the marks make no wall
 */
export function wallMap(scale: PhotographScale): Matrix3 {
  if (scale.kind === 'corners') {
    const [x, y] = [scale.width / 2, scale.height / 2];
    return homographyBetween(cornersOf(-x, y, x, -y), scale.points);
  }
  const axis = ({ from, to, mm }: Static<typeof MeasuredLine>): Point => ({ x: (to.x - from.x) / mm, y: (to.y - from.y) / mm });
  const [across, up] = [axis(scale.across), axis(scale.up)];
  const { from, to } = scale.across;
  // Down the picture is down the wall, whichever end came first.
  const sign = up.y > 0 ? -1 : 1;
  const turns = across.x * up.y * sign - across.y * up.x * sign;
  if (!(Math.abs(turns) > 0.2 * Math.hypot(across.x, across.y) * Math.hypot(up.x, up.y)))
    throw new PlaceError('The two lengths lie along each other: mark one across the wall and one up it.');
  if (across.x < 0) return [-across.x, sign * up.x, (from.x + to.x) / 2, -across.y, sign * up.y, (from.y + to.y) / 2, 0, 0, 1];
  return [across.x, sign * up.x, (from.x + to.x) / 2, across.y, sign * up.y, (from.y + to.y) / 2, 0, 0, 1];
}

/** Turned about its foot, a corner of a sign’s box on the wall. */
function onWall({ x, y, turn }: PlacedSign, across: number, up: number): Point {
  const { cos, sin } = direction(turn);
  return { x: x + cos * across - sin * up, y: y + sin * across + cos * up };
}

/** Width, height and greatest height off its back of a sign, in mm. */
export interface SignSize {
  readonly width: number;
  readonly height: number;
  readonly depth: number;
}

/** Share of a picture that signs before a plain ground fill. */
const FILLED = 0.72;
/** Times its size that one stands off a sign before a plain ground. */
const AWAY = 3.2;

/**
 * The camera of a place.
 * @param sizes of its signs, in their order
 * @param width of the picture in pixels; of a photograph the height follows from its own
 * @throws PlaceError with a sentence where the marks make no wall
 */
export function cameraOfPlace({ ground, signs, view }: Place, sizes: readonly SignSize[], width: number, height: number): Camera {
  if (ground.kind === 'photograph') {
    const [sx, sy] = [width / ground.width, height / ground.height];
    const [a, b, c, d, e, f, g, h, i] = wallMap(ground.scale);
    return cameraOf([sx * a, sx * b, sx * c, sy * d, sy * e, sy * f, g, h, i], width, height);
  }
  const corners = signs.flatMap((placed, k) => {
    const { width: w, height: h } = sizes[k] ?? { width: 100, height: 100 };
    return [-1, 1].flatMap((x) => [-1, 1].map((y) => onWall(placed, (x * w) / 2, (y * h) / 2)));
  });
  if (corners.length === 0) corners.push({ x: -100, y: -100 }, { x: 100, y: 100 });
  const [xs, ys] = [corners.map(({ x }) => x), corners.map(({ y }) => y)];
  const [minX, maxX, minY, maxY] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const middle = { x: (minX + maxX) / 2, y: (minY + maxY) / 2 };
  const size = Math.hypot(maxX - minX, maxY - minY);
  const camera = (focal: number): Camera => cameraAt(middle, { ...view, distance: AWAY * size }, focal, width, height);
  // What one pixel of focal length makes of it tells how many it takes.
  const unit = camera(1);
  const seen = corners.map(({ x, y }) => unit.seen(x, y, Math.max(0, ...sizes.map(({ depth }) => depth))));
  const reach = (k: 0 | 1, half: number): number => Math.max(...seen.map((each) => Math.abs(each[k] - half)));
  return camera(FILLED * Math.min(width / 2 / reach(0, width / 2), height / 2 / reach(1, height / 2)));
}

/** mm between the eye and a screen that is read: an arm’s length, about (common practice, no source). */
export const ARM = 600;
/** mm of a pixel of CSS, 96 to the inch (W3C, CSS Values and Units 4, 6.2). */
const CSS_PIXEL = 25.4 / 96;
/** Minutes of arc of capitals that good eyes just read: of 5 the letters of the line that stands for normal sight (H. Snellen, 1862). */
export const LEAST_MINUTES = 5;

/** How a sign looks from where it is read. */
export interface ReadingView {
  readonly camera: Camera;
  /** Pixels of CSS at which it is as large on a screen at arm’s length as it will be seen. */
  readonly width: number;
  readonly height: number;
  /** m from the eyes to it, and degrees that they look up, or down where it is negative. */
  readonly away: number;
  readonly lookUp: number;
}

/** What is seen of the wall about a sign from where it is read. @param factor pixels of the picture for one of CSS */
export function readingView({ reading }: Place, placed: PlacedSign, { width, height }: SignSize, factor = 1): ReadingView {
  const rise = reading.height - reading.eyes;
  const away = Math.hypot(reading.distance * 1000, rise);
  const tilt = -(Math.atan2(rise, reading.distance * 1000) * 180) / Math.PI;
  const focal = ARM / CSS_PIXEL;
  const perMm = focal / away;
  const reach = Math.hypot(width, height) * perMm * 1.15 + 24;
  const [w, h] = [reach, Math.min(reach, height * perMm * 1.5 + 24 + 0.3 * width * perMm)].map((px) =>
    Math.ceil(Math.min(px, 1600)),
  );
  const camera = cameraAt(
    { x: placed.x, y: placed.y },
    { turn: 0, tilt, distance: away },
    focal * factor,
    w * factor,
    h * factor,
  );
  return { camera, width: w, height: h, away: away / 1000, lookUp: -tilt };
}

/** Minutes of arc under which capitals are seen from where a place is read. @param capHeight mm */
export function minutesOf({ reading }: Pick<Place, 'reading'>, capHeight: number): number {
  const rise = reading.height - reading.eyes;
  const away = Math.hypot(reading.distance * 1000, rise);
  // Of what is looked at from below or above the height is foreshortened.
  const seen = (capHeight * reading.distance * 1000) / away;
  return ((2 * Math.atan(seen / (2 * away)) * 180) / Math.PI) * 60;
}
