import { radians } from '../geometry/index.js';
import { FACE, heightColour, PAPER } from '../drawing/index.js';
import { unitNormals, type Mesh } from '../mesh/index.js';
import { type ColouredMesh } from '../solid/index.js';
import { DepthBuffer, NOTHING } from './depth-buffer.js';

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
/** A corner of a block: its front, its right side and its top. */
export const CORNER: View = { turn: -34, tilt: -26 };

export type Rgb = readonly [number, number, number];

/** The colour of a triangle, by its number. */
export type Paint = (facet: number) => Rgb;

/** From the upper left, towards the reader. */
export const LIGHT = normalised(-0.45, 0.6, 0.66);
const AMBIENT = 0.42;
/** Normals that lean less than this from the plan belong to upright sides. */
const UPRIGHT = 1e-6;
/** Samples of a pixel across and down. */
export const SAMPLES = 2;

export function normalised(x: number, y: number, z: number): Rgb {
  const length = Math.hypot(x, y, z) || 1;
  return [x / length, y / length, z / length];
}

export const rgb = (hex: string): Rgb => [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16)) as unknown as Rgb;

/**
 * Caps in the colours of their heights, sides a shade darker than the face.
 * @param reach where the colours end, mm from the face
 */
export function heightPaint({ positions, triangles }: Mesh, reach: number): Paint {
  const normals = unitNormals(positions, triangles);
  const side = rgb(FACE).map((c) => c * 0.86) as unknown as Rgb;
  const caps = new Map<number, Rgb>();
  return (f) => {
    const [z0, z1, z2] = [0, 1, 2].map((k) => positions[3 * triangles[3 * f + k] + 2]);
    if (Math.abs(normals[3 * f + 2]) < UPRIGHT) return side;
    // Slopes in steps that nobody tells apart.
    const z = z0 === z1 && z1 === z2 ? z0 : Math.round(((z0 + z1 + z2) / 3) * 50) / 50;
    let known = caps.get(z);
    if (!known) caps.set(z, (known = rgb(heightColour(z, reach))));
    return known;
  };
}

/** Every triangle in the colour of its finish. */
export function finishPaint({ finishes, wears }: ColouredMesh): Paint {
  const colours = finishes.map(({ colour }) => rgb(colour));
  return (f) => colours[wears[f]];
}

/**
 * A picture of a solid in parallel projection, light from the upper left; with a depth buffer, so that no graphics card is needed.
 * Every pixel is the mean of four samples.
 */
export function pictureOf(mesh: Mesh, paint: Paint, view: View, width: number, height: number): Picture {
  const { positions, triangles } = mesh;
  const [a, b] = [radians(view.turn), radians(view.tilt)];
  const [cosA, sinA, cosB, sinB] = [Math.cos(a), Math.sin(a), Math.cos(b), Math.sin(b)];
  // About the upright axis, then about the level one: x to the right, y up, z to the eye.
  const count = positions.length / 3;
  const seen = new Float64Array(positions.length);
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < count; i++) {
    const [x, y, z] = [positions[3 * i], positions[3 * i + 1], positions[3 * i + 2]];
    const z1 = cosA * z - sinA * x;
    const px = cosA * x + sinA * z;
    const py = cosB * y + sinB * z1;
    seen[3 * i] = px;
    seen[3 * i + 1] = py;
    seen[3 * i + 2] = cosB * z1 - sinB * y;
    [minX, maxX, minY, maxY] = [Math.min(minX, px), Math.max(maxX, px), Math.min(minY, py), Math.max(maxY, py)];
  }
  const buffer = new DepthBuffer(width * SAMPLES, height * SAMPLES);
  const scale = Math.min((buffer.width * 0.94) / (maxX - minX), (buffer.height * 0.94) / (maxY - minY));
  drawAll(buffer, seen, triangles, scale, (minX + maxX) / 2, (minY + maxY) / 2);
  const colours = new Float32Array(triangles.length);
  const normals = unitNormals(positions, triangles);
  for (let f = 0; f < triangles.length / 3; f++) {
    // The light is fixed to the sign: a surface that looks straight out of the face has its plain colour.
    const facing = Math.max(0, towards(normals, f, LIGHT)) / LIGHT[2];
    const light = Math.min(1.06, AMBIENT + (1 - AMBIENT) * facing);
    const plain = paint(f);
    for (let channel = 0; channel < 3; channel++) colours[3 * f + channel] = Math.min(255, plain[channel] * light);
  }
  return shaded(buffer, colours);
}

