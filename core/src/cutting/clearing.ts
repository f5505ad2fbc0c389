import { area, type Contour, type Outline, reversed } from '../geometry/index.js';
import { chained } from './chain.js';
import { type Reach, reachOf, ringsIn } from './regions.js';
import { type Terrace } from './terraces.js';
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
  readonly stockTop: number;
  /** How high tools go to move freely. */
  readonly safe: number;
}

/** What a terrace still has, and where a tool was to clear of it. */
export interface Cleared {
  readonly left: Outline;
  readonly reach: Reach;
}

/** What a tool reaches of what others left of a terrace; undefined where it reaches nothing. */
export function clearedBy(tool: Clearer, terrace: Terrace, left: Outline, stockTop: number): Cleared | undefined {
  const depth = stockTop - terrace.z;
  if (left.length === 0 || depth > tool.reach) return undefined;
  const reach = reachOf(left, terrace.keepOut, tool.radius(depth), tool.flat);
  return reach.centres.length === 0 ? undefined : { left: reach.left, reach };
}

/** mm² that a tool has to clear for it to be taken. */
export const gainOf = (before: Outline, { left }: Cleared): number => area(before) - area(left);

/**
 * The runs of a tool over a terrace: in passes from the stock's face down to the terrace, along lines of equal distance from the inside
 * out, the last of them beside the walls.
 * @param isRest others have cleared most of it, and there is no allowance
 */
export function clearingRuns(
  { reach: { centres } }: Cleared,
  terrace: Terrace,
  tool: Clearer,
  choice: ClearingChoice,
  isRest: boolean,
): Run[] {
  const step = 2 * tool.flat * choice.stepover;
  const hasAllowance = !isRest && choice.allowance > 0;
  const rings = ringsIn(centres, step, hasAllowance ? Math.min(step, choice.allowance) : step);
  const chains = chained(rings, centres, step, [centres[0][0], centres[0][1]]).map((chain) =>
    chain.map((ring) => new Loop(choice.isClimb ? ring : backwards(ring))),
  );
  const heights = passHeights(choice.stockTop, terrace.z, tool.mostDepth);
  return heights.flatMap((z, i) => {
    const from = i === 0 ? choice.stockTop : heights[i - 1];
    return chains.map((chain) => runAlong(chain, from, z, choice.safe));
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

/** A ring the other way round from the same first point. */
export function backwards(ring: Contour): Contour {
  const turned = reversed(ring);
  return Float64Array.from([...turned.subarray(-2), ...turned.subarray(0, -2)]);
}
