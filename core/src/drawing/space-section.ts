import {
  bounds,
  weightedSum,
  cross,
  degrees,
  direction,
  dot,
  minus,
  type Outline,
  unit,
  type Vector,
} from '../geometry/index.js';
import { type Mesh } from '../mesh/index.js';
import { type Evaluation } from '../relief/index.js';
import { type BlockBody, type SectionLine, type Sign } from '../sign/index.js';
import { planeSection } from '../solid/index.js';
import { type SupportSurface, surfaceOf } from '../support/index.js';
import { lengthWords } from '../units/index.js';
import { type Drawing, type Item } from './drawing.js';
import { INK } from './palette.js';
import { SECTION_FILL } from './section.js';

/**
 * What a plane cuts of a solid in space: the one that stands square to the surface at the line's point, along the line's direction there; along
 * a level line of a cone, or of a face that is curved both ways, the level one, across the axis. x runs along the line and y out of the surface,
 * both from that point.
 * @param solid in space, of the front
 */
export function spaceSection(sign: Sign, solid: Mesh, line: SectionLine): Outline {
  const surface = surfaceOf(sign);
  const frame = surface ? frameAt(surface, line) : flatFrame(line);
  const { positions: p } = solid;
  const turned = new Float64Array(p.length);
  for (let v = 0; v < p.length; v += 3) {
    const [x, y, z] = [p[v] - frame.at[0], p[v + 1] - frame.at[1], p[v + 2] - frame.at[2]];
    frame.axes.forEach((axis, k) => (turned[v + k] = axis[0] * x + axis[1] * y + axis[2] * z));
  }
  // The plane's own coordinates are the two that follow the one that it is at.
  return planeSection({ positions: turned, triangles: solid.triangles }, 0, 0);
}

/** The line's point in space, and the directions square to its plane, along the line, and out of the surface. */
interface Frame {
  readonly at: Vector;
  readonly axes: readonly [Vector, Vector, Vector];
}

function flatFrame({ x, y, turn }: SectionLine): Frame {
  const { cos, sin } = direction(turn);
  return { at: [x, y, 0], axes: [[sin, -cos, 0], [cos, sin, 0], [0, 0, 1]] }; // prettier-ignore
}

/** How much a line may rise for each mm and count as level: 1°. */
const LEVEL = Math.sin(Math.PI / 180);

/** mm of the plan over which the direction of a line in space is taken. */
const NEAR = 1e-3;

function frameAt(surface: SupportSurface, { x, y, turn }: SectionLine): Frame {
  const { cos, sin } = direction(turn);
  const [p, q, normal] = [new Float64Array(3), new Float64Array(3), new Float64Array(3)];
  surface.place(x, y, 0, p, 0);
  surface.place(x + NEAR * cos, y + NEAR * sin, 0, q, 0);
  surface.normal(x, y, normal, 0);
  const out: Vector = [normal[0], normal[1], normal[2]];
  // Along the line, and square to the normal.
  const at: Vector = [p[0], p[1], p[2]];
  const raw = minus([q[0], q[1], q[2]], at);
  const along = unit(weightedSum([1, raw], [-dot(raw, out), out]));
  if (!surface.hasLevelLines || Math.abs(along[1]) > LEVEL) return { at, axes: [cross(along, out), along, out] };
  const across = unit([out[0], 0, out[2]]);
  // Square to what is upright: the line's own direction but for less than a degree.
  const level = cross([0, 1, 0], across);
  const run = dot(level, along) < 0 ? weightedSum([-1, level]) : level;
  return { at, axes: [cross(run, across), run, across] };
}

/** The radius at which a level line of a cone runs; undefined of any other line. */
function radiusThere(sign: Sign, line: SectionLine): number | undefined {
  const { support } = sign;
  if (support?.kind !== 'cone') return undefined;
  const surface = surfaceOf(sign)!;
  const { at, axes } = frameAt(surface, line);
  if (Math.abs(axes[0][1]) < 1 - 1e-9) return undefined;
  return (support.bottom + support.top) / 2 + ((support.top - support.bottom) * at[1]) / support.height;
}

