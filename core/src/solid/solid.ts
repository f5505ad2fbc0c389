import { relabelled, STEPS_PER_MM, triangulate } from '../outline/index.js';
import { type Evaluation, isSolid, levelOf } from '../relief/index.js';
import type { Mesh } from './mesh.js';

/**
 * The solid of a relief with upright edges, straight from its plan: a cap on every level, a wall on every edge of the
 * plan from the lower side to the higher, and the back. Caps and walls share the plan's own points, and a wall's upright
 * edges have a corner at every level that meets there, so that the surface closes without any 3D boolean.
 */
export function solidOf(evaluation: Evaluation): Mesh {
  const { sign } = evaluation;
  const { edges } = evaluation.arrangement;
  const { x, y, lo, hi, left, right } = edges;
  const back = -sign.blank.thickness;
  const zOf: number[] = [];
  const z = (label: number): number => (zOf[label] ??= isSolid(label) ? levelOf(evaluation, label) : back);

  // The levels that meet at each point of the plan, ascending, with a corner of the mesh for each.
  const levelsAt: number[][] = new Array(x.length);
  const addLevel = (v: number, level: number) => {
    const list = (levelsAt[v] ??= []);
    if (!list.includes(level)) list.push(level);
  };
  for (let e = 0; e < lo.length; e++) {
    for (const v of [lo[e], hi[e]]) {
      addLevel(v, z(left[e]));
      addLevel(v, z(right[e]));
    }
  }
  const firstCorner = new Int32Array(x.length);
  let corners = 0;
  levelsAt.forEach((list, v) => {
    list.sort((a, b) => a - b);
    firstCorner[v] = corners;
    corners += list.length;
  });
  const positions = new Float64Array(3 * corners);
  levelsAt.forEach((list, v) =>
    list.forEach((level, i) => {
      positions.set([x[v] / STEPS_PER_MM, y[v] / STEPS_PER_MM, level], 3 * (firstCorner[v] + i));
    }),
  );
  const corner = (v: number, level: number): number => firstCorner[v] + levelsAt[v].indexOf(level);

  const triangles: number[] = [];
  const tops = triangulate(edges, isSolid);
  for (let t = 0; t < tops.labels.length; t++) {
    const level = z(tops.labels[t]);
    for (let k = 0; k < 3; k++) triangles.push(corner(tops.corners[3 * t + k], level));
  }
  const backs = triangulate(
    relabelled(edges, (label) => (isSolid(label) ? 1 : 0)),
    (label) => label === 1,
  );
  for (let t = 0; t < backs.corners.length; t += 3) {
    for (const k of [0, 2, 1]) triangles.push(corner(backs.corners[t + k], back));
  }

  for (let e = 0; e < lo.length; e++) {
    const [zl, zr] = [z(left[e]), z(right[e])];
    if (zl === zr) continue;
    // Seen from the lower side the wall runs from `from` on the left to `to` on the right.
    const [from, to] = zl > zr ? [lo[e], hi[e]] : [hi[e], lo[e]];
    const [low, high] = zl > zr ? [zr, zl] : [zl, zr];
    let a = corner(from, low);
    let b = corner(to, low);
    const aTop = corner(from, high);
    const bTop = corner(to, high);
    while (a < aTop || b < bTop) {
      const climbsB = a === aTop || (b < bTop && positions[3 * b + 5] <= positions[3 * a + 5]);
      if (climbsB) triangles.push(a, b, ++b);
      else triangles.push(a, b, ++a);
    }
  }
  return { positions, triangles: Uint32Array.from(triangles) };
}

/** Volume in mm³ from the levels alone: the sum of area × height above the back. */
export const volumeOfLevels = ({ levels, sign }: Evaluation): number =>
  levels.reduce((sum, level) => sum + level.areaMm2 * (level.z + sign.blank.thickness), 0);
