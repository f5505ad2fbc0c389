import { bounds, contains, type Outline, STEPS_PER_MM } from '../../geometry/index.js';
import { DistanceField } from '../../medial-axis/index.js';
import { type CutTo } from '../../sign/index.js';

/** The middle of a stud, in mm. */
export interface StudPlace {
  readonly x: number;
  readonly y: number;
}

/** mm between places that are looked at along the middle of a stroke. */
const STEP = 1;
const FIELD_TOLERANCE = 0.002;

/**
 * Places for the studs of one piece: in the middle of its strokes, no hole nearer to the edge than is allowed, as far from each
 * other as they can be, and never nearer than two diameters. Fewer than asked where no more fit.
 * @param piece rings with the inside on their left
 */
export function studPlaces(piece: Outline, { diameter, edge, count }: NonNullable<CutTo['studs']>): StudPlace[] {
  const room = edge + diameter / 2;
  const places = alongMiddle(piece, room);
  if (places.length === 0) return [];
  if (count === 1) return [nearestTo(places, middleOf(piece))];
  const chosen = [...farthestPair(places)];
  while (chosen.length < count) {
    const next = farthestFrom(chosen, places);
    if (apartBy(chosen, next) < 2 * diameter) break;
    chosen.push(next);
  }
  // A piece too small for two takes one, in its middle.
  if (apartBy([chosen[0]], chosen[1]) < 2 * diameter) return [nearestTo(places, middleOf(piece))];
  return chosen.sort((a, b) => a.x - b.x || a.y - b.y);
}

/** Places along the medial axis that are at least so far from the edge. */
function alongMiddle(piece: Outline, room: number): StudPlace[] {
  const { minX, minY, maxX, maxY } = bounds(piece)!;
  const drawn = new DistanceField(piece, Math.max(maxX - minX, maxY - minY), FIELD_TOLERANCE).drawn([]);
  const out: StudPlace[] = [];
  const { constraints } = drawn;
  for (let i = 0; i < constraints.length; i += 4) {
    const [ax, ay, bx, by] = [constraints[i], constraints[i + 1], constraints[i + 2], constraints[i + 3]];
    const parts = Math.max(1, Math.ceil(Math.hypot(bx - ax, by - ay) / STEPS_PER_MM / STEP));
    for (let k = 0; k <= parts; k++) {
      const [x, y] = [Math.round(ax + ((bx - ax) * k) / parts), Math.round(ay + ((by - ay) * k) / parts)];
      if (drawn.distanceOfPoint(x, y) >= room && contains(piece, x / STEPS_PER_MM, y / STEPS_PER_MM))
        out.push({ x: x / STEPS_PER_MM, y: y / STEPS_PER_MM });
    }
  }
  return out;
}

const middleOf = (piece: Outline): StudPlace => {
  const { minX, minY, maxX, maxY } = bounds(piece)!;
  return { x: (minX + maxX) / 2, y: (minY + maxY) / 2 };
};

const between = (a: StudPlace, b: StudPlace): number => Math.hypot(a.x - b.x, a.y - b.y);
const apartBy = (chosen: readonly StudPlace[], place: StudPlace): number =>
  Math.min(...chosen.map((other) => between(other, place)));

const best = (places: readonly StudPlace[], score: (place: StudPlace) => number): StudPlace =>
  places.reduce((most, place) => (score(place) > score(most) ? place : most));

const nearestTo = (places: readonly StudPlace[], to: StudPlace): StudPlace => best(places, (place) => -between(place, to));
const farthestFrom = (chosen: readonly StudPlace[], places: readonly StudPlace[]): StudPlace =>
  best(places, (place) => apartBy(chosen, place));

/** The farthest from the farthest from the first: a pair that is nearly, and in strokes wholly, as far apart as can be. */
function farthestPair(places: readonly StudPlace[]): [StudPlace, StudPlace] {
  let from = farthestFrom([places[0]], places);
  let to = farthestFrom([from], places);
  for (let i = 0; i < 4; i++) {
    const back = farthestFrom([to], places);
    if (between(back, to) <= between(from, to)) break;
    [from, to] = [to, back];
  }
  return [from, to];
}
