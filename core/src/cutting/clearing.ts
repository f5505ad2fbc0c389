import { bounds, contains, type Contour, contourArea, type Outline, reversed } from '../geometry/index.js';
import { type Middle, type NarrowLine } from '../medial-axis/index.js';
import { type Chain, chained } from './chain.js';
import { type Pattern } from './choice.js';
import { type FreeSpace } from './free-space.js';
import { hatched } from './hatch.js';
import { type Ends, nearestFirst } from './nearest.js';
import { piecesOf } from './regions.js';
import { AIR, around, Loop, NEAR, passHeights, rampInto, type Run, type Stretch } from './toolpath.js';

/** A tool as it clears: how near it may come to what stands, and the radius of the flat that clears. */
export interface Clearer {
  radius(depth: number): number;
  readonly flat: number;
  /** mm a pass, at most. */
  readonly mostDepth: number;
  /** mm below the stock's face that it reaches at most. */
  readonly reach: number;
}

export interface ClearingChoice {
  /** Part of the flat's diameter from one path to the next. */
  readonly stepover: number;
  readonly allowance: number;
  readonly isClimb: boolean;
  readonly pattern: Pattern;
  /** How high tools go to move freely. */
  readonly safe: number;
  /** Whether so many mm are gone sooner by coming up a little and moving fast than by going on as it cuts. */
  readonly isSooner: (mm: number) => boolean;
}

/** What a tool finds where it clears. */
export interface Clearing {
  readonly space: FreeSpace;
  /** Of the tool at the depth of the terrace. */
  readonly radius: number;
  /** Radius of the smallest tool that was here before; none where it is the first. */
  readonly before?: number;
  /** Height above which everything here has been cleared. */
  readonly from: number;
  /** Whether places that larger tools reach have been cleared down to the terrace, so that ways may begin there. */
  readonly isOpen: boolean;
}

/**
 * The runs of a tool over a terrace, in passes: of the first one along lines of equal distance from the inside out, the last of them beside
 * the walls; of a smaller one along such lines where those before it left something.
 */
export function clearingRuns(clearing: Clearing, tool: Clearer, choice: ClearingChoice): Run[] {
  const { space, radius, from, before } = clearing;
  const step = 2 * tool.flat * choice.stepover;
  const heights = passHeights(from, space.terrace.z, tool.mostDepth);
  const topOf = (pass: number): number => (pass === 0 ? from : heights[pass - 1]);
  if (before !== undefined) {
    const ways = restWays(clearing, before, step, choice.isClimb);
    // Each down to the ground before the next: they lie apart.
    const runs = ways.flatMap((way) => restRuns(way, clearing, before, heights, choice));
    return comingLow(
      runs.map((run) =>
        clearing.isOpen ? { run, space, radius: before, clear: space.terrace.z } : { run, space, radius, clear: from },
      ),
    );
  }
  const beside = choice.allowance > 0 ? Math.min(step, choice.allowance) : step;
  if (choice.pattern.kind === 'lines') {
    const { angle } = choice.pattern;
    const lines = hatched(space.within(radius + beside), angle, step).map((points): RestWay => [
      { line: { points, isClosed: false } },
    ]);
    const walls = space.within(radius).map((ring) => [new Loop(choice.isClimb ? ring : backwards(ring))]);
    const runs = heights.flatMap((z, pass) =>
      [
        ...lines.map((way) => restRun(way, topOf(pass), z, choice)),
        ...walls.map((chain) => runAlong(chain, topOf(pass), z, choice.safe)),
      ].map((run) => ({ run, space, radius, clear: topOf(pass) })),
    );
    return comingLow(runs);
  }
  const rings = space.rings(radius, step, beside);
  if (rings.length === 0) return [];
  const region = rings.filter(({ depth }) => depth === rings[0].depth).map(({ points }) => points);
  const found = chained(rings, region, step, [region[0][0], region[0][1]]);
  const ends = found.map((chain): Ends => ({ from: placeIn(chain[0]), to: placeIn(chain[chain.length - 1]) }));
  const order = nearestFirst(ends, [region[0][0], region[0][1]]).map(({ way }) => found[way]);
  const runs = byPiece(order, region).flatMap((piece) => {
    const chains = piece.map((chain) => chain.map((ring) => new Loop(choice.isClimb ? ring : backwards(ring))));
    // To and fro: each pass begins where the one before ended.
    return heights.flatMap((z, pass) =>
      (pass % 2 === 0 ? chains : [...chains].reverse()).map((chain) => ({
        run: runAlong(chain, topOf(pass), z, choice.safe),
        space,
        radius,
        clear: topOf(pass),
      })),
    );
  });
  return comingLow(runs);
}

