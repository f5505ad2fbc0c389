import {
  area,
  type Box,
  bounds,
  type Contour,
  type Outline,
  offset,
  placement,
  placeRun,
  circle,
  rectangle,
  snapRun,
  type Stroke,
  strokeArea,
} from '../outline/index.js';
import type { Area, Part, Shape, ShapePart, Sign, TextPart, Tier } from '../sign/index.js';
import { type FontBook, placeLetter, setBlock } from '../type/index.js';
import { type Note, note } from './notes.js';

/** A part in its place in the plan, before its tiers act. */
export interface PlacedPart {
  /** Closed rings; of text, the rings of all letters, which may overlap where letters do. */
  readonly contours: readonly Contour[];
  /** Open strokes of single-line fonts. */
  readonly strokes: readonly Stroke[];
  /** What is seen. */
  readonly ink?: Box;
  /** Corners of the box from cap line to last baseline (of text) or of the shape, turned with the part. */
  readonly frame: Float64Array;
  /** Number of letters, for text. */
  readonly letters: number;
  readonly notes: readonly Note[];
  /** Areas of tiers, filled as they are asked for. */
  readonly areas: Map<string, Outline>;
}

export function outlineOfShape(shape: Shape): Contour {
  return shape.kind === 'circle' ? circle(0, 0, shape.diameter / 2) : rectangle(shape.width, shape.height, shape.cornerRadius);
}

/** Note where a corner radius is more than half the shorter side. */
export function radiusNote(
  shape: { width: number; height: number; cornerRadius: number },
  name: string,
  sign: Sign,
  part?: string,
): Note[] {
  const most = Math.min(shape.width, shape.height) / 2;
  if (shape.cornerRadius <= most) return [];
  return [note('radius-reduced', { part }, name, shape.cornerRadius, most, sign.unit)];
}

/** The outline of a part in the plan, with the notes that come of making it. Text needs its font loaded. */
export function placePart(part: Part, sign: Sign, book: FontBook): PlacedPart {
  return part.kind === 'text' ? placeText(part, book) : placeShape(part, sign);
}

function placeShape(part: ShapePart, sign: Sign): PlacedPart {
  const { shape } = part;
  const put = placement(part.place);
  const contour = snapRun(placeRun(outlineOfShape(shape), put), true);
  const [w, h] = shape.kind === 'circle' ? [shape.diameter, shape.diameter] : [shape.width, shape.height];
  return {
    contours: [contour],
    strokes: [],
    ink: bounds([contour]),
    frame: placeRun(cornersOf({ minX: -w / 2, minY: -h / 2, maxX: w / 2, maxY: h / 2 }), put),
    letters: 0,
    notes: shape.kind === 'rectangle' ? radiusNote(shape, part.name, sign, part.id) : [],
    areas: new Map(),
  };
}

const cornersOf = ({ minX, minY, maxX, maxY }: Box): Float64Array =>
  Float64Array.of(minX, minY, maxX, minY, maxX, maxY, minX, maxY);

function placeText(part: TextPart, book: FontBook): PlacedPart {
  const put = placement(part.place);
  const entry = book.entry(part.font);
  const nothing = { contours: [], strokes: [], letters: 0, frame: placeRun(new Float64Array(8), put), areas: new Map() };
  if (!entry) return { ...nothing, notes: [note('unknown-font', { part: part.id }, part.name, part.font)] };
  const block = setBlock(book, { ...part, font: book.font(part.font) });
  const notes = block.missing.map((character) =>
    note('missing-character', { part: part.id }, part.name, character, `${entry.family} ${entry.style}`, [
      ...new Set(book.covering(character.codePointAt(0)!).map(({ family }) => family)),
    ]),
  );
  if (part.words.trim() === '') notes.push(note('no-words', { part: part.id }, part.name));
  const placed = block.letters.map((letter) => placeLetter(letter, part.place));
  const contours = placed.flatMap(({ outline }) => outline);
  const strokes = placed.flatMap((letter) => letter.strokes);
  return {
    contours,
    strokes,
    ink: bounds([...contours, ...strokes.map(({ points }) => points)]),
    frame: placeRun(cornersOf(block.capBox), put),
    letters: block.letters.length,
    notes,
    areas: new Map(),
  };
}

/** The area that a tier of a placed part acts on. */
export function tierArea(placed: PlacedPart, tier: Tier): readonly Contour[] {
  if (tier.action.kind === 'line') return lineArea(placed, tier.action.width);
  return grown(placed, tier.area);
}

function grown(placed: PlacedPart, chosen: Area): readonly Contour[] {
  if (chosen.kind === 'outline' || chosen.by === 0) return placed.contours;
  return remembered(placed, `grown ${chosen.by}`, () => offset(placed.contours, chosen.by));
}

function lineArea(placed: PlacedPart, width: number): Outline {
  return remembered(placed, `line ${width}`, () =>
    strokeArea([...placed.strokes, ...placed.contours.map((points) => ({ points, closed: true }))], width),
  );
}

function remembered(placed: PlacedPart, key: string, make: () => Outline): Outline {
  let outline = placed.areas.get(key);
  if (!outline) {
    outline = make();
    placed.areas.set(key, outline);
  }
  return outline;
}

/** Whether nothing is left of an outline that had something. */
export const isSwallowed = (placed: PlacedPart, made: readonly Contour[]): boolean =>
  placed.contours.length > 0 && area(made) <= 0;
