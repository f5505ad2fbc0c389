import { areasByLabel, type Inset } from '../../arrangement/index.js';
import { area, type Contour, type Outline } from '../../geometry/index.js';
import { type Side, type Sign } from '../../sign/index.js';
import { type Evaluation, type PartPlan, type Place, type Rung } from './evaluation.js';
import { LEVEL_STEP, middleHeight, type Surface } from './relief-function.js';
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
  const { levels, ...reach } = levelsOf(places, slopeMeshes, layers);
  return { sign, blank, arrangement, places, levels, ...reach, layers, slopeMeshes, standing, ...found };
}

/** Flat places by height, and the least and the greatest height of all places. */
function levelsOf(
  places: readonly Place[],
  slopeMeshes: ReadonlyMap<Inset, PlacedSlopeMesh>,
  layers: readonly Layer[],
): Pick<Evaluation, 'levels' | 'lowest' | 'highest' | 'rearmost' | 'deepest' | 'thinnest'> {
  const byHeight = new Map<number, { z: number; labels: number[]; areaMm2: number }>();
  let [lowest, highest, rearmost, deepest, thinnest] = [Infinity, -Infinity, Infinity, 0, Infinity];
  const span = (surface: Surface, under: Surface, ...heights: number[]) => {
    const behind = spanOf(under);
    const low = Math.min(...heights);
    lowest = Math.min(lowest, low);
    highest = Math.max(highest, ...heights);
    rearmost = Math.min(rearmost, ...behind);
    // An edge form takes away from the edge, and is no floor.
    if (isEdgeLayer(layers[surface.layer]) || isEdgeLayer(layers[under.layer])) return;
    deepest = Math.min(deepest, low);
    thinnest = Math.min(thinnest, Math.max(0, low - Math.max(...behind)));
  };
  const add = (z: number, areaMm2: number, label?: number) => {
    const key = Math.round(z / LEVEL_STEP);
    let level = byHeight.get(key);
    if (!level) byHeight.set(key, (level = { z, labels: [], areaMm2: 0 }));
    level.areaMm2 += areaMm2;
    if (label !== undefined) level.labels.push(label);
  };
  for (const { label, surface, under, areaMm2 } of places) {
    if (areaMm2 <= 0 || surface.kind === 'profile') continue;
    if (surface.kind === 'level') add(surface.z, areaMm2, label);
    span(surface, under, ...spanOf(surface));
  }
  for (const [inset, placed] of slopeMeshes) {
    const { slopeMesh } = placed;
    const { surface, under } = places[inset.inside - FIRST_PLACE];
    if (surface.kind !== 'profile') continue;
    const { profile } = surface;
    span(
      surface,
      under,
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

/** The heights at both ends of a surface over one place. */
function spanOf(surface: Surface): readonly number[] {
  if (surface.kind === 'level') return [surface.z];
  if (surface.kind === 'profile') return [surface.profile.start, surface.profile.end];
  const { embedded, band } = surface;
  const { profile, levels, pieces } = embedded;
  const deepest = band < levels.length ? levels[band] : Math.max(...pieces.map(({ drawn }) => drawn.field.deepest));
  return [profile.at(band === 0 ? 0 : levels[band - 1]), profile.at(deepest)];
}
