import { type Contour } from '../geometry/index.js';

/** A polyline of the tool's tip, x, y and z of every point in turn in mm, after the point that the stretch before it ends in. */
export interface Stretch {
  readonly points: Float64Array;
  /** How fast: across, down along a ramp or straight, or through air. */
  readonly pace: 'cut' | 'ramp' | 'plunge' | 'rapid';
}

/**
 * What a tool does without going up to where it may move freely: it comes over its first place, down to where material may begin, and goes
 * along its stretches.
 */
export interface Run {
  readonly x: number;
  readonly y: number;
  /** Height down to which there is air over the first place. */
  readonly airTo: number;
  /** Height at which the tool comes here straight from the run before; as it moves freely where nothing is said. */
  readonly over?: number;
  readonly stretches: readonly Stretch[];
}

/** mm over material that a tool comes down to fast, and down to which it then goes straight. */
export const AIR = 0.5;
export const NEAR = 0.1;
/** How steeply a tool ramps down: by so much for each mm of its way (5°, and 10° in small rings; 3° to 10° is common practice, no source). */
export const RAMP = Math.tan((5 * Math.PI) / 180);
const STEEP_RAMP = Math.tan((10 * Math.PI) / 180);

/** A height for each place of a ring, by how far along it lies. */
export type Height = (along: number) => number;

/** A ring that can be gone along, as often as wanted, from its first point. */
export class Loop {
  readonly length: number;
  private readonly marks: Float64Array;

  constructor(readonly ring: Contour) {
    const n = ring.length / 2;
    this.marks = new Float64Array(n + 1);
    for (let i = 0; i < n; i++) {
      const j = (i + 1) % n;
      this.marks[i + 1] = this.marks[i] + Math.hypot(ring[2 * j] - ring[2 * i], ring[2 * j + 1] - ring[2 * i + 1]);
    }
    this.length = this.marks[n];
  }

  /** The place so far along; beyond the end it goes on from the beginning. */
  at(along: number): readonly [number, number] {
    const s = this.within(along);
    const i = this.edgeAt(s);
    const n = this.ring.length / 2;
    const [a, b] = [2 * i, 2 * ((i + 1) % n)];
    const size = this.marks[i + 1] - this.marks[i];
    const share = size > 0 ? (s - this.marks[i]) / size : 0;
    return [
      this.ring[a] + share * (this.ring[b] - this.ring[a]),
      this.ring[a + 1] + share * (this.ring[b + 1] - this.ring[a + 1]),
    ];
  }

  /**
   * The points from one place to another farther along, without the first.
   * @param further places along at which the height turns
   */
  between(from: number, to: number, height: Height, further: readonly number[] = []): Float64Array {
    const stops: number[] = [];
    if (this.length > 0) {
      const n = this.marks.length - 1;
      let lap = Math.floor(from / this.length);
      const isOnWay = (along: number): boolean => along > from + 1e-9 && along < to - 1e-9;
      for (let k = this.edgeAt(from - lap * this.length), at = from; at < to - 1e-9; k++) {
        if (k >= n) [k, lap] = [0, lap + 1];
        at = lap * this.length + this.marks[k];
        if (isOnWay(at)) stops.push(at);
      }
      if (further.length > 0)
        for (let turn = Math.floor(from / this.length); turn * this.length < to; turn++)
          stops.push(...further.map((mark) => turn * this.length + mark).filter(isOnWay));
    }
    if (further.length > 0) stops.sort((a, b) => a - b);
    return Float64Array.from([...stops, to].flatMap((along) => [...this.at(along), height(along)]));
  }

  within(along: number): number {
    return this.length > 0 ? along - Math.floor(along / this.length) * this.length : 0;
  }

  private edgeAt(s: number): number {
    let [low, high] = [0, this.marks.length - 2];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.marks[middle] <= s) low = middle;
      else high = middle - 1;
    }
    return low;
  }
}

/**
 * Down along a ring from one height to another, so that the ramp ends where the ring begins; straight down where the ring is too small to
 * ramp along.
 */
export function rampInto(
  loop: Loop,
  from: number,
  to: number,
): { readonly x: number; readonly y: number; readonly stretch: Stretch } {
  const drop = from - to;
  if (loop.length < 0.05 || drop <= 0) {
    const [x, y] = loop.at(0);
    return { x, y, stretch: { points: Float64Array.of(x, y, to), pace: 'plunge' } };
  }
  const slope = drop / RAMP > loop.length ? STEEP_RAMP : RAMP;
  const run = drop / slope;
  const [x, y] = loop.at(-run);
  return { x, y, stretch: { points: loop.between(-run, 0, (along) => to - along * slope), pace: 'ramp' } };
}

/** Once around at a height, from the first point of a ring back to it. */
export function around({ ring }: Loop, z: number): Stretch {
  const n = ring.length / 2;
  const points = new Float64Array(3 * n);
  for (let i = 0; i < n; i++) {
    const from = 2 * ((i + 1) % n);
    points[3 * i] = ring[from];
    points[3 * i + 1] = ring[from + 1];
    points[3 * i + 2] = z;
  }
  return { points, pace: 'cut' };
}

/** Heights of passes from one height down to another, none deeper than `most`, all alike. */
export function passHeights(from: number, to: number, most: number): number[] {
  const count = Math.max(1, Math.ceil((from - to) / most - 1e-9));
  return Array.from({ length: count }, (_, i) => (i === count - 1 ? to : from + ((to - from) * (i + 1)) / count));
}

/** mm of a run, by whether it cuts. */
export function runLength({ x, y, airTo, stretches }: Run): { readonly feed: number; readonly rapid: number } {
  let [feed, rapid] = [0, 0];
  let [px, py, pz] = [x, y, airTo];
  for (const { points, pace } of stretches) {
    for (let i = 0; i < points.length; i += 3) {
      const length = Math.hypot(points[i] - px, points[i + 1] - py, points[i + 2] - pz);
      if (pace === 'rapid') rapid += length;
      else feed += length;
      [px, py, pz] = [points[i], points[i + 1], points[i + 2]];
    }
  }
  return { feed, rapid };
}
