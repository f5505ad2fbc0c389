import { dot, minus, type Vector } from '../geometry/index.js';
import { type SupportSurface } from './surface.js';

/** Which side of a sign a plane belongs to, and which one is turned to the reader: heights and x are as that one sees them. */
export interface PlaneSides {
  readonly own: 'front' | 'back';
  readonly seen: 'front' | 'back';
  /** mm between both faces. */
  readonly thickness: number;
}

/** How far the face of the front lies in front of the plane through it, and the cosine of how far its normal leans. */
interface Leaning {
  readonly away: number;
  readonly cosine: number;
}

/** Least cosine of the angle between a plane and the surface beneath at which levels are told by it: 80°. */
const LEAST_COSINE = Math.cos((80 * Math.PI) / 180);

/**
 * A plane square to what a sign is bent around, at a place of it, that levels are measured from in place of the face: a level of `to` is all that
 * lies `to` from the plane, towards the reader. Of several planes, one for every copy of a part, that one counts whose place is nearest in space.
 */
export class SupportPlane {
  private readonly anchors: readonly { readonly from: Vector; readonly normal: Vector }[];
  /** The places of the plan that it touches, in mm, as the reader sees them. */
  readonly touching: readonly (readonly [number, number])[];
  private readonly sense: 1 | -1;
  private readonly out = new Float64Array(3);

  /**
   * @param key what tells it from other planes of a sign
   * @param places of the plan that planes touch, in mm, x as their own side sees it
   */
  constructor(
    readonly key: string,
    private readonly surface: SupportSurface,
    places: readonly (readonly [number, number])[],
    private readonly sides: PlaneSides,
  ) {
    const turned = sides.own === sides.seen ? 1 : -1;
    this.touching = places.map(([x, y]) => [turned * x, y]);
    this.sense = sides.seen === 'front' ? 1 : -1;
    const own = sides.own === 'front' ? 1 : -1;
    this.anchors = places.map(([x, y]) => ({ from: this.placeAt(own * x, y), normal: this.normalAt(own * x, y) }));
  }

  /** Whether it belongs to the side that is turned away. */
  get isBehind(): boolean {
    return this.sides.own !== this.sides.seen;
  }

  /**
   * The height at which what lies on a level is over a place, in mm above the face that is turned to the reader, as levels are: n·N of the surface's
   * normal n and the plane's N, and the way a from the plane to the surface along N, give (to − a) / (n·N).
   * @param x of the place in mm, as the reader sees it
   */
  heightAt(x: number, y: number, level: number): number {
    const { thickness } = this.sides;
    const there = this.atFront(this.sense * x, y);
    return this.isBehind ? -thickness - this.above(there, -thickness - level) : this.above(there, level);
  }

  /** The height above the face of its own side. */
  private above({ away, cosine }: Leaning, level: number): number {
    const { thickness, own } = this.sides;
    const divisor = Math.max(LEAST_COSINE, cosine);
    return own === 'front' ? (level - away) / divisor : (level + away + thickness) / divisor - thickness;
  }

  /** The height above the face of the front of what lies on a level, over a place as the front sees it. */
  heightFromFront(x: number, y: number, level: number): number {
    const { thickness, own } = this.sides;
    const height = this.above(this.atFront(x, y), level);
    return own === 'front' ? height : -thickness - height;
  }

  /** Whether the surface turns so far away from the plane that nothing lies on it in earnest. */
  isBeyond(x: number, y: number): boolean {
    return this.atFront(this.sense * x, y).cosine < LEAST_COSINE;
  }

  private atFront(x: number, y: number): Leaning {
    const here = this.placeAt(x, y);
    let [nearest, least] = [this.anchors[0], Infinity];
    for (const anchor of this.anchors) {
      const between = minus(here, anchor.from);
      const far = dot(between, between);
      if (far < least) [nearest, least] = [anchor, far];
    }
    const normal = this.normalAt(x, y);
    return { away: dot(minus(here, nearest.from), nearest.normal), cosine: dot(normal, nearest.normal) };
  }

  private placeAt(x: number, y: number): Vector {
    this.surface.place(x, y, 0, this.out, 0);
    return [this.out[0], this.out[1], this.out[2]];
  }

  private normalAt(x: number, y: number): Vector {
    this.surface.normal(x, y, this.out, 0);
    return [this.out[0], this.out[1], this.out[2]];
  }
}
