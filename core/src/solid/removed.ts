import { relabelled, triangulate } from '../arrangement/index.js';
import { bounds, STEPS_PER_MM } from '../geometry/index.js';
import { creased, type Mesh } from '../mesh/index.js';
import { type Evaluation, HOLE, isSolid } from '../relief/index.js';
import { type SupportSurface } from '../support/index.js';
import { blankFromFront, CHORDS_IN_SPACE, reachFromFront } from './flat-levels.js';

/** How often a triangle that passes through a face of the blank is parted in four. */
const PARTED = 3;

/**
 * What is taken out of the blank of a bent sign, in mm³ in space: what the blank alone comes to, less what of the solid is within it. The volume
 * between the face and a height over a place of the plan is the surface's stretch of areas summed up to there.
 * @param laid the solid as it lies in the plan of the front, creased as it is bent
 */
export function removedInSpace(evaluation: Evaluation, laid: Mesh, surface: SupportSurface): number {
  const { thickness } = evaluation.sign.blank;
  const clipped = (z: number): number => Math.min(0, Math.max(-thickness, z));
  const within = summed(laid, surface, clipped, thickness);
  return -summed(blankBehind(evaluation, surface), surface, clipped, thickness) - within;
}

/** The triangles of the blank at its back, whatever is made of it; in the plan of the front, creased as the solid is. */
function blankBehind(evaluation: Evaluation, surface: SupportSurface): Mesh {
  const { edges } = evaluation.arrangement;
  const { corners } = triangulate(
    relabelled(edges, (label) => (label === HOLE || isSolid(label) ? 1 : 0)),
    (label) => label === 1,
  );
  const isBack = evaluation.side === 'back';
  const positions = new Float64Array(3 * edges.x.length);
  for (let v = 0; v < edges.x.length; v++) {
    positions[3 * v] = (isBack ? -edges.x[v] : edges.x[v]) / STEPS_PER_MM;
    positions[3 * v + 1] = edges.y[v] / STEPS_PER_MM;
    positions[3 * v + 2] = -evaluation.sign.blank.thickness;
  }
  // Seen from in front they run anticlockwise.
  const triangles = Uint32Array.from(corners, (_, i) => corners[isBack ? 3 * Math.floor(i / 3) + 2 - (i % 3) : i]);
  let mesh: Mesh = { positions, triangles };
  const box = bounds([blankFromFront(evaluation)])!;
  for (const lines of surface.creases(box, reachFromFront(evaluation), CHORDS_IN_SPACE)) mesh = creased(mesh, lines);
  return mesh;
}

type Corner = readonly [number, number, number];

/**
 * What lies between the face and the triangles of a mesh, less where those are seen from behind: by the rule of the middles of sides, which is
 * exact to the second degree (textbook). Heights beyond the blank count as those of its faces.
 */
function summed(
  { positions: p, triangles }: Mesh,
  surface: SupportSurface,
  clipped: (z: number) => number,
  thickness: number,
): number {
  const factor = (x: number, y: number, z: number): number => {
    const [s, t] = surface.stretch(x, y, z);
    return s * t;
  };
  // Simpson's rule is exact: both stretches are linear in z.
  const upTo = (x: number, y: number, z: number): number =>
    z === 0 ? 0 : (z / 6) * (factor(x, y, 0) + 4 * factor(x, y, z / 2) + factor(x, y, z));
  const over = (a: Corner, b: Corner, c: Corner, parted: number): number => {
    const twice = (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1]);
    const [low, high] = [Math.min(a[2], b[2], c[2]), Math.max(a[2], b[2], c[2])];
    if (Math.abs(twice) < 1e-12 || low >= 0) return 0;
    const middles: Corner[] = [middle(a, b), middle(b, c), middle(c, a)];
    const passes = high > 1e-9 || (low < -thickness - 1e-9 && high > -thickness + 1e-9);
    if (passes && parted > 0) {
      const [ab, bc, ca] = middles;
      const next = parted - 1;
      return over(a, ab, ca, next) + over(ab, b, bc, next) + over(ca, bc, c, next) + over(ab, bc, ca, next);
    }
    return (twice / 6) * middles.reduce((sum, [x, y, z]) => sum + upTo(x, y, clipped(z)), 0);
  };
  const corner = (v: number): Corner => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  let sum = 0;
  for (let t = 0; t < triangles.length; t += 3) sum += over(corner(triangles[t]), corner(triangles[t + 1]), corner(triangles[t + 2]), PARTED); // prettier-ignore
  return sum;
}

const middle = (a: Corner, b: Corner): Corner => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2];
