/** A place of the tool's tip, in mm. */
export interface Place {
  readonly x: number;
  readonly y: number;
  readonly z: number;
}

export type Axis = keyof Place;

/** Planes of arcs, each with its two axes in order and the one across it (RS274/NGC, section 3.5.4). */
export const PLANES = {
  xy: { first: 'x', second: 'y', across: 'z' },
  zx: { first: 'z', second: 'x', across: 'y' },
  yz: { first: 'y', second: 'z', across: 'x' },
} as const satisfies Readonly<Record<string, { first: Axis; second: Axis; across: Axis }>>;

export type ArcPlane = keyof typeof PLANES;

/** An arc, or a helix, about an axis across a plane. */
export interface Arc {
  readonly plane: ArcPlane;
  /** The axis, by the plane's two axes, in mm. */
  readonly centre: readonly [number, number];
  readonly radius: number;
  /** Radians anticlockwise as seen from the positive end of the axis; below 0 clockwise. */
  readonly sweep: number;
}

/** Which way the spindle turns, as seen from above the tool. */
export type SpindleTurn = 'still' | 'clockwise' | 'anticlockwise';

/** A move of the tool with what holds while it is made. */
export interface Motion {
  readonly kind: 'rapid' | 'feed';
  /** Of the program, counted from 1. */
  readonly line: number;
  readonly from: Place;
  readonly to: Place;
  readonly arc?: Arc;
  /** mm a minute; none of a rapid move. */
  readonly feed: number;
  /** Place in the changer; 0 for none. */
  readonly tool: number;
  readonly spindle: SpindleTurn;
  /** Revolutions a minute. */
  readonly speed: number;
  readonly isCooled: boolean;
}

/** What a program does, in the order in which it does it. */
export type Step =
  | Motion
  | { readonly kind: 'dwell'; readonly line: number; readonly seconds: number }
  | { readonly kind: 'tool'; readonly line: number; readonly tool: number }
  /** Waits for a person; an optional one only where that is switched on. */
  | { readonly kind: 'stop'; readonly line: number; readonly isOptional: boolean }
  | { readonly kind: 'end'; readonly line: number };

/** How long a move is, in mm. */
export function motionLength({ from, to, arc }: Motion): number {
  if (!arc) return Math.hypot(to.x - from.x, to.y - from.y, to.z - from.z);
  const { across } = PLANES[arc.plane];
  return Math.hypot(arc.radius * arc.sweep, to[across] - from[across]);
}

/** Where the tool is after a part of a move, from 0 to 1. */
export function placeOn(motion: Motion, part: number): Place {
  const { from, to, arc } = motion;
  const between = (axis: Axis): number => from[axis] + (to[axis] - from[axis]) * part;
  if (!arc) return { x: between('x'), y: between('y'), z: between('z') };
  const { first, second, across } = PLANES[arc.plane];
  const [a, b] = arc.centre;
  const angle = Math.atan2(from[second] - b, from[first] - a) + arc.sweep * part;
  const place = {
    [first]: a + arc.radius * Math.cos(angle),
    [second]: b + arc.radius * Math.sin(angle),
    [across]: between(across),
  };
  return part === 1 ? to : (place as unknown as Place);
}
