import { ballCap, brailleLayout, type PlacedDot } from '../../braille/index.js';
import {
  area,
  bounds,
  contains,
  contourArea,
  direction,
  middleOfBox,
  type Outline,
  placement,
  placePoint,
  reversed,
} from '../../geometry/index.js';
import { type Evaluation } from '../../relief/index.js';
import { type BrailleShape, type ShapePart, sideOf } from '../../sign/index.js';
import { type Sections } from './sections.js';

/** A dot of braille as it is made; its place is the middle of its base. */
export interface Dot extends PlacedDot {
  /** Diameter of a circle as large as its base, in mm. */
  readonly base: number;
  readonly height: number;
  /** Diameter half-way up, in percent of that at the base. */
  readonly half: number;
  readonly rings: Outline;
}

export interface DottedPart {
  readonly part: ShapePart & { readonly shape: BrailleShape };
  readonly dots: readonly Dot[];
  /** Dots that were asked for. */
  readonly asked: number;
}

const acrossOf = (rings: Outline): number => 2 * Math.sqrt(Math.max(0, area(rings)) / Math.PI);

/** The braille of the side that is turned to the reader, each dot measured. */
export function dotsIn(evaluation: Evaluation, sections: Sections): DottedPart[] {
  return evaluation.sign.parts.flatMap((part): DottedPart[] => {
    if (part.kind !== 'shape' || part.shape.kind !== 'braille' || part.hidden || sideOf(part) !== evaluation.side) return [];
    const { shape } = part;
    const { base, dots: pitch, cell, line, ball, cells, align, room } = shape;
    const put = placement(part.place);
    const sizes = { base: ball ?? base, dots: pitch, cells: cell, lines: line };
    const layout = brailleLayout(cells, sizes, align, room).dots;
    const dots = layout.flatMap((dot): Dot[] => {
      const [x, y] = placePoint(put, dot.x, dot.y);
      const found = ball === undefined ? domeAt(sections, x, y, 2 * base) : ballAt(sections, x, y, ball);
      return found ? [{ ...found, line: dot.line, cell: dot.cell, column: dot.column, row: dot.row }] : [];
    });
    return [{ part: { ...part, shape }, dots, asked: layout.length }];
  });
}

type Found = Omit<Dot, 'line' | 'cell' | 'column' | 'row'>;

/** What stands over a place on its ground, no wider than `most`. */
function domeAt(sections: Sections, x: number, y: number, most: number): Found | undefined {
  const ground = groundAt(sections, x, y, most / 2);
  const piece = sections.above(ground).find(({ rings, box }) => box.maxX - box.minX < 2 * most && contains(rings, x, y));
  if (!piece) return undefined;
  const { rings } = piece;
  const { high } = sections.reachIn(rings, ground);
  const height = high - ground;
  const middle = middleOfBox(bounds(rings)!);
  const upper = sections.below(ground + height / 2).find((other) => contains(other.rings, x, y));
  const base = acrossOf(rings);
  return { ...middle, base, height, half: upper ? (100 * acrossOf(upper.rings)) / base : 0, rings };
}

/** A hole at a place, and what of a ball stands out of it. */
function ballAt(sections: Sections, x: number, y: number, ball: number): Found | undefined {
  const ground = groundAt(sections, x, y, ball);
  const hole = sections
    .below(ground)
    .flatMap(({ rings }) => rings.slice(1))
    .find((ring) => contains([ring], x, y) && -contourArea(ring) < 4 * ball * ball);
  if (!hole) return undefined;
  const rings = [hole];
  const { height, base } = ballCap(ball, ground - sections.levelAt(x, y));
  // A ball in a hole that is wider than it falls out, or through.
  if (acrossOf([reversed(hole)]) > ball + LOOSE) return undefined;
  const half = height <= 0 ? 0 : (100 * 2 * Math.sqrt((height / 2) * (ball - height / 2))) / base;
  return { ...middleOfBox(bounds(rings)!), base, height, half, rings };
}

/** mm by which a hole may be wider than its ball. */
const LOOSE = 0.1;

/** Looked up around a dot so far from its middle, in times its diameter: outside of it, and not yet in the next one. */
const AROUND = 0.75;
const PLACES = 8;

/** The level that a dot stands on. */
function groundAt(sections: Sections, x: number, y: number, across: number): number {
  const levels = Array.from({ length: PLACES }, (_, i) => {
    const { cos, sin } = direction((360 * (i + 0.5)) / PLACES);
    return sections.levelAt(x + AROUND * across * cos, y + AROUND * across * sin);
  });
  return levels.sort((a, b) => a - b)[PLACES / 2];
}
