import { type Box } from '@plain-relief/core/geometry';
import type { Distance } from '@plain-relief/core/sign';
import { RULER, type Viewport } from './plan-geometry';

/** What a dimension measures: the chosen box itself, or how far it is from an edge of the blank. */
export type Measured = 'left' | 'right' | 'top' | 'bottom' | 'width' | 'height';

/** A figure in a lane outside of the blank, the piece of the lane that it measures, and what leads to it. */
export interface LaneFigure {
  readonly what: Measured;
  readonly mm: number;
  /** Middle of the figure, in pixels. */
  readonly x: number;
  readonly y: number;
  /** The measured piece of the lane. */
  readonly line: Line;
  /** From the figure to its piece, where it had to stand aside. */
  readonly leader?: Line;
}

export interface Line {
  readonly x1: number;
  readonly y1: number;
  readonly x2: number;
  readonly y2: number;
}

export interface Lanes {
  readonly figures: readonly LaneFigure[];
  /** From the edges of the box to the lanes. */
  readonly extensions: readonly Line[];
  /** Where the place of the middle is written: above the blank. */
  readonly middle: { readonly x: number; readonly y: number };
}

/** Size of a figure, in pixels. */
export const FIGURE = { width: 78, height: 25 };
/** Width of the place of the middle as it is written, and of the buttons in the upper right corner. */
const MIDDLE = 190;
const ZOOM = 166;
/** From the blank to a lane. */
const ASIDE = 6;
const MARGIN = 3;
/** A figure that stands further from its piece than this has a leader. */
const LED = 14;

interface Pixels {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

const pixelsOf = ({ minX, minY, maxX, maxY }: Box, { x, y, scale }: Viewport): Pixels => ({
  left: x + minX * scale,
  right: x + maxX * scale,
  top: y - maxY * scale,
  bottom: y - minY * scale,
});

/**
 * Dimensions of a box in lanes outside of the blank: one below it for what lies across, one right of it for what lies up. Figures of
 * a lane stand beside each other, in the middle of what they measure as far as there is room; nothing is written over the blank
 * while all of it is in view.
 * @param shown what is measured
 */
export function dimensionLanes(
  box: Box,
  blank: Box,
  view: Viewport,
  pane: { readonly width: number; readonly height: number },
  shown: readonly Measured[],
): Lanes {
  const [own, all] = [pixelsOf(box, view), pixelsOf(blank, view)];
  const below = Math.min(all.bottom + ASIDE + FIGURE.height / 2, pane.height - FIGURE.height / 2 - MARGIN);
  const beside = Math.min(all.right + ASIDE + FIGURE.width / 2, pane.width - FIGURE.width / 2 - MARGIN);
  const across: readonly (readonly [Measured, number, number, number])[] = [
    ['left', box.minX - blank.minX, all.left, own.left],
    ['width', box.maxX - box.minX, own.left, own.right],
    ['right', blank.maxX - box.maxX, own.right, all.right],
  ];
  const up: readonly (readonly [Measured, number, number, number])[] = [
    ['top', blank.maxY - box.maxY, all.top, own.top],
    ['height', box.maxY - box.minY, own.top, own.bottom],
    ['bottom', box.minY - blank.minY, own.bottom, all.bottom],
  ];
  const wantedAcross = across.filter(([what]) => shown.includes(what));
  const wantedUp = up.filter(([what]) => shown.includes(what));
  const xs = spreadWithin(
    wantedAcross.map(([, , from, to]) => (from + to) / 2),
    FIGURE.width,
    RULER + MARGIN,
    pane.width - MARGIN,
  );
  const ys = spreadWithin(
    wantedUp.map(([, , from, to]) => (from + to) / 2),
    FIGURE.height,
    RULER + MARGIN,
    // The corner belongs to the lane below the blank.
    wantedAcross.length > 0 ? below - FIGURE.height / 2 - MARGIN : pane.height - MARGIN,
  );
  const [lineY, lineX] = [below - FIGURE.height / 2, beside - FIGURE.width / 2];
  const figures: LaneFigure[] = [
    ...wantedAcross.map(([what, mm, from, to], i): LaneFigure => {
      const middle = (from + to) / 2;
      const line = { x1: from, y1: lineY, x2: to, y2: lineY };
      const leader = { x1: middle, y1: lineY, x2: xs[i], y2: below };
      return { what, mm, x: xs[i], y: below, line, ...(Math.abs(xs[i] - middle) > LED && { leader }) };
    }),
    ...wantedUp.map(([what, mm, from, to], i): LaneFigure => {
      const middle = (from + to) / 2;
      const line = { x1: lineX, y1: from, x2: lineX, y2: to };
      const leader = { x1: lineX, y1: middle, x2: beside, y2: ys[i] };
      return { what, mm, x: beside, y: ys[i], line, ...(Math.abs(ys[i] - middle) > LED && { leader }) };
    }),
  ];
  const extensions = [
    ...(wantedAcross.length > 0 ? [own.left, own.right].map((x) => ({ x1: x, y1: own.bottom, x2: x, y2: lineY })) : []),
    ...(wantedUp.length > 0 ? [own.top, own.bottom].map((y) => ({ x1: own.right, y1: y, x2: lineX, y2: y })) : []),
  ];
  const above = Math.max(all.top - ASIDE - FIGURE.height / 2, RULER + FIGURE.height / 2);
  // Beside what the plan is drawn larger and smaller by.
  const middle = Math.max(RULER + MIDDLE / 2, Math.min((own.left + own.right) / 2, pane.width - ZOOM - MIDDLE / 2));
  return { figures, extensions, middle: { x: middle, y: above } };
}

/** The sizes, and the distances to the edges that are nearest, one across and one up. */
export function nearestTwo(box: Box, blank: Box): Measured[] {
  const across = box.minX - blank.minX <= blank.maxX - box.maxX ? 'left' : 'right';
  const up = blank.maxY - box.maxY <= box.minY - blank.minY ? 'top' : 'bottom';
  return ['width', 'height', across, up];
}

/** Every dimension. */
export const ALL_MEASURED: readonly Measured[] = ['left', 'width', 'right', 'top', 'height', 'bottom'];

export const isDistance = (what: Measured): what is Distance & Measured => what !== 'width' && what !== 'height';

/** Places in order, each as near as can be to where it would best be, none nearer to the next than a gap, all of them within limits. */
export function spreadWithin(wanted: readonly number[], gap: number, from: number, to: number): number[] {
  const out: number[] = [];
  for (const place of wanted) {
    const least = out.length > 0 ? out[out.length - 1] + gap : from + gap / 2;
    out.push(Math.max(place, least));
  }
  for (let i = out.length - 1, most = to - gap / 2; i >= 0; i--, most = out[i + 1] - gap) out[i] = Math.min(out[i], most);
  return out;
}
