import { radiusNote } from './shape-notes.js';
import { ContourSet, difference, intersection, offset, union } from '../../arrangement/index.js';
import {
  arch,
  area,
  type Box,
  bounds,
  boxRing,
  circle,
  compose,
  type Contour,
  direction,
  ellipse,
  flatten,
  type Outline,
  type Placement,
  placement,
  placePoint,
  placeRings,
  placePolyline,
  polylineTrack,
  readPathData,
  rectangle,
  regularPolygon,
  ringSector,
  snap,
  snapRing,
  snapStroke,
  snapPolyline,
  type Stroke,
} from '../../geometry/index.js';
import {
  type Blank,
  type BlockFace,
  faceAt,
  type BrailleShape,
  type CodeShape,
  type Copies,
  type Part,
  type Place,
  type Shape,
  type ShapePart,
  shownWords,
  type Sign,
  type TextPart,
} from '../../sign/index.js';
import { type FontBook, placeLetter, setBlock, type TextChoice } from '../../type/index.js';
import { brailleLayout } from '../../braille/index.js';
import { type Note, note } from '../../notes/index.js';
import { boxOfCode, ringsOfCode } from './code-outline.js';
import { type SlotFrame, slotFrames } from './slot-frames.js';
import { fittedNote, missingNote } from './text-notes.js';
import { clockwiseFromBottom, trackOf } from './text-track.js';

/** A part in its place in the plan, before its tiers act. */
export interface PlacedPart {
  /** Closed rings; of text, the rings of all letters, which may overlap where letters do. */
  readonly area: ContourSet;
  /** Open strokes of single-line fonts and of lines. */
  readonly strokes: readonly Stroke[];
  /** What is seen. */
  readonly ink?: Box;
  /** Corners of the box from cap line to last baseline (of text), of its frame, or of the shape, turned with the part. */
  readonly frame: Float64Array;
  /** Number of letters, for text. */
  readonly letters: number;
  readonly notes: readonly Note[];
  /** Sizes of a text as it was set. */
  readonly text?: TextMeasures;
  /** Where names of slots stand for what a list puts there. */
  readonly slots?: readonly SlotFrame[];
  /** Of a text, the box from the cap line of its first to the baseline of its last line, about as it is turned. */
  readonly caps?: Box;
  /** Areas of tiers, filled as they are asked for. */
  readonly areas: Map<string, ContourSet>;
  /** Where single letters are made otherwise than the others: those that are not, then the others by how they are. */
  readonly groups?: readonly LetterGroup[];
}

/** Letters of a part that are made alike. */
export interface LetterGroup {
  /** mm that they rise or sink more than the part's tiers say. */
  readonly more: number;
  /** How many bridges their islands have, where it is not as many as the part says, and how far those are turned on. */
  readonly bridges?: number;
  readonly bridgeTurn?: number;
  readonly placed: PlacedPart;
}

/** Sizes of a text as it was set, in its own directions. */
export interface TextMeasures {
  /** What is seen, in mm. */
  readonly width: number;
  readonly height: number;
  readonly capHeight: number;
  readonly em: number;
  /** Percent. */
  readonly stretch: number;
  readonly isFitted: boolean;
}

/** What a part may follow: outlines of the blank and of earlier parts, as placed. */
export interface Surroundings {
  readonly sign: Sign;
  readonly blank: Contour;
  readonly placed: ReadonlyMap<string, PlacedPart>;
}

type OwnShape = Exclude<Shape, { kind: 'border' | 'combined' | 'line' | 'fixings' | 'braille' | 'code' }>;

/** The outline of a shape about its own middle. */
export function outlineOfShape(shape: OwnShape | Blank['outline']): Outline {
  switch (shape.kind) {
    case 'rectangle':
      return [rectangle(shape.width, shape.height, shape.cornerRadius, shape.corners)];
    case 'circle':
      return [circle(0, 0, shape.diameter / 2)];
    case 'ellipse':
      return [ellipse(shape.width, shape.height)];
    case 'stadium':
      return [rectangle(shape.width, shape.height, Math.min(shape.width, shape.height) / 2)];
    case 'polygon':
      return [regularPolygon(shape.sides, shape.diameter, shape.stands)];
    case 'arch':
      return [arch(shape.width, shape.height, shape.rise)];
    case 'sector':
      return [ringSector(shape.radius, shape.height, shape.span, shape.apex)];
    case 'outline':
      return filled(shape);
  }
}