/** Chains of pieces that lie apart, each piece done down to the ground before the next; in the order in which the pieces come. */
function byPiece(chains: readonly Chain[], region: Outline): Chain[][] {
  // Of two around a place the smaller one lies in a hole of the other.
  const outers = piecesOf(region)
    .map(([outer]) => outer)
    .sort((a, b) => contourArea(a) - contourArea(b));
  if (outers.length < 2) return [[...chains]];
  const boxes = outers.map((outer) => bounds([outer])!);
  const pieceOf = ([ring]: Chain): number => {
    // Beside the middle of its first side, where its inside is.
    const [ax, ay, bx, by] = ring;
    const length = Math.max(1e-9, Math.hypot(bx - ax, by - ay));
    const [x, y] = [(ax + bx) / 2 - (ASIDE * (by - ay)) / length, (ay + by) / 2 + (ASIDE * (bx - ax)) / length];
    return outers.findIndex((outer, i) => {
      const { minX, minY, maxX, maxY } = boxes[i];
      return x >= minX && x <= maxX && y >= minY && y <= maxY && contains([outer], x, y);
    });
  };
  const found = new Map<number, Chain[]>();
  for (const chain of chains) {
    const piece = pieceOf(chain);
    const list = found.get(piece);
    if (list) list.push(chain);
    else found.set(piece, [chain]);
  }
  return [...found.values()];
}

/** mm inside of a ring at which it is asked which piece it is of. */
const ASIDE = 0.004;

const placeIn = (ring: Contour): [number, number] => [ring[0], ring[1]];

/** A run, with the height above which all of a space was cleared before it that a tool of a radius comes to. */
interface ClearedRun {
  readonly run: Run;
  readonly space: FreeSpace;
  readonly radius: number;
  readonly clear: number;
}

/** Runs that are come to no higher than needed: straight over what was cleared, where nothing else stands on the way. */
function comingLow(runs: readonly ClearedRun[]): Run[] {
  return runs.map(({ run, space, radius, clear }, i) => {
    if (i === 0) return run;
    const before = runs[i - 1];
    const [x, y, z] = before.run.stretches.at(-1)!.points.subarray(-3);
    const over = Math.max(before.clear + AIR, clear + AIR, z + NEAR);
    return over < before.run.airTo + AIR && space.isFree(radius, x, y, run.x, run.y) ? { ...run, over } : run;
  });
}

/** Down through air, down a ramp along the first ring of a chain, around it, and from ring to ring. */
function runAlong(loops: readonly Loop[], from: number, z: number, safe: number): Run {
  const airTo = Math.min(safe, from + AIR);
  const { x, y, stretch } = rampInto(loops[0], from + NEAR, z);
  const stretches: Stretch[] = [{ points: Float64Array.of(x, y, from + NEAR), pace: 'cut' }];
  stretches.push(stretch);
  loops.forEach((loop, i) => {
    const [x0, y0] = loop.at(0);
    if (i > 0) stretches.push({ points: Float64Array.of(x0, y0, z), pace: 'cut' });
    stretches.push(around(loop, z));
  });
  return { x, y, airTo, stretches };
}

