import { type Box, type CreaseLines, type Reach } from '../geometry/index.js';

/** Once all the way round: how the plan goes on beyond its seam. */
export interface Round {
  /** mm round in the plan, on the level line through its middle. */
  readonly length: number;
  /** The place of the plan that lies at the same place of the support, so many times once round further. */
  moved(x: number, y: number, times: number): readonly [number, number];
  /** How many times round a place is from the middle: −½ and ½ are the seam. */
  turns(x: number, y: number): number;
  /** mm up the surface from the level line through the middle. */
  up(x: number, y: number): number;
}

/** mm behind the face, and in front of it, at which what is upright on the face comes together: in an axis, or a middle. */
export interface Room {
  readonly behind: number;
  readonly front: number;
}

/**
 * Where the plan is in space: x to the right, y up, z towards the reader, all in mm. The middle of the plan is in (0, 0, 0), and lies in
 * x and y as the plan does there. What is raised by z is z along the surface's normal.
 */
export interface SupportSurface {
  /** Writes the place in space of a place of the plan that is raised by z into three numbers of `out`, from `at` on. */
  place(x: number, y: number, z: number, out: Float64Array, at: number): void;
  /** Writes the normal of the surface there. */
  normal(x: number, y: number, out: Float64Array, at: number): void;
  /** How many times as long as in the plan lengths are at z above the face: the two principal stretches. */
  stretch(x: number, y: number, z: number): readonly [number, number];
  /** Lines along which what lies within a box of the plan is creased, so that no chord is further from the surface than the tolerance. */
  creases(box: Box, reach: Reach, tolerance: number): readonly CreaseLines[];
  readonly round?: Round;
  readonly room: Room;
  /** Whether the plan is laid on without being stretched at the face, as on a cylinder or a cone. */
  readonly isDevelopable: boolean;
  /** Whether what is level of it lies in level planes, circles of a cone or copies of a line, also where it leans: y is upright there. */
  readonly hasLevelLines?: boolean;
}

/** Upright lines, or level ones. */
export function parallels(values: readonly number[], axis: 'x' | 'y'): CreaseLines {
  const at = Float64Array.from(values);
  return axis === 'x'
    ? { values: at, valueAt: (x) => x, shareAt: (line, ax, _, bx) => (at[line] - ax) / (bx - ax) }
    : { values: at, valueAt: (_, y) => y, shareAt: (line, _, ay, __, by) => (at[line] - ay) / (by - ay) };
}
