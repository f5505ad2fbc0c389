import { arrange, ringsOf } from '../arrangement/index.js';
import { IntList, type Outline, pointKey, STEPS_PER_MM, toStep } from '../geometry/index.js';
import { type Mesh } from '../mesh/index.js';

/** Heights that differ by less, in mm, are one. */
const SAME = 1e-6;
/** mm² of a level, or of a slope, below which nothing is cut for it. */
const LEAST_AREA = 0.01;
/** Rise for each mm across from which a facet is a slope: half a degree. */
const LEAST_SLOPE = Math.tan((0.5 * Math.PI) / 180);
const NONE = -1;

/** A level place of the relief: its height and how large it is. */
export interface Flat {
  readonly z: number;
  readonly areaMm2: number;
}

/** An edge of the plan, in mm. */
export interface Edge3 {
  readonly ax: number;
  readonly ay: number;
  readonly bx: number;
  readonly by: number;
}

/** The upper side of a solid, as what tools come down upon. */
export class Terrain {
  /** Corners of the triangles that look up, three numbers of corners each. */
  readonly triangles: Uint32Array;
  readonly positions: Float64Array;
  /** Rise for each mm across of every triangle, in its steepest direction. */
  readonly slopes: Float64Array;
  readonly highest: number;
  readonly lowest: number;
  /** From the highest to the lowest. */
  readonly flats: readonly Flat[];
  /** mm² of slopes, seen from above. */
  readonly slopedMm2: number;
  /** For each edge of a triangle the edge that lies on it in the plan the other way round, as three times its triangle and its place. */
  private readonly twins: Int32Array;
  private readonly remembered = new Map<number, Outline>();

  constructor({ positions, triangles }: Mesh) {
    this.positions = positions;
    const up = new IntList();
    for (let t = 0; t < triangles.length; t += 3) {
      const [a, b, c] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
      const twice = (positions[b] - positions[a]) * (positions[c + 1] - positions[a + 1]) - (positions[c] - positions[a]) * (positions[b + 1] - positions[a + 1]); // prettier-ignore
      if (twice > 1e-12) for (let k = 0; k < 3; k++) up.push(triangles[t + k]);
    }
    this.triangles = Uint32Array.from(up.toArray());
    this.twins = this.twinned();
    this.slopes = new Float64Array(this.triangles.length / 3);
    const flats = new Map<number, { z: number; areaMm2: number }>();
    let [highest, lowest, slopedMm2] = [-Infinity, Infinity, 0];
    for (let t = 0; t < this.slopes.length; t++) {
      const { steep, areaMm2, zs } = this.facet(t);
      this.slopes[t] = steep;
      highest = Math.max(highest, ...zs);
      lowest = Math.min(lowest, ...zs);
      if (steep > LEAST_SLOPE) slopedMm2 += areaMm2;
      else {
        const key = Math.round(zs[0] / SAME / 10);
        const flat = flats.get(key);
        if (flat) flat.areaMm2 += areaMm2;
        else flats.set(key, { z: zs[0], areaMm2 });
      }
    }
    this.highest = highest;
    this.lowest = lowest;
    this.slopedMm2 = slopedMm2;
    this.flats = [...flats.values()].filter(({ areaMm2 }) => areaMm2 >= LEAST_AREA).sort((a, b) => b.z - a.z);
  }

  /** Everything that stands higher than `z`, in mm. */
  above(z: number): Outline {
    const key = Math.round(z / SAME);
    const known = this.remembered.get(key);
    if (known) return known;
    const outline = this.outlined((t) => this.partAbove(t, z + SAME), z + SAME);
    this.remembered.set(key, outline);
    return outline;
  }

  /** Everything over which there is material. */
  get footprint(): Outline {
    return this.above(-Infinity);
  }

