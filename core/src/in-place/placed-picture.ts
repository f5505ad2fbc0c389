import { direction } from '../geometry/index.js';
import { unitNormals } from '../mesh/index.js';
import {
  bufferFor,
  DepthBuffer,
  GLEAM,
  normalised,
  type Picture,
  type Rgb,
  rgb,
  SAMPLES,
  shaded,
  towards,
} from '../picture/index.js';
import { type ColouredMesh } from '../solid/index.js';
import { type Camera, type Place3 } from './camera.js';
import { PlaceError } from './homography.js';
import { type Place, type PlacedSign } from './place.js';

/** A sign with where it hangs. */
export interface Hung {
  readonly at: PlacedSign;
  readonly solid: ColouredMesh;
}

/** Share of the light that comes from everywhere: of a bare sun, and of an overcast sky. */
const AMBIENT = [0.42, 0.72] as const;
/** How dark the wall is in the shadow of a sign: of a bare sun, and of an overcast sky. */
const SHADOW = [0.5, 0.22] as const;
/** Samples of the longer side of what the light sees. */
const LIT = 1400;
/** Samples of the light by which a place is lifted off its own surface before it is asked what stands before it. */
const LIFT = 1.5;
/** Half the width of a light without sharp edges, in times the depth of what throws its shadow. */
const PENUMBRA = 0.45;
/** The most that a side turned to the light gets of it, over the share from everywhere, in times what the face gets. */
const MOST_LIGHT = 1.25;
/** Places of a shadow’s edge that are asked, in times the half width of the light. */
const TAPS = [[0, 0], [0.7, 0], [-0.7, 0], [0, 0.7], [0, -0.7], [0.5, 0.5], [-0.5, 0.5], [0.5, -0.5], [-0.5, -0.5], [1, 0], [-1, 0], [0, 1], [0, -1]] as const; // prettier-ignore

const mixed = ([hard, soft]: readonly [number, number], softness: number): number => hard + (soft - hard) * softness;

/** All that hangs, as one mesh on the wall. */
interface Scene {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
  readonly normals: Float64Array;
  /** The finish of every triangle. */
  readonly colours: readonly Rgb[];
  readonly gleams: readonly (readonly [number, number])[];
  readonly deepest: number;
}

/**
 * Signs as a camera sees them on a wall, lit from a side, with their shadows: what there is beside them is clear, but for the shadow on
 * it, which is black. Without a graphics card.
 * @throws PlaceError where a sign reaches behind the one who looks
 */
export function placedPicture(
  hung: readonly Hung[],
  camera: Camera,
  light: Place['light'],
  width: number,
  height: number,
): Picture {
  if (hung.length === 0) return { width, height, rgba: new Uint8Array(4 * width * height) };
  const scene = sceneOf(hung);
  const { positions, triangles, normals } = scene;
  const buffer = bufferFor(width, height);
  const seen = new Float64Array(positions.length);
  for (let i = 0; i < positions.length; i += 3) {
    const [across, down, nearness] = camera.seen(positions[i], positions[i + 1], positions[i + 2]);
    if (!(nearness > 0)) throw new PlaceError('A sign reaches behind the one who looks: hang it farther from the edge of the picture, or mark the wall anew.'); // prettier-ignore
    seen.set([across * SAMPLES, down * SAMPLES, nearness], i);
  }
  drawTriangles(buffer, seen, triangles);
  const { cos, sin } = direction(light.from);
  const rise = direction(light.rise);
  const lamp: Rgb = [cos * rise.cos, sin * rise.cos, rise.sin];
  const lit = new Lit(scene, lamp, light.softness);
  const ambient = mixed(AMBIENT, light.softness);
  const half = halfWay(camera.eye, lamp);
  const [steady, added] = [new Float32Array(triangles.length), new Float32Array(triangles.length)];
  for (let f = 0; f < triangles.length / 3; f++) {
    const facing = Math.max(0, towards(normals, f, lamp)) / Math.max(lamp[2], 0.2);
    const [strength, sharpness] = scene.gleams[f];
    const gleam = facing > 0 ? strength * Math.max(0, towards(normals, f, half)) ** sharpness : 0;
    scene.colours[f].forEach((channel, k) => {
      steady[3 * f + k] = channel * light.brightness * ambient;
      added[3 * f + k] =
        light.brightness * (channel * (1 - ambient) * Math.min(MOST_LIGHT, facing) + 255 * gleam * (1 - ambient));
    });
  }
  const shareAt = (sample: number): number => {
    const f = buffer.facet[sample];
    const place = camera.placeAt(((sample % buffer.width) + 0.5) / SAMPLES, (Math.floor(sample / buffer.width) + 0.5) / SAMPLES, buffer.depth[sample]); // prettier-ignore
    return lit.shareAt(place, [normals[3 * f], normals[3 * f + 1], normals[3 * f + 2]]);
  };
  const picture = shaded(buffer, steady, { colours: added, shareAt }, true);
  return withShadow(picture, camera, lit, mixed(SHADOW, light.softness));
}

/** From between the eye and the light a glossy face gleams (J. Blinn, “Models of light reflection for computer synthesized pictures”, SIGGRAPH 1977). */
function halfWay(eye: Place3, lamp: Rgb): Rgb {
  const [x, y, z] = normalised(...eye);
  return normalised(x + lamp[0], y + lamp[1], z + lamp[2]);
}

