import { type Contour } from '../geometry/index.js';
import { type Mesh } from '../mesh/index.js';
import { type Stock } from './stock.js';

/** mm to the side by which a wall may lie elsewhere: what chords take the place of curves by. */
const ASIDE = 0.02;
/** mm by which a height may differ before that counts. */
const LEAST_DIFFERENCE = 0.01;

/** How what a program leaves differs from the relief. */
export interface Difference {
  /** The deepest cut into the relief, in mm; 0 where none is deeper than 0.01 mm. */
  readonly gougeMm: number;
  readonly gougeAreaMm2: number;
  /** What is left above the relief, or where the sign is cut through. */
  readonly leftAreaMm2: number;
  readonly leftVolumeMm3: number;
}

/**
 * Compares what is left of a stock with the solid of a sign, at the places of the stock within the blank. Walls may lie 0.02 mm to either
 * side: a place counts as gouged, or as left, where it is so by the relief everywhere around it as well.
 * @param floor height of the underside: what is left where the sign is cut through is counted from there
 */
export function compared(stock: Stock, mesh: Mesh, blank: Contour, floor: number): Difference {
  const grids = [[0, 0], [ASIDE, 0], [-ASIDE, 0], [0, ASIDE], [0, -ASIDE]].map(([x, y]) => topOf(mesh, stock, x, y, floor)); // prettier-ignore
  const { cell, columns, rows } = stock;
  let [gougeMm, gouged, left, leftHeight] = [0, 0, 0, 0];
  for (let row = 0; row < rows; row++) {
    for (const [from, to] of spans(blank, stock.placeOf(0, row).y)) {
      const first = Math.max(0, Math.ceil((from - stock.placeOf(0, row).x) / cell));
      for (let column = first; column < columns && stock.placeOf(column, row).x <= to; column++) {
        const at = row * columns + column;
        const stands = stock.heightAt(column, row);
        let [low, high] = [Infinity, -Infinity];
        for (const grid of grids) {
          low = Math.min(low, grid[at]);
          high = Math.max(high, grid[at]);
        }
        if (low - stands > LEAST_DIFFERENCE) {
          gouged++;
          gougeMm = Math.max(gougeMm, low - stands);
        } else if (stands - high > LEAST_DIFFERENCE) {
          left++;
          leftHeight += stands - high;
        }
      }
    }
  }
  const area = cell ** 2;
  return { gougeMm, gougeAreaMm2: gouged * area, leftAreaMm2: left * area, leftVolumeMm3: leftHeight * area };
}

/** The height of a solid's upper side at the places of a stock, moved by a little; the floor where there is none. */
function topOf({ positions: p, triangles }: Mesh, stock: Stock, dx: number, dy: number, floor: number): Float32Array {
  const { cell, columns, rows } = stock;
  const origin = stock.placeOf(0, 0);
  const heights = new Float32Array(columns * rows).fill(floor);
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
    const twice = (p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[c] - p[a]) * (p[b + 1] - p[a + 1]);
    // Only what looks up is seen from above.
    if (!(twice > 1e-12)) continue;
    const [minY, maxY] = [Math.min(p[a + 1], p[b + 1], p[c + 1]), Math.max(p[a + 1], p[b + 1], p[c + 1])];
    const last = Math.min(rows - 1, Math.floor((maxY - dy - origin.y) / cell));
    for (let row = Math.max(0, Math.ceil((minY - dy - origin.y) / cell)); row <= last; row++) {
      const y = origin.y + row * cell + dy;
      const [from, to] = across(p, [a, b, c], y);
      const end = Math.min(columns - 1, Math.floor((to - dx - origin.x) / cell));
      for (let column = Math.max(0, Math.ceil((from - dx - origin.x) / cell)); column <= end; column++) {
        const x = origin.x + column * cell + dx;
        const u = ((x - p[a]) * (p[c + 1] - p[a + 1]) - (p[c] - p[a]) * (y - p[a + 1])) / twice;
        const v = ((p[b] - p[a]) * (y - p[a + 1]) - (x - p[a]) * (p[b + 1] - p[a + 1])) / twice;
        const z = p[a + 2] + u * (p[b + 2] - p[a + 2]) + v * (p[c + 2] - p[a + 2]);
        const at = row * columns + column;
        if (z > heights[at]) heights[at] = z;
      }
    }
  }
  return heights;
}

/** From where to where a triangle reaches at a height of the plan. */
function across(p: Mesh['positions'], corners: readonly number[], y: number): readonly [number, number] {
  let [from, to] = [Infinity, -Infinity];
  corners.forEach((a, i) => {
    const b = corners[(i + 1) % 3];
    const [low, high] = p[a + 1] < p[b + 1] ? [a, b] : [b, a];
    if (y < p[low + 1] || y > p[high + 1]) return;
    const rise = p[high + 1] - p[low + 1];
    const share = rise === 0 ? 0 : (y - p[low + 1]) / rise;
    const x = p[low] + share * (p[high] - p[low]);
    from = Math.min(from, x, rise === 0 ? p[high] : x);
    to = Math.max(to, x, rise === 0 ? p[high] : x);
  });
  return [from, to];
}

/** The parts of a line across that lie in a contour. */
function spans(contour: Contour, y: number): (readonly [number, number])[] {
  const crossings: number[] = [];
  for (let i = 0, j = contour.length - 2; i < contour.length; j = i, i += 2) {
    const [y0, y1] = [contour[j + 1], contour[i + 1]];
    if (y0 > y !== y1 > y) crossings.push(contour[j] + ((y - y0) / (y1 - y0)) * (contour[i] - contour[j]));
  }
  crossings.sort((a, b) => a - b);
  return crossings.flatMap((x, i) => (i % 2 === 0 && i + 1 < crossings.length ? [[x, crossings[i + 1]] as const] : []));
}
