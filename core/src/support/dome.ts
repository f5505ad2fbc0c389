import { type Box, type CreaseLines, type Reach } from '../geometry/index.js';
import { parallels, type Room, type SupportSurface } from './surface.js';

/**
 * A cap of a sphere. Distances from its middle keep their length, and directions there: the azimuthal equidistant map. A circle about the
 * middle, r away, is sin θ / θ times as long as in the plan for the angle θ = r / R.
 */
export class DomeSurface implements SupportSurface {
  readonly isDevelopable = false;
  readonly room: Room;
  private readonly facing: number;

  constructor(
    private readonly radius: number,
    facing: 'outside' | 'inside',
  ) {
    this.facing = facing === 'outside' ? 1 : -1;
    this.room = facing === 'outside' ? { behind: radius, front: Infinity } : { behind: Infinity, front: radius };
  }

  place(x: number, y: number, z: number, out: Float64Array, at: number): void {
    const { radius, facing } = this;
    const away = Math.hypot(x, y);
    const angle = away / radius;
    const share = away < 1e-9 ? 1 / radius : Math.sin(angle) / away;
    const beyond = radius + facing * z;
    out[at] = beyond * share * x;
    out[at + 1] = beyond * share * y;
    out[at + 2] = facing * (beyond * Math.cos(angle) - radius);
  }

  normal(x: number, y: number, out: Float64Array, at: number): void {
    const { radius, facing } = this;
    const away = Math.hypot(x, y);
    const share = away < 1e-9 ? 1 / radius : Math.sin(away / radius) / away;
    out[at] = facing * share * x;
    out[at + 1] = facing * share * y;
    out[at + 2] = Math.cos(away / radius);
  }

  stretch(x: number, y: number, z: number): readonly [number, number] {
    const { radius, facing } = this;
    const angle = Math.hypot(x, y) / radius;
    const beyond = 1 + (facing * z) / radius;
    return [angle < 1e-9 ? beyond : (beyond * Math.sin(angle)) / angle, beyond];
  }

  creases({ minX, maxX, minY, maxY }: Box, { low, high }: Reach, tolerance: number): readonly CreaseLines[] {
    const outermost = this.radius + Math.max(0, this.facing > 0 ? high : -low);
    // A chord as long as the diagonal of a cell: two sagittas, one for either way.
    const angle = Math.min(2 * Math.acos(Math.max(0, 1 - tolerance / 2 / outermost)), Math.PI / 8);
    const steps = (from: number, to: number): number[] => {
      const count = Math.max(1, Math.ceil((to - from) / (angle * this.radius)));
      return Array.from({ length: count - 1 }, (_, i) => from + ((i + 1) * (to - from)) / count);
    };
    return [parallels(steps(minX, maxX), 'x'), parallels(steps(minY, maxY), 'y')];
  }
}