/** A line with how the tool comes to it from the one before, without coming up: straight, cutting, or fast where all is cleared. */
interface RestLine {
  readonly line: NarrowLine;
  /** Places on the way from the line before; none where the tool comes from above. */
  readonly by?: readonly Middle[];
}

/** Lines that are gone along without coming up between them. */
type RestWay = readonly RestLine[];

/** Lines beside narrow places in the order in which they are gone along, those together between which the tool need not come up. */
function restWays(clearing: Clearing, before: number, step: number, isClimb: boolean): RestWay[] {
  const { space, radius } = clearing;
  const lines = space.restLines(radius, before, step).map((line) => (isClimb ? line : turned(line)));
  const ends = lines.map(({ points, isClosed }) => {
    const from = [points[0], points[1]] as const;
    return { from, to: isClosed ? from : ([points[points.length - 2], points[points.length - 1]] as const) };
  });
  const ways: RestLine[][] = [];
  let last: number | undefined;
  for (const { way } of nearestFirst(ends, ends[0]?.from ?? [0, 0])) {
    const line = lines[way];
    const by = last === undefined || line.isClosed ? undefined : between(clearing, before, lines[last], line);
    if (by) ways[ways.length - 1].push({ line, by });
    else ways.push([{ line }]);
    last = way;
  }
  return ways;
}

/** Where the tool goes from line to line: where larger ones have been, or else straight on, cutting what there is. */
function between({ space, radius, isOpen }: Clearing, before: number, a: NarrowLine, b: NarrowLine): Middle[] | undefined {
  const [ax, ay] = a.points.subarray(a.isClosed ? 0 : -2);
  const [bx, by] = b.points;
  const length = Math.hypot(bx - ax, by - ay);
  const { end } = a;
  const { begin } = b;
  if (isOpen && end && begin && length <= FAST && space.isFree(before, end.x, end.y, begin.x, begin.y)) return [end, begin];
  return length <= LINKED && space.isFree(radius, ax, ay, bx, by) ? [] : undefined;
}

/** mm that a tool goes straight from one line to the next, and where larger ones have been: going up and down again would take as long. */
const LINKED = 8;
const FAST = 40;

function turned({ points, isClosed, begin, end }: NarrowLine): NarrowLine {
  return { points: isClosed ? backwards(points) : reversed(points), isClosed, begin: end, end: begin };
}

/**
 * A way in all passes: down where it is open, along it, down again at its other end where that is open, too, and else fast back over what
 * was cut. It is the last pass that goes the way that was chosen. A run for each pass where it is nowhere open.
 */
function restRuns(
  way: RestWay,
  { from, isOpen, space }: Clearing,
  before: number,
  heights: readonly number[],
  choice: ClearingChoice,
): Run[] {
  const { points, begin, isClosed } = way[0].line;
  if (!isOpen || !begin || isClosed)
    return heights.map((z, pass) => restRun(way, pass === 0 ? from : heights[pass - 1], z, choice));
  const last = way[way.length - 1].line;
  const isToAndFro = last.end !== undefined && !last.isClosed;
  const back = isToAndFro ? turnedWay(way) : way;
  const wayOf = (pass: number): RestWay => ((heights.length - 1 - pass) % 2 === 0 ? way : back);
  const stretches: Stretch[] = [];
  heights.forEach((z, pass) => {
    if (pass > 0 && !isToAndFro)
      stretches.push({ points: backOver(way, heights[pass - 1] + NEAR, space, before), pace: 'rapid' });
    const [x, y] = wayOf(pass)[0].line.points;
    stretches.push({ points: Float64Array.of(x, y, z), pace: 'plunge' }, ...along(wayOf(pass), z, choice));
  });
  const [x, y] = isToAndFro ? wayOf(0)[0].line.points : points;
  return [{ x, y, airTo: Math.min(choice.safe, from + AIR, heights[0] + AIR), stretches }];
}

