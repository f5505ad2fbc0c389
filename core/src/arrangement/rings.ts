import { type Arrangement, type LabelledEdges } from './arrangement.js';
import { type Contour, type Outline, reversed, STEPS_PER_MM } from '../geometry/index.js';

/**
 * The rings of every place that `wanted` accepts, outer rings anticlockwise and holes clockwise, in mm. Neighbouring
 * places that are both wanted become one. Points in the middle of a straight run are left out.
 */
export function ringsOf({ base, insets }: Pick<Arrangement, 'base' | 'insets'>, wanted: (label: number) => boolean): Outline {
  const rings = tracedRings(base, wanted);
  for (const { contours, isLeft, inside, around } of insets) {
    const isInside = wanted(inside);
    if (isInside !== wanted(around))
      for (const contour of contours) rings.push(isInside === isLeft ? contour : reversed(contour));
  }
  return rings;
}

function tracedRings({ x, y, lo, hi, left, right }: LabelledEdges, wanted: (label: number) => boolean): Contour[] {
  // Directed so that the wanted place lies on the left, and for every point a chain of the edges that leave it.
  const from: number[] = [];
  const to: number[] = [];
  const leaving = new Int32Array(x.length).fill(-1);
  const alsoLeaving: number[] = [];
  for (let e = 0; e < lo.length; e++) {
    const isLeft = wanted(left[e]);
    if (isLeft === wanted(right[e])) continue;
    const start = isLeft ? lo[e] : hi[e];
    alsoLeaving.push(leaving[start]);
    leaving[start] = from.length;
    from.push(start);
    to.push(isLeft ? hi[e] : lo[e]);
  }

  /** Where several rings pass through one point, the way on is the one that turns least: rings stay simple. */
  const nextAround = (arriving: number): number => {
    const v = to[arriving];
    let best = leaving[v];
    if (alsoLeaving[best] < 0) return best;
    const backX = x[from[arriving]] - x[v];
    const backY = y[from[arriving]] - y[v];
    let bestAngle = Infinity;
    for (let h = leaving[v]; h >= 0; h = alsoLeaving[h]) {
      // Clockwise angle from the way back to the way on.
      const dx = x[to[h]] - x[v];
      const dy = y[to[h]] - y[v];
      let angle = Math.atan2(dx * backY - dy * backX, dx * backX + dy * backY);
      if (angle <= 0) angle += 2 * Math.PI;
      if (angle < bestAngle) {
        best = h;
        bestAngle = angle;
      }
    }
    return best;
  };

  const rings: Contour[] = [];
  const done = new Uint8Array(from.length);
  for (let first = 0; first < from.length; first++) {
    if (done[first]) continue;
    const ring: number[] = [];
    let h = first;
    do {
      // Never so where labels are right; without an end there would be no sentence either.
      if (ring.length > from.length)
        throw new RangeError('An outline does not close at this size: make the sign smaller, or its sides plainer.');
      done[h] = 1;
      ring.push(from[h]);
      h = nextAround(h);
    } while (h !== first);
    // A point through which other rings pass too stays a corner, also on a straight run.
    const contour = straightened(x, y, ring, (v) => alsoLeaving[leaving[v]] >= 0);
    if (contour.length >= 6) rings.push(contour);
  }
  return rings;
}

function straightened(x: Int32Array, y: Int32Array, ring: readonly number[], isShared: (v: number) => boolean): Contour {
  const out: number[] = [];
  const n = ring.length;
  for (let i = 0; i < n; i++) {
    const p = ring[i === 0 ? n - 1 : i - 1];
    const q = ring[i];
    const r = ring[i === n - 1 ? 0 : i + 1];
    const cross = (x[q] - x[p]) * (y[r] - y[q]) - (y[q] - y[p]) * (x[r] - x[q]);
    if (cross !== 0 || isShared(q)) out.push(x[q] / STEPS_PER_MM, y[q] / STEPS_PER_MM);
  }
  return Float64Array.from(out);
}