/** The dots of braille, or the holes for its balls, all alike to the last step of the grid; what runs into each other is one. */
function dotsOfBraille(shape: BrailleShape, put: Placement): ContourSet {
  const { cells, base, dots: pitch, cell, line, ball, align, room } = shape;
  const sizes = { base: ball ?? base, dots: pitch, cells: cell, lines: line };
  const one = snapRing(circle(0, 0, sizes.base / 2));
  const circles = brailleLayout(cells, sizes, align, room).dots.map((dot) => {
    const [x, y] = placePoint(put, dot.x, dot.y).map(snap);
    return one.map((value, i) => value + (i % 2 === 0 ? x : y));
  });
  const areApart = sizes.base < Math.min(pitch, cell - pitch, line - 2 * pitch);
  return areApart ? ContourSet.of(circles.map((ring) => [ring])) : ContourSet.loose(union(circles));
}

type PathShape = Extract<Shape, { kind: 'outline' }>;

/** Polylines of path data brought to the shape's width and height about the origin. */
function polylinesOfPath({ path, width, height }: PathShape): Stroke[] {
  const rough = flatten(readPathData(path), 1e-3).map(({ points }) => Float64Array.from(points));
  const box = bounds(rough);
  if (!box) return [];
  const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
  const [sx, sy] = [w > 0 ? width / w : 1, h > 0 ? height / h : 1];
  const put: Placement = { a: sx, b: 0, c: 0, d: sy, e: (-(box.minX + box.maxX) / 2) * sx, f: (-(box.minY + box.maxY) / 2) * sy };
  return flatten(readPathData(path), 0.02 / Math.max(sx, sy)).map(({ points, closed }) => ({
    points: snapPolyline(placePolyline(Float64Array.from(points), put), closed),
    closed,
  }));
}

/** The area within closed paths; of a shape that has only lines, within them as if they were closed. */
function filled(shape: PathShape): Outline {
  const polylines = polylinesOfPath(shape);
  const closed = polylines.filter((polyline) => polyline.closed);
  return union((closed.length > 0 ? closed : polylines).map(({ points }) => points));
}

/** Whether a closed path has an inside on the grid: turned, the rounding of its points would make one of a path that goes there and back. */
const enclosesAny = (points: Contour): boolean => area([points]) !== 0 || union([points]).length > 0;

/** An outline as placed: closed paths are areas, open ones lines. */
function placePath(shape: PathShape, put: Placement): Pick<PlacedPart, 'area' | 'strokes'> {
  const polylines = polylinesOfPath(shape)
    .filter(({ points, closed }) => !closed || enclosesAny(points))
    .map(({ points, closed }) => ({ points: placePolyline(points, put), closed }));
  return {
    area: ContourSet.loose(union(polylines.filter(({ closed }) => closed).map(({ points }) => snapRing(points)))),
    strokes: polylines
      .filter(({ closed }) => !closed)
      .map(({ points }) => ({ points: snapStroke(points), closed: false }))
      .filter(({ points }) => points.length >= 4),
  };
}

/** The outline of the blank. Of one in several pieces the largest is the blank; a square of 1 mm stands for one that encloses nothing. */
export const blankOutline = (blank: Blank): Contour => largestRing(blank) ?? rectangle(1, 1);

function largestRing({ outline }: Blank): Contour | undefined {
  const rings = outlineOfShape(outline).filter((ring) => area([ring]) > 0);
  return rings.sort((a, b) => area([b]) - area([a]))[0];
}

/** Said of a blank whose outline encloses nothing. */
export const blankNotes = (sign: Sign): Note[] => [
  ...(largestRing(sign.blank) ? [] : [note('no-blank', {})]),
  ...radiusNote(sign.blank.outline, 'The blank', sign),
];

