import { bounds, type Box, contains, contourArea, type Outline } from '../../geometry/index.js';
import { type ReliefMesh } from '../../mesh/index.js';
import { type Evaluation } from '../../relief/index.js';
import { type ColouredMesh, coloured, planeSection, solidOf } from '../../solid/index.js';
import { type Finish } from '../../sign/index.js';

/** mm off a height at which a section is taken: beside the faces that lie at it. */
const BESIDE = 0.02;

/** mm from an edge that count as on it. */
const NEAR = 0.005;

/** An outer ring of a section with the holes inside it. */
export interface Piece {
  readonly rings: Outline;
  readonly box: Box;
}

/** The solid of a sign, cut level at any height: what is made, whatever it was asked to be. */
export class Sections {
  private readonly solid: ReliefMesh;
  private readonly known = new Map<number, Piece[]>();
  private readonly heights: readonly number[];
  private worn: ColouredMesh | undefined;

  constructor(private readonly evaluation: Evaluation) {
    this.solid = solidOf(evaluation);
    this.heights = evaluation.levels.flatMap(({ z, plane }) => (plane ? [] : [z])).sort((a, b) => b - a);
  }

  /** What is material just above a height. */
  above(z: number): readonly Piece[] {
    return this.at(z + BESIDE);
  }

  /** What is material just below a height. */
  below(z: number): readonly Piece[] {
    return this.at(z - BESIDE);
  }

  /** The level of the relief at a place; that of the material beneath where it slopes. */
  levelAt(x: number, y: number): number {
    return this.heights.find((z) => isIn(this.below(z), x, y)) ?? -Infinity;
  }

  /** The highest and the lowest corner of the solid inside rings, of those not below `from`. */
  reachIn(rings: Outline, from = -Infinity): { readonly low: number; readonly high: number } {
    const { minX, minY, maxX, maxY } = bounds(rings)!;
    const { positions: p } = this.solid;
    let [low, high] = [Infinity, -Infinity];
    for (let i = 0; i < p.length; i += 3) {
      if (p[i] < minX || p[i] > maxX || p[i + 1] < minY || p[i + 1] > maxY || p[i + 2] < from) continue;
      if (p[i + 2] <= high && p[i + 2] >= low) continue;
      if (!touches(rings, p[i], p[i + 1])) continue;
      high = Math.max(high, p[i + 2]);
      low = Math.min(low, p[i + 2]);
    }
    return { low, high };
  }

  /** The finish of what faces the reader over a box between two heights: that of most of it. */
  finishIn(box: Box, from: number, to: number): Finish | undefined {
    this.worn ??= coloured(this.evaluation, this.solid);
    const { positions: p, triangles } = this.solid;
    const { finishes, wears } = this.worn;
    const areas = new Float64Array(finishes.length);
    for (let f = 0; f < wears.length; f++) {
      const [a, b, c] = [3 * triangles[3 * f], 3 * triangles[3 * f + 1], 3 * triangles[3 * f + 2]];
      const z = (p[a + 2] + p[b + 2] + p[c + 2]) / 3;
      const [x, y] = [(p[a] + p[b] + p[c]) / 3, (p[a + 1] + p[b + 1] + p[c + 1]) / 3];
      if (z < from || z > to || x < box.minX || x > box.maxX || y < box.minY || y > box.maxY) continue;
      const plan = (p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[c] - p[a]) * (p[b + 1] - p[a + 1]);
      if (plan > 0) areas[wears[f]] += plan;
    }
    const most = areas.indexOf(Math.max(...areas));
    return areas[most] > 0 ? finishes[most] : undefined;
  }

  private at(z: number): Piece[] {
    const key = Math.round(z * 1e5);
    let pieces = this.known.get(key);
    if (!pieces) this.known.set(key, (pieces = piecesOf(planeSection(this.solid, 2, z))));
    return pieces;
  }
}

const isInside = ({ minX, minY, maxX, maxY }: Box, x: number, y: number): boolean =>
  x >= minX && x <= maxX && y >= minY && y <= maxY;
/** Whether a place is inside, or so near to the edge that it is a corner of what stands there. */
export const touches = (rings: Outline, x: number, y: number): boolean =>
  contains(rings, x, y) || [-NEAR, NEAR].some((by) => contains(rings, x + by, y) || contains(rings, x, y + by));
const isIn = (pieces: readonly Piece[], x: number, y: number): boolean =>
  pieces.some(({ rings, box }) => isInside(box, x, y) && contains(rings, x, y));

function piecesOf(section: Outline): Piece[] {
  const outer = section.filter((ring) => contourArea(ring) > 0).map((ring) => ({ ring, box: bounds([ring])!, mm2: contourArea(ring), holes: [] as Outline[number][] })); // prettier-ignore
  outer.sort((a, b) => a.mm2 - b.mm2);
  for (const hole of section) {
    if (contourArea(hole) >= 0) continue;
    const size = -contourArea(hole);
    const of = outer.find(
      ({ ring, box, mm2 }) => mm2 > size && isInside(box, hole[0], hole[1]) && contains([ring], hole[0], hole[1]),
    );
    of?.holes.push(hole);
  }
  return outer.map(({ ring, box, holes }) => ({ rings: [ring, ...holes], box }));
}
