import { type Box, type CreaseLines, type Reach } from '../geometry/index.js';
import { type ConeSize, type UnrolledCone, unrolledCone } from '../sign/index.js';
import { type Room, type Round, type SupportSurface } from './surface.js';

/** Once round a cone. */
interface ConeRound extends Round {
  /** mm from the level line through the middle of the plan to a place, along the slant. */
  towardsApex(x: number, y: number): number;
}

/** A plan bent around a cone that stands upright: unrolled it is the plan itself, and what is level lies on circles about the apex. */
export class ConeSurface implements SupportSurface {
  readonly isDevelopable = true;
  readonly hasLevelLines = true;
  readonly room: Room;
  readonly round?: Round;
  /** Once all the way round, also where the plan does not go so far. */
  readonly around: ConeRound;
  private readonly unrolled: UnrolledCone;
  private readonly sin: number;
  private readonly cos: number;
  /** 1 where the apex is above. */
  private readonly up: number;
  /** 1 outside of the cone, −1 inside. */
  private readonly facing: number;
  /** The radius of the face in the middle of the plan. */
  private readonly radius: number;

  constructor(cone: ConeSize, facing: 'outside' | 'inside', isRound: boolean) {
    const unrolled = (this.unrolled = unrolledCone(cone));
    this.sin = unrolled.angle / (2 * Math.PI);
    this.cos = cone.height / unrolled.slant;
    this.up = unrolled.isApexAbove ? 1 : -1;
    this.facing = facing === 'outside' ? 1 : -1;
    this.radius = (cone.bottom + cone.top) / 2;
    const nearest = Math.min(cone.bottom, cone.top) / this.cos;
    this.room = facing === 'outside' ? { behind: nearest, front: Infinity } : { behind: Infinity, front: nearest };
    this.around = this.onceRound();
    if (isRound) this.round = this.around;
  }

  place(x: number, y: number, z: number, out: Float64Array, at: number): void {
    const { sin, cos, up, facing, unrolled } = this;
    const { distance, angle } = this.polar(x, y);
    const radius = distance * sin + facing * z * cos;
    out[at] = radius * Math.sin(angle);
    out[at + 1] = up * ((unrolled.middle - distance) * cos + facing * z * sin);
    out[at + 2] = facing * (radius * Math.cos(angle) - this.radius);
  }

  normal(x: number, y: number, out: Float64Array, at: number): void {
    const { sin, cos, up, facing } = this;
    const { angle } = this.polar(x, y);
    out[at] = facing * cos * Math.sin(angle);
    out[at + 1] = facing * up * sin;
    out[at + 2] = cos * Math.cos(angle);
  }

  stretch(x: number, y: number, z: number): readonly [number, number] {
    const { distance } = this.polar(x, y);
    return [1 + (this.facing * z * this.cos) / (distance * this.sin), 1];
  }

  creases(box: Box, { low, high }: Reach, tolerance: number): readonly CreaseLines[] {
    const { sin, cos, up, unrolled } = this;
    const corners = [box.minX, box.maxX].flatMap((x) => [box.minY, box.maxY].map((y) => this.polar(x, y)));
    const furthest = Math.max(...corners.map(({ distance }) => distance)) * sin;
    const outermost = furthest + Math.max(0, this.facing > 0 ? high : -low) * cos;
    const angle = Math.min(2 * Math.acos(Math.max(0, 1 - tolerance / outermost)), Math.PI / 8);
    const reach =
      box.minY < up * unrolled.middle && box.maxY > up * unrolled.middle
        ? Math.PI
        : Math.max(...corners.map((c) => Math.abs(c.angle)));
    const count = Math.max(1, Math.ceil((2 * reach) / angle));
    const values = Float64Array.from({ length: count - 1 }, (_, i) => -reach + ((i + 1) * 2 * reach) / count);
    const { apex } = unrolled;
    const sideOf = (line: number, x: number, y: number): number => {
      const turn = values[line] * sin;
      return x * Math.cos(turn) - up * (apex - y) * Math.sin(turn);
    };
    return [
      {
        values,
        valueAt: (x, y) => this.polar(x, y).angle,
        shareAt: (line, ax, ay, bx, by) => {
          const [a, b] = [sideOf(line, ax, ay), sideOf(line, bx, by)];
          return a / (a - b);
        },
      },
    ];
  }

  /** mm from the middle of the plan to the apex. */
  get toApex(): number {
    return this.unrolled.middle;
  }

  /** The distance from the apex, and the angle round the axis, from the middle to the right. */
  private polar(x: number, y: number): { distance: number; angle: number } {
    const down = this.up * (this.up * this.unrolled.middle - y);
    return { distance: Math.hypot(x, down), angle: Math.atan2(x, down) / this.sin };
  }

  private onceRound(): ConeRound {
    const { unrolled, up, radius } = this;
    const { apex } = unrolled;
    return {
      length: 2 * Math.PI * radius,
      moved: (x, y, times) => {
        const turn = times * unrolled.angle;
        const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
        const down = up * (apex - y);
        return [cos * x + sin * down, apex - up * (cos * down - sin * x)];
      },
      turns: (x, y) => this.polar(x, y).angle / (2 * Math.PI),
      up: (x, y) => up * (unrolled.middle - this.polar(x, y).distance),
      towardsApex: (x, y) => unrolled.middle - this.polar(x, y).distance,
    };
  }
}