/** The outline of a shape in the plan, with the notes that come of making it. */
export function placeShape(part: ShapePart, around: Surroundings): PlacedPart {
  const { shape } = part;
  const { sign } = around;
  const put = placement(part.place);
  const nothing = { strokes: [], letters: 0, notes: radiusNote(shape, part.name, sign, part.id), areas: new Map() };
  if (shape.kind === 'line') {
    const half = shape.length / 2;
    const points = snapStroke(placePolyline(Float64Array.of(-half, 0, half, 0), put));
    const frame = placePolyline(Float64Array.of(-half, 0, half, 0, half, 0, -half, 0), put);
    return { ...nothing, area: ContourSet.EMPTY, strokes: [{ points, closed: false }], ink: bounds([points]), frame };
  }
  if (shape.kind === 'border' || shape.kind === 'combined' || shape.kind === 'fixings') {
    // Their place is a shift from what they follow.
    const made = followed(shape, around);
    const isMoved = part.place.x !== 0 || part.place.y !== 0 || part.place.turn !== 0 || part.place.mirror;
    const contours = isMoved ? union(placeRings(made, put)) : made;
    const notes = contours.length === 0 ? [note('nothing-left', { part: part.id }, part.name)] : [];
    const ink = bounds(contours);
    return { ...nothing, area: ContourSet.loose(contours), ink, frame: ink ? boxRing(ink) : new Float64Array(8), notes };
  }
  if (shape.kind === 'braille') {
    const dots = dotsOfBraille(shape, put);
    const ink = bounds(dots.contours);
    return {
      ...nothing,
      area: dots,
      ink,
      frame: ink ? boxRing(ink) : new Float64Array(8),
    };
  }
  if (shape.kind === 'outline') {
    const { area: own, strokes } = placePath(shape, put);
    const ink = bounds([...own.contours, ...strokes.map(({ points }) => points)]);
    const notes = ink ? [] : [note('nothing-left', { part: part.id }, part.name)];
    const [x, y] = [shape.width / 2, shape.height / 2];
    return {
      ...nothing,
      notes,
      area: own,
      strokes,
      ink,
      frame: placePolyline(boxRing({ minX: -x, minY: -y, maxX: x, maxY: y }), put),
    };
  }
  const made = shape.kind === 'code' ? ringsOfCode(shape) : outlineOfShape(shape);
  if ('fault' in made) {
    const isEmpty = shape.kind === 'code' && shape.words === '';
    const notes = [isEmpty ? note('no-words', { part: part.id }, part.name) : note('code-unmade', { part: part.id }, part.name, made.fault)]; // prettier-ignore
    return { ...nothing, area: ContourSet.EMPTY, frame: placePolyline(boxRing(boxOfCode(shape as CodeShape)), put), notes };
  }
  const own = made.filter(enclosesAny);
  const contours = placeRings(own, put);
  const notes = contours.length === 0 ? [...nothing.notes, note('nothing-left', { part: part.id }, part.name)] : nothing.notes;
  return {
    ...nothing,
    notes,
    // Modules of a code meet in corners alone.
    area: shape.kind === 'code' ? ContourSet.of([contours]) : ContourSet.loose(contours),
    ink: bounds(contours),
    frame: placePolyline(boxRing(bounds(own) ?? NO_BOX), put),
  };
}

const NO_BOX: Box = { minX: 0, minY: 0, maxX: 0, maxY: 0 };

function followed(shape: Extract<Shape, { kind: 'border' | 'combined' | 'fixings' }>, { blank, placed }: Surroundings): Outline {
  if (shape.kind === 'fixings') return fixingHoles(shape, blank);
  const outlineOf = (id: string): Outline => placed.get(id)?.area.contours ?? [];
  if (shape.kind === 'combined') {
    const [first, ...rest] = shape.of.map(outlineOf);
    switch (shape.how) {
      case 'join':
        return union(first, ...rest);
      case 'cut':
        return difference(first, rest.flat());
      case 'common':
        return rest.reduce((left, other) => intersection(left, other), union(first));
    }
  }
  // Letters may overlap, and have edges inside of each other then.
  const source = shape.of === 'blank' ? [blank] : union(outlineOf(shape.of));
  const outer = shape.inset === 0 ? union(source) : offset(source, -shape.inset);
  return shape.width === 0 ? outer : difference(outer, offset(source, -shape.inset - shape.width));
}

/** Fixing holes about a blank, each a circle of its own. */
function fixingHoles({ diameter, inset, places, count }: Extract<Shape, { kind: 'fixings' }>, blank: Contour): Outline {
  const { minX, minY, maxX, maxY } = bounds([blank])!;
  const [left, right, low, high] = [minX + inset, maxX - inset, minY + inset, maxY - inset];
  const [x, y] = [(minX + maxX) / 2, (minY + maxY) / 2];
  const middles = {
    corners: [[left, low], [right, low], [right, high], [left, high]], // prettier-ignore
    sides: [[left, y], [right, y]], // prettier-ignore
    ends: [[x, low], [x, high]], // prettier-ignore
    around: placesAround(blank, inset, count),
  }[places];
  return middles.map(([cx, cy]) => snapRing(circle(cx, cy, diameter / 2)));
}

