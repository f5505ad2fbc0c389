import { degrees, radians } from '../../geometry/index.js';
import { extentOfShape, tidy } from '../document/new-sign.js';
import { blankAllRound, unrolledCone } from '../support/round-blank.js';
import { faceAt, facesOf, laidBlock } from '../support/block-faces.js';
import { onFace } from '../support/places-on-faces.js';
import { type BlockBody, type LinePiece, type Part, type Sign, type Support, type TextPart } from '../document/schema.js';
import { levelArc } from '../support/places-round.js';
import { lineLengths } from '../support/support-lines.js';
import { type FieldPath } from '../ticket/sentence.js';

type Bent = Extract<Support, { kind: 'bent' }>;
type Swept = Extract<Support, { kind: 'swept' }>;

/** mm by which a blank may be longer or shorter than the line that it is bent along, and follow it. */
const FOLLOWS = 0.02;
/** Where nothing is said the surface may be stretched by so many percent. */
const USUAL_STRETCH = 3;

/**
 * Sets a field of what a sign is bent around, or another kind of it. A blank that goes all the way round is as wide as that, and one that is as long
 * as the line that it is bent along stays so; parts then keep their places in it, and frames their share.
 * @param path from `support` on
 */
export function setSupport(sign: Sign, path: FieldPath, value: unknown): void {
  const before = sign.support && lineLengths(sign.support, sign.blank.thickness);
  const places = sign.parts.map(({ place }) => onFace(sign.support, place));
  const was = extentOfShape(sign.blank.outline);
  const field = path[path.length - 1];
  if (path.length === 2 && field === 'kind') {
    const support = supportOf(value as Support['kind'] | 'flat', sign);
    if (support) sign.support = support;
    else delete sign.support;
  } else if (sign.support?.kind === 'block') {
    sign.support = { kind: 'block', body: bodyWith(sign.support.body, String(field), value) };
  } else if (sign.support) setWithin(sign, sign.support, path.slice(1), value);
  if (sign.support?.kind === 'block') refitBlock(sign, sign.support, places);
  else {
    // There are no sides to go round any more.
    for (const part of sign.parts) if (part.kind === 'text' && part.path?.kind === 'sides') delete part.path;
    refit(sign, before, was);
  }
}

type Block = Extract<Support, { kind: 'block' }>;

/** A body with one of its sizes set, or another kind of it that is about as large. */
function bodyWith(body: BlockBody, field: string, value: unknown): BlockBody {
  if (field === 'edges' && body.kind === 'box') {
    const { chamfer, ...square } = body;
    if (value === 'square') return square;
    return { ...square, chamfer: chamfer ?? Math.max(0.5, tidy(Math.min(body.width, body.height, body.depth) / 10)) };
  }
  if (field !== 'kind' || value === body.kind) return { ...body, [field]: value };
  const { width } = body;
  const height = body.kind === 'wedge' ? body.back : body.height;
  const depth = body.kind === 'prism' ? width : body.depth;
  switch (value as BlockBody['kind']) {
    case 'box':
      return { kind: 'box', width, height, depth };
    case 'prism':
      return { kind: 'prism', sides: 6, width, height };
    case 'wedge':
      return { kind: 'wedge', width, depth, front: tidy(height / 4), back: height };
  }
}

/** The blank as large as the plan of its block, and as deep; parts stay on their faces, where those are still there. */
function refitBlock(sign: Sign, support: Block, places: readonly ReturnType<typeof onFace>[]): void {
  const { faces, width, height, depth } = laidBlock(support);
  sign.blank.outline = { kind: 'rectangle', width: tidy(width), height: tidy(height), cornerRadius: 0 };
  sign.blank.thickness = tidy(depth);
  for (const key of ['edge', 'backEdge', 'cutTo'] as const) delete sign.blank[key];
  sign.parts.forEach((part, i) => {
    delete part.side;
    const was = places[i];
    const face = was && faces.find(({ id }) => id === was.face.id);
    if (face) part.place = { ...part.place, x: tidy(face.x + was.x), y: tidy(face.y + was.y) };
  });
}

