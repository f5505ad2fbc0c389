import { heightColour, heightReach } from '@plain-relief/core/drawing';
import { ringsOf } from '@plain-relief/core/arrangement';
import { type Contour, type Polygon, polygonsOf } from '@plain-relief/core/geometry';
import { type Band, type Evaluation, HOLE, placeOf, slopeBands, surfaceFinishOf } from '@plain-relief/core/relief';
import { finishOfSurface } from '@plain-relief/core/solid';
import { screenRings, screenStrokes } from './screen-path';
import type { DrawnPath } from './views';

/** A piece with more holes than this is painted whole, and what lies in its holes over it. */
const MOST_HOLES = 12;
/** Pieces in one path: browsers draw many small paths far sooner than one with all outlines of a sign. */
const PIECES_A_PATH = 24;

const HOLES = 'holes';

type Fill = Pick<DrawnPath, 'fill' | 'finish' | 'isHole'>;

/**
 * The plan's areas as paths in painting order: grounds with many holes whole, since every place in such a hole is painted over
 * it; the other places; then the letters that lie apart, part by part, so that an edit of one part changes the paths of no other.
 */
export function planPaths(evaluation: Evaluation): DrawnPath[] {
  const { arrangement, places: ofPlan, parts, layers } = evaluation;
  const reach = heightReach(evaluation);
  const fills = new Map<string, Fill>([[HOLES, { fill: 'none', finish: 'none', isHole: true }]]);
  // Labels are given anew by every evaluation, heights stay. What differs behind alone looks alike.
  const names = new Map([[HOLE, HOLES]]);
  for (const { label, surface, z } of ofPlan) {
    const worn = surfaceFinishOf(evaluation, surface, surface.kind !== 'level', z);
    const name = surface.kind === 'embedded' ? `slope ${surface.embedded.layer} ${surface.band}` : `${surface.kind} ${z}`;
    const full = `${name} in ${worn.finish ?? worn.bare} ${worn.material ?? ''}`;
    fills.set(full, { fill: heightColour(z, reach), finish: finishOfSurface(evaluation, worn).colour, isHole: false });
    names.set(label, full);
  }

  const grounds: { polygon: Polygon; fill: Fill }[] = [];
  const places: DrawnPath[] = [];
  for (const [name, fill] of fills) {
    const polygons = polygonsOf(ringsOf({ base: arrangement.base, insets: [] }, (label) => names.get(label) === name));
    grounds.push(...polygons.filter(({ holes }) => holes.length > MOST_HOLES).map((polygon) => ({ polygon, fill })));
    const others = polygons.filter(({ holes }) => holes.length <= MOST_HOLES);
    places.push(
      ...inPaths(
        name,
        others.map(({ outer, holes }) => [outer, ...holes]),
        fill,
      ),
    );
  }
  grounds.sort((a, b) => boxArea(b.polygon.outer) - boxArea(a.polygon.outer));

  // Layer 0 of the plan is the blank.
  const letters = new Map<string, { fill: Fill; pieces: (readonly Contour[])[] }>();
  for (const { contours, layers: of, inside, around } of arrangement.insets) {
    const fill = fills.get(names.get(inside) ?? '');
    if (!fill || names.get(inside) === names.get(around) || placeOf(evaluation, inside)?.surface.kind === 'profile') continue;
    const key = `letters of ${layers[of[of.length - 1] - 1]?.part} at ${names.get(inside)}`;
    let group = letters.get(key);
    if (!group) letters.set(key, (group = { fill, pieces: [] }));
    group.pieces.push(contours);
  }
  return [
    ...grounds.map(({ polygon, fill }, i) => ({
      key: `ground ${i}`,
      d: screenRings([polygon.outer]),
      ...fill,
      isLine: false,
    })),
    ...places,
    ...[...letters].flatMap(([key, { fill, pieces }]) => inPaths(key, pieces, fill)),
    ...slopePaths(evaluation, reach),
    ...parts.flatMap(({ id, strokes }) =>
      strokes.map(({ points, closed }, i) => ({
        key: `stroke ${id} ${i}`,
        d: (closed ? screenRings : screenStrokes)([points]),
        fill: 'none',
        finish: 'none',
        isHole: false,
        isLine: true,
      })),
    ),
  ];
}

/** Slopes of letters that keep them to themselves, lower bands first. */
function slopePaths(evaluation: Evaluation, reach: number): DrawnPath[] {
  const groups = new Map<string, { fill: Fill; pieces: (readonly Contour[])[] }>();
  for (const band of slopeBands(evaluation)) {
    const { z, outline, layer, rank } = band;
    if (rank === undefined || outline.length === 0) continue;
    // Of all letters the lowest bands are painted first: they touch nobody else's.
    const key = `${rank} slopes of ${evaluation.layers[layer]?.part ?? ''}, ${layer}`;
    let group = groups.get(`${key} ${z}`);
    if (!group) groups.set(`${key} ${z}`, (group = { fill: slopeFill(evaluation, band, reach), pieces: [] }));
    group.pieces.push(outline);
  }
  return [...groups]
    .sort(([a], [b]) => parseInt(a) - parseInt(b))
    .flatMap(([key, { fill, pieces }]) => inPaths(key, pieces, fill));
}

const slopeFill = (evaluation: Evaluation, band: Band, reach: number): Fill => ({
  fill: heightColour(band.z, reach),
  finish: finishOfSurface(evaluation, surfaceFinishOf(evaluation, band, !band.isTop, band.z)).colour,
  isHole: false,
});

function inPaths(key: string, pieces: readonly (readonly Contour[])[], fill: Fill): DrawnPath[] {
  const out: DrawnPath[] = [];
  for (let i = 0; i < pieces.length; i += PIECES_A_PATH)
    out.push({ key: `${key}, ${i}`, d: screenRings(pieces.slice(i, i + PIECES_A_PATH).flat()), ...fill, isLine: false });
  return out;
}

function boxArea(ring: Float64Array): number {
  let [minX, maxX, minY, maxY] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let i = 0; i < ring.length; i += 2) {
    [minX, maxX] = [Math.min(minX, ring[i]), Math.max(maxX, ring[i])];
    [minY, maxY] = [Math.min(minY, ring[i + 1]), Math.max(maxY, ring[i + 1])];
  }
  return (maxX - minX) * (maxY - minY);
}