/** Points evenly along a blank at an inset from its edge, the first at its top. */
function placesAround(blank: Contour, inset: number, count: number): [number, number][] {
  const [line] = [...(inset === 0 ? [blank] : offset([blank], -inset))].sort((a, b) => Math.abs(area([b])) - Math.abs(area([a])));
  if (!line) return [];
  const track = polylineTrack(clockwiseFromBottom(line), true);
  return Array.from({ length: count }, (_, i) => {
    const { x, y } = track.at(track.length * (0.5 + i / count));
    return [x, y];
  });
}

/** Copies of what was placed, about the part's place. */
export function copied(one: PlacedPart, copies: Copies | undefined, place: Place, faces: readonly BlockFace[] = []): PlacedPart {
  if (!copies || (copies.kind === 'row' && copies.count === 1)) return one;
  const puts = placesOfCopies(copies, place, faces);
  const sets = puts.map((put) => {
    const rings = placeRings(one.area.contours, put);
    // Turned copies are rounded anew.
    if (put.b !== 0) return ContourSet.loose(union(rings));
    return isSettled(one) ? ContourSet.of([rings]) : ContourSet.loose(rings);
  });
  const all = ContourSet.joined(sets);
  const strokes = puts.flatMap((put) =>
    one.strokes.map(({ points, closed }) => ({ points: snapPolyline(placePolyline(points, put), closed), closed })),
  );
  const ink = bounds([...all.contours, ...strokes.map(({ points }) => points)]);
  return {
    ...one,
    area: all,
    strokes,
    ink,
    frame: ink ? boxRing(ink) : one.frame,
    letters: one.letters * puts.length,
    areas: new Map(),
    ...(one.groups && { groups: one.groups.map((group) => ({ ...group, placed: copied(group.placed, copies, place, faces) })) }),
  };
}

/** That neighbours among a part's copies run into each other. @param one the part without its copies */
export function copiesNote({ id, name, copies, place }: Part, one: PlacedPart, unit: Sign['unit']): Note[] {
  const { ink } = one;
  if (!copies || copies.kind === 'faces' || copies.count < 2 || !ink || one.area.isEmpty) return [];
  const [first, second] = placesOfCopies(copies, place, []).map((put) => placeRings(one.area.contours, put));
  const [a, b] = [bounds(first)!, bounds(second)!];
  if (a.maxX <= b.minX || b.maxX <= a.minX || a.maxY <= b.minY || b.maxY <= a.minY) return [];
  if (area(difference(union(second), union(first))) > area(union(second)) - LEAST_OVERLAP) return [];
  const row = copies.kind === 'row' ? copies : undefined;
  const apart = !row ? undefined : row.stepY === 0 ? ink.maxX - ink.minX : row.stepX === 0 ? ink.maxY - ink.minY : Math.hypot(ink.maxX - ink.minX, ink.maxY - ink.minY); // prettier-ignore
  return [note('copies-merge', { part: id }, name, apart, unit)];
}

/** mm² that copies may have in common and lie apart. */
const LEAST_OVERLAP = 1e-3;

/** Only a plain shape is known to be free of intersections; letters that overlap are not. */
const isSettled = ({ letters, strokes }: PlacedPart): boolean => letters === 0 && strokes.length === 0;

function placesOfCopies(copies: Copies, { x, y }: Place, faces: readonly BlockFace[]): Placement[] {
  if (copies.kind === 'faces') {
    const own = faceAt(faces, x, y);
    const meant = faces.filter(({ isSide }) => isSide || copies.on === 'all');
    // Where it is on none of those itself, it is there none the less.
    const all = own && !meant.includes(own) ? [own, ...meant] : meant;
    return own ? all.map((face) => placement({ x: face.x - own.x, y: face.y - own.y })) : [placement({})];
  }
  return Array.from({ length: copies.count }, (_, i) => {
    if (copies.kind === 'row') {
      const from = i - (copies.count - 1) / 2;
      return placement({ x: from * copies.stepX, y: from * copies.stepY });
    }
    const turn = (-360 * i) / copies.count;
    if (copies.turning) return compose(placement({ x, y, turn }), placement({ x: -x, y: copies.radius - y }));
    const { cos, sin } = direction(90 + turn);
    return placement({ x: copies.radius * cos, y: copies.radius * sin });
  });
}