/** Makes the blank as wide as it goes round, where it goes all the way round; `width` is one that was asked for. */
export function followRound(sign: Sign, width: number): boolean {
  const { support } = sign;
  if (support?.kind !== 'cylinder' || !support.round) return false;
  const was = extentOfShape(sign.blank.outline);
  support.radius = width / (2 * Math.PI);
  refit(sign, {}, was);
  return true;
}

function setWithin(sign: Sign, support: Support, path: FieldPath, value: unknown): void {
  const [first, second, third] = path;
  if (first === 'round' && (support.kind === 'cylinder' || support.kind === 'cone')) {
    if (value === 'whole') support.round = true;
    else for (const key of ['round', 'lid', 'floor', 'filled'] as const) delete support[key];
    if (value === 'whole' && support.kind === 'cylinder') delete support.axis;
  } else if (first === 'ends' && (support.kind === 'cylinder' || support.kind === 'cone')) {
    for (const key of ['lid', 'floor', 'filled'] as const) delete support[key];
    const { thickness } = sign.blank;
    if (value === 'filled') support.filled = true;
    if (value === 'floor' || value === 'both') support.floor = thickness;
    if (value === 'lid' || value === 'both') support.lid = thickness;
  } else if (first === 'around' && support.kind === 'cylinder') support.radius = (value as number) / (2 * Math.PI);
  else if (first === 'axis' && (support.kind === 'cylinder' || support.kind === 'bent')) {
    if (value === 'level') support.axis = 'level';
    else delete support.axis;
  } else if (first === 'line' && second === 'kind' && support.kind === 'swept')
    support.line = lineOf(value as Swept['line']['kind'], support.line);
  else if (first === 'line' && second === 'pieces' && support.kind === 'swept' && support.line.kind === 'pieces')
    setPiece(support.line.pieces, path.slice(2), value, { least: 1, length: 100 });
  else if (first === 'pieces' && support.kind === 'bent')
    setPiece(support.pieces, path.slice(1), value, { least: 1, length: 100 });
  else if (first === 'profile' && support.kind === 'swept')
    setPiece(support.profile, path.slice(1), value, { least: 0, length: extentOfShape(sign.blank.outline).height });
  else {
    const holder = (
      third === undefined && second === undefined ? support : (support as unknown as Record<string, object>)[String(first)]
    ) as Record<string, unknown>;
    holder[String(path[path.length - 1])] = value;
  }
}

/**
 * Sets a field of a piece of a line, makes it another kind, takes it out, or adds one at its end.
 * @param least how many pieces are left at least @param length of one that is added, in mm
 */
function setPiece(
  pieces: LinePiece[],
  [index, field]: FieldPath,
  value: unknown,
  { least, length }: { least: number; length: number },
): void {
  const at = Number(index);
  if (field !== 'kind') {
    (pieces[at] as unknown as Record<string, unknown>)[String(field)] = value;
    return;
  }
  if (value === 'none') {
    if (pieces.length > least) pieces.splice(at, 1);
    return;
  }
  pieces[at] = pieceOf(value as 'straight' | 'away' | 'towards', pieces[at] ?? { kind: 'straight', length });
}

function pieceOf(kind: 'straight' | 'away' | 'towards', before: LinePiece): LinePiece {
  if (kind === 'straight') {
    return before.kind === 'straight' ? before : { kind, length: tidy(radians(before.angle) * before.radius) };
  }
  if (before.kind === 'arc') return { ...before, bends: kind };
  const angle = 30;
  return { kind: 'arc', angle, radius: tidy(before.length / radians(angle)), bends: kind };
}

function lineOf(kind: Swept['line']['kind'], before: Swept['line']): Swept['line'] {
  if (kind === before.kind) return before;
  const length = lineLengths({ kind: 'swept', line: before, profile: [], stretch: 0 }, 1).line!;
  if (kind === 'ellipse') return { kind, width: tidy(length * 0.9), depth: tidy(length * 0.2), bends: 'away' };
  return { kind, pieces: [{ kind: 'arc', radius: tidy(length / radians(60)), angle: 60, bends: 'away' }] };
}