/** Cosine between the normal of a triangle and a direction. */
export const towards = (normals: Float64Array, f: number, [x, y, z]: Rgb): number =>
  normals[3 * f] * x + normals[3 * f + 1] * y + normals[3 * f + 2] * z;

/** Draws all triangles of a mesh, (middleX, middleY) in the middle of the buffer, `scale` samples a mm. */
export function drawAll(
  buffer: DepthBuffer,
  p: Float64Array,
  triangles: Uint32Array,
  scale: number,
  middleX: number,
  middleY: number,
): void {
  const [offsetX, offsetY] = [buffer.width / 2 - scale * middleX, buffer.height / 2 + scale * middleY];
  for (let t = 0; t < triangles.length; t += 3) {
    const [i, j, k] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
    buffer.draw(
      t / 3,
      offsetX + scale * p[i],
      offsetY - scale * p[i + 1],
      p[i + 2],
      offsetX + scale * p[j],
      offsetY - scale * p[j + 1],
      p[j + 2],
      offsetX + scale * p[k],
      offsetY - scale * p[k + 1],
      p[k + 2],
    );
  }
}

const GROUND = rgb(PAPER);

/** What the light of a lamp adds: red, green and blue of every triangle, and which share of it comes to a sample. */
export interface Lamp {
  readonly colours: Float32Array;
  shareAt(sample: number): number;
}

/**
 * A buffer as a picture, every pixel the mean of its samples, the ground of the paper where nothing is.
 * @param colours red, green and blue of every triangle, 0 to 255
 * @param isCutOut whether the ground is left clear
 */
export function shaded(buffer: DepthBuffer, colours: Float32Array, lamp?: Lamp, isCutOut = false): Picture {
  const [width, height] = [buffer.width / SAMPLES, buffer.height / SAMPLES];
  const rgba = new Uint8Array(width * height * 4);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const first = y * SAMPLES * buffer.width + x * SAMPLES;
      // One sample tells whether a pixel lies in shadow.
      const share = lamp && buffer.facet[first] !== NOTHING ? lamp.shareAt(first) : 1;
      let red = 0;
      let green = 0;
      let blue = 0;
      let seen = 0;
      for (let s = 0; s < SAMPLES * SAMPLES; s++) {
        const at = 3 * buffer.facet[first + Math.floor(s / SAMPLES) * buffer.width + (s % SAMPLES)];
        if (at < 0) {
          if (isCutOut) continue;
          red += GROUND[0];
          green += GROUND[1];
          blue += GROUND[2];
        } else {
          seen++;
          red += Math.min(255, Math.floor(colours[at] + (lamp ? share * lamp.colours[at] : 0)));
          green += Math.min(255, Math.floor(colours[at + 1] + (lamp ? share * lamp.colours[at + 1] : 0)));
          blue += Math.min(255, Math.floor(colours[at + 2] + (lamp ? share * lamp.colours[at + 2] : 0)));
        }
      }
      const to = 4 * (y * width + x);
      // Of an edge that is cut out the colour is that of what is seen.
      const samples = isCutOut ? Math.max(1, seen) : SAMPLES * SAMPLES;
      rgba[to] = red / samples;
      rgba[to + 1] = green / samples;
      rgba[to + 2] = blue / samples;
      rgba[to + 3] = isCutOut ? (255 * seen) / (SAMPLES * SAMPLES) : 255;
    }
  }
  return { width, height, rgba };
}

/** A buffer of samples for a picture. */
export const bufferFor = (width: number, height: number): DepthBuffer => new DepthBuffer(width * SAMPLES, height * SAMPLES);
