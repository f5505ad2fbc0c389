import Flatbush from 'flatbush';
import {
  bounds,
  type Box,
  contains,
  type Contour,
  DisjointSets,
  orient2d,
  type Outline,
  type Polygon,
  squareToSegment,
  STEPS_PER_MM,
} from '../geometry/index.js';
import { type ContourSet } from './contour-set.js';

/** Glyphs in groups of those that come nearer to each other than a distance in mm, as far as their boxes tell. */
export const neighbourhoods = (outlines: readonly (readonly Contour[])[], distance: number): number[][] =>
  grouped(outlines, distance, (i, j, boxI, boxJ) => !areFurther(outlines[i], outlines[j], boxI, boxJ, distance));

/** Rings in groups of those whose edges come nearer to each other than a distance in mm. */
export function crowds(rings: readonly Contour[], distance: number): Contour[][] {
  const outlines = rings.map((ring) => [ring]);
  const groups = grouped(outlines, distance, (i, j, boxI, boxJ) => edgesAreNear(outlines[i], outlines[j], boxI, boxJ, distance));
  return groups.map((group) => group.map((i) => rings[i]));
}

/** Outlines in groups, by numbers, of those that are joined, among those whose boxes come near. */
function grouped(
  outlines: readonly (readonly Contour[])[],
  distance: number,
  isJoined: (i: number, j: number, boxI: Box, boxJ: Box) => boolean,
): number[][] {
  const boxes = outlines.map((outline) => bounds(outline)!);
  const order = boxes.map((_, i) => i).sort((a, b) => boxes[a].minX - boxes[b].minX);
  const joined = new DisjointSets(boxes.length);
  let open: number[] = [];
  for (const i of order) {
    open = open.filter((j) => boxes[j].maxX + distance >= boxes[i].minX);
    for (const j of open) {
      if (boxes[j].maxY + distance < boxes[i].minY || boxes[i].maxY + distance < boxes[j].minY) continue;
      if (!joined.areJoined(i, j) && isJoined(i, j, boxes[i], boxes[j])) joined.join(i, j);
    }
    open.push(i);
  }
  return joined.groups();
}

/**
 * The rings of a piece of an outline in groups of those that come nearer to each other than a distance in mm; the first has the outer one.
 * What lies between two of them is nowhere narrower than that.
 */
export function separated(
  { outer, holes }: Polygon,
  distance: number,
): { readonly outer?: Contour; readonly holes: readonly Contour[] }[] {
  return crowds([outer, ...holes], distance).map((rings) => {
    const [first, ...others] = rings;
    return first === outer ? { outer, holes: others } : { holes: rings };
  });
}

/** With more comparisons than this the search for crossings itself is cheaper. */
const MOST_COMPARISONS = 4_000_000;

const meet = (a: Box, b: Box): boolean => a.minX <= b.maxX && b.minX <= a.maxX && a.minY <= b.maxY && b.minY <= a.maxY;

/** A settled outline, and the box around it. */
interface Glyph {
  readonly contours: Outline;
  readonly box: Box;
}

/** A glyph that nothing comes near. */
export interface IsolatedGlyph extends Glyph {
  /** Every layer that it is part of, ascending. */
  readonly layers: readonly number[];
}

interface Found extends Glyph {
  readonly layers: number[];
}

/** Two outlines nearer than this, in mm, count as touching: four steps of the grid. */
const NEAR = 4 / STEPS_PER_MM;

/** What was found of pairs of glyphs before: the same ones are asked about several times while a relief is laid out. */
const pairs = new WeakMap<Outline, WeakMap<Outline, boolean>>();

/** Whether two glyphs neither meet nor lie in each other, though their boxes do: A and V, or two italics. */
function areApart(a: Glyph, b: Glyph): boolean {
  let ofA = pairs.get(a.contours);
  if (!ofA) pairs.set(a.contours, (ofA = new WeakMap()));
  let known = ofA.get(b.contours);
  if (known === undefined) {
    known = areFurther(a.contours, b.contours, a.box, b.box, NEAR);
    ofA.set(b.contours, known);
  }
  return known;
}

/** Whether two outlines are further apart than a distance, and neither lies in the other. */
function areFurther(a: readonly Contour[], b: readonly Contour[], boxA: Box, boxB: Box, distance: number): boolean {
  if (edgesAreNear(a, b, boxA, boxB, distance)) return false;
  const lies = (inner: readonly Contour[], outer: readonly Contour[]) => inner.some(([x, y]) => contains(outer, x, y));
  return !lies(a, b) && !lies(b, a);
}

