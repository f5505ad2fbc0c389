import Flatbush from 'flatbush';
import { closestShare, type Contour, keyX, keyY, type Outline, STEPS_PER_MM, Weld } from '../geometry/index.js';
import { stepoverFor, type ToolForm } from '../tooling/index.js';
import { chained } from './chain.js';
import { DropCutter, LED } from './drop.js';
import { nearestFirst } from './nearest.js';
import { grown, ringsBySteps } from './regions.js';
import { type Edge3, type Terrain } from './terrain.js';
import { AIR, passHeights, type Run } from './toolpath.js';

/** mm between the places of a path at which the tool is let down, and by which a path may miss what lies between two of them. */
const SAMPLE = 0.8;
const HEIGHT_TOLERANCE = 0.004;
/** mm by which a ring over slopes may be another: it only says where the tool is let down. */
const PLAN_TOLERANCE = 0.02;
const LEAST_SAMPLE = 0.01;
/** mm that a tool goes straight from one path to the next, and from place to place of such a way. */
const LINKED = 8;
const BETWEEN = 0.05;
/** Radians between slopes from which they meet in a valley that a tip follows. */
export const VALLEY = (12 * Math.PI) / 180;
/** The steepest slope that the distance between paths is made for. */
const STEEPEST = (72 * Math.PI) / 180;
/** Part of its radius that a ball's middle lies outside of slopes at most: that of a slope of 45°. */
const DOWNHILL = Math.SQRT1_2;
/** Places of rings at which it is looked how steep it is. */
const MOST_LOOKED_AT = 400;

export interface SlopeChoice {
  readonly stockTop: number;
  readonly safe: number;
  /** mm a pass, at most. */
  readonly mostDepth: number;
  /** Down to which the tool, and those that cleared before, reach. */
  readonly floor: number;
}

/** Places at which a tool is let down, x, y, z in turn. */
type Path3 = number[];

/**
 * Runs that finish slopes with a ball: along lines of equal distance, so near that ridges between them stand no higher than is asked,
 * the nearer the steeper it is where they run.
 * @param wanted the slopes
 */
export function ballRuns(
  terrain: Terrain,
  wanted: (triangle: number) => boolean,
  form: ToolForm & { readonly kind: 'ball' | 'taper' },
  cusp: number,
  choice: SlopeChoice,
): Run[] {
  const slopes = terrain.covered(wanted);
  if (slopes.length === 0) return [];
  const radius = (form.kind === 'ball' ? form.diameter : form.tip) / 2;
  const cutter = new DropCutter(terrain, form);
  const across = stepoverFor(radius, cusp);
  // The ball's middle lies downhill of where it touches.
  const region = grown(slopes, radius * DOWNHILL);
  const rings = ringsBySteps(
    region,
    (on) => across * Math.cos(Math.min(STEEPEST, Math.atan(steepnessAlong(on, terrain, cutter)))),
  );
  const chains = chained(rings, region, across, [region[0][0], region[0][1]]);
  return chains.flatMap((chain) =>
    joinedPaths(
      chain.map((ring) => let3(thinned(ring), true, cutter, choice.floor)),
      cutter,
      choice.floor,
    ).map((path) => runOn(path, choice)),
  );
}

/** The slope that three quarters of the places along rings are no steeper than. */
function steepnessAlong(rings: readonly Contour[], terrain: Terrain, cutter: DropCutter): number {
  const count = rings.reduce((sum, ring) => sum + ring.length / 2, 0);
  const stride = 2 * Math.max(1, Math.ceil(count / MOST_LOOKED_AT));
  const found: number[] = [];
  for (const ring of rings) {
    for (let i = 0; i < ring.length; i += stride) {
      const t = cutter.triangleUnder(ring[i], ring[i + 1]);
      if (t !== undefined && terrain.isSlope(t)) found.push(terrain.slopes[t]);
    }
  }
  found.sort((a, b) => a - b);
  return found[Math.floor(found.length * 0.75)] ?? 0;
}

