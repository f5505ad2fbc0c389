import { type Contour, STEPS_PER_MM } from '../../geometry/index.js';
import { withoutSlivers } from '../../mesh/index.js';

/** Triangles over an area with the distance from its edge at every point, over each of which the distance grows evenly. */
export interface Graded {
  /** Grid steps, whole ones for the points of the area's edge. */
  readonly x: ArrayLike<number>;
  readonly y: ArrayLike<number>;
  /** mm from the edge. */
  readonly distances: ArrayLike<number>;
  /** 1 for the points of the edge. */
  readonly isOnEdge: Uint8Array;
  /** Three points a triangle, anticlockwise. */
  readonly corners: Uint32Array;
}

/** Triangles none of which reaches over given lines of equal distance, with those lines. */
export interface Parted extends Graded {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly distances: Float64Array;
  /** Distances of the lines, ascending. */
  readonly levels: readonly number[];
  /** For every line its rings in mm, the farther places on their left. */
  readonly rings: readonly (readonly Contour[])[];
}

/** mm by which the distance of a point may miss that of a line so that it becomes one of the line's. */
const ON_LINE = 2e-5;

/** Parts triangles along lines of equal distance. */
export function partedAt(graded: Graded, levels: readonly number[]): Parted {
  const parting = new Parting(graded);
  const rings = levels.map((level) => parting.cut(level));
  return { ...parting.result(), levels, rings };
}

/** More points than a shape has: two of them make one number. */
const PAIR = 0x4000000;

/** The lines of equal distance alone, for levels in ascending order: for each its rings in mm, the farther places on their left. */
export function linesAt({ x, y, distances: d, corners }: Graded, levels: readonly number[]): Contour[][] {
  // From the side of a triangle where a line enters it to the one where it leaves.
  const steps = levels.map(() => new Map<number, number>());
  for (let t = 0; t < corners.length; t += 3) {
    let [a, b, c] = [corners[t], corners[t + 1], corners[t + 2]];
    const low = Math.min(d[a], d[b], d[c]);
    const high = Math.max(d[a], d[b], d[c]);
    for (let k = 0; k < levels.length && levels[k] <= high; k++) {
      const level = levels[k];
      if (level <= low) continue;
      // Turned until the corner that is alone on its side comes first.
      const isFarAlone = Number(d[a] >= level) + Number(d[b] >= level) + Number(d[c] >= level) === 1;
      while (d[a] >= level !== isFarAlone) [a, b, c] = [b, c, a];
      const first = a < b ? a * PAIR + b : b * PAIR + a;
      const second = a < c ? a * PAIR + c : c * PAIR + a;
      if (isFarAlone) steps[k].set(first, second);
      else steps[k].set(second, first);
    }
  }
  return steps.map((next, k) =>
    ringsOfSteps(next, (side) => {
      const [p, q] = [Math.floor(side / PAIR), side % PAIR];
      const share = (levels[k] - d[p]) / (d[q] - d[p]);
      return [(x[p] + share * (x[q] - x[p])) / STEPS_PER_MM, (y[p] + share * (y[q] - y[p])) / STEPS_PER_MM];
    }),
  );
}

/** Rings of steps, each to one other; those that are no more than a point are left out. */
function ringsOfSteps(next: Map<number, number>, pointOf: (side: number) => readonly [number, number]): Contour[] {
  const out: Contour[] = [];
  for (const start of next.keys()) {
    const ring: number[] = [];
    let at: number | undefined = start;
    while (at !== undefined) {
      const [px, py] = pointOf(at);
      if (px !== ring[ring.length - 2] || py !== ring[ring.length - 1]) ring.push(px, py);
      const ahead: number | undefined = next.get(at);
      next.delete(at);
      at = ahead;
    }
    // It ends where it began.
    ring.length -= 2;
    if (ring.length >= 6) out.push(Float64Array.from(ring));
  }
  return out;
}

class Parting {
  private readonly x: number[];
  private readonly y: number[];
  private readonly d: number[];
  private corners: number[];

  constructor(private readonly graded: Graded) {
    this.x = Array.from(graded.x);
    this.y = Array.from(graded.y);
    this.d = Array.from(graded.distances);
    this.corners = Array.from(graded.corners);
  }

