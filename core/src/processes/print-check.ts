import { area, bounds, type Outline, STEPS_PER_MM } from '../geometry/index.js';
import { Widths } from '../medial-axis/index.js';
import { type Mesh, meshBounds } from '../mesh/index.js';
import { type Evaluation, type Surface } from '../relief/index.js';
import { planeSection } from '../solid/index.js';

/** How a printer lays material down. Lengths in mm. */
export interface PrintChoice {
  /** Width of a line. */
  readonly line: number;
  /** Height of a layer. */
  readonly layer: number;
  /** What the bed holds across and up, and how high it prints; anything where nothing is said. */
  readonly bed?: { readonly width: number; readonly depth: number; readonly height: number };
}

/** Usual lines of a nozzle of 0.4 mm (common practice, no source). */
export const USUAL_PRINT: PrintChoice = { line: 0.4, layer: 0.2 };

/** What hangs, or is too thin, with the middle of the largest place. */
export interface PrintPlaces {
  readonly areaMm2: number;
  /** Degrees from upright, mm of width, or mm of thickness: the worst that was found. */
  readonly worst: number;
  readonly at: { readonly x: number; readonly y: number; readonly z: number };
}

/** What a printer would have trouble with, of a solid that lies on its back. */
export interface PrintFindings {
  /** Undersides that lean more than 45° from upright, and lie on nothing. */
  readonly overhang: PrintPlaces | undefined;
  /** Walls and strokes thinner than two lines. */
  readonly walls: PrintPlaces | undefined;
  /** Floors thinner than three layers. */
  readonly floors: PrintPlaces | undefined;
  readonly size: { readonly width: number; readonly depth: number; readonly height: number };
  /** Whether it fits on the bed as it lies, or turned by a quarter. */
  readonly fits: boolean;
}

/** From upright, what still prints without support (common practice, no source). */
const MOST_LEAN = 45;
const WALL_LINES = 2;
const FLOOR_LAYERS = 3;
/** mm over the lowest place that lies on the bed. */
const ON_BED = 1e-3;
/** Times the radius of a disc by which a tip reaches beyond it that is a wall. */
const TIP = 0.6;
/** mm² of a finding that is told. */
const LEAST = 0.05;
/** Slices that are looked at. */
const MOST_SLICES = 24;
/** Looks for what a printer cannot make of a solid, lying on its back: overhangs, walls and floors. */
export function printFindings(evaluation: Evaluation, solid: Mesh, { line, layer, bed }: PrintChoice): PrintFindings {
  const { min, max } = meshBounds(solid);
  const [width, depth, height] = [0, 1, 2].map((k) => max[k] - min[k]);
  const lies = (w: number, d: number): boolean => bed === undefined || (w <= bed.width + 1e-6 && d <= bed.depth + 1e-6);
  return {
    overhang: overhangs(solid, min[2]),
    walls: thinWalls(solid, heightsOf(evaluation), WALL_LINES * line),
    floors: thinFloors(evaluation, FLOOR_LAYERS * layer),
    size: { width, depth, height },
    fits: (lies(width, depth) || lies(depth, width)) && (bed === undefined || height <= bed.height + 1e-6),
  };
}

/** What was found, in sentences; one that says so where nothing was. */
export function printSentences({ overhang, walls, floors, size, fits }: PrintFindings, { line, layer }: PrintChoice): string[] {
  const where = ({ at }: PrintPlaces): string =>
    `the largest place at ${at.x.toFixed(1)}, ${at.y.toFixed(1)}, ${at.z.toFixed(1)} mm`;
  const found = [
    overhang && `${overhang.areaMm2.toFixed(1)} mm² of undersides hang over nothing and lean up to ${overhang.worst.toFixed(0)}° from upright, ${where(overhang)}: print with support there, or carve the back less deep.`, // prettier-ignore
    walls && `${walls.areaMm2.toFixed(1)} mm² of walls and strokes are thinner than two lines of ${line} mm, the thinnest about ${walls.worst.toFixed(2)} mm, ${where(walls)}: thicken the strokes, or print with a finer nozzle.`, // prettier-ignore
    floors && `${floors.areaMm2.toFixed(1)} mm² of floors are thinner than three layers of ${layer} mm, the thinnest ${floors.worst.toFixed(2)} mm, ${where(floors)}: carve less deep, or take a thicker blank.`, // prettier-ignore
    fits ? undefined : `It is ${size.width.toFixed(1)} × ${size.depth.toFixed(1)} × ${size.height.toFixed(1)} mm, and larger than the bed: split it.`, // prettier-ignore
  ].filter((sentence) => sentence !== undefined);
  return found.length > 0 ? found : ['Nothing hangs, and no wall or floor is too thin.'];
}

