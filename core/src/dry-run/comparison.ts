import Flatbush from 'flatbush';
import { bounds, contains, type Contour, type Outline } from '../geometry/index.js';
import { type Mesh } from '../mesh/index.js';
import { type Stock } from './stock.js';

/** mm to the side by which a wall may lie elsewhere: what chords take the place of curves by (0.02), and what arcs of a path may miss them by. */
const ASIDE = 0.025;
/** mm by which a height may differ before that counts. */
const LEAST_DIFFERENCE = 0.01;
/** Twice the area of a triangle, in mm², below which it stands upright. */
const FLAT = 1e-12;
const AROUND = [[0, 0], [ASIDE, 0], [-ASIDE, 0], [0, ASIDE], [0, -ASIDE]] as const; // prettier-ignore

/** How what a program leaves differs from the relief. */
export interface Difference {
  /** The deepest cut into the relief, in mm; 0 where none is deeper than 0.01 mm. */
  readonly gougeMm: number;
  readonly gougeAreaMm2: number;
  /** What is left above the relief, or where the sign is cut through. */
  readonly leftAreaMm2: number;
  readonly leftVolumeMm3: number;
  readonly deepestLeftMm: number;
}

/**
 * Compares what is left of a stock with the solid of a sign, at the places of the stock within the blank. Walls may lie 0.025 mm to either
 * side: a place counts as gouged, or as left, where it is so by the relief everywhere around it as well.
 * @param floor height of the underside: what is left where the sign is cut through is counted from there
 * @param waste parts of the plan that fall out: nothing is left there
 * @param told of every place that differs, with the mm by which it stands above the relief; below 0 it is cut too deep
 */
export function compared(
  stock: Stock,
  mesh: Mesh,
  blank: Contour,
  floor: number,
  waste: Outline = [],
  told: (column: number, row: number, over: number) => void = () => undefined,
): Difference {
  const { cell, columns, rows } = stock;
  const tops = topsOf(mesh, stock, floor);
  const upper = new UpperSide(mesh, floor);
  const boxes = waste.length > 0 ? bounds(waste) : undefined;
  let [gougeMm, gouged, left, leftHeight, deepestLeftMm] = [0, 0, 0, 0, 0];
  for (let row = 0; row < rows; row++) {
    for (const [from, to] of spans(blank, stock.placeOf(0, row).y)) {
      const first = Math.max(0, Math.ceil((from - stock.placeOf(0, row).x) / cell));
      const last = Math.min(columns - 1, Math.floor((to - stock.placeOf(0, row).x) / cell));
      for (let column = first; column <= last; column++) {
        const stands = stock.heightAt(column, row);
        const over = stands - tops[row * columns + column];
        if (over <= LEAST_DIFFERENCE && over >= -LEAST_DIFFERENCE) continue;
        const { x, y } = stock.placeOf(column, row);
        const top = tops[row * columns + column];
        // Only beside an edge of the relief it matters where in its cell the place lies.
        const isLevel = isLevelAbout(tops, columns, rows, column, row);
        if (over < 0) {
          const lowest = isLevel ? top : upper.lowestAbout(x, y);
          const deep = lowest - stands;
          // Where nothing of the sign is, what it lies on may be cut into: how deep is judged by the bed.
          if (deep <= LEAST_DIFFERENCE || lowest <= floor) continue;
          told(column, row, -deep);
          gouged++;
          gougeMm = Math.max(gougeMm, deep);
        } else {
          const high = stands - (isLevel ? top : upper.highestAbout(x, y));
          if (high <= LEAST_DIFFERENCE) continue;
          if (boxes && y >= boxes.minY && y <= boxes.maxY && contains(waste, x, y)) continue;
          told(column, row, high);
          left++;
          leftHeight += high;
          deepestLeftMm = Math.max(deepestLeftMm, high);
        }
      }
    }
  }
  const area = cell ** 2;
  return { gougeMm, gougeAreaMm2: gouged * area, leftAreaMm2: left * area, leftVolumeMm3: leftHeight * area, deepestLeftMm };
}

/** Whether a place and its eight neighbours are as high. */
function isLevelAbout(tops: Float32Array, columns: number, rows: number, column: number, row: number): boolean {
  if (column === 0 || row === 0 || column === columns - 1 || row === rows - 1) return false;
  const at = row * columns + column;
  for (let r = at - columns; r <= at + columns; r += columns)
    for (let c = r - 1; c <= r + 1; c++) if (tops[c] !== tops[at]) return false;
  return true;
}

/** The upper side of a solid, asked for single places. */
class UpperSide {
  private readonly index: Flatbush;
  private readonly up: Uint32Array;

