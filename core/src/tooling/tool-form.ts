import { radians } from '../geometry/index.js';

/** The cutting surface of a turning tool, by its profile over the distance from its axis. Lengths in mm, angles in degrees. */
export type ToolForm =
  /** An end mill: flat. */
  | { readonly kind: 'end'; readonly diameter: number }
  /** A ball nose. */
  | { readonly kind: 'ball'; readonly diameter: number }
  /** A cone with a flat tip: a vee bit, an engraving point, or with its point angle a drill. */
  | { readonly kind: 'vee'; readonly diameter: number; readonly angle: number; readonly tip: number }
  /** A cone that runs out of a ball, whose diameter `tip` is. */
  | { readonly kind: 'taper'; readonly diameter: number; readonly angle: number; readonly tip: number };

/** mm by which the profile rises for each mm from the axis, along a cone of an included angle. */
const steepness = (angle: number): number => 1 / Math.tan(radians(angle / 2));

/** How far the cutting surface lies above the tip at a distance from the axis; Infinity beyond the tool. */
export function rise(form: ToolForm, distance: number): number {
  const radius = form.diameter / 2;
  if (distance > radius) return Infinity;
  switch (form.kind) {
    case 'end':
      return 0;
    case 'ball':
      return radius - Math.sqrt(Math.max(0, radius ** 2 - distance ** 2));
    case 'vee':
      return Math.max(0, distance - form.tip / 2) * steepness(form.angle);
    case 'taper': {
      const { ball, from, above } = taperOf(form);
      return distance <= from ? ball - Math.sqrt(ball ** 2 - distance ** 2) : above + (distance - from) * steepness(form.angle);
    }
  }
}

/** The radius of a taper's ball, and how far from its axis and above its tip the cone goes on, as a tangent. */
function taperOf({ angle, tip }: { readonly angle: number; readonly tip: number }) {
  const [ball, half] = [tip / 2, radians(angle / 2)];
  return { ball, from: ball * Math.cos(half), above: ball * (1 - Math.sin(half)) };
}

/** How deep a vee bit stands in a groove of a width (Machinery's Handbook's geometry of a countersink: half the width by the tangent). */
export const veeDepth = (width: number, angle: number, tip = 0): number => Math.max(0, (width - tip) / 2) * steepness(angle);

/** Radius of a cone with a flat tip, at a height above that. */
export const coneRadius = ({ angle, tip }: { readonly angle: number; readonly tip: number }, above: number): number =>
  tip / 2 + above / steepness(angle);

/** How high the ridges between passes of a ball nose stand, at a stepover: r − √(r² − s²/4). */
export const cuspHeight = (radius: number, stepover: number): number =>
  radius - Math.sqrt(Math.max(0, radius ** 2 - stepover ** 2 / 4));

/** The stepover at which a ball nose leaves ridges of a height: 2·√(c·(2r − c)). */
export const stepoverFor = (radius: number, cusp: number): number => 2 * Math.sqrt(Math.max(0, cusp * (2 * radius - cusp)));

/**
 * Where along a straight move a tool cuts lowest over a place beside it, as the distance from the place's foot on the way.
 * The height of the tool over a place is convex along the move, the profile rising ever more steeply from the axis: its lowest point is
 * found in closed form, and at an end of what is looked at where that comes first.
 * @param slope by how much the tip rises for each mm of its way across
 * @param aside distance of the place from the way
 */
export function lowestAlong(form: ToolForm, slope: number, aside: number): number {
  switch (form.kind) {
    case 'end':
      return slope === 0 ? 0 : -Math.sign(slope) * Infinity;
    case 'ball':
      return lowestOnBall(form.diameter / 2, slope, aside);
    case 'vee': {
      if (slope === 0) return 0;
      const onCone = lowestOnCone(form.angle, slope, aside);
      const flat = form.tip / 2;
      if (Math.hypot(onCone, aside) >= flat) return onCone;
      // Over the flat tip it goes on falling to where the cone begins.
      return -Math.sign(slope) * Math.sqrt(Math.max(0, flat ** 2 - aside ** 2));
    }
    case 'taper': {
      const { ball, from } = taperOf(form);
      const onBall = lowestOnBall(ball, slope, aside);
      return Math.hypot(onBall, aside) <= from ? onBall : lowestOnCone(form.angle, slope, aside);
    }
  }
}

function lowestOnBall(radius: number, slope: number, aside: number): number {
  return (-slope * Math.sqrt(Math.max(0, radius ** 2 - aside ** 2))) / Math.sqrt(1 + slope ** 2);
}

function lowestOnCone(angle: number, slope: number, aside: number): number {
  if (slope === 0) return 0;
  const steep = steepness(angle);
  if (Math.abs(slope) >= steep) return -Math.sign(slope) * Infinity;
  return (-slope * aside) / Math.sqrt(steep ** 2 - slope ** 2);
}

/**
 * How far from its axis a tool touches a plane first: where its profile rises as the plane does.
 * @param slope by how much the plane rises for each mm, in its steepest direction
 */
export function touchingPlane(form: ToolForm, slope: number): number {
  const radius = form.diameter / 2;
  switch (form.kind) {
    case 'end':
      return radius;
    case 'ball':
      return (radius * slope) / Math.sqrt(1 + slope ** 2);
    case 'vee':
      return slope > steepness(form.angle) ? radius : Math.min(radius, form.tip / 2);
    case 'taper':
      return slope > steepness(form.angle) ? radius : ((form.tip / 2) * slope) / Math.sqrt(1 + slope ** 2);
  }
}