function overhangs({ positions: p, triangles }: Mesh, bed: number): PrintPlaces | undefined {
  let [areaMm2, worst, largest] = [0, 0, 0];
  let at = { x: 0, y: 0, z: 0 };
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const lean = (Math.atan2(-nz, Math.hypot(nx, ny)) * 180) / Math.PI;
    const middle = (k: number): number => (p[a + k] + p[b + k] + p[c + k]) / 3;
    if (lean <= MOST_LEAN + 0.05 || middle(2) < bed + ON_BED) continue;
    const own = Math.hypot(nx, ny, nz) / 2;
    areaMm2 += own;
    worst = Math.max(worst, lean);
    if (own > largest) [largest, at] = [own, { x: middle(0), y: middle(1), z: middle(2) }];
  }
  return areaMm2 >= LEAST ? { areaMm2, worst, at } : undefined;
}

const levelOf = (surface: Surface): number[] => (surface.kind === 'level' && !surface.plane ? [surface.z] : []);

/** Heights at which something level begins or ends, from below. */
const heightsOf = ({ places }: Evaluation): number[] =>
  [...new Set(places.flatMap(({ surface, under, areaMm2 }) => (areaMm2 > 0 ? [...levelOf(surface), ...levelOf(under)] : [])))].sort((a, b) => a - b); // prettier-ignore

/** Looked for half-way between heights: there every wall is as wide as it is made, and slopes in their middle. */
function thinWalls(solid: Mesh, heights: readonly number[], least: number): PrintPlaces | undefined {
  const { min, max } = meshBounds(solid);
  const all = [min[2], ...heights.filter((z) => z > min[2] + 1e-3 && z < max[2] - 1e-3), max[2]];
  const every = Math.max(1, Math.ceil((all.length - 1) / MOST_SLICES));
  let worst: { readonly widths: Widths; readonly thin: Outline; readonly areaMm2: number; readonly z: number } | undefined;
  for (let i = 0; i + 1 < all.length; i += every) {
    const z = (all[i] + all[i + 1]) / 2;
    const widths = new Widths(planeSection(solid, 2, z), least, TIP);
    const thin = widths.narrowerThan(least);
    const areaMm2 = area(thin);
    if (areaMm2 >= LEAST && areaMm2 > (worst?.areaMm2 ?? 0)) worst = { widths, thin, areaMm2, z };
  }
  if (!worst) return undefined;
  const { widths, thin, areaMm2, z } = worst;
  return { areaMm2, worst: widths.least() ?? least, at: { ...middleOfLargest(thin), z } };
}

function middleOfLargest(outline: Outline): { readonly x: number; readonly y: number } {
  const [largest] = [...outline].sort((a, b) => Math.abs(area([b])) - Math.abs(area([a])));
  const { minX, minY, maxX, maxY } = bounds([largest])!;
  return { x: (minX + maxX) / 2, y: (minY + maxY) / 2 };
}

function thinFloors({ places, arrangement }: Evaluation, least: number): PrintPlaces | undefined {
  let [areaMm2, worst, largest] = [0, Infinity, 0];
  let label: number | undefined;
  for (const place of places) {
    const [surface] = levelOf(place.surface);
    const [under] = levelOf(place.under);
    if (surface === undefined || under === undefined) continue;
    const thick = surface - under;
    if (thick >= least - 1e-6 || place.areaMm2 <= 0) continue;
    areaMm2 += place.areaMm2;
    worst = Math.min(worst, thick);
    if (place.areaMm2 > largest) [largest, label] = [place.areaMm2, place.label];
  }
  if (areaMm2 < LEAST || label === undefined) return undefined;
  const { edges } = arrangement;
  const e = edges.left.findIndex((each, i) => each === label || edges.right[i] === label);
  const [x, y] = [edges.x[edges.lo[e]], edges.y[edges.lo[e]]].map((steps) => steps / STEPS_PER_MM);
  return { areaMm2, worst, at: { x, y, z: places.find((place) => place.label === label)!.z } };
}
