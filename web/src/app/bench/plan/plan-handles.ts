import { type Box } from '@plain-relief/core/geometry';
import { type Factors } from '@plain-relief/core/sign';
import type { Viewport } from './plan-geometry';

/** A place on a box by which it is drawn larger or smaller: −1, 0, 1 from left to right and from bottom to top. */
export interface Handle {
  readonly x: -1 | 0 | 1;
  readonly y: -1 | 0 | 1;
  /** Width and height change as one. */
  readonly linked: boolean;
}

/** Corners change width and height as one, sides one of them. */
export const HANDLES: readonly Handle[] = [
  { x: -1, y: -1, linked: true },
  { x: 1, y: -1, linked: true },
  { x: 1, y: 1, linked: true },
  { x: -1, y: 1, linked: true },
  { x: -1, y: 0, linked: false },
  { x: 1, y: 0, linked: false },
  { x: 0, y: -1, linked: false },
  { x: 0, y: 1, linked: false },
];

/** Where handles of a box are, in pixels, a little outside it. */
export function handlePlaces(box: Box, view: Viewport, handles: readonly Handle[]) {
  return handles.map((handle) => {
    const [x, y] = sideOfHandle(handle, box);
    return { handle, x: view.x + x * view.scale + 6 * handle.x, y: view.y - y * view.scale - 6 * handle.y };
  });
}

/** The place of a box that one of its handles moves, in mm. */
export function sideOfHandle({ x, y }: Handle, { minX, minY, maxX, maxY }: Box): readonly [number, number] {
  const at = (low: number, high: number, side: number) => (low + high) / 2 + ((high - low) / 2) * side;
  return [at(minX, maxX, x), at(minY, maxY, y)];
}

const LEAST = 0.02;

/**
 * By what a box is stretched when one of its handles comes to (x, y), the opposite side staying, and where a place in it comes to
 * lie.
 */
export function stretchedBy(
  handle: Handle,
  box: Box,
  place: { readonly x: number; readonly y: number },
  x: number,
  y: number,
): { readonly factors: Factors; readonly x: number; readonly y: number } {
  const across = factor(box.minX, box.maxX, handle.x, x);
  const up = factor(box.minY, box.maxY, handle.y, y);
  const one = Math.abs(Math.log(across)) > Math.abs(Math.log(up)) ? across : up;
  const factors = handle.linked ? { across: one, up: one } : { across, up };
  return {
    factors,
    x: stays(box.minX, box.maxX, handle.x) + (place.x - stays(box.minX, box.maxX, handle.x)) * factors.across,
    y: stays(box.minY, box.maxY, handle.y) + (place.y - stays(box.minY, box.maxY, handle.y)) * factors.up,
  };
}

const stays = (low: number, high: number, side: number): number => (side > 0 ? low : side < 0 ? high : (low + high) / 2);

function factor(low: number, high: number, side: number, to: number): number {
  if (side === 0 || high - low <= 0) return 1;
  const size = side > 0 ? to - low : high - to;
  return Math.max(LEAST, size / (high - low));
}