/**
 * Runs that cut slopes with a tool whose cone is as steep as they are: along their feet, where the tip's edge runs, and in the valleys
 * between them, at the depth that the cone comes to there.
 */
export function veeRuns(
  terrain: Terrain,
  wanted: (triangle: number) => boolean,
  form: ToolForm & { readonly kind: 'vee' },
  choice: SlopeChoice,
): Run[] {
  const { feet, valleys } = terrain.lowLines(wanted, VALLEY);
  const cutter = new DropCutter(terrain, form);
  const lines = [...polylinesOf(valleys), ...feetLines(terrain, wanted, feet, form.tip / 2)];
  return inOrder(lines.flatMap((line) => parts(let3(line.points, line.isClosed, cutter, choice.floor)))).flatMap((path) =>
    passesOn(path, choice),
  );
}

interface Line {
  readonly points: ArrayLike<number>;
  readonly isClosed: boolean;
}

/** Where the middle of a flat tip goes along the feet of slopes: half of the tip's width from them. */
function feetLines(terrain: Terrain, wanted: (triangle: number) => boolean, feet: readonly Edge3[], half: number): Line[] {
  if (feet.length === 0) return [];
  const index = new Flatbush(feet.length);
  for (const { ax, ay, bx, by } of feet) index.add(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by));
  index.finish();
  const reach = half + 0.02;
  const isNear = (x: number, y: number): boolean =>
    index.search(x - reach, y - reach, x + reach, y + reach).some((e) => {
      const { ax, ay, bx, by } = feet[e];
      const share = closestShare(ax, ay, bx - ax, by - ay, x, y);
      return Math.hypot(ax + share * (bx - ax) - x, ay + share * (by - ay) - y) <= reach;
    });
  const slopes = terrain.covered(wanted);
  const around: Outline = half > 0.002 ? grown(slopes, half) : slopes;
  return around.flatMap((ring) => partsOfRing(ring, isNear));
}

/** The stretches of a ring whose points are accepted. */
function partsOfRing(ring: ArrayLike<number>, isWanted: (x: number, y: number) => boolean): Line[] {
  const n = ring.length / 2;
  const flags = Array.from({ length: n }, (_, i) => isWanted(ring[2 * i], ring[2 * i + 1]));
  if (flags.every(Boolean)) return [{ points: ring, isClosed: true }];
  const first = flags.findIndex((flag, i) => flag && !flags[(i + n - 1) % n]);
  if (first < 0) return [];
  const lines: Line[] = [];
  let points: number[] = [];
  for (let k = 0; k <= n; k++) {
    const i = (first + k) % n;
    if (k < n && flags[i]) points.push(ring[2 * i], ring[2 * i + 1]);
    else {
      if (points.length >= 4) lines.push({ points, isClosed: false });
      points = [];
    }
  }
  return lines;
}

/** Edges that meet in ends of two, as polylines. */
function polylinesOf(edges: readonly Edge3[]): Line[] {
  const weld = new Weld(8);
  const ends = new Map<number, number[]>();
  const keys = edges.map(({ ax, ay, bx, by }) => [weld.place(ax, ay), weld.place(bx, by)] as const);
  keys.forEach((pair, e) => {
    for (const key of pair) ends.set(key, [...(ends.get(key) ?? []), e]);
  });
  const isUsed = new Uint8Array(edges.length);
  const lines: Line[] = [];
  const follow = (start: number, e0: number): void => {
    const points = [start];
    let [at, e] = [start, e0];
    for (;;) {
      isUsed[e] = 1;
      at = keys[e][0] === at ? keys[e][1] : keys[e][0];
      points.push(at);
      const around = ends.get(at)!;
      const next = around.length === 2 ? around.find((other) => !isUsed[other]) : undefined;
      if (next === undefined) break;
      e = next;
    }
    const isClosed = points.length > 3 && points[0] === points[points.length - 1];
    lines.push({ points: points.slice(0, isClosed ? -1 : undefined).flatMap((key) => [keyX(key) / STEPS_PER_MM, keyY(key) / STEPS_PER_MM]), isClosed }); // prettier-ignore
  };
  for (const [key, around] of ends) if (around.length !== 2) for (const e of around) if (!isUsed[e]) follow(key, e);
  keys.forEach(([key], e) => {
    if (!isUsed[e]) follow(key, e);
  });
  return lines;
}

