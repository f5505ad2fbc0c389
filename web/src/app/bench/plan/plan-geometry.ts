import { type Box, degrees, radians } from '@plain-relief/core/geometry';
import { formatLength, type LengthUnit } from '@plain-relief/core/units';

/** How the plan lies in its window: `scale` pixels a mm, the plan's origin at (x, y) pixels from the upper left. */
export interface Viewport {
  readonly scale: number;
  readonly x: number;
  readonly y: number;
}

/** Room that rulers and the frame take, in pixels. */
export const RULER = 22;
/** Around the blank: above it and left of it, and where dimensions stand, below it and right of it. */
const AIR = { left: 32, top: 34, right: 92, bottom: 36 };

/** The largest viewport that shows the whole box. */
export function fit(box: Box, width: number, height: number): Viewport {
  const [w, h] = [Math.max(1, width - RULER - AIR.left - AIR.right), Math.max(1, height - RULER - AIR.top - AIR.bottom)];
  const scale = Math.min(w / (box.maxX - box.minX), h / (box.maxY - box.minY));
  return {
    scale,
    x: RULER + AIR.left + w / 2 - (scale * (box.minX + box.maxX)) / 2,
    y: RULER + AIR.top + h / 2 + (scale * (box.minY + box.maxY)) / 2,
  };
}

/** The same about a point of the window that stays where it is. */
export function zoomed(view: Viewport, factor: number, px: number, py: number): Viewport {
  const scale = Math.min(400, Math.max(0.02, view.scale * factor));
  const k = scale / view.scale;
  return { scale, x: px - (px - view.x) * k, y: py - (py - view.y) * k };
}

/** The point of the plan under a pixel: x to the right, y up, in mm. */
export const toPlan = (view: Viewport, px: number, py: number): readonly [number, number] => [
  (px - view.x) / view.scale,
  (view.y - py) / view.scale,
];

export interface Tick {
  /** Pixels from the upper left. */
  readonly at: number;
  readonly text: string;
}

const MM_STEPS = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000];
const INCH_STEPS = [1 / 32, 1 / 16, 1 / 8, 1 / 4, 1 / 2, 1, 2, 6, 12, 24, 48, 96].map((inches) => inches * 25.4);
const LEAST_GAP = 46;
/** Pixels that a figure's character takes at most, with the room before it. */
const FIGURE = 8;

/** Figures along a ruler, far enough apart to be read. */
export function ticks(view: Viewport, axis: 'x' | 'y', length: number, unit: LengthUnit): Tick[] {
  const steps = unit === 'mm' ? MM_STEPS : INCH_STEPS;
  const step = steps.find((candidate) => candidate * view.scale >= LEAST_GAP) ?? steps[steps.length - 1];
  const origin = axis === 'x' ? view.x : view.y;
  const sign = axis === 'x' ? 1 : -1;
  const ends = [(0 - origin) / view.scale, (length - origin) / view.scale].map((mm) => mm * sign);
  const out: Tick[] = [];
  for (let n = Math.ceil(Math.min(...ends) / step); n <= Math.max(...ends) / step; n++) {
    const at = origin + sign * n * step * view.scale;
    const text = formatLength(n * step, unit).replace(/ (mm|in)$/u, '');
    // Figures of the upright ruler run upwards from their mark: the first has the unit's corner above it.
    const hasRoom = axis === 'x' || at - text.length * FIGURE > RULER;
    if (at > RULER) out.push({ at, text: hasRoom ? text : '' });
  }
  return out;
}

/** The ends of the cut line, a little outside the blank, in mm. */
export function cutLineEnds(line: { x: number; y: number; turn: number }, blank: Box): readonly [number, number, number, number] {
  const angle = radians(line.turn);
  const [ux, uy] = [Math.cos(angle), Math.sin(angle)];
  const reach = Math.hypot(blank.maxX - blank.minX, blank.maxY - blank.minY);
  let [from, to] = [-reach, reach];
  // Clipped to the blank's box with a margin, axis by axis.
  const margin = reach * 0.035;
  for (const [p, u, low, high] of [
    [line.x, ux, blank.minX - margin, blank.maxX + margin],
    [line.y, uy, blank.minY - margin, blank.maxY + margin],
  ]) {
    if (Math.abs(u) < 1e-9) continue;
    const [a, b] = [(low - p) / u, (high - p) / u];
    from = Math.max(from, Math.min(a, b));
    to = Math.min(to, Math.max(a, b));
  }
  if (from >= to) [from, to] = [-reach / 4, reach / 4];
  return [line.x + from * ux, line.y + from * uy, line.x + to * ux, line.y + to * uy];
}

/** The direction from the line's point to the pointer, in whole degrees, held at multiples of 15 nearby. */
export function turnTowards(line: { x: number; y: number }, x: number, y: number, isFarEnd: boolean): number {
  const angle = degrees(Math.atan2(y - line.y, x - line.x)) + (isFarEnd ? 0 : 180);
  const near = Math.round(angle / 15) * 15;
  const held = Math.abs(angle - near) < 2.5 ? near : Math.round(angle);
  return ((held + 540) % 360) - 180;
}

/** Where a dragged part comes to lie: on the unit's own steps (0.5 mm, 1/64 in). */
export function onSteps(mm: number, unit: LengthUnit): number {
  const step = unit === 'mm' ? 0.5 : 25.4 / 64;
  return Number((Math.round(mm / step) * step).toFixed(6));
}
