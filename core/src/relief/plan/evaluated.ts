import { type Arrangement, areasByLabel, type Inset } from '../../arrangement/index.js';
import { area, type Box, bounds, type Contour, joinBoxes, type Outline, STEPS_PER_MM } from '../../geometry/index.js';
import { type SupportPlane } from '../../support/index.js';
import { type Side, type Sign } from '../../sign/index.js';
import { type Evaluation, heightOf, type PartPlan, type Place, type Rung } from './evaluation.js';
import { isInPlane, LEVEL_STEP, middleHeight, type Surface } from './relief-function.js';
import { type Laid } from './laying.js';
import { FIRST_PLACE } from './plan-labels.js';
import { isEdgeLayer, type Layer } from '../placing/layers.js';
import { type Note } from '../../notes/index.js';
import { type StudPlace } from '../placing/studs.js';
import { type PlacedSlopeMesh, topOfSlopeMesh } from '../slopes/slope-mesh.js';

/** What was found before the plan was laid. */
export interface Found {
  readonly side: Side;
  readonly rungs: readonly Rung[];
  readonly parts: readonly PartPlan[];
  readonly cutNotes: readonly Note[];
  readonly kept?: Outline;
  readonly studs?: readonly StudPlace[];
}

/** The evaluation of what was laid. */
export function evaluated(sign: Sign, blank: Contour, layers: readonly Layer[], found: Found, laid: Laid): Evaluation {
  const { arrangement, materials, slopeMeshes, standing } = laid;
  const areas = areasByLabel(arrangement);
  const places = materials.map(({ surface, under, sides }, i): Place => {
    const label = FIRST_PLACE + i;
    return { label, surface, under, sides, z: middleHeight(surface), areaMm2: areas.get(label) ?? 0 };
  });
  const { levels, ...reach } = levelsOf(places, slopeMeshes, layers, spansInPlanes(arrangement, places));
  return { sign, blank, arrangement, places, levels, ...reach, layers, slopeMeshes, standing, ...found };
}

/** Flat places by height, and the least and the greatest height of all places. */
function levelsOf(
  places: readonly Place[],
  slopeMeshes: ReadonlyMap<Inset, PlacedSlopeMesh>,
  layers: readonly Layer[],
  inPlanes: SpansInPlanes,
): Pick<Evaluation, 'levels' | 'lowest' | 'highest' | 'rearmost' | 'deepest' | 'thinnest'> {
  const byHeight = new Map<string, { z: number; plane?: SupportPlane; labels: number[]; areaMm2: number }>();
  let [lowest, highest, rearmost, deepest, thinnest] = [Infinity, -Infinity, Infinity, 0, Infinity];
  const span = (surface: Surface, under: Surface, behind: readonly number[], ...heights: number[]) => {
    const low = Math.min(...heights);
    lowest = Math.min(lowest, low);
    highest = Math.max(highest, ...heights);
    rearmost = Math.min(rearmost, ...behind);
    // An edge form takes away from the edge, and is no floor.
    if (isEdgeLayer(layers[surface.layer]) || isEdgeLayer(layers[under.layer])) return;
    deepest = Math.min(deepest, low);
    thinnest = Math.min(thinnest, Math.max(0, low - Math.max(...behind)));
  };
  const add = (z: number, areaMm2: number, label?: number, plane?: SupportPlane) => {
    const key = `${Math.round(z / LEVEL_STEP)} ${plane?.key ?? ''}`;
    let level = byHeight.get(key);
    if (!level) byHeight.set(key, (level = { z, ...(plane && { plane }), labels: [], areaMm2: 0 }));
    level.areaMm2 += areaMm2;
    if (label !== undefined) level.labels.push(label);
  };
  for (const { label, surface, under, areaMm2 } of places) {
    if (areaMm2 <= 0 || surface.kind === 'profile') continue;
    if (surface.kind === 'level') add(surface.z, areaMm2, label, surface.plane);
    const own = inPlanes.get(label);
    span(surface, under, own?.under ?? spanOf(under), ...(own?.surface ?? spanOf(surface)));
  }
  for (const [inset, placed] of slopeMeshes) {
    const { slopeMesh } = placed;
    const { surface, under } = places[inset.inside - FIRST_PLACE];
    if (surface.kind !== 'profile') continue;
    const { profile } = surface;
    span(
      surface,
      under,
      spanOf(under),
      profile.start,
      profile.at(slopeMesh.whole.deepest),
      ...profile.heights.filter((_, i) => profile.distances[i] <= slopeMesh.whole.deepest),
    );
    const top = topOfSlopeMesh(placed, profile);
    if (top) add(profile.end, area(top));
  }
  const levels = [...byHeight.values()].filter((level) => level.areaMm2 > 0).sort((a, b) => b.z - a.z);
  return { levels, lowest, highest, rearmost, deepest, thinnest };
}

