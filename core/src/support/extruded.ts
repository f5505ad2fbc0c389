import { type Box, type CreaseLines, creasesOf, type Curve, curvePlace, type CurvePlace, type Reach } from '../geometry/index.js';
import { parallels, type Room, type Round, type SupportSurface } from './surface.js';

/** A curve led straight up, or across: cylinders and bent sheets. */
export class ExtrudedSurface implements SupportSurface {
  readonly isDevelopable = true;
  private readonly here: CurvePlace = curvePlace();

  /**
   * @param axis whether what it is bent around stands upright or lies level
   * @param round mm round where it goes all the way
   */
  constructor(
    private readonly curve: Curve,
    private readonly axis: 'upright' | 'level',
    readonly room: Room,
    round?: number,
  ) {
    if (round !== undefined) this.round = onceRound(round);
  }

  readonly round?: Round;

  place(x: number, y: number, z: number, out: Float64Array, at: number): void {
    const { here, axis } = this;
    this.curve.at(axis === 'upright' ? x : y, here);
    const across = here.across - z * Math.sin(here.turned);
    out[at] = axis === 'upright' ? across : x;
    out[at + 1] = axis === 'upright' ? y : across;
    out[at + 2] = here.out + z * Math.cos(here.turned);
  }

  normal(x: number, y: number, out: Float64Array, at: number): void {
    const { here, axis } = this;
    this.curve.at(axis === 'upright' ? x : y, here);
    const across = -Math.sin(here.turned);
    out[at] = axis === 'upright' ? across : 0;
    out[at + 1] = axis === 'upright' ? 0 : across;
    out[at + 2] = Math.cos(here.turned);
  }

  stretch(x: number, y: number, z: number): readonly [number, number] {
    const { here, axis } = this;
    this.curve.at(axis === 'upright' ? x : y, here);
    return [here.rate * (1 + here.bend * z), 1];
  }

  creases({ minX, maxX, minY, maxY }: Box, reach: Reach, tolerance: number): readonly CreaseLines[] {
    const [from, to] = this.axis === 'upright' ? [minX, maxX] : [minY, maxY];
    return [parallels(creasesOf(this.curve, from, to, reach, tolerance), this.axis === 'upright' ? 'x' : 'y')];
  }
}

const onceRound = (length: number): Round => ({
  length,
  moved: (x, y, times) => [x + times * length, y],
  turns: (x) => x / length,
  up: (_, y) => y,
});
