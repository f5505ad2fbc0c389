import { type Box } from '../geometry/index.js';
import { type Arc, type Place } from '../program/index.js';

/** An angle within one turn from 0. */
const within = (angle: number): number => angle - 2 * Math.PI * Math.floor(angle / (2 * Math.PI));

/** How many pieces of an arc leave their chords by no more than a distance. */
export const piecesOf = ({ sweep, radius }: Arc, distance: number): number =>
  Math.max(1, Math.ceil(Math.abs(sweep) / (2 * Math.acos(Math.max(0, 1 - distance / radius)))));

/** A flat tool's way along a level arc of less than half a turn. */
export class Sector {
  private readonly inner: number;
  private readonly outer: number;
  private readonly sign: number;

  constructor(
    private readonly from: Place,
    private readonly to: Place,
    private readonly arc: Arc,
    private readonly tool: number,
  ) {
    this.inner = Math.max(0, arc.radius - tool);
    this.outer = arc.radius + tool;
    this.sign = Math.sign(arc.sweep);
  }

  covers(x: number, y: number): boolean {
    const { from, to, tool, inner, outer, sign } = this;
    const [cx, cy] = this.arc.centre;
    const [dx, dy] = [x - cx, y - cy];
    const square = dx * dx + dy * dy;
    if (square <= outer * outer && square >= inner * inner) {
      const afterBegin = sign * ((from.x - cx) * dy - (from.y - cy) * dx);
      const beforeEnd = sign * ((to.y - cy) * dx - (to.x - cx) * dy);
      if (afterBegin >= 0 && beforeEnd >= 0) return true;
    }
    return (x - from.x) ** 2 + (y - from.y) ** 2 <= tool * tool || (x - to.x) ** 2 + (y - to.y) ** 2 <= tool * tool;
  }
}

/** A flat tool's way along an arc that rises or falls evenly. */
export class Helix {
  readonly lowest: number;
  /** The end at which it stands lowest: everything under it there comes to that height. */
  readonly base: Place;
  /** The box around the way of its middle. */
  readonly box: Box;
  readonly outer: number;
  private readonly inner: number;
  /** The angle at the base, and which way it turns from there. */
  private readonly begin: number;
  private readonly sign: number;
  private readonly turn: number;
  private readonly rise: number;

  constructor(
    from: Place,
    to: Place,
    private readonly arc: Arc,
    private readonly tool: number,
  ) {
    const { centre, radius, sweep } = arc;
    const isFalling = to.z < from.z;
    this.base = isFalling ? to : from;
    this.lowest = this.base.z;
    this.rise = Math.abs(from.z - to.z);
    const angle = Math.atan2(from.y - centre[1], from.x - centre[0]);
    this.box = arcBox(from, to, centre, radius, angle, sweep);
    this.begin = isFalling ? angle + sweep : angle;
    this.sign = isFalling ? -Math.sign(sweep) : Math.sign(sweep);
    this.turn = Math.abs(sweep);
    this.inner = Math.max(0, radius - tool);
    this.outer = radius + tool;
  }

  /** The least height at which it stands over a place that is not under it at its base; Infinity where it never does. */
  heightAt(x: number, y: number): number {
    const { tool, turn } = this;
    const { centre, radius } = this.arc;
    const [dx, dy] = [x - centre[0], y - centre[1]];
    const square = dx * dx + dy * dy;
    if (square > this.outer * this.outer || square < this.inner * this.inner) return Infinity;
    // It comes over the place half an angle before it.
    const angle = this.sign * (Math.atan2(dy, dx) - this.begin);
    const half = Math.acos(
      Math.min(1, Math.max(-1, (square + radius * radius - tool * tool) / (2 * Math.sqrt(square) * radius))),
    );
    const come = within(angle - half);
    return come <= turn ? this.lowest + (come / turn) * this.rise : Infinity;
  }
}

/** The box around an arc: its ends, and where it passes straight right, up, left or down of its centre. */
function arcBox(from: Place, to: Place, [cx, cy]: readonly [number, number], radius: number, begin: number, sweep: number): Box {
  const box = {
    minX: Math.min(from.x, to.x),
    minY: Math.min(from.y, to.y),
    maxX: Math.max(from.x, to.x),
    maxY: Math.max(from.y, to.y),
  };
  const quarter = Math.PI / 2;
  for (let k = 0; k < 4; k++) {
    const angle = Math.sign(sweep) * (k * quarter - begin);
    if (angle - 2 * Math.PI * Math.floor(angle / (2 * Math.PI)) > Math.abs(sweep)) continue;
    if (k === 0) box.maxX = cx + radius;
    if (k === 1) box.maxY = cy + radius;
    if (k === 2) box.minX = cx - radius;
    if (k === 3) box.minY = cy - radius;
  }
  return box;
}