  /** Whether an edge is to be looked at with its triangle: of two that share one, both slopes or neither, the first does. */
  isOwnEdge(h: number): boolean {
    const twin = this.twins[h];
    if (twin === NONE || twin > h) return true;
    const { triangles } = this;
    const isShared = triangles[twin] === triangles[nextOf(h)] && triangles[nextOf(twin)] === triangles[h];
    return !isShared || this.isSlope(Math.floor(h / 3)) !== this.isSlope(Math.floor(twin / 3));
  }

  isSlope(triangle: number): boolean {
    return this.slopes[triangle] > LEAST_SLOPE;
  }

  /** Whether a slope that is accepted passes between two heights. */
  isSloped(low: number, high: number, wanted: (triangle: number) => boolean): boolean {
    for (let t = 0; t < this.slopes.length; t++) {
      if (!wanted(t)) continue;
      const { zs, areaMm2 } = this.facet(t);
      if (areaMm2 > LEAST_AREA / 100 && Math.max(...zs) > low + SAME && Math.min(...zs) < high - SAME) return true;
    }
    return false;
  }

  /** What the triangles cover that `wanted` accepts. */
  covered(wanted: (triangle: number) => boolean): Outline {
    return this.outlined((t) => (wanted(t) ? 'all' : 'nothing'), -Infinity);
  }

  /**
   * The lines along which accepted slopes end below, and those in which two of them meet as in a valley.
   * @param wanted slopes
   * @param leastTurn radians between two slopes that meet, from which that is a valley and no chord of a curve
   */
  lowLines(wanted: (triangle: number) => boolean, leastTurn: number): { readonly feet: Edge3[]; readonly valleys: Edge3[] } {
    const [feet, valleys]: [Edge3[], Edge3[]] = [[], []];
    const { positions: p, triangles } = this;
    for (let h = 0; h < triangles.length; h++) {
      const t = Math.floor(h / 3);
      if (!wanted(t)) continue;
      const [a, b, c] = [3 * triangles[h], 3 * triangles[nextOf(h)], 3 * triangles[nextOf(nextOf(h))]];
      const twin = this.twins[h];
      const other = twin === NONE ? NONE : Math.floor(twin / 3);
      const edge: Edge3 = { ax: p[a], ay: p[a + 1], bx: p[b], by: p[b + 1] };
      if (other === NONE || !wanted(other)) {
        const isFoot = p[c + 2] > Math.max(p[a + 2], p[b + 2]) - SAME && p[c + 2] > Math.min(p[a + 2], p[b + 2]) + SAME;
        if (isFoot) feet.push(edge);
        continue;
      }
      if (twin < h) continue;
      const [u, v] = [this.normal(t), this.normal(other)];
      const cosine = u[0] * v[0] + u[1] * v[1] + u[2] * v[2];
      if (cosine > Math.cos(leastTurn)) continue;
      const d = 3 * triangles[nextOf(nextOf(twin))];
      const isValley = (p[d] - p[a]) * u[0] + (p[d + 1] - p[a + 1]) * u[1] + (p[d + 2] - p[a + 2]) * u[2] > 0;
      if (isValley) valleys.push(edge);
    }
    return { feet, valleys };
  }