function sceneOf(hung: readonly Hung[]): Scene {
  const corners = hung.reduce((sum, { solid }) => sum + solid.mesh.positions.length, 0);
  const all = hung.reduce((sum, { solid }) => sum + solid.mesh.triangles.length, 0);
  const [positions, triangles] = [new Float64Array(corners), new Uint32Array(all)];
  const [colours, gleams]: [Rgb[], (readonly [number, number])[]] = [[], []];
  let [p, t, deepest] = [0, 0, 0];
  for (const { at, solid } of hung) {
    const { mesh, finishes, wears } = solid;
    const back = mesh.positions.reduce((least, mm, i) => (i % 3 === 2 ? Math.min(least, mm) : least), Infinity);
    const { cos, sin } = direction(at.turn);
    const first = p / 3;
    for (let i = 0; i < mesh.positions.length; i += 3, p += 3) {
      const [x, y, z] = [mesh.positions[i], mesh.positions[i + 1], mesh.positions[i + 2] - back + at.standOff];
      positions[p] = at.x + cos * x - sin * y;
      positions[p + 1] = at.y + sin * x + cos * y;
      positions[p + 2] = z;
      deepest = Math.max(deepest, z);
    }
    const worn = finishes.map(({ colour }) => rgb(colour));
    for (let i = 0; i < mesh.triangles.length; i++, t++) triangles[t] = first + mesh.triangles[i];
    for (const wear of wears) {
      colours.push(worn[wear]);
      gleams.push(GLEAM[finishes[wear].gloss]);
    }
  }
  return { positions, triangles, normals: unitNormals(positions, triangles), colours, gleams, deepest };
}

function drawTriangles(buffer: DepthBuffer, p: Float64Array, triangles: Uint32Array): void {
  for (let t = 0; t < triangles.length; t += 3) {
    const [i, j, k] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
    buffer.draw(t / 3, p[i], p[i + 1], p[i + 2], p[j], p[j + 1], p[j + 2], p[k], p[k + 1], p[k + 2]);
  }
}

/** What the light sees of a scene, and so what lies in its shadow (L. Williams, “Casting curved shadows on curved surfaces”, SIGGRAPH 1978). */
class Lit {
  private readonly buffer: DepthBuffer;
  private readonly across: Rgb;
  private readonly down: Rgb;
  private readonly scale: number;
  private readonly left: number = 0;
  private readonly top: number = 0;
  /** Samples of half the light’s width. */
  private readonly reach: number;

  constructor(
    { positions, triangles, deepest }: Scene,
    private readonly lamp: Rgb,
    softness: number,
  ) {
    const [x, y, z] = lamp;
    this.across = Math.hypot(x, y) < 1e-9 ? [1, 0, 0] : normalised(-y, x, 0);
    const [a, b] = this.across;
    // Square to both, downwards as the light sees it.
    this.down = [-(y * 0 - z * b), -(z * a - x * 0), -(x * b - y * a)];
    const seen = new Float64Array(positions.length);
    let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = 0; i < positions.length; i += 3) {
      const [u, v, w] = this.along(positions[i], positions[i + 1], positions[i + 2]);
      seen.set([u, v, w], i);
      [minX, maxX, minY, maxY] = [Math.min(minX, u), Math.max(maxX, u), Math.min(minY, v), Math.max(maxY, v)];
    }
    const longest = Math.max(maxX - minX, maxY - minY);
    this.scale = longest > 0 ? LIT / longest : 1;
    this.buffer = new DepthBuffer(Math.ceil((maxX - minX || 0) * this.scale) + 1, Math.ceil((maxY - minY || 0) * this.scale) + 1);
    [this.left, this.top] = [minX, minY];
    for (let i = 0; i < seen.length; i += 3) {
      seen[i] = (seen[i] - minX) * this.scale;
      seen[i + 1] = (seen[i + 1] - minY) * this.scale;
    }
    drawTriangles(this.buffer, seen, triangles);
    this.reach = softness * PENUMBRA * deepest * this.scale;
  }

  /** Which share of the light comes to a place of a surface. */
  shareAt([x, y, z]: Place3, [nx, ny, nz]: Place3): number {
    if (!(nx * this.lamp[0] + ny * this.lamp[1] + nz * this.lamp[2] > 0)) return 0;
    const lift = LIFT / this.scale;
    const [u, v, w] = this.along(x + lift * nx, y + lift * ny, z + lift * nz);
    const { width, height, depth } = this.buffer;
    const [column, row] = [(u - this.left) * this.scale, (v - this.top) * this.scale];
    let kept = 0;
    for (const [dx, dy] of TAPS) {
      const [i, j] = [Math.floor(column + dx * this.reach), Math.floor(row + dy * this.reach)];
      if (i >= 0 && j >= 0 && i < width && j < height && depth[j * width + i] > w + lift) kept++;
      // Sharp shadows have one answer.
      if (this.reach === 0) return 1 - kept;
    }
    return 1 - kept / TAPS.length;
  }

  private along(x: number, y: number, z: number): Place3 {
    const { across, down, lamp } = this;
    return [
      across[0] * x + across[1] * y + across[2] * z,
      down[0] * x + down[1] * y + down[2] * z,
      lamp[0] * x + lamp[1] * y + lamp[2] * z,
    ];
  }
}

/** A picture with the shadow on the wall behind it. @param darkness of full shadow */
function withShadow({ width, height, rgba }: Picture, camera: Camera, lit: Lit, darkness: number): Picture {
  const out = new Uint8Array(rgba);
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const at = 4 * (row * width + column);
      const cover = rgba[at + 3] / 255;
      if (cover === 1) continue;
      const point = camera.onWall(column + 0.5, row + 0.5);
      const shadow = point ? darkness * (1 - lit.shareAt([point.x, point.y, 0], [0, 0, 1])) : 0;
      if (shadow === 0) continue;
      const all = cover + (1 - cover) * shadow;
      for (let k = 0; k < 3; k++) out[at + k] = Math.round((rgba[at + k] * cover) / all);
      out[at + 3] = Math.round(255 * all);
    }
  return { width, height, rgba: out };
}
