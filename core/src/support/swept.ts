import { type Box, type CreaseLines, creasesOf, type Curve, curvePlace, type CurvePlace, type Reach } from '../geometry/index.js';
import { parallels, type Room, type SupportSurface } from './surface.js';

/**
 * A profile led along a line of the ground plan, square to it. Lines of both are lines of curvature, so that what the surface stretches is
 * told by them alone: across by 1 + bend of the line · how far out the profile is there, up by nothing.
 */
export class SweptSurface implements SupportSurface {
  readonly isDevelopable: boolean;
  readonly hasLevelLines = true;
  private readonly across: CurvePlace = curvePlace();
  private readonly up: CurvePlace = curvePlace();

  constructor(
    private readonly line: Curve,
    private readonly profile: Curve,
    isStraight: boolean,
    readonly room: Room,
  ) {
    this.isDevelopable = isStraight;
  }

  place(x: number, y: number, z: number, out: Float64Array, at: number): void {
    const { across, up } = this;
    this.line.at(x, across);
    this.profile.at(y, up);
    const beyond = up.out + z * Math.cos(up.turned);
    out[at] = across.across - beyond * Math.sin(across.turned);
    out[at + 1] = up.across - z * Math.sin(up.turned);
    out[at + 2] = across.out + beyond * Math.cos(across.turned);
  }

  normal(x: number, y: number, out: Float64Array, at: number): void {
    const { across, up } = this;
    this.line.at(x, across);
    this.profile.at(y, up);
    out[at] = -Math.cos(up.turned) * Math.sin(across.turned);
    out[at + 1] = -Math.sin(up.turned);
    out[at + 2] = Math.cos(up.turned) * Math.cos(across.turned);
  }

  stretch(x: number, y: number, z: number): readonly [number, number] {
    const { across, up } = this;
    this.line.at(x, across);
    this.profile.at(y, up);
    return [1 + across.bend * (up.out + z * Math.cos(up.turned)), 1 + up.bend * z];
  }

  creases({ minX, maxX, minY, maxY }: Box, reach: Reach, tolerance: number): readonly CreaseLines[] {
    const { up } = this;
    let furthest = 0;
    for (let i = 0; i <= 64; i++) {
      this.profile.at(minY + ((maxY - minY) * i) / 64, up);
      furthest = Math.max(furthest, up.out);
    }
    // Errors of both add up where chords run aslant.
    const beyond = { low: reach.low, high: reach.high + furthest };
    const upright = creasesOf(this.line, minX, maxX, beyond, this.isDevelopable ? tolerance : tolerance / 2);
    const level = creasesOf(this.profile, minY, maxY, reach, tolerance / 2);
    return [parallels(upright, 'x'), parallels(level, 'y')];
  }
}