  constructor(
    private readonly mesh: Mesh,
    private readonly floor: number,
  ) {
    const { positions: p, triangles } = mesh;
    const up: number[] = [];
    for (let t = 0; t < triangles.length; t += 3) if (twiceArea(mesh, t) > FLAT) up.push(t);
    this.up = Uint32Array.from(up);
    this.index = new Flatbush(Math.max(1, up.length));
    for (const t of up) {
      const [a, b, c] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
      this.index.add(
        Math.min(p[a], p[b], p[c]),
        Math.min(p[a + 1], p[b + 1], p[c + 1]),
        Math.max(p[a], p[b], p[c]),
        Math.max(p[a + 1], p[b + 1], p[c + 1]),
      );
    }
    if (up.length === 0) this.index.add(0, 0, 0, 0);
    this.index.finish();
  }

  lowestAbout(x: number, y: number): number {
    const near = this.near(x, y);
    return AROUND.reduce((least, [dx, dy]) => Math.min(least, this.at(x + dx, y + dy, near)), Infinity);
  }

  highestAbout(x: number, y: number): number {
    const near = this.near(x, y);
    return AROUND.reduce((most, [dx, dy]) => Math.max(most, this.at(x + dx, y + dy, near)), -Infinity);
  }

  /** The triangles that a place and those around it may lie on, as `up` numbers them. */
  private near(x: number, y: number): readonly number[] {
    if (this.up.length === 0) return [];
    return this.index.search(x - ASIDE, y - ASIDE, x + ASIDE, y + ASIDE);
  }

  private at(x: number, y: number, near: readonly number[]): number {
    const { positions: p, triangles } = this.mesh;
    let most = this.floor;
    for (const found of near) {
      const t = this.up[found];
      const [a, b, c] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
      const twice = twiceArea(this.mesh, t);
      const u = ((x - p[a]) * (p[c + 1] - p[a + 1]) - (p[c] - p[a]) * (y - p[a + 1])) / twice;
      const v = ((p[b] - p[a]) * (y - p[a + 1]) - (x - p[a]) * (p[b + 1] - p[a + 1])) / twice;
      if (u < -1e-9 || v < -1e-9 || u + v > 1 + 1e-9) continue;
      most = Math.max(most, p[a + 2] + u * (p[b + 2] - p[a + 2]) + v * (p[c + 2] - p[a + 2]));
    }
    return most;
  }
}

/** Twice the area that a triangle has seen from above, in mm². */
function twiceArea({ positions: p, triangles }: Mesh, t: number): number {
  const [a, b, c] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
  return (p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[c] - p[a]) * (p[b + 1] - p[a + 1]);
}

/** The height of a solid's upper side at the places of a stock; the floor where there is none. */
function topsOf(mesh: Mesh, stock: Stock, floor: number): Float32Array {
  const { positions: p, triangles } = mesh;
  const { cell, columns, rows } = stock;
  const origin = stock.placeOf(0, 0);
  const heights = new Float32Array(columns * rows).fill(floor);
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
    const twice = twiceArea(mesh, t);
    // Only what looks up is seen from above.
    if (!(twice > FLAT)) continue;
    const [minY, maxY] = [Math.min(p[a + 1], p[b + 1], p[c + 1]), Math.max(p[a + 1], p[b + 1], p[c + 1])];
    const last = Math.min(rows - 1, Math.floor((maxY - origin.y) / cell));
    for (let row = Math.max(0, Math.ceil((minY - origin.y) / cell)); row <= last; row++) {
      const y = origin.y + row * cell;
      const [from, to] = across(p, [a, b, c], y);
      const end = Math.min(columns - 1, Math.floor((to - origin.x) / cell));
      const begin = Math.max(0, Math.ceil((from - origin.x) / cell));
      if (p[a + 2] === p[b + 2] && p[a + 2] === p[c + 2]) {
        const z = p[a + 2];
        for (let at = row * columns + begin; at <= row * columns + end; at++) if (z > heights[at]) heights[at] = z;
        continue;
      }
      for (let column = begin; column <= end; column++) {
        const x = origin.x + column * cell;
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
  for (let i = 0; i < 3; i++) {
    const [a, b] = [corners[i], corners[(i + 1) % 3]];
    const [low, high] = p[a + 1] < p[b + 1] ? [a, b] : [b, a];
    if (y < p[low + 1] || y > p[high + 1]) continue;
    const rise = p[high + 1] - p[low + 1];
    const share = rise === 0 ? 0 : (y - p[low + 1]) / rise;
    const x = p[low] + share * (p[high] - p[low]);
    from = Math.min(from, x, rise === 0 ? p[high] : x);
    to = Math.max(to, x, rise === 0 ? p[high] : x);
  }
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
