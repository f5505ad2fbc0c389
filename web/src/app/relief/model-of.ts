import { FACE, heightColour } from '@plain-relief/core/drawing';
import type { Mesh } from '@plain-relief/core/solid';
import type { ModelView } from './views';

const linear = (hex: string): readonly number[] =>
  [1, 3, 5].map((at) => {
    const value = parseInt(hex.slice(at, at + 2), 16) / 255;
    // The sRGB transfer function (IEC 61966-2-1).
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
  });

/** Triangles with flat normals; caps in the colour of their height, walls and back in that of the blank. */
export function modelOf({ positions: p, triangles }: Mesh, reach: number): ModelView {
  const n = triangles.length;
  const positions = new Float32Array(3 * n);
  const normals = new Float32Array(3 * n);
  const colours = new Float32Array(3 * n);
  const side = linear(FACE).map((c) => c * 0.8);
  const caps = new Map<number, readonly number[]>();
  for (let t = 0; t < n; t += 3) {
    const [a, b, c] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const length = Math.hypot(nx, ny, nz) || 1;
    let colour: readonly number[] = side;
    if (nz > 0) {
      const z = p[a + 2];
      let known = caps.get(z);
      if (!known) caps.set(z, (known = linear(heightColour(z, reach))));
      colour = known;
    }
    for (let k = 0; k < 3; k++) {
      const at = 3 * (t + k);
      const from = [a, b, c][k];
      for (let axis = 0; axis < 3; axis++) positions[at + axis] = p[from + axis];
      normals[at] = nx / length;
      normals[at + 1] = ny / length;
      normals[at + 2] = nz / length;
      for (let channel = 0; channel < 3; channel++) colours[at + channel] = colour[channel];
    }
  }
  return { positions, normals, colours };
}
