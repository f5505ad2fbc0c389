import { union } from '../arrangement/index.js';
import { bounds, type Box, type Contour, PieceCurve, polygonsOf, radians } from '../geometry/index.js';
import { type Evaluation } from '../relief/index.js';
import { laidBlock, lineCurve, profileCurve, sheetPieces, type Support, unrolledCone } from '../sign/index.js';
import { surfaceOf, type SupportSurface } from '../support/index.js';
import { formatLength } from '../units/index.js';
import { type Item } from './drawing.js';
import { FAINT, INK } from './palette.js';

/** A line of the plan that tells how the sign is bent. */
export interface SupportLine {
  /** The seam of what goes all the way round, a quarter of the way, where a bend begins or ends, or its middle; the top of a face of a block. */
  readonly kind: 'seam' | 'quarter' | 'bend' | 'middle of a bend' | 'face';
  readonly from: readonly [number, number];
  readonly to: readonly [number, number];
  readonly words: string;
}

/** Lines of the plan that tell how a sign is bent: its seam and quarters, and where it bends; none of a flat one. */
export function supportLines(evaluation: Evaluation): SupportLine[] {
  const { sign, side } = evaluation;
  const { support, unit, blank } = sign;
  const box = bounds([evaluation.blank]);
  if (!support || !box) return [];
  const lines = linesOf(support, blank.thickness, box, evaluation.blank, (mm) => formatLength(mm, unit));
  if (side === 'front') return lines;
  return lines.map(({ from, to, ...rest }) => ({ ...rest, from: [-from[0], from[1]], to: [-to[0], to[1]] }));
}

function linesOf(support: Support, thickness: number, box: Box, contour: Contour, words: (mm: number) => string): SupportLine[] {
  switch (support.kind) {
    case 'cylinder': {
      const isLevel = support.axis === 'level';
      const [from, to] = isLevel ? [box.minY, box.maxY] : [box.minX, box.maxX];
      const quarter = (Math.PI / 2) * support.radius;
      const lines: SupportLine[] = [];
      for (let i = Math.ceil(from / quarter - 1e-4); i <= to / quarter + 1e-4; i++) {
        const isSeam = support.round === true && Math.abs(i) === 2;
        lines.push({
          kind: isSeam ? 'seam' : 'quarter',
          ...across(box, i * quarter, isLevel),
          words: isSeam ? 'seam' : `${90 * i}°`.replace('-', '−'),
        });
      }
      return lines;
    }
    case 'cone':
      return coneLines(support, box, contour);
    case 'bent': {
      const pieces = sheetPieces(support, thickness);
      const { breaks } = new PieceCurve(pieces, support.centre);
      return pieces.flatMap(({ bend }, i): SupportLine[] => {
        if (bend === 0) return [];
        const piece = support.pieces[i];
        if (piece.kind !== 'arc') return [];
        const isLevel = support.axis === 'level';
        const [begin, end] = [breaks[i], breaks[i + 1]];
        const told = `${Number(piece.angle.toFixed(1))}° ${piece.bends === 'away' ? 'away' : 'towards'}, inside radius ${words(piece.radius)}`;
        return [
          { kind: 'bend', ...across(box, begin, isLevel), words: '' },
          { kind: 'middle of a bend', ...across(box, (begin + end) / 2, isLevel), words: told },
          { kind: 'bend', ...across(box, end, isLevel), words: '' },
        ].filter(({ from: [x, y] }) =>
          isLevel ? y >= box.minY && y <= box.maxY : x >= box.minX && x <= box.maxX,
        ) as SupportLine[];
      });
    }
    case 'swept': {
      const inside = (at: number, from: number, to: number): boolean => at > from + 1e-6 && at < to - 1e-6;
      return [
        ...lineCurve(support.line, support.centre)
          .breaks.filter((at) => inside(at, box.minX, box.maxX))
          .map((at): SupportLine => ({ kind: 'bend', ...across(box, at, false), words: '' })),
        ...profileCurve(support)
          .breaks.filter((at) => inside(at, box.minY, box.maxY))
          .map((at): SupportLine => ({ kind: 'bend', ...across(box, at, true), words: '' })),
        { kind: 'quarter', ...across(box, 0, false), words: 'middle' },
      ];
    }
    case 'dome':
      return [];
    case 'block':
      return laidBlock(support).faces.map(({ x, outline, name }): SupportLine => {
        const { minX, maxX, minY, maxY } = bounds([outline])!;
        return { kind: 'face', from: [x, maxY], to: [x, maxY], words: `${name}, ${words(maxX - minX)} × ${words(maxY - minY)}` };
      });
  }
}

const across = ({ minX, maxX, minY, maxY }: Box, at: number, isLevel: boolean): Pick<SupportLine, 'from' | 'to'> =>
  isLevel ? { from: [minX, at], to: [maxX, at] } : { from: [at, minY], to: [at, maxY] };

