import { ContourSet, union } from '../../arrangement/index.js';
import { type Contour, snapRing } from '../../geometry/index.js';
import { surfaceOf, type Round } from '../../support/index.js';
import { type Sign } from '../../sign/index.js';
import { isEdgeLayer, type Layer } from '../placing/layers.js';

/** Layers further round than this are copied no more often: words that go round more than once meet themselves. */
const MOST_ROUNDS = 2;

/**
 * The layers of a sign that goes all the way round something: what reaches over its seam on one side comes in on the other. Those of any other
 * sign as they are.
 */
export function layersAllRound<T extends Layer>(sign: Sign, layers: readonly T[]): T[] {
  const round = surfaceOf(sign)?.round;
  if (!round) return [...layers];
  return layers.map((layer) => {
    if (isEdgeLayer(layer)) return { ...layer, area: goingOn(layer.area, round) };
    return { ...layer, area: allRound(layer.area, round), ...(layer.level && { level: allRound(layer.level, round) }) };
  });
}

/** Share of once round by which the blank and what goes on beyond its seam overlap: corners lie on a grid. */
const OVERLAP = 1e-5;

/** The blank as it goes on beyond its seam, at which its edge has no form. */
const goingOn = (area: ContourSet, round: Round): ContourSet =>
  ContourSet.loose(union(area, ...[-1, 1].map((times) => moved(area.contours, round, times * (1 - OVERLAP)))));

function allRound(area: ContourSet, round: Round): ContourSet {
  let [least, most] = [0, 0];
  for (const contour of area.contours) {
    for (let i = 0; i < contour.length; i += 2) {
      const turns = round.turns(contour[i], contour[i + 1]);
      if (turns < least) least = turns;
      if (turns > most) most = turns;
    }
  }
  const before = Math.min(MOST_ROUNDS, Math.ceil(most - 0.5));
  const after = Math.min(MOST_ROUNDS, Math.ceil(-least - 0.5));
  if (before <= 0 && after <= 0) return area;
  const sets = [area];
  for (let times = -before; times <= after; times++)
    if (times !== 0) sets.push(ContourSet.loose(moved(area.contours, round, times)));
  // Places that two of them cover are covered once: what is dented by a letter is not dented twice.
  return ContourSet.loose(union(ContourSet.joined(sets)));
}

const moved = (contours: readonly Contour[], round: Round, times: number): Contour[] =>
  contours.map((contour) => {
    const out = new Float64Array(contour.length);
    for (let i = 0; i < contour.length; i += 2) [out[i], out[i + 1]] = round.moved(contour[i], contour[i + 1], times);
    return snapRing(out);
  });
