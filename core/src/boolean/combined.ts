import { dot, type Vector } from '../geometry/index.js';
import { type Mesh, withoutTouching } from '../mesh/index.js';
import { CombineError } from './combine-error.js';
import { Crossings, type EdgeCrossing } from './crossings.js';
import { HalfEdges } from './half-edges.js';
import { type Edge, loopsOf, triangulatedLoops } from './loops.js';
import { withoutNothings } from './nothings.js';

export type Operation = 'join' | 'cut' | 'common';

/** A closed solid put together from two, and for every triangle the one that it is part of: of the first, or counted on of the second. */
export interface CombinedMesh extends Mesh {
  readonly from: Int32Array;
}

/** How often what is inside of neither, and what is inside of the first or second, counts. */
const COUNTS = {
  join: { first: 1, second: 1, both: -1 },
  cut: { first: 1, second: 0, both: -1 },
  common: { first: 0, second: 0, both: 1 },
} as const;

/**
 * Two closed solids joined, the second cut from the first, or what both have in common. Faces that lie in one another are told apart as if the first
 * were a little larger where they are joined, and otherwise a little smaller.
 * @throws CombineError where one of them is not closed, or they cannot be
 */
export function combinedSolids(first: Mesh, second: Mesh, operation: Operation): CombinedMesh {
  return new Combination(new HalfEdges(first), new HalfEdges(second), operation).made();
}

/** A corner on a line, and whether a stretch that is kept begins there. */
interface OnLine {
  readonly v: number;
  readonly isStart: boolean;
}

class Combination {
  private readonly positions: number[] = [];
  private readonly sides: readonly [SideOf, SideOf];
  /** How many corners are those of the first. */
  private known = 0;
  /** Half edges of the result by the face that they are around: of the first, then of the second. */
  private readonly around: Edge[][];

  constructor(
    private readonly p: HalfEdges,
    private readonly q: HalfEdges,
    private readonly operation: Operation,
  ) {
    const crossings = new Crossings(p, q, operation === 'join' ? 1 : -1);
    const { first, second, both } = COUNTS[operation];
    this.around = Array.from({ length: p.faces + q.faces }, () => []);
    const [ofP, ofQ] = [crossings.through(true), crossings.through(false)];
    this.sides = [
      this.side(p, ofP, (v) => first + both * crossings.inside(v, true), both),
      this.side(q, ofQ, (v) => second + both * crossings.inside(v, false), both),
    ];
  }

  made(): CombinedMesh {
    const { p, q, around } = this;
    const lines = new Map<number, OnLine[]>();
    this.sides.forEach((side, i) => this.addCrossings(side, i === 0, lines));
    for (const side of this.sides) this.addEdges(side);
    for (const [key, on] of lines) {
      const stretches = paired(on, this.longest(on));
      const [faceP, faceQ] = [Math.floor(key / q.faces), key % q.faces];
      for (const [a, b] of stretches) {
        around[faceP].push([a, b]);
        around[p.faces + faceQ].push([b, a]);
      }
    }
    const triangles: number[] = [];
    const from: number[] = [];
    around.forEach((edges, f) => {
      if (edges.length === 0) return;
      const isSecond = f >= p.faces;
      const normal = isSecond ? q.normal(f - p.faces) : p.normal(f);
      const out: Vector = isSecond && this.operation === 'cut' ? [-normal[0], -normal[1], -normal[2]] : normal;
      const made = triangulatedLoops(loopsOf(edges), this.positions, out);
      for (const v of made) triangles.push(v);
      for (let t = 0; t < made.length; t += 3) from.push(f);
    });
    const whole = withoutNothings(
      {
        positions: Float64Array.from(this.positions),
        triangles: Uint32Array.from(triangles),
        from: Int32Array.from(from),
      },
      this.known,
    );
    const { belongs, ...mesh } = withoutTouching({ ...whole, belongs: whole.from });
    return { positions: mesh.positions, triangles: mesh.triangles, from: belongs };
  }

  /** One of the two solids: which corners of it are kept, and where its edges are crossed. */
  private side(own: HalfEdges, crossings: readonly EdgeCrossing[], countOf: (v: number) => number, both: number): SideOf {
    const counts = countsOfCorners(own, crossings, countOf);
    const corners = Int32Array.from(counts, (count, v) => {
      const at = this.positions.length / 3;
      for (let i = 0; i < Math.abs(count); i++) this.positions.push(...own.point(v));
      return at;
    });
    if (own === this.p) this.known = this.positions.length / 3;
    const crossed = crossings.map((crossing) => {
      const at = this.positions.length / 3;
      for (let i = 0; i < Math.abs(crossing.times); i++) this.positions.push(...crossing.at);
      return { ...crossing, times: both * crossing.times, v: at };
    });
    return { own, counts, corners, crossed, onEdges: new Map() };
  }