  /** Parts all triangles at a level and gives its line. */
  cut(level: number): Contour[] {
    const { x, y, d } = this;
    const sides = d.map((distance) => (Math.abs(distance - level) < ON_LINE ? 0 : distance > level ? 1 : -1));
    sides.forEach((side, v) => {
      if (side === 0) d[v] = level;
    });
    const cuts = new Map<number, number>();
    const between = (a: number, b: number): number => {
      const [low, high] = a < b ? [a, b] : [b, a];
      const key = low * PAIR + high;
      let point = cuts.get(key);
      if (point === undefined) {
        const t = (level - d[low]) / (d[high] - d[low]);
        point = x.length;
        x.push(x[low] + t * (x[high] - x[low]));
        y.push(y[low] + t * (y[high] - y[low]));
        d.push(level);
        cuts.set(key, point);
      }
      return point;
    };
    const line = new LineOfSteps();
    const next: number[] = [];
    const { corners } = this;
    for (let t = 0; t < corners.length; t += 3) {
      let [a, b, c] = [corners[t], corners[t + 1], corners[t + 2]];
      const [low, high] = [Math.min(sides[a], sides[b], sides[c]), Math.max(sides[a], sides[b], sides[c])];
      if (low >= 0) {
        // Wholly on the far side: an edge of it may lie on the line.
        if (high > 0) for (const [p, q] of [[a, b], [b, c], [c, a]]) if (sides[p] === 0 && sides[q] === 0) line.add(p, q); // prettier-ignore
        next.push(a, b, c);
        continue;
      }
      if (high <= 0) {
        next.push(a, b, c);
        continue;
      }
      const on = [a, b, c].findIndex((v) => sides[v] === 0);
      if (on >= 0) {
        for (let k = 0; k < on; k++) [a, b, c] = [b, c, a];
        const m = between(b, c);
        next.push(a, b, m, a, m, c);
        // The far part lies on the left of its line.
        if (sides[c] > 0) line.add(a, m);
        else line.add(m, a);
        continue;
      }
      // One corner is alone on its side.
      const isFarAlone = sides[a] + sides[b] + sides[c] < 0;
      while (sides[a] > 0 !== isFarAlone) [a, b, c] = [b, c, a];
      const [m, n] = [between(a, b), between(c, a)];
      next.push(a, m, n, m, b, c, m, c, n);
      if (isFarAlone) line.add(m, n);
      else line.add(n, m);
    }
    this.corners = next;
    return line.rings(x, y);
  }

  result(): Omit<Parted, 'levels' | 'rings'> {
    const isOnEdge = new Uint8Array(this.x.length);
    isOnEdge.set(this.graded.isOnEdge);
    return withoutThin({ x: this.x, y: this.y, distances: this.d, isOnEdge, corners: Uint32Array.from(this.corners) });
  }
}

/** The same without triangles that are too thin for what reads files. */
export function withoutThin(graded: Graded): Omit<Parted, 'levels' | 'rings'> {
  const [x, y, distances] = [graded.x, graded.y, graded.distances].map((list) => Float64Array.from(list));
  const positions = new Float64Array(3 * x.length);
  for (let v = 0; v < x.length; v++) {
    positions[3 * v] = x[v] / STEPS_PER_MM;
    positions[3 * v + 1] = y[v] / STEPS_PER_MM;
    positions[3 * v + 2] = distances[v];
  }
  const belongs = new Int32Array(graded.corners.length / 3);
  // The finished mesh is looked through once more; here no triangle may come to reach over a line.
  const { triangles } = withoutSlivers({ positions, triangles: graded.corners, belongs }, false);
  return { x, y, distances, isOnEdge: graded.isOnEdge, corners: triangles };
}

/** Steps of a line between numbered points; what runs one way and the other is none. */
class LineOfSteps {
  private readonly steps = new Map<number, Set<number>>();

  add(from: number, to: number): void {
    if (this.steps.get(to)?.delete(from)) return;
    const list = this.steps.get(from);
    if (list) list.add(to);
    else this.steps.set(from, new Set([to]));
  }

  rings(x: readonly number[], y: readonly number[]): Contour[] {
    const out: Contour[] = [];
    for (const [start, list] of this.steps) {
      while (list.size > 0) {
        const ring: number[] = [];
        let at = start;
        do {
          ring.push(x[at] / STEPS_PER_MM, y[at] / STEPS_PER_MM);
          const ahead = this.steps.get(at);
          const next = ahead?.values().next();
          if (!ahead || !next || next.done) break;
          ahead.delete(next.value);
          at = next.value;
        } while (at !== start);
        if (ring.length >= 6) out.push(Float64Array.from(ring));
      }
    }
    return out;
  }
}
