import { radians } from '../geometry/index.js';

/** The cutting surface of a turning tool, by its profile over the distance from its axis. Lengths in mm, angles in degrees. */
export type ToolForm =
  /** An end mill: flat. */
  | { readonly kind: 'end'; readonly diameter: number }
  /** A ball nose. */
  | { readonly kind: 'ball'; readonly diameter: number }
  /** A cone with a flat tip: a vee bit, an engraving point, or with its point angle a drill. */
  | { readonly kind: 'vee'; readonly diameter: number; readonly angle: number; readonly tip: number };

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
  }
}

/** How deep a vee bit stands in a groove of a width (Machinery's Handbook's geometry of a countersink: half the width by the tangent). */
export const veeDepth = (width: number, angle: number, tip = 0): number => Math.max(0, (width - tip) / 2) * steepness(angle);

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
    case 'ball': {
      const reach = Math.sqrt(Math.max(0, (form.diameter / 2) ** 2 - aside ** 2));
      return (-slope * reach) / Math.sqrt(1 + slope ** 2);
    }
    case 'vee': {
      if (slope === 0) return 0;
      const steep = steepness(form.angle);
      if (Math.abs(slope) >= steep) return -Math.sign(slope) * Infinity;
      const onCone = (-slope * aside) / Math.sqrt(steep ** 2 - slope ** 2);
      const flat = form.tip / 2;
      if (Math.hypot(onCone, aside) >= flat) return onCone;
      // Over the flat tip it goes on falling to where the cone begins.
      return -Math.sign(slope) * Math.sqrt(Math.max(0, flat ** 2 - aside ** 2));
    }
  }
}