  private facet(t: number): { readonly steep: number; readonly areaMm2: number; readonly zs: readonly [number, number, number] } {
    const { positions: p, triangles } = this;
    const [a, b, c] = [3 * triangles[3 * t], 3 * triangles[3 * t + 1], 3 * triangles[3 * t + 2]];
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const twice = ux * vy - uy * vx;
    return {
      steep: Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz) / twice,
      areaMm2: twice / 2,
      zs: [p[a + 2], p[b + 2], p[c + 2]],
    };
  }

  private normal(t: number): readonly [number, number, number] {
    const { positions: p, triangles } = this;
    const [a, b, c] = [3 * triangles[3 * t], 3 * triangles[3 * t + 1], 3 * triangles[3 * t + 2]];
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx] as const;
    const length = Math.hypot(...n);
    return [n[0] / length, n[1] / length, n[2] / length];
  }

  private partAbove(t: number, z: number): Part {
    const { positions, triangles } = this;
    let count = 0;
    for (let k = 0; k < 3; k++) if (positions[3 * triangles[3 * t + k] + 2] > z) count++;
    return count === 3 ? 'all' : count === 0 ? 'nothing' : 'some';
  }

  /** What parts of triangles cover together: borders that two of them share in height as well are within. */
  private outlined(partOf: (triangle: number) => Part, z: number): Outline {
    const { positions: p, triangles, twins } = this;
    const parts = Array.from({ length: triangles.length / 3 }, (_, t) => partOf(t));
    const borders = new IntList();
    const push = (from: readonly [number, number], to: readonly [number, number]) => {
      if (from[0] !== to[0] || from[1] !== to[1]) for (const value of [...from, ...to]) borders.push(value);
    };
    const place = (corner: number) => [toStep(p[3 * corner]), toStep(p[3 * corner + 1])] as const;
    /** Where an edge comes to the height, the same from either of its ends. */
    const crossing = (a: number, b: number): readonly [number, number] => {
      const [low, high] = a < b ? [a, b] : [b, a];
      const share = (z - p[3 * low + 2]) / (p[3 * high + 2] - p[3 * low + 2]);
      return [0, 1].map((axis) => toStep(p[3 * low + axis] + share * (p[3 * high + axis] - p[3 * low + axis]))) as [
        number,
        number,
      ];
    };
    for (let t = 0; t < parts.length; t++) {
      const part = parts[t];
      if (part === 'nothing') continue;
      let [leaves, enters]: (readonly [number, number] | undefined)[] = [];
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const [a, b] = [triangles[h], triangles[nextOf(h)]];
        const [isFrom, isTo] = part === 'all' ? [true, true] : [p[3 * a + 2] > z, p[3 * b + 2] > z];
        if (!isFrom && !isTo) continue;
        const from = isFrom ? place(a) : (enters = crossing(a, b));
        const to = isTo ? place(b) : (leaves = crossing(a, b));
        const twin = twins[h];
        if (twin !== NONE) {
          const other = parts[Math.floor(twin / 3)];
          if (other === 'all' && part === 'all') continue;
          // The other has the same stretch of it.
          if (other !== 'nothing' && other === part && triangles[twin] === b && triangles[nextOf(twin)] === a) continue;
        }
        push(from, to);
      }
      if (leaves && enters) push(leaves, enters);
    }
    const arranged = arrange([], (windings) => (windings.length > 0 && windings[1] > 0 ? 1 : 0), {
      segments: [],
      on: () => false,
      borders: [{ layer: 0, segments: borders.toArray() }],
    });
    return ringsOf(arranged, (label) => label === 1);
  }

  private twinned(): Int32Array {
    const { positions: p, triangles } = this;
    const ids = new Map<number, number>();
    const idOf = (corner: number): number => {
      const key = pointKey(Math.round(p[3 * corner] * STEPS_PER_MM), Math.round(p[3 * corner + 1] * STEPS_PER_MM));
      let id = ids.get(key);
      if (id === undefined) ids.set(key, (id = ids.size));
      return id;
    };
    const ends = Uint32Array.from(triangles, idOf);
    const waiting = new Map<number, number>();
    const twins = new Int32Array(triangles.length).fill(NONE);
    for (let h = 0; h < triangles.length; h++) {
      const [a, b] = [ends[h], ends[nextOf(h)]];
      const other = waiting.get(b * ends.length + a);
      if (other === undefined) waiting.set(a * ends.length + b, h);
      else {
        // Where several meet each has one other.
        waiting.delete(b * ends.length + a);
        twins[h] = other;
        twins[other] = h;
      }
    }
    return twins;
  }
}

/** How much of a triangle is meant. */
type Part = 'all' | 'some' | 'nothing';

/** The next edge around a triangle, or the corner that an edge leads to. */
const nextOf = (h: number): number => (h % 3 === 2 ? h - 2 : h + 1);