/** Mean width of a letter of a label as a share of the height of its capitals. */
const LETTER_WIDTH = 0.68;

/** The section in space as a drawing, with what is known of the support under it. */
export function spaceSectionDrawing(evaluation: Evaluation, solid: Mesh, line: SectionLine, textHeight: number): Drawing {
  const { sign } = evaluation;
  const outline = spaceSection(sign, solid, line);
  const box = bounds(outline) ?? { minX: -1, minY: -1, maxX: 1, maxY: 1 };
  const words = supportFigures(evaluation, { line });
  const items: Item[] = [
    {
      kind: 'area',
      layer: 'section',
      outline,
      fill: { kind: 'plain', colour: SECTION_FILL },
      pen: { width: textHeight / 12, colour: INK },
    },
    ...words.map((text, i): Item => ({
      kind: 'label',
      layer: 'dimensions',
      x: (box.minX + box.maxX) / 2,
      y: box.minY - textHeight * (2.2 + 1.7 * i),
      text,
      height: textHeight,
      align: 'centre',
      turn: 0,
      colour: INK,
    })),
  ];
  const half = Math.max(0, ...words.map(({ length }) => (length * LETTER_WIDTH * textHeight) / 2));
  const middle = (box.minX + box.maxX) / 2;
  return {
    items,
    bounds: {
      minX: Math.min(box.minX, middle - half) - textHeight,
      minY: box.minY - textHeight * (2 + 1.7 * words.length),
      maxX: Math.max(box.maxX, middle + half) + textHeight,
      maxY: box.maxY + textHeight,
    },
  };
}

/**
 * What a sign is bent around, in figures: radii, arc lengths and degrees.
 * @param of the line of a section that they stand beside
 */
export function supportFigures(
  { sign, blank }: Evaluation,
  { isInBothUnits = false, line }: { readonly isInBothUnits?: boolean; readonly line?: SectionLine } = {},
): string[] {
  const { support } = sign;
  const words = (mm: number): string => lengthWords(mm, sign.unit, isInBothUnits);
  const { minX, maxX, minY, maxY } = bounds([blank])!;
  switch (support?.kind) {
    case undefined:
      return [];
    case 'cylinder': {
      const arc = support.axis === 'level' ? maxY - minY : maxX - minX;
      const round = support.round ? 'once round' : `${Number(degrees(arc / support.radius).toFixed(1))}° round`;
      return [`face: radius ${words(support.radius)}, ${support.facing}`, `${words(arc)}, ${round}`];
    }
    case 'cone': {
      const there = line && radiusThere(sign, line);
      return [
        `face: radius ${words(support.bottom)} below, ${words(support.top)} above`,
        ...(there === undefined ? [] : [`radius ${words(Number(there.toFixed(3)))} in the section`]),
        `${words(support.height)} high`,
      ];
    }
    case 'bent':
      return support.pieces.flatMap((piece) =>
        piece.kind === 'arc' ? [`bend of ${Number(piece.angle.toFixed(1))}°, inside radius ${words(piece.radius)}`] : [],
      );
    case 'swept':
      return support.line.kind === 'ellipse'
        ? [`ellipse ${words(support.line.width)} wide, ${words(support.line.depth)} deep`, `${words(maxX - minX)} along it`]
        : [`${words(maxX - minX)} along the line`];
    case 'dome':
      return [`sphere of radius ${words(support.radius)}, ${support.facing}`];
    case 'block':
      return [bodyFigures(support.body, words)];
  }
}

function bodyFigures(body: BlockBody, words: (mm: number) => string): string {
  switch (body.kind) {
    case 'box':
      return `block ${words(body.width)} wide, ${words(body.height)} high, ${words(body.depth)} deep`;
    case 'prism':
      return `${body.sides} sides, each ${words(body.width)} wide, ${words(body.height)} high`;
    case 'wedge':
      return `wedge ${words(body.width)} wide, ${words(body.depth)} deep, ${words(body.front)} high in front, ${words(body.back)} at the back`;
  }
}
