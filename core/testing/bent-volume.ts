import { STEPS_PER_MM } from '../src/geometry/index.js';
import { creased, type Mesh } from '../src/mesh/index.js';
import { type SupportSurface } from '../src/support/index.js';

/** Places and weights of a rule over triangles that is exact to the fifth degree (Radon, 1948; seven points). */
const RADON: readonly (readonly [number, number, number, number])[] = (() => {
  const root = Math.sqrt(15);
  const [a, b] = [(6 - root) / 21, (6 + root) / 21];
  const around = (s: number, w: number) =>
    [0, 1, 2].map(
      (k) => [s, s, s].map((v, i) => (i === k ? 1 - 2 * s : v)).concat(w) as unknown as [number, number, number, number],
    );
  return [[1 / 3, 1 / 3, 1 / 3, 9 / 40] as const, ...around(a, (155 - root) / 1200), ...around(b, (155 + root) / 1200)];
})();

/**
 * Volume in space of a flat solid that is bent to a surface, by the definition: the factor by which the surface stretches volumes there summed up
 * over the flat solid itself. By the divergence theorem that is, over its triangles, what lies between the face and them.
 * @param cell mm of the cells in which the factor is taken to be a polynomial
 */
export function bentVolume(flat: Mesh, surface: SupportSurface, cell: number): number {
  let mesh: Mesh = flat;
  for (const axis of [0, 1] as const) {
    const at = [...flat.positions].filter((_, i) => i % 3 === axis);
    const [from, to] = [at.reduce((a, b) => Math.min(a, b)), at.reduce((a, b) => Math.max(a, b))];
    const values = Float64Array.from(
      { length: Math.floor((to - from) / cell) },
      (_, i) => from + (i + 1) * cell + 0.3 / STEPS_PER_MM,
    );
    const valueAt = (x: number, y: number): number => (axis === 0 ? x : y);
    const shareAt = (line: number, ax: number, ay: number, bx: number, by: number): number =>
      (values[line] - valueAt(ax, ay)) / (valueAt(bx, by) - valueAt(ax, ay));
    mesh = creased(mesh, { values, valueAt, shareAt });
  }
  const factor = (x: number, y: number, z: number): number => {
    const [s, t] = surface.stretch(x, y, z);
    return s * t;
  };
  // Simpson's rule is exact: the factor is of the second degree in z at most.
  const upTo = (x: number, y: number, z: number): number =>
    (z / 6) * (factor(x, y, 0) + 4 * factor(x, y, z / 2) + factor(x, y, z));
  const { positions: p, triangles } = mesh;
  let sum = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
    const twice = (p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[c] - p[a]) * (p[b + 1] - p[a + 1]);
    if (Math.abs(twice) < 1e-12) continue;
    for (const [u, v, w, weight] of RADON)
      sum +=
        (twice / 2) *
        weight *
        upTo(
          u * p[a] + v * p[b] + w * p[c],
          u * p[a + 1] + v * p[b + 1] + w * p[c + 1],
          u * p[a + 2] + v * p[b + 2] + w * p[c + 2],
        );
  }
  return sum;
}