/** A way along which a tool is let down, so densely that it touches nothing between two places; NaN where slopes do not lead it, or it is too deep. */
function let3(points: ArrayLike<number>, isClosed: boolean, cutter: DropCutter, floor: number): Path3 {
  const out: Path3 = [];
  const n = points.length / 2;
  const down = (x: number, y: number): number => {
    const { z, onSlopes } = cutter.at(x, y);
    return onSlopes >= z - LED && z >= floor ? z : NaN;
  };
  let [x, y] = [points[0], points[1]];
  let z = down(x, y);
  out.push(x, y, z);
  /** Places between two, where the straight way between them would be off. */
  const refine = (ax: number, ay: number, az: number, bx: number, by: number, bz: number): void => {
    const length = Math.hypot(bx - ax, by - ay);
    if (length < LEAST_SAMPLE) return;
    const [mx, my] = [(ax + bx) / 2, (ay + by) / 2];
    const mz = down(mx, my);
    const isStraight = Math.abs(mz - (az + bz) / 2) <= HEIGHT_TOLERANCE || (Number.isNaN(mz) && Number.isNaN(az + bz));
    if (length <= SAMPLE && isStraight) return;
    refine(ax, ay, az, mx, my, mz);
    out.push(mx, my, mz);
    refine(mx, my, mz, bx, by, bz);
  };
  for (let i = 1; i < n + (isClosed ? 1 : 0); i++) {
    const [nx, ny] = [points[2 * (i % n)], points[2 * (i % n) + 1]];
    const nz = down(nx, ny);
    refine(x, y, z, nx, ny, nz);
    out.push(nx, ny, nz);
    [x, y, z] = [nx, ny, nz];
  }
  return out;
}

/** The parts of a path where slopes lead the tool. */
function parts(path: Path3): Path3[] {
  const out: Path3[] = [];
  let part: Path3 = [];
  for (let i = 0; i <= path.length; i += 3) {
    if (i < path.length && !Number.isNaN(path[i + 2])) part.push(path[i], path[i + 1], path[i + 2]);
    else {
      if (part.length >= 6) out.push(part);
      part = [];
    }
  }
  return out;
}

/**
 * Parts of rings as one where the next begins near the end of the one before: the tool goes on straight, over what lies between as low as
 * it comes there.
 */
function joinedPaths(rings: readonly Path3[], cutter: DropCutter, floor: number): Path3[] {
  const out: Path3[] = [];
  for (const part of rings.flatMap(parts)) {
    const last = out.at(-1);
    const way = last && wayOver(last.slice(-3), part, cutter, floor);
    if (last && way) last.push(...way, ...part);
    else out.push(part);
  }
  return out;
}

/** The places between two at which a tool is let down, so near that it passes over all that stands there; undefined where that is too far. */
function wayOver(
  [ax, ay, az]: readonly number[],
  [bx, by, bz]: readonly number[],
  cutter: DropCutter,
  floor: number,
): Path3 | undefined {
  const length = Math.hypot(bx - ax, by - ay);
  if (length > LINKED) return undefined;
  const count = Math.ceil(length / BETWEEN);
  const heights = [az, ...Array.from({ length: Math.max(0, count - 1) }, (_, i) => cutter.at(ax + ((bx - ax) * (i + 1)) / count, ay + ((by - ay) * (i + 1)) / count).z), bz]; // prettier-ignore
  if (!heights.every((z) => z >= floor)) return undefined;
  // Of three neighbours the highest, at the ends straight up and down: between two places it may stand as high as at either.
  return heights.flatMap((z, i) => {
    const share = i / (heights.length - 1);
    return [ax + (bx - ax) * share, ay + (by - ay) * share, Math.max(heights[i - 1] ?? z, z, heights[i + 1] ?? z)];
  });
}

