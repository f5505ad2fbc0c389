import { type Box } from '../../geometry/index.js';
import { symbologyOf } from '../../codes/index.js';
import { codeSize } from '../document/code-symbol.js';
import { removeParts } from './edit.js';
import { type Blank } from '../document/schema-blank.js';
import { type Part, type Shape, type Sign, type TextPart } from '../document/schema.js';
import { type SeenText } from './set-field.js';

/** Factors across and up. */
export interface Factors {
  readonly across: number;
  readonly up: number;
}

const tidy = (mm: number): number => Number(mm.toFixed(4));
const most = (least: number, value: number, greatest: number): number => tidy(Math.min(greatest, Math.max(least, value)));
const extent = (mm: number): number => most(0.01, mm, 8000);

/**
 * A part made wider and higher by factors, in its own directions: words keep their words, a word made wider alone is stretched, a
 * framed text gets another frame. What has only one size (a circle, a regular polygon) takes the factor that changes it more.
 * What follows others has no size of its own and stays.
 * @param seen sizes of a text as it is set
 */
export function resized(part: Part, factors: Factors, seen?: SeenText): Part {
  return part.kind === 'text' ? resizedText(part, factors, seen) : { ...part, shape: resizedShape(part.shape, factors) };
}

/** Whether a part has a width and a height that can be changed apart. */
export function sizesApart(part: Part): boolean {
  if (part.kind === 'text') return part.path === undefined;
  if (part.shape.kind === 'code') return symbologyOf(part.shape.symbology).isLinear;
  return !['circle', 'polygon', 'border', 'combined', 'fixings', 'line', 'braille'].includes(part.shape.kind);
}

/** Whether a part has a size of its own at all. */
export const hasSize = (part: Part): boolean =>
  part.kind === 'text' || !['border', 'combined', 'fixings', 'braille'].includes(part.shape.kind);

/**
 * Factors that bring a part, which is seen in a box, to a width or height in the plan; of one that lies on its side its own other
 * size changes, and of one that is turned otherwise both.
 */
export function factorsToSize(part: Part, box: Box, what: 'width' | 'height', mm: number): Factors {
  const factor = mm / (what === 'width' ? box.maxX - box.minX : box.maxY - box.minY);
  if (!sizesApart(part) || part.place.turn % 90 !== 0) return { across: factor, up: factor };
  const isLying = Math.abs(part.place.turn % 180) === 90;
  return (what === 'width') !== isLying ? { across: factor, up: 1 } : { across: 1, up: factor };
}

function resizedText(part: TextPart, { across, up }: Factors, seen: SeenText | undefined): TextPart {
  if (part.frame) {
    const { frame } = part;
    return { ...part, frame: { ...frame, width: extent(frame.width * across), height: extent(frame.height * up) } };
  }
  const { size } = part;
  const stretch = (before: number) => most(10, (before * across) / up, 1000);
  const letters = part.letters?.map((letter) => ({
    ...letter,
    ...(letter.kern === undefined ? {} : { kern: tidy(letter.kern * across) }),
    ...(letter.x === undefined ? {} : { x: tidy(letter.x * across) }),
    ...(letter.y === undefined ? {} : { y: tidy(letter.y * up) }),
  }));
  const leading = part.leading.kind === 'length' ? { ...part.leading, length: extent(part.leading.length * up) } : part.leading;
  const rest = { ...part, leading, ...(letters ? { letters } : {}) };
  switch (size.kind) {
    case 'capitals':
      return { ...rest, size: { ...size, height: most(0.5, size.height * up, 4000), stretch: stretch(size.stretch) } };
    case 'em':
      return { ...rest, size: { ...size, size: most(0.5, size.size * up, 4000), stretch: stretch(size.stretch) } };
    case 'seen-height':
      return { ...rest, size: { ...size, height: extent(size.height * up), stretch: stretch(size.stretch) } };
    case 'seen-width':
      // Made higher alone it needs another kind of size, which is that of what was seen.
      if (across === up || !seen)
        return { ...rest, size: { ...size, width: extent(size.width * across), stretch: stretch(size.stretch) } };
      return { ...rest, size: { kind: 'seen', width: extent(seen.width * across), height: extent(seen.height * up) } };
    case 'seen':
      return { ...rest, size: { kind: 'seen', width: extent(size.width * across), height: extent(size.height * up) } };
  }
}

