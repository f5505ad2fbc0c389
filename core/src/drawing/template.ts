import { type Box, bounds, circle } from '../geometry/index.js';
import { type Evaluation } from '../relief/index.js';
import { surfaceOf } from '../support/index.js';
import { formatLength } from '../units/index.js';
import { type Drawing, type Item, type Pen } from './drawing.js';
import { holesOf } from './holes.js';
import { FAINT, INK } from './palette.js';
import { edgeOf, productionOutlines } from './plan.js';
import { supportLineItems, supportLines } from './support-lines.js';

/** Height of the words on a template, in mm. */
const WORDS = 4;
/** How far lines of a template reach past the sign, in mm. */
const PAST = 12;

/**
 * What is taped to a wall to mount a sign by, at full size: its outlines, a level line through its middle and an upright one, and every
 * hole with its cross and its diameter.
 */
export function templateDrawing(evaluation: Evaluation): Drawing {
  const { sign } = evaluation;
  const outer = bounds(edgeOf(evaluation)) ?? bounds([evaluation.blank])!;
  const { minX, minY, maxX, maxY } = outer;
  const [x, y] = [(minX + maxX) / 2, (minY + maxY) / 2];
  const fine = { width: 0.2, colour: INK };
  const pens: Readonly<Record<string, Pen>> = {
    'blank edge': { width: 0.4, colour: INK },
    letters: { width: 0.4, colour: INK },
    'cut through': { width: 0.3, colour: INK },
  };
  const items: Item[] = productionOutlines(evaluation).items.map((item) =>
    item.kind === 'label' ? item : { ...item, pen: pens[item.layer] ?? { width: 0.2, colour: FAINT } },
  );
  const line = (layer: string, points: readonly number[], pen: Pen): Item => ({
    kind: 'line',
    layer,
    points: Float64Array.from(points),
    closed: false,
    pen,
  });
  const dashed = { ...fine, dash: [6, 2] };
  const label = (text: string, at: { x: number; y: number }): Item => ({
    kind: 'label',
    layer: 'words',
    ...at,
    text,
    height: WORDS,
    align: 'left',
    turn: 0,
    colour: INK,
  });
  items.push(
    line('level line', [minX - PAST, y, maxX + PAST, y], dashed),
    label('level', { x: minX - PAST, y: y + 1.5 }),
    line('level line', [x, minY - PAST, x, maxY + PAST], dashed),
    label('middle', { x: x + 1.5, y: maxY + PAST - WORDS }),
  );
  for (const { x: hx, y: hy, diameter, kind } of holesOf(evaluation)) {
    const half = Math.max(diameter, 6);
    items.push(
      line('holes', [hx - half, hy, hx + half, hy], fine),
      line('holes', [hx, hy - half, hx, hy + half], fine),
      label(`${kind === 'stud' ? 'stud ' : ''}Ø ${formatLength(diameter, sign.unit)}`, {
        x: hx + half * 0.4,
        y: hy + half * 0.5,
      }),
    );
    // The holes of letters lie behind them, and are none of their outlines.
    if (kind === 'stud')
      items.push({ kind: 'line', layer: 'holes', points: circle(hx, hy, diameter / 2), closed: true, pen: fine });
  }
  items.push(...supportLineItems(evaluation, WORDS), ...overlapItems(evaluation, dashed));
  const reach = PAST + WORDS + (surfaceOf(sign)?.round ? OVERLAP : 0);
  return { items, bounds: { minX: minX - reach, minY: minY - reach, maxX: maxX + reach, maxY: maxY + reach } };
}

/** mm by which a template that wraps round goes on beyond its seam, to be stuck under the other end. */
export const OVERLAP = 15;

/** The strip beyond the seam on the right, of a template that wraps all the way round. */
function overlapItems(evaluation: Evaluation, pen: Pen): Item[] {
  const round = surfaceOf(evaluation.sign)?.round;
  const left = supportLines(evaluation).find(({ kind, from }) => kind === 'seam' && from[0] < 0);
  if (!round || !left) return [];
  const times = 1 + OVERLAP / round.length;
  const [a, b, c, d] = [
    round.moved(...left.from, 1),
    round.moved(...left.from, times),
    round.moved(...left.to, times),
    round.moved(...left.to, 1),
  ];
  const words: Item = { kind: 'label', layer: 'words', x: (b[0] + c[0]) / 2 - 1, y: (b[1] + c[1]) / 2, text: 'overlap, stick under', height: WORDS * 0.7, align: 'centre', turn: 90, colour: INK }; // prettier-ignore
  return [{ kind: 'line', layer: 'overlap', points: Float64Array.of(...a, ...b, ...c, ...d), closed: false, pen }, words];
}

/** A sheet of a template: its row from the top, its column from the left, and what of the drawing it shows. */
export interface Tile {
  readonly row: number;
  readonly column: number;
  readonly window: Box;
}

/**
 * The sheets that a drawing is cut into, each so many mm wide and high, neighbours sharing a strip.
 * @param overlap width of the strip, less than half of a sheet
 */
export function tilesOf({ minX, minY, maxX, maxY }: Box, width: number, height: number, overlap: number): Tile[] {
  const count = (length: number, sheet: number): number => Math.max(1, Math.ceil((length - overlap) / (sheet - overlap) - 1e-9));
  const [columns, rows] = [count(maxX - minX, width), count(maxY - minY, height)];
  // In the middle of what the sheets cover.
  const covered = (many: number, sheet: number): number => many * (sheet - overlap) + overlap;
  const left = (minX + maxX) / 2 - covered(columns, width) / 2;
  const top = (minY + maxY) / 2 + covered(rows, height) / 2;
  return Array.from({ length: rows * columns }, (_, i): Tile => {
    const [row, column] = [Math.floor(i / columns), i % columns];
    const [x, y] = [left + column * (width - overlap), top - row * (height - overlap)];
    return { row, column, window: { minX: x, minY: y - height, maxX: x + width, maxY: y } };
  });
}