/** Paths in the order in which the next one begins nearest, turned round where its end is nearer. */
function inOrder(paths: readonly Path3[]): Path3[] {
  const ends = paths.map((path) => ({ from: [path[0], path[1]], to: [path[path.length - 3], path[path.length - 2]] }) as const);
  return nearestFirst(ends, ends[0]?.from ?? [0, 0], true).map(({ way, isTurned }) =>
    isTurned ? backwards3(paths[way]) : paths[way],
  );
}

const backwards3 = (path: Path3): Path3 => {
  const out: Path3 = [];
  for (let i = path.length - 3; i >= 0; i -= 3) out.push(path[i], path[i + 1], path[i + 2]);
  return out;
};

/** A path in passes, each deeper than the one before, until all of it is cut. */
function passesOn(path: Path3, choice: SlopeChoice): Run[] {
  let least = Infinity;
  for (let i = 2; i < path.length; i += 3) least = Math.min(least, path[i]);
  return passHeights(choice.stockTop, least, choice.mostDepth).flatMap((floor, i) => {
    const clamped = path.map((value, at) => (at % 3 === 2 ? Math.max(value, floor) : value));
    return i === 0
      ? [runOn(clamped, choice)]
      : deeperParts(clamped, path, floor + choice.mostDepth).map((part) => runOn(part, choice));
  });
}

/** The parts of a path that a pass before, down to `before`, has not cut. */
function deeperParts(clamped: Path3, path: Path3, before: number): Path3[] {
  return parts(clamped.map((value, at) => (at % 3 === 2 && path[at] >= before - 1e-6 ? NaN : value)));
}

/** A run along a path: through air to over its beginning, and straight down into it: balls and cones cut to their tips. */
function runOn(path: Path3, { stockTop, safe }: SlopeChoice): Run {
  const [x, y, z] = path;
  const airTo = Math.max(z, Math.min(safe, stockTop + AIR));
  const stretches = [
    { points: Float64Array.of(x, y, z), pace: 'plunge' as const },
    { points: simplified(path), pace: 'cut' as const },
  ];
  return { x, y, airTo, stretches };
}

/** A path without the points that lie on the straight way between others. */
function simplified(path: Path3, tolerance = HEIGHT_TOLERANCE): Float64Array {
  const keep: number[] = [];
  const n = path.length / 3;
  let from = 0;
  for (let i = 1; i < n; i++) {
    if (i + 1 < n && isStraightTo(path, from, i + 1, tolerance)) continue;
    keep.push(path[3 * i], path[3 * i + 1], path[3 * i + 2]);
    from = i;
  }
  return Float64Array.from(keep);
}

/** A ring with fewer points, from the same first one. */
function thinned(ring: Contour): number[] {
  const path: Path3 = [];
  for (let i = 0; i < ring.length; i += 2) path.push(ring[i], ring[i + 1], 0);
  return [ring[0], ring[1], ...simplified(path, PLAN_TOLERANCE).filter((_, i) => i % 3 < 2)];
}

/** Points between two at most. */
const MOST_BETWEEN = 60;

function isStraightTo(path: Path3, from: number, to: number, tolerance: number): boolean {
  if (to - from > MOST_BETWEEN) return false;
  const [ax, ay, az] = [path[3 * from], path[3 * from + 1], path[3 * from + 2]];
  const [dx, dy, dz] = [path[3 * to] - ax, path[3 * to + 1] - ay, path[3 * to + 2] - az];
  const square = dx * dx + dy * dy + dz * dz;
  for (let i = from + 1; i < to; i++) {
    const [ux, uy, uz] = [path[3 * i] - ax, path[3 * i + 1] - ay, path[3 * i + 2] - az];
    const share = square > 0 ? (ux * dx + uy * dy + uz * dz) / square : 0;
    if (Math.hypot(ux - share * dx, uy - share * dy, uz - share * dz) > tolerance) return false;
  }
  return true;
}
