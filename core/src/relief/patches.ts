import {
  arrange,
  type Contour,
  type DrawnField,
  movedBy,
  type Outline,
  ShapeCache,
  STEPS_PER_MM,
  toStep,
  triangulate,
  withoutSlivers,
} from '../outline/index.js';
import type { Ramp } from './ramp.js';
import { type Fields, insideLeft, linesOf } from './weave.js';

/** The slopes of one letter: triangles over it with the distance of every point from its edge. */
export interface Patch {
  /** Grid steps. */
  readonly x: Int32Array;
  readonly y: Int32Array;
  /** mm from the edge. */
  readonly distances: Float64Array;
  /** 1 for the points of the letter's edge. */
  readonly isOnEdge: Uint8Array;
  /** Three points a triangle, anticlockwise. */
  readonly corners: Uint32Array;
  /** Distances at which the slope breaks; where it comes to its level top the last is that. */
  readonly levels: readonly number[];
  /** The field that it was drawn from, with lines at those distances. */
  readonly drawn: DrawnField;
  /** The greatest distance from the edge. */
  readonly deepest: number;
  /** The edge has the points of the letter and no others. */
  readonly isWhole: boolean;
}

/** A patch where a letter lies now. */
export interface PlacedPatch {
  readonly patch: Patch;
  readonly stepX: number;
  readonly stepY: number;
}

/** Makes the slopes of letters that nothing comes near, each different one once. */
export class Patches {
  private readonly known = new ShapeCache<Patch>();

  constructor(private readonly fields: Fields) {}

  of(contours: readonly Contour[], ramp: Ramp): PlacedPatch {
    const outline = insideLeft(contours);
    const { field } = this.fields.field(outline, ramp);
    const levels = linesOf(ramp, [], Infinity, field.deepest);
    const name = `${field.run} ${field.tolerance} ${levels.join()}`;
    const { value, dx, dy } = this.known.get(outline, name, (rings) => patchOf(rings, field.drawn(levels), field.deepest));
    return { patch: value, stepX: toStep(dx), stepY: toStep(dy) };
  }
}

function patchOf(outline: Outline, drawn: DrawnField, deepest: number): Patch {
  // Copies of the rings: marked ones would be set aside as a letter.
  const rings = outline.map((ring) => ring.slice());
  const inside = (label: number): boolean => label === 1;
  const { edges } = arrange([rings], (windings) => (windings.length > 0 ? 1 : 0), { segments: drawn.creases, on: inside });
  const { corners } = triangulate(edges, inside);
  const isOnEdge = new Uint8Array(edges.x.length);
  let onEdge = 0;
  for (let e = 0; e < edges.lo.length; e++) {
    if (edges.left[e] === edges.right[e]) continue;
    onEdge++;
    isOnEdge[edges.lo[e]] = isOnEdge[edges.hi[e]] = 1;
  }
  const distances = Float64Array.from(edges.x, (x, i) => drawn.distanceOfPoint(x, edges.y[i]));
  const positions = new Float64Array(3 * distances.length);
  distances.forEach((d, i) => positions.set([edges.x[i] / STEPS_PER_MM, edges.y[i] / STEPS_PER_MM, d], 3 * i));
  const { triangles } = withoutSlivers({
    positions,
    triangles: Uint32Array.from(corners),
    belongs: new Int32Array(corners.length / 3),
  });
  return {
    x: edges.x,
    y: edges.y,
    distances,
    isOnEdge,
    corners: triangles,
    levels: drawn.levels,
    drawn,
    deepest,
    isWhole: onEdge === outline.reduce((sum, ring) => sum + ring.length / 2, 0),
  };
}

/** Rings of a line of equal distance where the letter of a patch lies now. */
export const placedRings = (rings: readonly Contour[], { stepX, stepY }: PlacedPatch): Contour[] =>
  movedBy(rings, stepX / STEPS_PER_MM, stepY / STEPS_PER_MM);

/** The level top of a patch whose slope comes to one; undefined where it does not. */
export function topOfPatch({ patch }: PlacedPatch, ramp: Ramp): readonly Contour[] | undefined {
  const last = patch.levels.length - 1;
  return last >= 0 && patch.levels[last] >= ramp.run ? patch.drawn.rings[last] : undefined;
}