/** Whether the edges of two outlines come nearer to each other than a distance. */
function edgesAreNear(a: readonly Contour[], b: readonly Contour[], boxA: Box, boxB: Box, distance: number): boolean {
  const common = {
    minX: Math.max(boxA.minX, boxB.minX) - distance,
    minY: Math.max(boxA.minY, boxB.minY) - distance,
    maxX: Math.min(boxA.maxX, boxB.maxX) + distance,
    maxY: Math.min(boxA.maxY, boxB.maxY) + distance,
  };
  const [ofA, ofB] = [segmentsIn(a, common), segmentsIn(b, common)];
  if (ofA.length > 0 && ofB.length > 0) {
    const index = new Flatbush(ofB.length);
    for (const [ax, ay, bx, by] of ofB) index.add(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by));
    index.finish();
    for (const one of ofA) {
      const [ax, ay, bx, by] = one;
      const [minX, minY] = [Math.min(ax, bx) - distance, Math.min(ay, by) - distance];
      const [maxX, maxY] = [Math.max(ax, bx) + distance, Math.max(ay, by) + distance];
      for (const other of index.search(minX, minY, maxX, maxY)) if (areNear(one, ofB[other], distance)) return true;
    }
  }
  return false;
}

type Segment = readonly [ax: number, ay: number, bx: number, by: number];

function segmentsIn(contours: readonly Contour[], box: Box): Segment[] {
  const out: Segment[] = [];
  for (const contour of contours) {
    const n = contour.length;
    for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
      const [ax, ay, bx, by] = [contour[j], contour[j + 1], contour[i], contour[i + 1]];
      const isPast =
        (ax < box.minX && bx < box.minX) ||
        (ax > box.maxX && bx > box.maxX) ||
        (ay < box.minY && by < box.minY) ||
        (ay > box.maxY && by > box.maxY);
      if (!isPast) out.push([ax, ay, bx, by]);
    }
  }
  return out;
}

function areNear(p: Segment, q: Segment, distance: number): boolean {
  const [ax, ay, bx, by] = p;
  const [cx, cy, dx, dy] = q;
  const isCrossed =
    orient2d(ax, ay, bx, by, cx, cy) > 0 !== orient2d(ax, ay, bx, by, dx, dy) > 0 &&
    orient2d(cx, cy, dx, dy, ax, ay) > 0 !== orient2d(cx, cy, dx, dy, bx, by) > 0;
  return (
    isCrossed ||
    reach(p, cx, cy) < distance ||
    reach(p, dx, dy) < distance ||
    reach(q, ax, ay) < distance ||
    reach(q, bx, by) < distance
  );
}

/** Distance of a point from a segment. */
const reach = ([ax, ay, bx, by]: Segment, x: number, y: number): number => Math.sqrt(squareToSegment(ax, ay, bx, by, x, y));

/**
 * The glyphs that nothing meets: no other glyph, and within their box no segment of any other contour and no constraint.
 * @param constraints segments in grid steps, x and y of both ends in turn
 */
export function isolatedGlyphs(layers: readonly ContourSet[], constraints: ArrayLike<number> = []): IsolatedGlyph[] {
  const found = new Map<Outline, Found>();
  const repeated = new Set<Outline>();
  const others: Contour[] = [];
  let segments = 0;
  layers.forEach(({ glyphs, loose }, layer) => {
    for (const contours of glyphs) {
      let known = found.get(contours);
      if (!known) found.set(contours, (known = { contours, box: bounds(contours)!, layers: [] }));
      if (known.layers[known.layers.length - 1] === layer) repeated.add(contours);
      else known.layers.push(layer);
    }
    for (const contour of loose) {
      others.push(contour);
      segments += contour.length / 2;
    }
  });
  segments += constraints.length / 4;
  if (segments * found.size > MOST_COMPARISONS) return [];
  // What is there twice winds twice.
  const isolated = new Set([...found.values()].filter(({ contours }) => !repeated.has(contours)));

  // Glyphs against glyphs, from left to right, those that have ended taken off the list.
  const sorted = [...found.values()].sort((a, b) => a.box.minX - b.box.minX);
  let open: Found[] = [];
  for (const glyph of sorted) {
    open = open.filter((before) => before.box.maxX >= glyph.box.minX);
    for (const before of open) {
      if (!meet(glyph.box, before.box) || areApart(glyph, before)) continue;
      isolated.delete(glyph);
      isolated.delete(before);
    }
    open.push(glyph);
  }
  const left = sorted.filter((glyph) => isolated.has(glyph));
  const takeOff = (ax: number, ay: number, bx: number, by: number) => {
    for (const glyph of left) {
      const { minX, minY, maxX, maxY } = glyph.box;
      if (minX > ax && minX > bx) break;
      if ((maxX < ax && maxX < bx) || (minY > ay && minY > by) || (maxY < ay && maxY < by)) continue;
      isolated.delete(glyph);
    }
  };
  for (const contour of others) {
    const n = contour.length;
    for (let i = 0, j = n - 2; i < n && isolated.size > 0; j = i, i += 2)
      takeOff(contour[i], contour[i + 1], contour[j], contour[j + 1]);
  }
  for (let i = 0; i < constraints.length && isolated.size > 0; i += 4)
    takeOff(
      constraints[i] / STEPS_PER_MM,
      constraints[i + 1] / STEPS_PER_MM,
      constraints[i + 2] / STEPS_PER_MM,
      constraints[i + 3] / STEPS_PER_MM,
    );
  return [...isolated];
}
