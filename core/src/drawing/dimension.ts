import { degrees, radians } from '../geometry/index.js';
import { type Item, type Pen } from './drawing.js';
import { INK } from './palette.js';

export interface DimensionChoice {
  readonly from: readonly [number, number];
  readonly to: readonly [number, number];
  /** How far beside the measured points the dimension line runs, to the left of the way from `from` to `to`. */
  readonly beside: number;
  readonly text: string;
  /** Height of the figures in mm of the drawing; line widths and ticks follow it. */
  readonly textHeight: number;
  readonly layer?: string;
}

/** Mean width of a figure as a share of its height (common practice, no source). */
export const FIGURE_WIDTH = 0.8;

/** Whether a stretch is too short to carry its figure between its extension lines. */
export const isTooShort = (length: number, text: string, textHeight: number): boolean =>
  length < (text.length * FIGURE_WIDTH + 0.8) * textHeight;

/** A dimension: two extension lines, a dimension line with oblique ticks, and its figure above the line. */
export function dimension({ from, to, beside, text, textHeight, layer = 'dimensions' }: DimensionChoice): Item[] {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  if (length === 0) return [];
  const [ux, uy] = [(to[0] - from[0]) / length, (to[1] - from[1]) / length];
  const [nx, ny] = [-uy, ux];
  const pen: Pen = { width: textHeight / 14, colour: INK };
  const side = Math.sign(beside) || 1;
  const line = (ax: number, ay: number, bx: number, by: number): Item => ({
    kind: 'line',
    layer,
    points: Float64Array.of(ax, ay, bx, by),
    closed: false,
    pen,
  });
  const items: Item[] = [];
  for (const [px, py] of [from, to]) {
    const gap = side * textHeight * 0.4;
    const over = beside + side * textHeight * 0.5;
    items.push(line(px + nx * gap, py + ny * gap, px + nx * over, py + ny * over));
    const [tx, ty] = [px + nx * beside, py + ny * beside];
    const tick = textHeight * 0.35;
    items.push(line(tx - (ux + nx) * tick, ty - (uy + ny) * tick, tx + (ux + nx) * tick, ty + (uy + ny) * tick));
  }
  const [ax, ay] = [from[0] + nx * beside, from[1] + ny * beside];
  const [bx, by] = [to[0] + nx * beside, to[1] + ny * beside];
  items.push(line(ax, ay, bx, by));

  const label = { kind: 'label', layer, text, height: textHeight, colour: INK } as const;
  if (isTooShort(length, text, textHeight)) {
    // Too short to carry its figure: it stands upright beside the line.
    const [x, y] = [(ax + bx) / 2 + nx * side * textHeight * 0.7, (ay + by) / 2 + ny * side * textHeight * 0.7];
    const align = Math.abs(nx) < 0.5 ? 'centre' : nx * side < 0 ? 'right' : 'left';
    const drop = Math.abs(nx) < 0.5 && ny * side < 0 ? textHeight : Math.abs(nx) < 0.5 ? 0 : textHeight / 2;
    items.push({ ...label, x, y: y - drop, align, turn: 0 });
    return items;
  }
  // Read from below or from the right, whichever way the points were given.
  let turn = degrees(Math.atan2(uy, ux));
  if (turn > 90.001) turn -= 180;
  if (turn <= -89.999) turn += 180;
  const up = [-Math.sin(radians(turn)), Math.cos(radians(turn))];
  items.push({
    ...label,
    x: (ax + bx) / 2 + up[0] * textHeight * 0.4,
    y: (ay + by) / 2 + up[1] * textHeight * 0.4,
    align: 'centre',
    turn,
  });
  return items;
}
