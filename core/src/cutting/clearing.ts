import { type Contour, reversed } from '../geometry/index.js';
import { type Middle, type NarrowLine } from '../medial-axis/index.js';
import { chained } from './chain.js';
import { type Pattern } from './choice.js';
import { type FreeSpace } from './free-space.js';
import { hatched } from './hatch.js';
import { nearestFirst } from './nearest.js';
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
    return heights.flatMap((z, pass) => ways.map((way) => restRun(way, clearing.isOpen, topOf(pass), z, choice.safe)));
  }
  const beside = choice.allowance > 0 ? Math.min(step, choice.allowance) : step;
  if (choice.pattern.kind === 'lines') {
    const { angle } = choice.pattern;
    const lines = hatched(space.within(radius + beside), angle, step).map((points): RestWay => [
      { line: { points, isClosed: false } },
    ]);
    const walls = space.within(radius).map((ring) => [new Loop(choice.isClimb ? ring : backwards(ring))]);
    return heights.flatMap((z, pass) => [
      ...lines.map((way) => restRun(way, false, topOf(pass), z, choice.safe)),
      ...walls.map((chain) => runAlong(chain, topOf(pass), z, choice.safe)),
    ]);
  }
  const rings = space.rings(radius, step, beside);
  if (rings.length === 0) return [];
  const region = rings.filter(({ depth }) => depth === rings[0].depth).map(({ points }) => points);
  const chains = chained(rings, region, step, [region[0][0], region[0][1]]).map((chain) =>
    chain.map((ring) => new Loop(choice.isClimb ? ring : backwards(ring))),
  );
  return heights.flatMap((z, pass) => chains.map((chain) => runAlong(chain, topOf(pass), z, choice.safe)));
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

/** Down where it is open, or down a ramp along the first line, and along all lines. */
function restRun(way: RestWay, isOpen: boolean, from: number, z: number, safe: number): Run {
  const { line: first } = way[0];
  const stretches: Stretch[] = [];
  let [x, y] = first.points;
  let airTo = Math.min(safe, from + AIR);
  if (isOpen && first.begin) {
    airTo = Math.min(airTo, z + AIR);
    stretches.push({ points: Float64Array.of(x, y, z), pace: 'plunge' });
  } else {
    // There and back is a ring, too.
    const loop = new Loop(first.isClosed ? first.points : thereAndBack(first.points));
    const ramp = rampInto(loop, from + NEAR, z);
    [x, y] = [ramp.x, ramp.y];
    stretches.push({ points: Float64Array.of(x, y, from + NEAR), pace: 'cut' }, ramp.stretch);
  }
  way.forEach(({ line: { points, isClosed }, by = [] }, i) => {
    if (by.length > 0) {
      const over = z + NEAR;
      stretches.push({ points: Float64Array.from(by.flatMap((middle) => [middle.x, middle.y, over])), pace: 'rapid' });
      stretches.push({ points: Float64Array.of(points[0], points[1], z), pace: 'cut' });
    }
    stretches.push({ points: atHeight(points, z, isClosed, i === 0 || by.length > 0), pace: 'cut' });
  });
  return { x, y, airTo, stretches };
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