/** The least and the greatest height of either side of places that have a level in a plane, by their labels. */
type SpansInPlanes = ReadonlyMap<number, { readonly surface?: readonly number[]; readonly under?: readonly number[] }>;

/** mm between places along an edge at which the height of a level in a plane is looked at, and how many of them at most. */
const LOOKED_AT = 0.5;
const MOST_LOOKED_AT = 64;

/**
 * What levels in planes come to along the edges of their places. Within them they come to no more, but where a plane touches the surface:
 * where that is, as far as boxes tell, its own number counts.
 */
function spansInPlanes(arrangement: Arrangement, places: readonly Place[]): SpansInPlanes {
  const spans = new Map<number, { surface?: number[]; under?: number[] }>();
  const sides = ['surface', 'under'] as const;
  const concerned = new Map(
    places.flatMap((place) => (sides.some((side) => isInPlane(place[side])) ? [[place.label, place] as const] : [])),
  );
  if (concerned.size === 0) return spans;
  const { x, y, lo, hi, left, right } = arrangement.edges;
  const boxes = new Map<number, Box>();
  for (let e = 0; e < lo.length; e++) {
    for (const label of new Set([left[e], right[e]])) {
      const place = concerned.get(label);
      if (!place) continue;
      const own = spans.get(label) ?? {};
      spans.set(label, own);
      const [ax, ay, bx, by] = [x[lo[e]], y[lo[e]], x[hi[e]], y[hi[e]]];
      const parts = Math.ceil(Math.hypot(bx - ax, by - ay) / STEPS_PER_MM / LOOKED_AT);
      const looks = Math.min(MOST_LOOKED_AT, Math.max(1, parts));
      for (const side of sides) {
        const surface = place[side];
        if (!isInPlane(surface)) continue;
        for (let i = 0; i <= looks; i++)
          own[side] = widened(own[side], heightOf(surface, ax + (i / looks) * (bx - ax), ay + (i / looks) * (by - ay)));
      }
      boxes.set(label, joinBoxes(boxes.get(label), bounds([Float64Array.of(ax, ay, bx, by)]))!);
    }
  }
  for (const [label, own] of spans) {
    const { minX, minY, maxX, maxY } = boxes.get(label)!;
    for (const side of sides) {
      const surface = concerned.get(label)![side];
      if (!isInPlane(surface)) continue;
      for (const [px, py] of surface.plane.touching) {
        const [tx, ty] = [px * STEPS_PER_MM, py * STEPS_PER_MM];
        if (tx > minX && tx < maxX && ty > minY && ty < maxY) own[side] = widened(own[side], heightOf(surface, tx, ty));
      }
    }
  }
  return spans;
}

const widened = (span: readonly number[] | undefined, height: number): number[] => [
  Math.min(height, span?.[0] ?? height),
  Math.max(height, span?.[1] ?? height),
];

/** The heights at both ends of a surface over one place. */
function spanOf(surface: Surface): readonly number[] {
  if (surface.kind === 'level') return [surface.z];
  if (surface.kind === 'profile') return [surface.profile.start, surface.profile.end];
  const { embedded, band } = surface;
  const { profile, levels, pieces } = embedded;
  const deepest = band < levels.length ? levels[band] : Math.max(...pieces.map(({ drawn }) => drawn.field.deepest));
  return [profile.at(band === 0 ? 0 : levels[band - 1]), profile.at(deepest)];
}
