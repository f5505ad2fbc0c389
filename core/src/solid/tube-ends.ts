import { note } from '../notes/index.js';
import { SupportError } from '../support/index.js';
import { type Creased } from '../mesh/index.js';

/** What a tube that goes all the way round is closed with, in mm, or that it is solid through. */
export interface TubeEnds {
  readonly lid?: number;
  readonly floor?: number;
  readonly filled?: boolean;
}

/**
 * A tube with its ends closed: its plain back is taken out where something fills it, and what was its rim there is covered by fans.
 * @param between mm up the surface at which the whole blank begins and ends @param up mm up the surface of a corner @param isBehind whether a triangle is one of the plain back
 * @param positions in space, to which the middles of the fans are added
 */
export function withTubeEnds(
  mesh: Creased,
  positions: Float64Array,
  ends: TubeEnds,
  between: readonly [number, number],
  up: (corner: number) => number,
  isBehind: (triangle: number) => boolean,
): Creased {
  const { triangles } = mesh;
  const [lowest, highest] = between;
  const ranges: (readonly [number, number])[] = ends.filled
    ? [[-Infinity, Infinity]]
    : [
        ...(ends.floor ? [[-Infinity, lowest + ends.floor] as const] : []),
        ...(ends.lid ? [[highest - ends.lid, Infinity] as const] : []),
      ];
  const out: number[] = [];
  const from: number[] = [];
  const rims = ranges.map(() => new Map<string, readonly [number, number]>());
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [triangles[t], triangles[t + 1], triangles[t + 2]];
    const range = isBehind(t / 3)
      ? ranges.findIndex(([low, high]) => corners.every((v) => up(v) > low - SAME && up(v) < high + SAME))
      : -1;
    if (range < 0) {
      out.push(...corners);
      from.push(mesh.from[t / 3]);
      continue;
    }
    corners.forEach((a, k) => {
      const b = corners[(k + 1) % 3];
      if (!rims[range].delete(`${b} ${a}`)) rims[range].set(`${a} ${b}`, [a, b]);
    });
  }
  const added: number[] = [];
  for (const rim of rims) {
    // Nothing of this piece, such as an insert, is closed there.
    if (rim.size === 0) continue;
    const loops = loopsOf([...rim.values()]);
    if (loops.length !== 2) throw new SupportError([note('support-ends', {}, loops.length)]);
    for (const loop of loops) {
      const middle = (positions.length + added.length) / 3;
      for (let axis = 0; axis < 3; axis++) added.push(loop.reduce((sum, v) => sum + positions[3 * v + axis], 0) / loop.length);
      loop.forEach((a, i) => {
        out.push(a, loop[(i + 1) % loop.length], middle);
        from.push(-1);
      });
    }
  }
  const all = new Float64Array(positions.length + added.length);
  all.set(positions);
  all.set(added, positions.length);
  return { positions: all, triangles: Uint32Array.from(out), from: Int32Array.from(from) };
}

/** mm by which a corner may lie beside the level at which a lid or a floor ends. */
const SAME = 1e-6;

/** Rings of edges, each of which goes on where another ends. */
function loopsOf(edges: readonly (readonly [number, number])[]): number[][] {
  const next = new Map(edges);
  if (next.size !== edges.length) return [];
  const loops: number[][] = [];
  while (next.size > 0) {
    const [start] = next.keys();
    const loop: number[] = [];
    let at: number | undefined = start;
    while (at !== undefined && next.has(at)) {
      loop.push(at);
      const to: number | undefined = next.get(at);
      next.delete(at);
      at = to;
    }
    loops.push(loop);
  }
  return loops;
}