/** Lines from the apex, a quarter of the way round from each other, from the inner to the outer edge of the blank. */
function coneLines(support: Extract<Support, { kind: 'cone' }>, box: Box, contour: Contour): SupportLine[] {
  if (support.bottom === support.top) return [];
  const { apex, angle, isApexAbove } = unrolledCone(support);
  const distances = Array.from({ length: contour.length / 2 }, (_, i) => Math.hypot(contour[2 * i], contour[2 * i + 1] - apex));
  const [near, far] = [distances.reduce((a, b) => Math.min(a, b)), distances.reduce((a, b) => Math.max(a, b))];
  const lines: SupportLine[] = [];
  for (let i = -2; i <= 2; i++) {
    const turn = (radians(90 * i) * angle) / (2 * Math.PI);
    const at = (r: number): readonly [number, number] => [
      r * Math.sin(turn),
      isApexAbove ? apex - r * Math.cos(turn) : apex + r * Math.cos(turn),
    ];
    const [from, to] = [at(near), at(far)];
    if (Math.min(from[0], to[0]) < box.minX - 0.1 || Math.max(from[0], to[0]) > box.maxX + 0.1) continue;
    const isSeam = support.round === true && Math.abs(i) === 2;
    if (Math.abs(i) === 2 && !isSeam) continue;
    lines.push({ kind: isSeam ? 'seam' : 'quarter', from, to, words: isSeam ? 'seam' : `${90 * i}°`.replace('-', '−') });
  }
  return lines;
}

/** The least radius that a surface is bent with at a place, `behind` mm behind its face, and which way; undefined where it is flat there. */
function bendAt(surface: SupportSurface, x: number, y: number, behind: number): { radius: number; isAway: boolean } | undefined {
  const [bases, raised] = [surface.stretch(x, y, 0), surface.stretch(x, y, 1)];
  // Lengths at z above the face are 1 + z · bend times as long as there.
  const bends = bases.map((base, i) => raised[i] / base - 1);
  const bend = bends.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a));
  if (Math.abs(bend) < FLATTEST) return undefined;
  return { radius: Math.abs(1 / bend - behind), isAway: bend > 0 };
}

/** Bends per mm below which a piece counts as flat: a radius of 1 km. */
const FLATTEST = 1e-6;

/** Letters that are cut flat and bent on: for every piece the radius that its back is bent to, where it is bent. */
export function bendRadii(evaluation: Evaluation): { readonly x: number; readonly y: number; readonly words: string }[] {
  const { sign, kept, side } = evaluation;
  const surface = surfaceOf(sign);
  if (!surface || !sign.blank.cutTo || !kept) return [];
  return polygonsOf(union(kept)).flatMap(({ outer }) => {
    const { minX, maxX, minY } = bounds([outer])!;
    const x = (minX + maxX) / 2;
    const bend = bendAt(surface, side === 'front' ? x : -x, minY, sign.blank.thickness);
    if (!bend) return [];
    return [{ x, y: minY, words: `R ${formatLength(bend.radius, sign.unit)}${bend.isAway ? '' : ' towards'}` }];
  });
}

/** The same lines as they are drawn, each with its words at its upper end; under letters that are bent on their radii. */
export function supportLineItems(evaluation: Evaluation, textHeight: number): Item[] {
  const radii = bendRadii(evaluation).map(({ x, y, words }): Item => ({ kind: 'label', layer: 'bends', x, y: y - textHeight * 1.1, text: words, height: textHeight * 0.7, align: 'centre', turn: 0, colour: FAINT })); // prettier-ignore
  return [...radii, ...supportLineItemsOf(evaluation, textHeight)];
}

function supportLineItemsOf(evaluation: Evaluation, textHeight: number): Item[] {
  return supportLines(evaluation).flatMap(({ kind, from, to, words }): Item[] => {
    const top = to[1] >= from[1] ? to : from;
    const line: Item = {
      kind: 'line',
      layer: kind === 'seam' ? 'seam' : kind === 'quarter' ? 'quarters' : 'bends',
      points: Float64Array.of(...from, ...to),
      closed: false,
      pen: {
        width: textHeight / 14,
        colour: kind === 'seam' ? INK : FAINT,
        ...(kind !== 'bend' && { dash: [textHeight, textHeight / 2] }),
      },
    };
    if (words === '') return [line];
    const label: Item = { kind: 'label', layer: 'dimensions', x: top[0], y: top[1] + textHeight * 0.5, text: words, height: textHeight * 0.8, align: 'centre', turn: 0, colour: FAINT }; // prettier-ignore
    return kind === 'face' ? [label] : [line, label];
  });
}

/** A cell of a plan with how much longer, or shorter, the surface is there: its middle, its size, and the share. */
export interface StretchCell {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly share: number;
}

/** Cells along the longer side of a blank. */
const CELLS = 48;

/** How the face is stretched all over a blank, by the principal stretch that differs most; empty where it is not, as on a cylinder. */
export function stretchCells(evaluation: Evaluation): StretchCell[] {
  const surface = surfaceOf(evaluation.sign);
  const box = bounds([evaluation.blank]);
  if (!surface || surface.isDevelopable || !box) return [];
  const [wide, high] = [box.maxX - box.minX, box.maxY - box.minY];
  const size = Math.max(wide, high) / CELLS;
  const [columns, rows] = [Math.max(1, Math.round(wide / size)), Math.max(1, Math.round(high / size))];
  const cells: StretchCell[] = [];
  for (let i = 0; i < columns; i++) {
    for (let j = 0; j < rows; j++) {
      const [x, y] = [box.minX + ((i + 0.5) * wide) / columns, box.minY + ((j + 0.5) * high) / rows];
      const share = surface
        .stretch(evaluation.side === 'front' ? x : -x, y, 0)
        .map((stretch) => stretch - 1)
        .reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a));
      cells.push({ x, y, width: wide / columns, height: high / rows, share });
    }
  }
  return cells;
}