/** Where the place of a part comes to lie, once for every copy; in mm, as its own side sees it. */
export function anchorsOf({ place, copies }: Pick<Part, 'place' | 'copies'>): (readonly [number, number])[] {
  const { x, y } = place;
  if (!copies || copies.kind === 'faces') return [[x, y]];
  return placesOfCopies(copies, place, []).map(({ a, b, c, d, e, f }) => [a * x + c * y + e, b * x + d * y + f]);
}

/** How a text part is set, with its font loaded; of slots their names are shown, without braces. */
export const textChoice = (part: TextPart, book: FontBook, slots: Sign['slots']): TextChoice => ({
  ...part,
  words: shownWords(part.words, slots),
  font: book.font(part.font),
});

/** The letters of a text part in the plan, with the notes that come of setting them. */
export function placeText(part: TextPart, book: FontBook, around: Surroundings): PlacedPart {
  const put = placement(part.place);
  const entry = book.entry(part.font);
  const nothing = {
    area: ContourSet.EMPTY,
    strokes: [],
    letters: 0,
    frame: placePolyline(new Float64Array(8), put),
    areas: new Map(),
  };
  if (!entry) return { ...nothing, notes: [note('unknown-font', { part: part.id }, part.name, part.font)] };
  const choice = textChoice(part, book, around.sign.slots);
  const block = setBlock(book, choice, trackOf(part, around.sign, around.placed));
  const notes = block.missing.length > 0 ? [missingNote(part, block.missing, entry, book)] : [];
  if (part.words.trim() === '') notes.push(note('no-words', { part: part.id }, part.name));
  notes.push(...block.fitted.map((fitted) => fittedNote(fitted, part, around.sign)));
  if (block.past > 0) notes.push(note('past-end', { part: part.id }, part.name, block.past, around.sign.unit));
  const placed = block.letters.map((letter) => placeLetter(letter, part.place));
  const letters = ContourSet.of(placed.map(({ outline }) => outline));
  const strokes = placed.flatMap((letter) => letter.strokes);
  const { ink, capHeight, stretch } = block;
  const { font } = choice;
  const slots = slotFrames(part, around.sign.slots, block.letters.map(({ at, line }, i) => ({ at, line, ...placed[i] })), capHeight); // prettier-ignore
  const whole: PlacedPart = {
    area: letters,
    strokes,
    ink: bounds([...letters.contours, ...strokes.map(({ points }) => points)]),
    frame: placePolyline(boxRing(part.frame ? boxOf(part.frame) : block.capBox), put),
    caps: bounds([placePolyline(boxRing(block.capBox), put)]),
    letters: block.letters.length,
    notes,
    text: {
      width: ink ? ink.maxX - ink.minX : 0,
      height: ink ? ink.maxY - ink.minY : 0,
      capHeight,
      em: (capHeight / font.capHeight) * font.unitsPerEm,
      stretch,
      isFitted: block.fitted.length > 0,
    },
    ...(slots.length > 0 && { slots }),
    areas: new Map(),
  };
  const groups = letterGroups(part, block.letters, placed, whole);
  return groups ? { ...whole, groups } : whole;
}

/** The letters of a text by how they are made, the plain ones first; undefined where all are plain. */
function letterGroups(
  { letters: byHand }: TextPart,
  letters: readonly { readonly at: number }[],
  placed: readonly { readonly outline: readonly Contour[]; readonly strokes: readonly Stroke[] }[],
  whole: PlacedPart,
): LetterGroup[] | undefined {
  const ways = letters.map(({ at }) => {
    const { more = 0, bridges, bridgeTurn } = byHand?.find((letter) => letter.at === at) ?? {};
    return { more, bridges, bridgeTurn };
  });
  const plain = { more: 0, bridges: undefined, bridgeTurn: undefined };
  const keys = ways.map((way) => JSON.stringify(way));
  const distinct = new Map([[JSON.stringify(plain), plain], ...ways.map((way, i) => [keys[i], way] as const)]);
  if (distinct.size === 1) return undefined;
  return [...distinct].map(([key, way]): LetterGroup => {
    const own = placed.filter((_, i) => keys[i] === key);
    const group = { area: ContourSet.of(own.map(({ outline }) => outline)), strokes: own.flatMap((letter) => letter.strokes) };
    return { ...way, placed: { ...whole, ...group, areas: new Map() } };
  });
}

const boxOf = ({ width, height }: { width: number; height: number }): Box => ({
  minX: -width / 2,
  minY: -height / 2,
  maxX: width / 2,
  maxY: height / 2,
});