/** A way from its end to its beginning. */
const turnedWay = (way: RestWay): RestWay =>
  way.map((_, i): RestLine => {
    const { line } = way[way.length - 1 - i];
    const by = i === 0 ? undefined : way[way.length - i].by;
    return { line: turned(line), ...(by && { by: [...by].reverse() }) };
  });

/** Down a ramp along the first line, and along all lines. */
function restRun(way: RestWay, from: number, z: number, choice: ClearingChoice): Run {
  const { line: first } = way[0];
  // There and back is a ring, too.
  const loop = new Loop(first.isClosed ? first.points : thereAndBack(first.points));
  const { x, y, stretch } = rampInto(loop, from + NEAR, z);
  const down: Stretch = { points: Float64Array.of(x, y, from + NEAR), pace: 'cut' };
  return { x, y, airTo: Math.min(choice.safe, from + AIR), stretches: [down, stretch, ...along(way, z, choice)] };
}

/** All lines of a way at a height, from the beginning of the first. */
function along(way: RestWay, z: number, { isSooner }: ClearingChoice): Stretch[] {
  const stretches: Stretch[] = [];
  way.forEach(({ line: { points, isClosed }, by = [] }, i) => {
    if (by.length > 0 && !isSooner(lengthOf(by)))
      stretches.push({
        points: Float64Array.from([...by.flatMap(({ x, y }) => [x, y, z]), points[0], points[1], z]),
        pace: 'cut',
      });
    else if (by.length > 0) {
      const over = z + NEAR;
      stretches.push({ points: Float64Array.from(by.flatMap((middle) => [middle.x, middle.y, over])), pace: 'rapid' });
      stretches.push({ points: Float64Array.of(points[0], points[1], z), pace: 'cut' });
    }
    stretches.push({ points: atHeight(points, z, isClosed, i === 0 || by.length > 0), pace: 'cut' });
  });
  return stretches;
}

/** mm of the way along some places. */
const lengthOf = (places: readonly Middle[]): number =>
  places.reduce((sum, { x, y }, i) => (i === 0 ? 0 : sum + Math.hypot(x - places[i - 1].x, y - places[i - 1].y)), 0);

/** Over what a pass of a way has cut back to its beginning: straight where larger tools have been, else as it came. */
function backOver(way: RestWay, over: number, space: FreeSpace, before: number): Float64Array {
  const [x, y] = way[0].line.points;
  const came = way.flatMap(({ line: { points, isClosed }, by = [] }) => [
    ...by.flatMap((middle) => [middle.x, middle.y]),
    ...points,
    ...(isClosed ? points.subarray(0, 2) : []),
  ]);
  const [endX, endY] = came.slice(-2);
  if (space.isFree(before, endX, endY, x, y)) return Float64Array.of(endX, endY, over, x, y, over);
  const back: number[] = [];
  for (let i = came.length - 2; i >= 0; i -= 2) back.push(came[i], came[i + 1], over);
  return Float64Array.from(back);
}

/** A polyline at a height, closed where it is a ring, without its first point where the tool is there. */
function atHeight(points: Contour, z: number, isClosed: boolean, isThere: boolean): Float64Array {
  const all = isClosed ? [...points, points[0], points[1]] : [...points];
  const out: number[] = [];
  for (let i = isThere ? 2 : 0; i < all.length; i += 2) out.push(all[i], all[i + 1], z);
  return Float64Array.from(out);
}

function thereAndBack(points: Contour): Contour {
  const back = reversed(points);
  return Float64Array.from([...points, ...back.subarray(2, -2)]);
}

/** A ring the other way round from the same first point. */
export function backwards(ring: Contour): Contour {
  const turnedRing = reversed(ring);
  return Float64Array.from([...turnedRing.subarray(-2), ...turnedRing.subarray(0, -2)]);
}
