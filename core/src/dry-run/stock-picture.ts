import { type Stock } from './stock.js';

/** Red, green and blue, 0 to 255. */
export type Colour = readonly [number, number, number];

/** A picture from above: four bytes a pixel, row by row from the top left, clear where nothing stands. */
export interface StockPicture {
  readonly width: number;
  readonly height: number;
  readonly rgba: Uint8Array;
}

/** Where the light comes from: the upper left, as a vector of length 1. */
const LIGHT = [-0.45, 0.55, Math.sqrt(1 - 0.45 ** 2 - 0.55 ** 2)] as const;
/** Share of the light that comes from everywhere. */
const AMBIENT = 0.45;
/** Places towards the light in which shadows are looked for. */
const SHADOW_STEPS = 16;
/** What is kept from a place in shadow. */
const SHADOW = 0.45;

/** Width and height in pixels of a picture of a stock, the longer side as given or a pixel a place. */
export function stockPictureSize({ columns, rows }: Stock, longest: number): { width: number; height: number } {
  const scale = Math.min(1, longest / Math.max(columns, rows));
  return { width: Math.max(1, Math.round(columns * scale)), height: Math.max(1, Math.round(rows * scale)) };
}

/**
 * A stock as seen from above, lit from the upper left.
 * @param longest pixels of the longer side, at most
 * @param colourAt colour of a place; undefined where the picture is clear
 */
export function stockPicture(
  stock: Stock,
  longest: number,
  colourAt: (column: number, row: number, height: number) => Colour | undefined,
): StockPicture {
  const { width, height } = stockPictureSize(stock, longest);
  const step = Math.max(stock.columns / width, stock.rows / height);
  const pixel = step * stock.cell;
  const columns = Int32Array.from({ length: width }, (_, x) => Math.min(stock.columns - 1, Math.floor((x + 0.5) * step)));
  const rows = Int32Array.from({ length: height }, (_, y) => Math.max(0, stock.rows - 1 - Math.floor((y + 0.5) * step)));
  const heights = new Float32Array(width * height);
  let highest = -Infinity;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const z = stock.heightAt(columns[x], rows[y]);
      heights[y * width + x] = z;
      if (z > highest) highest = z;
    }
  }
  const rgba = new Uint8Array(4 * width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      const colour = colourAt(columns[x], rows[y], heights[at]);
      if (!colour) continue;
      const [left, right] = [heights[x > 0 ? at - 1 : at], heights[x + 1 < width ? at + 1 : at]];
      const [below, above] = [heights[y + 1 < height ? at + width : at], heights[y > 0 ? at - width : at]];
      const [dx, dy] = [(right - left) / (2 * pixel), (above - below) / (2 * pixel)];
      const facing = Math.max(0, (LIGHT[2] - dx * LIGHT[0] - dy * LIGHT[1]) / Math.hypot(dx, dy, 1)) / LIGHT[2];
      const kept = isInShadow(heights, { width, height, pixel, highest }, x, y) ? SHADOW : 1;
      const light = Math.min(1.15, AMBIENT + (1 - AMBIENT) * facing * kept);
      for (let k = 0; k < 3; k++) rgba[4 * at + k] = Math.min(255, colour[k] * light);
      rgba[4 * at + 3] = 255;
    }
  }
  return { width, height, rgba };
}

interface Field {
  readonly width: number;
  readonly height: number;
  /** mm that a pixel is wide. */
  readonly pixel: number;
  readonly highest: number;
}

function isInShadow(heights: Float32Array, { width, height, pixel, highest }: Field, x: number, y: number): boolean {
  const reach = Math.hypot(LIGHT[0], LIGHT[1]);
  const [dx, dy, rise] = [LIGHT[0] / reach, -LIGHT[1] / reach, LIGHT[2] / reach];
  const z = heights[y * width + x];
  for (let i = 1; i <= SHADOW_STEPS; i++) {
    const line = z + i * pixel * rise;
    if (line >= highest) return false;
    const [column, row] = [Math.round(x + i * dx), Math.round(y + i * dy)];
    if (column < 0 || row < 0 || column >= width || row >= height) return false;
    if (heights[row * width + column] > line) return true;
  }
  return false;
}
