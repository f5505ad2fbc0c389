import { FACE, heightColour, PAPER } from '../drawing/index.js';
import type { Mesh } from '../solid/index.js';

/** A picture of bytes: red, green, blue, opacity of every pixel, rows from the top. */
export interface Picture {
  readonly width: number;
  readonly height: number;
  readonly rgba: Uint8Array;
}

export interface View {
  /** Degrees the sign is turned about its upright middle line: positive shows its left side. */
  readonly turn: number;
  /** Degrees it is tilted back, so that it is seen from above (positive) or below. */
  readonly tilt: number;
}

/** Straight on from the front, a little from above and from the left: heights show, letters stay legible. */
export const THREE_QUARTER: View = { turn: -15, tilt: 20 };

const LIGHT = normalised(-0.45, 0.6, 0.66);
const AMBIENT = 0.42;
const SAMPLES = 2;

function normalised(x: number, y: number, z: number): readonly [number, number, number] {
  const length = Math.hypot(x, y, z);
  return [x / length, y / length, z / length];
}

const rgb = (hex: string): readonly number[] => [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16));

/**
 * A picture of a solid in parallel projection, in the colours of its heights, light from the upper left; with a depth
 * buffer, so that no graphics card is needed. Lines are four samples a pixel.
 *
 * @param reach where the colours of the heights end, mm from the face
 */
export function pictureOf(mesh: Mesh, reach: number, view: View, width: number, height: number): Picture {
  const [w, h] = [width * SAMPLES, height * SAMPLES];
  const { positions, triangles } = mesh;
  const [a, b] = [(view.turn * Math.PI) / 180, (view.tilt * Math.PI) / 180];
  const [cosA, sinA, cosB, sinB] = [Math.cos(a), Math.sin(a), Math.cos(b), Math.sin(b)];
  /** About the upright axis, then about the level one: x to the right, y up, z to the eye. */
  const turned = (x: number, y: number, z: number): readonly [number, number, number] => {
    const [x1, z1] = [cosA * x + sinA * z, cosA * z - sinA * x];
    return [x1, cosB * y + sinB * z1, cosB * z1 - sinB * y];
  };

  const count = positions.length / 3;
  const seen = new Float64Array(positions.length);
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < count; i++) {
    const p = turned(positions[3 * i], positions[3 * i + 1], positions[3 * i + 2]);
    seen.set(p, 3 * i);
    [minX, maxX, minY, maxY] = [Math.min(minX, p[0]), Math.max(maxX, p[0]), Math.min(minY, p[1]), Math.max(maxY, p[1])];
  }
  const scale = Math.min((w * 0.94) / (maxX - minX), (h * 0.94) / (maxY - minY));
  const [offsetX, offsetY] = [w / 2 - (scale * (minX + maxX)) / 2, h / 2 + (scale * (minY + maxY)) / 2];

  const depth = new Float32Array(w * h).fill(-Infinity);
  const colour = new Uint8Array(w * h * 3);
  const ground = rgb(PAPER);
  for (let i = 0; i < colour.length; i++) colour[i] = ground[i % 3];
  const sideColour = rgb(FACE).map((c) => c * 0.86);
  const capColours = new Map<number, readonly number[]>();

  for (let t = 0; t < triangles.length; t += 3) {
    const [i, j, k] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
    const [ax, ay, az] = [offsetX + scale * seen[i], offsetY - scale * seen[i + 1], seen[i + 2]];
    const [bx, by, bz] = [offsetX + scale * seen[j], offsetY - scale * seen[j + 1], seen[j + 2]];
    const [cx, cy, cz] = [offsetX + scale * seen[k], offsetY - scale * seen[k + 1], seen[k + 2]];
    // Pixel rows run downwards, which makes triangles that face the eye clockwise.
    const twice = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (twice >= 0) continue;
    const [z0, z1, z2] = [positions[i + 2], positions[j + 2], positions[k + 2]];
    const isCap = z0 === z1 && z1 === z2;
    let base = sideColour;
    if (isCap) {
      let known = capColours.get(z0);
      if (!known) capColours.set(z0, (known = rgb(heightColour(z0, reach))));
      base = known as number[];
    }
    // The light is fixed to the sign: a surface that looks straight out of the face has its plain colour.
    const [nx, ny, nz] = normalOf(positions, i, j, k);
    const facing = Math.max(0, nx * LIGHT[0] + ny * LIGHT[1] + nz * LIGHT[2]) / LIGHT[2];
    const lit = Math.min(1.06, AMBIENT + (1 - AMBIENT) * facing);
    const red = Math.min(255, base[0] * lit);
    const green = Math.min(255, base[1] * lit);
    const blue = Math.min(255, base[2] * lit);

    const x0 = Math.max(0, Math.ceil(Math.min(ax, bx, cx) - 0.5));
    const x1 = Math.min(w - 1, Math.floor(Math.max(ax, bx, cx) - 0.5));
    const y0 = Math.max(0, Math.ceil(Math.min(ay, by, cy) - 0.5));
    const y1 = Math.min(h - 1, Math.floor(Math.max(ay, by, cy) - 0.5));
    // Shares of the corners a and b at the first sample of a row, and their steps from sample to sample.
    const stepU = (by - cy) / twice;
    const stepV = (cy - ay) / twice;
    for (let y = y0; y <= y1; y++) {
      const px = x0 + 0.5;
      const py = y + 0.5;
      let u = ((bx - px) * (cy - py) - (by - py) * (cx - px)) / twice;
      let v = ((cx - px) * (ay - py) - (cy - py) * (ax - px)) / twice;
      for (let x = x0, at = y * w + x0; x <= x1; x++, at++, u += stepU, v += stepV) {
        if (u < 0 || v < 0 || u + v > 1) continue;
        const z = u * az + v * bz + (1 - u - v) * cz;
        if (z <= depth[at]) continue;
        depth[at] = z;
        colour[3 * at] = red;
        colour[3 * at + 1] = green;
        colour[3 * at + 2] = blue;
      }
    }
  }
  return reduced(colour, width, height);
}

function normalOf(p: Float64Array, i: number, j: number, k: number): readonly [number, number, number] {
  const [ux, uy, uz] = [p[j] - p[i], p[j + 1] - p[i + 1], p[j + 2] - p[i + 2]];
  const [vx, vy, vz] = [p[k] - p[i], p[k + 1] - p[i + 1], p[k + 2] - p[i + 2]];
  return normalised(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
}

/** Every pixel the mean of its samples. */
function reduced(colour: Uint8Array, width: number, height: number): Picture {
  const rgba = new Uint8Array(width * height * 4);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = 4 * (y * width + x);
      for (let c = 0; c < 3; c++) {
        let sum = 0;
        for (let s = 0; s < SAMPLES * SAMPLES; s++) {
          const row = y * SAMPLES + Math.floor(s / SAMPLES);
          sum += colour[3 * (row * width * SAMPLES + x * SAMPLES + (s % SAMPLES)) + c];
        }
        rgba[at + c] = sum / (SAMPLES * SAMPLES);
      }
      rgba[at + 3] = 255;
    }
  }
  return { width, height, rgba };
}