/** A first support of a kind, such as suits the blank. */
function supportOf(kind: Support['kind'] | 'flat', { support, blank }: Sign): Support | undefined {
  if (support?.kind === kind) return support;
  const { width, height } = extentOfShape(blank.outline);
  switch (kind) {
    case 'flat':
      return undefined;
    case 'cylinder':
      // A third of the way round.
      return { kind, radius: Math.max(tidy(width / radians(120)), blank.thickness * 2), facing: 'outside' };
    case 'cone': {
      const bottom = Math.max(tidy(width / radians(120)), blank.thickness * 4);
      return { kind, bottom, top: tidy(bottom * 0.8), height, facing: 'outside' };
    }
    case 'bent':
      return bentSheet(width, blank.thickness);
    case 'swept':
      return {
        kind,
        line: { kind: 'ellipse', width: tidy(width * 0.9), depth: tidy(width * 0.2), bends: 'away' },
        profile: [],
        stretch: USUAL_STRETCH,
      };
    case 'block':
      return { kind, body: { kind: 'box', width, height, depth: blank.thickness } };
    case 'dome':
      return { kind, radius: Math.max(width, height), facing: 'outside', stretch: USUAL_STRETCH };
  }
}

/** A sheet with one right-angled bend in its middle, as long as it was flat. */
function bentSheet(length: number, thickness: number): Bent {
  const radius = Math.max(1, tidy(thickness));
  const bend: LinePiece = { kind: 'arc', radius, angle: 90, bends: 'away' };
  const sheet = (legs: readonly LinePiece[]): Bent => ({ kind: 'bent', pieces: [...legs], neutral: 40 });
  const left = Math.max(1, (length - lineLengths(sheet([bend]), thickness).line!) / 2);
  return sheet([{ kind: 'straight', length: left }, bend, { kind: 'straight', length: left }]);
}

interface Size {
  readonly width: number;
  readonly height: number;
}

/** The blank as its support now asks, and what lies on it in the same places of it. */
function refit(sign: Sign, before: { readonly line?: number; readonly profile?: number } | undefined, was: Size): void {
  const { support, blank } = sign;
  if (!support) return;
  const all = blankAllRound(support, was.height);
  if (all) {
    blank.outline = all;
  } else if (blank.outline.kind === 'sector' && support.kind !== 'cone') {
    blank.outline = { kind: 'rectangle', width: was.width, height: was.height, cornerRadius: 0 };
  }
  if (blank.outline.kind === 'rectangle' && (support.kind === 'bent' || support.kind === 'swept')) {
    const { line, profile } = lineLengths(support, blank.thickness);
    const along = support.kind === 'bent' && support.axis === 'level' ? 'height' : 'width';
    const isNew = before?.line === undefined;
    if (line !== undefined && (isNew || Math.abs(blank.outline[along] - before.line!) < FOLLOWS)) blank.outline[along] = line;
    if (profile !== undefined && before?.profile !== undefined && Math.abs(blank.outline.height - before.profile) < FOLLOWS)
      blank.outline.height = profile;
  }
  const { width, height } = extentOfShape(blank.outline);
  const [across, up] = [width / was.width, height / was.height];
  if (!(Math.abs(across - 1) > 1e-9 || Math.abs(up - 1) > 1e-9)) return;
  for (const part of sign.parts) {
    part.place = { ...part.place, x: tidy(part.place.x * across), y: tidy(part.place.y * up) };
    if (part.kind === 'text' && part.frame)
      part.frame = { ...part.frame, width: tidy(part.frame.width * across), height: tidy(part.frame.height * up) };
  }
}

/** Whether words can go exactly once around what the sign is bent around, or around the upright sides of a block from the one that they are on. */
export function canGoAround({ support }: Sign, part: Part): boolean {
  if (part.kind !== 'text' || support === undefined) return false;
  if (support.kind === 'block') return faceAt(facesOf(support), part.place.x, part.place.y)?.isSide === true;
  return 'round' in support && support.round === true;
}

