import { type ReliefMesh, unitNormals } from '../mesh/index.js';
import { type Evaluation } from '../relief/index.js';
import { SupportError } from '../support/index.js';
import { coloured, type ColouredMesh } from './appearance.js';
import { CHORDS_IN_SPACE } from './flat-levels.js';
import { inSpace } from './in-space.js';
import { type Kept, solidOf } from './solid.js';

/** The solid of a relief as it is in space, see {@link inSpace}. @throws SupportError where it cannot be bent as its support says */
export const spaceSolid = (evaluation: Evaluation, kept: Kept = 'all'): ReliefMesh =>
  inSpace(evaluation, solidOf(evaluation, kept)).mesh;

/**
 * A flat solid in space with the finishes that it wears, and the heights of its caps as they are in the plan.
 * @param flat as `solidOf` makes it of the same evaluation, or a piece of that
 * @param tolerance mm by which chords may lie beside the surface
 * @throws SupportError where it cannot be bent as its support says
 */
export function colouredInSpace(evaluation: Evaluation, flat: ReliefMesh, tolerance = CHORDS_IN_SPACE): ColouredMesh {
  const painted = coloured(evaluation, flat);
  if (!evaluation.sign.support) return painted;
  const { mesh, from } = inSpace(evaluation, flat, tolerance);
  // Lids and floors look as the back does.
  const back = painted.wears[flat.belongs.indexOf(0)] ?? 0;
  const heights = capHeights(flat);
  return {
    mesh,
    finishes: painted.finishes,
    wears: from.map((triangle) => (triangle < 0 ? back : painted.wears[triangle])),
    heights: Float64Array.from(from, (triangle) => (triangle < 0 ? NaN : heights[triangle])),
  };
}

/**
 * What is shown of a sign: it in space, or flat where it cannot be bent, which its notes tell.
 * @param tolerance mm by which chords may lie beside the surface
 */
export function signModel(evaluation: Evaluation, flat = solidOf(evaluation), tolerance = CHORDS_IN_SPACE): ColouredMesh {
  try {
    return colouredInSpace(evaluation, flat, tolerance);
  } catch (error) {
    if (!(error instanceof SupportError)) throw error;
    return coloured(evaluation, flat);
  }
}

/** By triangle the mean height of what faces the reader, in mm; NaN of all else. */
function capHeights({ positions: p, triangles }: ReliefMesh): Float64Array {
  const normals = unitNormals(p, triangles);
  const heights = new Float64Array(triangles.length / 3);
  for (let t = 0; t < triangles.length; t += 3)
    heights[t / 3] =
      normals[t + 2] > CAP ? (p[3 * triangles[t] + 2] + p[3 * triangles[t + 1] + 2] + p[3 * triangles[t + 2] + 2]) / 3 : NaN;
  return heights;
}

/** Normals that rise by less than this from the plan are those of sides. */
const CAP = 1e-6;
