import { bounds } from '../geometry/index.js';
import { unitNormals } from '../mesh/index.js';
import { type Evaluation } from '../relief/index.js';
import { type ColouredMesh } from '../solid/index.js';
import { type Finish } from '../sign/index.js';
import { type DepthBuffer, NOTHING } from './depth-buffer.js';
import { bufferFor, drawAll, LIGHT, normalised, type Paint, type Picture, rgb, shaded, towards } from './picture.js';

/** The most that a side turned to the light gets of it, over the share from everywhere. */
const MOST_LIGHT = 0.8;

/** Share of the light that comes from everywhere. */
const AMBIENT = 0.46;
/** Steps towards the light in which shadows are looked for; each is as long as the one before and a little more. */
const SHADOW_STEPS = 28;
const FIRST_STEP = 1.2;
const STEP_GROWTH = 1.09;
/** Half the width of the light, as the tangent of an angle: how soft shadows are. */
const SOFTNESS = 0.16;

/** How a finish throws light back: how bright its gleam is and how small. */
export const GLEAM: Readonly<Record<Finish['gloss'], readonly [number, number]>> = {
  matt: [0, 1],
  satin: [0.18, 18],
  gloss: [0.38, 60],
  metal: [0.5, 12],
};

/** Width and height in pixels of a picture of the whole blank, the longer side as given. */
export function pictureSize({ blank }: Evaluation, longest: number): { width: number; height: number } {
  const { minX, minY, maxX, maxY } = bounds([blank])!;
  const scale = longest / Math.max(maxX - minX, maxY - minY);
  const side = (mm: number) => Math.max(1, Math.min(longest, Math.round(mm * scale)));
  return { width: side(maxX - minX), height: side(maxY - minY) };
}

/**
 * The sign as seen straight from the front, as far as it reaches: lit from the upper left, with soft shadows, in its finishes or in
 * any other paint; clear where there is no material. Worked out from the heights of the solid, without a graphics card.
 */
export function reliefPicture({ mesh, finishes, wears }: ColouredMesh, width: number, height: number, paint?: Paint): Picture {
  const { positions, triangles } = mesh;
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i += 3) {
    minX = Math.min(minX, positions[i]);
    maxX = Math.max(maxX, positions[i]);
    minY = Math.min(minY, positions[i + 1]);
    maxY = Math.max(maxY, positions[i + 1]);
  }
  const buffer = bufferFor(width, height);
  const scale = Math.min(buffer.width / (maxX - minX), buffer.height / (maxY - minY));
  drawAll(buffer, positions, triangles, scale, (minX + maxX) / 2, (minY + maxY) / 2);

  const normals = unitNormals(positions, triangles);
  const worn = finishes.map(({ colour }) => rgb(colour));
  const ambient = new Float32Array(triangles.length);
  const lamp = new Float32Array(triangles.length);
  // The eye is straight above: half-way between it and the light (J. Blinn, "Models of light reflection for computer synthesized pictures", SIGGRAPH 1977).
  const half = normalised(LIGHT[0], LIGHT[1], LIGHT[2] + 1);
  for (let f = 0; f < triangles.length / 3; f++) {
    const facing = Math.max(0, towards(normals, f, LIGHT)) / LIGHT[2];
    const [strength, sharpness] = paint ? GLEAM.matt : GLEAM[finishes[wears[f]].gloss];
    const gleam = facing > 0 ? strength * Math.max(0, towards(normals, f, half)) ** sharpness : 0;
    const base = paint ? paint(f) : worn[wears[f]];
    base.forEach((channel, k) => {
      ambient[3 * f + k] = channel * AMBIENT;
      lamp[3 * f + k] = channel * Math.min(MOST_LIGHT, (1 - AMBIENT) * facing) + 255 * gleam;
    });
  }
  const highest = buffer.depth.reduce((most, z) => Math.max(most, z), -Infinity);
  return shaded(buffer, ambient, { colours: lamp, shareAt: (sample) => 1 - shadowAt(buffer, sample, scale, highest) }, true);
}

/**
 * How much of the light is kept from a sample by what stands between: 0 none, 1 all.
 * @param highest of all samples: from where even that would throw no shadow nothing does
 */
function shadowAt({ width, height, depth, facet }: DepthBuffer, at: number, scale: number, highest: number): number {
  const reach = Math.hypot(LIGHT[0], LIGHT[1]);
  const [dx, dy, rise] = [LIGHT[0] / reach, -LIGHT[1] / reach, LIGHT[2] / reach];
  const [x0, y0, z0] = [at % width, Math.floor(at / width), depth[at]];
  let kept = 0;
  let way = 0;
  for (let i = 0, step = FIRST_STEP; i < SHADOW_STEPS; i++, step *= STEP_GROWTH) {
    way += step;
    if ((highest - z0) * scale <= (rise - SOFTNESS) * way) break;
    const x = Math.round(x0 + dx * way);
    const y = Math.round(y0 + dy * way);
    if (x < 0 || y < 0 || x >= width || y >= height) break;
    const other = y * width + x;
    if (facet[other] === NOTHING) continue;
    const distance = way / scale;
    // Tangent of the angle under which the other place stands, against that of the light.
    const over = (depth[other] - z0) / distance - rise;
    if (over > -SOFTNESS) kept = Math.max(kept, Math.min(1, (over + SOFTNESS) / (2 * SOFTNESS)));
    if (kept >= 1) break;
  }
  return kept;
}
