import { CombineError } from '../boolean/index.js';
import { bounds, type Contour, type CreaseLines } from '../geometry/index.js';
import { BACK, creased, type Creased, type Mesh, type ReliefMesh } from '../mesh/index.js';
import { note } from '../notes/index.js';
import { type Evaluation } from '../relief/index.js';
import { type Round, supportFaults, SupportError, surfaceOf, type SupportSurface } from '../support/index.js';
import { facesOf } from '../sign/index.js';
import { blockSolid } from './block-solid.js';
import { blankFromFront, CHORDS_IN_SPACE, reachFromFront } from './flat-levels.js';
import { closedRound } from './seam.js';
import { type TubeEnds, withTubeEnds } from './tube-ends.js';

/** A solid in space, with what its triangles come from, and where its corners lie in the plan. */
export interface SpaceMesh {
  readonly mesh: ReliefMesh;
  /** For every triangle that of the flat solid; −1 of a lid or a floor. */
  readonly from: Int32Array;
  /** x, y and height of corners in the plan; the last corners, in the middle of lids and floors, lie nowhere there. */
  readonly plan: Float64Array;
  /** The flat solid as it lies in the plan of the front, creased but not closed at a seam; of a block it is as it was. */
  readonly laid: Mesh;
}

/**
 * The flat solid of a relief bent to its support: creased so that no chord is further than a tolerance from the true surface, closed at its
 * seam where it goes all the way round, and filled or closed by lid and floor. Of a flat sign it is the solid itself.
 * @param flat as `solidOf` makes it of the same evaluation
 * @throws SupportError where it cannot be bent so
 */
export function inSpace(evaluation: Evaluation, flat: ReliefMesh, tolerance = CHORDS_IN_SPACE): SpaceMesh {
  const { sign, side } = evaluation;
  const surface = surfaceOf(sign);
  const whole = flat.belongs.map((_, i) => i);
  if (!surface || flat.triangles.length === 0) return { mesh: flat, from: whole, plan: flat.positions, laid: flat };
  const blank = blankFromFront(evaluation);
  const reach = reachFromFront(evaluation);
  const faults = supportFaults(sign, { blank, reach });
  if (faults.length > 0) throw new SupportError(faults);
  const { thickness } = sign.blank;
  const isBack = side === 'back';
  if (sign.support?.kind === 'block') {
    const { positions, triangles, from, plan } = togetherOr(() => blockSolid(flat, facesOf(sign.support), thickness));
    return { mesh: { positions, triangles, belongs: from.map((f) => flat.belongs[f] ?? BACK) }, from, plan, laid: flat };
  }
  let mesh: Creased = { ...flat, positions: isBack ? turnedAround(flat.positions, thickness) : flat.positions, from: whole };
  for (const lines of surface.creases(bounds([blank])!, reach, tolerance)) mesh = creasedOnce(mesh, lines);
  const laid: Mesh = mesh;
  const ends = surface.round && tubeEnds(sign.support);
  if (surface.round) {
    const { up } = surface.round;
    for (const level of ends ? levelsOf(ends, endsOf(blank, up)) : [])
      mesh = creasedOnce(mesh, { values: Float64Array.of(level), valueAt: up, shareAt: levelShare(level, up) });
    mesh = closedRound(mesh, surface.round, blank);
  }
  const plan = mesh.positions;
  let positions = placed(plan, surface);
  if (ends && surface.round) {
    const { up } = surface.round;
    const { triangles } = mesh;
    const isBehind = (t: number): boolean => [0, 1, 2].every((k) => plan[3 * triangles[3 * t + k] + 2] === -thickness);
    mesh = withTubeEnds(mesh, positions, ends, endsOf(blank, up), (v) => up(plan[3 * v], plan[3 * v + 1]), isBehind);
    positions = mesh.positions;
  }
  if (isBack) positions = turnedAround(positions, thickness);
  const belongs = mesh.from.map((triangle) => (triangle < 0 ? BACK : flat.belongs[triangle]));
  return { mesh: { positions, triangles: mesh.triangles, belongs }, from: mesh.from, plan, laid };
}

/** What makes a block; where what meets cannot be put together, a note says so. @throws SupportError */
function togetherOr<T>(make: () => T): T {
  try {
    return make();
  } catch (error) {
    if (error instanceof CombineError) throw new SupportError([note('block-unmade', {})]);
    throw error;
  }
}

/** The solid in space, or where it cannot be bent, which its notes tell, the flat one. */
export function inSpaceOrFlat(evaluation: Evaluation, flat: ReliefMesh, tolerance = CHORDS_IN_SPACE): SpaceMesh {
  try {
    return inSpace(evaluation, flat, tolerance);
  } catch (error) {
    if (!(error instanceof SupportError)) throw error;
    return { mesh: flat, from: flat.belongs.map((_, i) => i), plan: flat.positions, laid: flat };
  }
}

function creasedOnce(mesh: Creased, lines: CreaseLines): Creased {
  const cut = creased(mesh, lines);
  return { ...cut, from: cut.from.map((triangle) => mesh.from[triangle]) };
}

/** Turned half about the upright line in the middle of the thickness, which exchanges front and back. */
function turnedAround(positions: Float64Array, thickness: number): Float64Array {
  return positions.map((value, i) => (i % 3 === 0 ? -value : i % 3 === 1 ? value : -thickness - value));
}

const tubeEnds = (support: Evaluation['sign']['support']): TubeEnds | undefined =>
  support &&
  'facing' in support &&
  support.facing === 'outside' &&
  'round' in support &&
  (support.lid ?? support.floor ?? support.filled)
    ? support
    : undefined;

/** mm up the surface at which a blank begins and ends. */
function endsOf(blank: Contour, up: Round['up']): readonly [number, number] {
  const heights = Array.from({ length: blank.length / 2 }, (_, i) => up(blank[2 * i], blank[2 * i + 1]));
  return [heights.reduce((a, b) => Math.min(a, b)), heights.reduce((a, b) => Math.max(a, b))];
}

/** How far up the surface lids end below, and floors above. */
function levelsOf({ lid, floor, filled }: TubeEnds, [lowest, highest]: readonly [number, number]): number[] {
  if (filled) return [];
  const levels = [...(floor ? [lowest + floor] : []), ...(lid ? [highest - lid] : [])];
  return levels.filter((level) => level > lowest && level < highest);
}

/** Share of the way at which a level is crossed, where how far up places are is no linear function of them. */
const levelShare =
  (level: number, up: (x: number, y: number) => number) =>
  (_: number, ax: number, ay: number, bx: number, by: number): number => {
    let [low, high] = [0, 1];
    const isRising = up(bx, by) > up(ax, ay);
    for (let i = 0; i < 48; i++) {
      const t = (low + high) / 2;
      if (up(ax + t * (bx - ax), ay + t * (by - ay)) < level === isRising) low = t;
      else high = t;
    }
    return (low + high) / 2;
  };

/** Corners of the plan in space. */
function placed(plan: Float64Array, surface: SupportSurface): Float64Array {
  const out = new Float64Array(plan.length);
  for (let v = 0; v < plan.length; v += 3) surface.place(plan[v], plan[v + 1], plan[v + 2], out, v);
  return out;
}