  /** Corners where edges pass through faces: on those edges, and on the lines in which faces of both meet. */
  private addCrossings({ own, crossed, onEdges }: SideOf, isFirst: boolean, lines: Map<number, OnLine[]>): void {
    const { q } = this;
    for (const { edge, face, times, v } of crossed) {
      const isBack = times < 0;
      const keyOf = (half: number): number => {
        const mine = Math.floor(half / 3);
        return isFirst ? mine * q.faces + face : face * q.faces + mine;
      };
      for (let i = 0; i < Math.abs(times); i++) {
        push(onEdges, edge, { v: v + i, isStart: isBack });
        push(lines, keyOf(own.pair[edge]), { v: v + i, isStart: isBack !== !isFirst });
        push(lines, keyOf(edge), { v: v + i, isStart: isBack !== isFirst });
      }
    }
  }

  /** The stretches of edges that are kept. */
  private addEdges({ own, counts, corners, onEdges }: SideOf): void {
    const first = own === this.p ? 0 : this.p.faces;
    const add = (half: number, a: number, b: number): void => {
      this.around[first + Math.floor(half / 3)].push([a, b]);
      this.around[first + Math.floor(own.pair[half] / 3)].push([b, a]);
    };
    for (let half = 0; half < own.pair.length; half++) {
      if (!own.isForward(half)) continue;
      const [start, end] = [own.start(half), own.end(half)];
      const on = onEdges.get(half);
      if (!on) {
        const count = counts[start];
        for (let i = 0; i < Math.abs(count); i++) {
          const [a, b] = [corners[start] + i, corners[end] + i];
          if (count > 0) add(half, a, b);
          else add(half, b, a);
        }
        continue;
      }
      for (let i = 0; i < Math.abs(counts[start]); i++) on.push({ v: corners[start] + i, isStart: counts[start] > 0 });
      for (let i = 0; i < Math.abs(counts[end]); i++) on.push({ v: corners[end] + i, isStart: counts[end] < 0 });
      const [a, b] = [own.point(start), own.point(end)];
      const along: Vector = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
      for (const [from, to] of paired(on, (v) => dot(this.point(v), along))) add(half, from, to);
    }
  }

  private point(v: number): Vector {
    return [this.positions[3 * v], this.positions[3 * v + 1], this.positions[3 * v + 2]];
  }

  /** The coordinate in which corners lie furthest apart. */
  private longest(on: readonly OnLine[]): (v: number) => number {
    const spans = [0, 1, 2].map((k) => {
      const values = on.map(({ v }) => this.positions[3 * v + k]);
      return Math.max(...values) - Math.min(...values);
    });
    const k = spans.indexOf(Math.max(...spans));
    return (v) => this.positions[3 * v + k];
  }
}

/** What is kept of one of the two solids. */
interface SideOf {
  readonly own: HalfEdges;
  /** How often each corner is kept; negative where what is around it is turned inside out. */
  readonly counts: Int32Array;
  /** The first corner of the result that each became. */
  readonly corners: Int32Array;
  readonly crossed: readonly (EdgeCrossing & { readonly v: number })[];
  readonly onEdges: Map<number, OnLine[]>;
}

/** How often corners are kept: those that edges join which nothing crosses alike. */
function countsOfCorners(own: HalfEdges, crossings: readonly EdgeCrossing[], countOf: (v: number) => number): Int32Array {
  const crossed = new Set(crossings.map(({ edge }) => edge));
  const neighbours: number[][] = Array.from({ length: own.positions.length / 3 }, () => []);
  for (let half = 0; half < own.pair.length; half++)
    if (!crossed.has(own.forward(half))) neighbours[own.start(half)].push(own.end(half));
  const counts = new Int32Array(neighbours.length);
  const isKnown = new Uint8Array(neighbours.length);
  for (let v = 0; v < neighbours.length; v++) {
    if (isKnown[v]) continue;
    const count = countOf(v);
    const open = [v];
    isKnown[v] = 1;
    while (open.length > 0) {
      const here = open.pop()!;
      counts[here] = count;
      for (const next of neighbours[here]) {
        if (isKnown[next]) continue;
        isKnown[next] = 1;
        open.push(next);
      }
    }
  }
  return counts;
}

/** Beginnings and ends along a line, each beginning with the end that follows. */
function paired(on: readonly OnLine[], along: (v: number) => number): Edge[] {
  const ordered = (isStart: boolean): number[] =>
    on
      .filter((one) => one.isStart === isStart)
      .map(({ v }) => v)
      .sort((a, b) => along(a) - along(b) || a - b);
  const [starts, ends] = [ordered(true), ordered(false)];
  if (starts.length !== ends.length) throw new CombineError();
  return starts.map((v, i): Edge => [v, ends[i]]);
}

function push<V>(lists: Map<number, V[]>, key: number, value: V): void {
  const list = lists.get(key);
  if (list) list.push(value);
  else lists.set(key, [value]);
}