/**
 * Words go once around, with about the room of a letter between their end and their beginning: on a cylinder as wide as that, on a cone spread along
 * the level line that they are on, and around a block spread over all its sides.
 */
export function goAround(sign: Sign, id: string): void {
  const part = sign.parts.find((other) => other.id === id);
  if (part?.kind !== 'text' || !canGoAround(sign, part)) return;
  const { support } = sign;
  const letters = Math.max(...part.words.split('\n').map((line) => [...line].length), 1);
  const share = letters / (letters + 1);
  delete part.frame;
  delete part.copies;
  if (support?.kind === 'cylinder') {
    delete part.path;
    part.size = { kind: 'seen-width', width: tidy(2 * Math.PI * support.radius * share), stretch: 100 };
    part.place = { ...part.place, turn: 0 };
  } else if (support?.kind === 'cone') {
    goLevel(sign, part);
    // Spread out: the letters keep their size.
    if (part.path?.kind === 'arc') part.path = { ...part.path, span: tidy(degrees(unrolledCone(support).angle) * share) };
    part.align = 'justified';
  } else if (support?.kind === 'block') {
    part.path = { kind: 'sides', shift: 0 };
    part.align = 'justified';
  }
}

/** Words along the level line of a cone that they are on: heads up, whichever end of it is the narrow one. */
export function goLevel({ support }: Sign, part: TextPart): void {
  const arc = levelArc(support, part.place);
  if (!arc) return;
  part.place = { ...part.place, x: 0, y: arc.y, turn: 0 };
  part.path = {
    kind: 'arc',
    radius: arc.radius,
    span: 360,
    shift: 0,
    ...(arc.isApexAbove ? { reads: 'bottom', side: 'inside' } : { reads: 'top', side: 'outside' }),
  };
}

/** Copies in a row at equal angles all the way round, or with room between as they usually have. */
export function spaceAllRound({ support }: Sign, part: Part, isEven: boolean): void {
  if (part.copies?.kind !== 'row' || support?.kind !== 'cylinder' || !isEven) return;
  part.copies = { ...part.copies, stepX: tidy((2 * Math.PI * support.radius) / part.copies.count), stepY: 0 };
}

/**
 * Bends a sign along a line that was drawn: a bent sheet along it, inside radii being as much less as it is thick where it bends away; along
 * anything else as the line of the ground plan. The blank is as long as a bent sheet's line, and no longer than another.
 * @throws RangeError where a sheet of this thickness cannot be bent so sharply, with the radius
 */
export function bendAlong(sign: Sign, pieces: readonly LinePiece[]): void {
  const { support, blank } = sign;
  const was = extentOfShape(blank.outline);
  if (support?.kind === 'bent') {
    const { kind, neutral, axis } = support;
    sign.support = { kind, pieces: pieces.map((piece) => insideRadius(piece, blank.thickness)), neutral, ...(axis && { axis }) };
    refit(sign, { line: was.width }, was);
    return;
  }
  const line: Swept['line'] = { kind: 'pieces', pieces: [...pieces] };
  const { profile = [], stretch = USUAL_STRETCH, centreUp } = support?.kind === 'swept' ? support : {};
  sign.support = { kind: 'swept', line, profile, stretch, ...(centreUp !== undefined && { centreUp }) };
  const { line: length = 0 } = lineLengths(sign.support, blank.thickness);
  if (was.width > length) refit(sign, { line: was.width }, was);
}

function insideRadius(piece: LinePiece, thickness: number): LinePiece {
  if (piece.kind === 'straight' || piece.bends === 'towards') return piece;
  const radius = tidy(piece.radius - thickness);
  if (!(radius > 0))
    throw new RangeError(
      `The line bends away by a radius of ${tidy(piece.radius)} mm, and a sheet ${thickness} mm thick by no less than that.`,
    );
  return { ...piece, radius };
}
