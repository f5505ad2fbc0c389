import { difference, offset } from '../arrangement/index.js';
import { type Drawing, edgeOf, INK, type Item } from '../drawing/index.js';
import { bounds, contains, contourArea, type Contour, type Outline } from '../geometry/index.js';
import { type Evaluation, HOLE, levelOutline, partsSeen, regionOf } from '../relief/index.js';

/** How a beam or a blade goes. Lengths in mm. */
export interface BeamChoice {
  /** Width of what the beam takes away: half of it is kept off on either side. */
  readonly kerf: number;
  /** How long it goes through waste before it comes to the edge, and beyond where it began. */
  readonly leadIn: number;
  readonly overlap: number;
}

/** A usual laser (common practice, no source). */
export const USUAL_BEAM: BeamChoice = { kerf: 0.2, leadIn: 2, overlap: 0.5 };

/** Parts of the lead-in that are tried where waste is narrow. */
const SHORTER = [1, 0.5, 0.25];

/** The paths of a beam by process, and what it cannot make. */
export interface BeamPlan {
  /** Layers in the order in which they are run: fill, score, cut inside, cut outside. */
  readonly drawing: Drawing;
  /** mm that are cut through, and scored. */
  readonly cutMm: number;
  readonly scoredMm: number;
  readonly fillMm2: number;
  /** What no beam makes, in sentences. */
  readonly cannot: readonly string[];
}

/**
 * A sign for a laser or a knife: edges that are cut through as paths half a kerf off what is kept, inner ones before outer ones, each led
 * in through waste and a little beyond its beginning; engraved lines as they are; carved and coloured places as outlines to be filled.
 */
export function beamPlan(evaluation: Evaluation, { kerf, leadIn, overlap }: BeamChoice): BeamPlan {
  const pen = { width: 0.1, colour: INK };
  const kept = difference(edgeOf(evaluation), regionOf(evaluation, HOLE));
  const paths = kerf > 0 ? offset(kept, kerf / 2) : kept;
  const items: Item[] = [];
  const fills = [
    ...evaluation.levels.filter(({ z }) => z < -1e-9).map((level) => levelOutline(evaluation, level)),
    ...evaluation.layers.filter(({ operation }) => operation === 'mark').map(({ area }) => area.contours as Outline),
  ].filter((outline) => outline.length > 0);
  let fillMm2 = 0;
  for (const outline of fills) {
    items.push({ kind: 'area', layer: 'fill', outline, pen });
    fillMm2 += outline.reduce((sum, ring) => sum + contourArea(ring), 0);
  }
  let scoredMm = 0;
  for (const { points, closed } of partsSeen(evaluation).flatMap(({ strokes }) => strokes)) {
    items.push({ kind: 'line', layer: 'score', points, closed, pen });
    scoredMm += lengthOf(points, closed);
  }
  let cutMm = 0;
  const inside = paths.filter((ring) => contourArea(ring) < 0);
  const outside = paths.filter((ring) => contourArea(ring) > 0);
  for (const [layer, rings] of [
    ['cut inside', inside],
    ['cut outside', outside],
  ] as const) {
    for (const ring of rings) {
      const points = ledIn(ring, paths, leadIn, overlap);
      items.push({ kind: 'line', layer, points, closed: false, pen });
      cutMm += lengthOf(points, false);
    }
  }
  const cannot: string[] = [];
  const raised = evaluation.levels.some(({ z }) => z > 1e-9);
  if (raised) cannot.push('A beam raises nothing: raised levels are left out, and want a layer of their own that is put on.');
  if (evaluation.layers.some(({ profile }) => profile)) cannot.push('A beam makes no slopes: their areas are left out.');
  const boxes = items.flatMap((item) => (item.kind === 'area' ? item.outline : item.kind === 'line' ? [item.points] : []));
  return { drawing: { items, bounds: bounds(boxes) ?? bounds([evaluation.blank])! }, cutMm, scoredMm, fillMm2, cannot };
}

/** A ring as a path: in from the waste, around, and a little beyond where it began. */
function ledIn(ring: Contour, paths: Outline, leadIn: number, overlap: number): Contour {
  const n = ring.length / 2;
  // It begins in the middle of its longest edge, where nothing turns.
  let [longest, at] = [-1, 0];
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    const length = Math.hypot(ring[2 * j] - ring[2 * i], ring[2 * j + 1] - ring[2 * i + 1]);
    if (length > longest) [longest, at] = [length, i];
  }
  const to = (at + 1) % n;
  const [x, y] = [(ring[2 * at] + ring[2 * to]) / 2, (ring[2 * at + 1] + ring[2 * to + 1]) / 2];
  const [ux, uy] = [(ring[2 * to] - ring[2 * at]) / longest, (ring[2 * to + 1] - ring[2 * at + 1]) / longest];
  const points: number[] = [];
  // What is kept lies on the left.
  const part = SHORTER.find((each) => leadIn > 0 && !contains(paths, x + uy * leadIn * each, y - ux * leadIn * each));
  if (part !== undefined) points.push(x + uy * leadIn * part, y - ux * leadIn * part);
  points.push(x, y);
  for (let k = 1; k <= n; k++) points.push(ring[2 * ((at + k) % n)], ring[2 * ((at + k) % n) + 1]);
  const beyond = Math.min(overlap, longest / 2);
  points.push(x, y);
  if (beyond > 0) points.push(x + ux * beyond, y + uy * beyond);
  return Float64Array.from(points);
}

function lengthOf(points: Float64Array, isClosed: boolean): number {
  let sum = 0;
  for (let i = 2; i < points.length; i += 2) sum += Math.hypot(points[i] - points[i - 2], points[i + 1] - points[i - 1]);
  if (isClosed && points.length > 2) sum += Math.hypot(points[0] - points.at(-2)!, points[1] - points.at(-1)!);
  return sum;
}