function resizedShape<S extends Shape | Blank['outline']>(shape: S, { across, up }: Factors): S {
  const one = Math.abs(Math.log(across)) > Math.abs(Math.log(up)) ? across : up;
  switch (shape.kind) {
    case 'rectangle':
    case 'ellipse':
    case 'stadium':
    case 'outline':
      return { ...shape, width: extent(shape.width * across), height: extent(shape.height * up) };
    case 'arch':
      return { ...shape, width: extent(shape.width * across), height: extent(shape.height * up), rise: extent(shape.rise * up) };
    case 'sector':
      return { ...shape, radius: extent(shape.radius * one), height: extent(shape.height * one) };
    case 'circle':
    case 'polygon':
      return { ...shape, diameter: extent(shape.diameter * one) };
    case 'line':
      return { ...shape, length: extent(shape.length * across) };
    case 'code':
      if (!symbologyOf(shape.symbology).isLinear) return { ...shape, module: most(0.05, shape.module * one, 100) };
      return { ...shape, module: most(0.05, shape.module * across, 100), height: most(0.5, codeSize(shape).height * up, 1000) };
    default:
      return shape;
  }
}

/** Whether a part's outline can be that of the blank: it has sizes of its own and stands upright. */
export const canBeBlank = (part: Part): boolean =>
  part.kind === 'shape' &&
  !['border', 'combined', 'fixings', 'line', 'braille', 'code'].includes(part.shape.kind) &&
  part.place.turn === 0 &&
  !part.place.mirror;

/** Makes a part's outline that of the blank, in a sign that may be changed; the design stays where it is on it. */
export function becomeBlank(sign: Sign, id: string): void {
  const part = sign.parts.find((other) => other.id === id);
  if (part?.kind !== 'shape' || !canBeBlank(part)) return;
  sign.blank.outline = part.shape as Blank['outline'];
  const { x, y } = part.place;
  removeParts(sign, [id]);
  for (const { place } of sign.parts) Object.assign(place, { x: tidy(place.x - x), y: tidy(place.y - y) });
  Object.assign(sign.section, { x: tidy(sign.section.x - x), y: tidy(sign.section.y - y) });
}

/**
 * A part with all its sizes across by a factor: its outline and words, corners, insets, frame, line and copies, but no heights.
 * Its place stays.
 * @param seen sizes of a text as it is set
 */
export function scaledPart(part: Part, factor: number, seen?: SeenText): Part {
  const factors = { across: factor, up: factor };
  const next = { ...resized(part, factors, seen) };
  if (next.kind === 'shape') {
    const { shape } = next;
    if (shape.kind === 'rectangle') next.shape = { ...shape, cornerRadius: tidy(shape.cornerRadius * factor) };
    if (shape.kind === 'border') next.shape = { ...shape, inset: tidy(shape.inset * factor), width: tidy(shape.width * factor) };
    if (shape.kind === 'fixings') next.shape = { ...shape, inset: tidy(shape.inset * factor) };
  } else {
    // The words of a frame as well.
    if (next.frame) next.size = (resizedText({ ...next, frame: undefined }, factors, seen) as TextPart).size;
    if (next.path?.kind === 'arc')
      next.path = { ...next.path, radius: most(0.5, next.path.radius * factor, 4000), shift: tidy(next.path.shift * factor) };
    else if (next.path?.kind === 'straight') next.path = { ...next.path, length: extent(next.path.length * factor) };
  }
  if (next.copies?.kind === 'row')
    next.copies = { ...next.copies, stepX: tidy(next.copies.stepX * factor), stepY: tidy(next.copies.stepY * factor) };
  if (next.copies?.kind === 'ring') next.copies = { ...next.copies, radius: tidy(next.copies.radius * factor) };
  return next;
}

/** Parts made larger or smaller together about a point that stays: their sizes, and the ways between them. */
export function scaledTogether(
  parts: readonly Part[],
  factor: number,
  about: { readonly x: number; readonly y: number },
  seenOf: (id: string) => SeenText | undefined = () => undefined,
): Part[] {
  const from = (stays: number, mm: number) => tidy(stays + (mm - stays) * factor);
  return parts.map((part) => ({
    ...scaledPart(part, factor, seenOf(part.id)),
    place: { ...part.place, x: from(about.x, part.place.x), y: from(about.y, part.place.y) },
  }));
}

/**
 * The whole design brought to another size with its blank: places, sizes and outlines, but neither thickness nor heights. Only
 * on asking: a new size of the blank by itself moves nothing.
 */
export function scaledDesign(sign: Sign, factor: number): void {
  const factors = { across: factor, up: factor };
  sign.blank.outline = resizedShape(sign.blank.outline, factors);
  if (sign.blank.outline.kind === 'rectangle') sign.blank.outline.cornerRadius = tidy(sign.blank.outline.cornerRadius * factor);
  sign.parts = scaledTogether(sign.parts, factor, { x: 0, y: 0 });
}
