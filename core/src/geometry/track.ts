import { degrees, radians } from './angle.js';
import { type Contour } from './contour.js';
import { direction } from './placement.js';

/** A point of a track with the direction in which it runs there. */
export interface TrackPoint {
  readonly x: number;
  readonly y: number;
  readonly cos: number;
  readonly sin: number;
}

/** A line along which letters stand on its left, measured by its own length. Open ones run on straight past their ends. */
export interface Track {
  /** In mm. */
  readonly length: number;
  readonly closed: boolean;
  /**
   * The point at a length from the start.
   * @param width of what stands there: it takes the direction of the chord under it
   */
  at(s: number, width?: number): TrackPoint;
}

/** A straight track along x about the origin. */
export const straightTrack = (length: number): Track => ({
  length,
  closed: false,
  at: (s) => ({ x: s - length / 2, y: 0, cos: 1, sin: 0 }),
});

/**
 * An arc about the origin whose middle is at the top, run clockwise, or at the bottom, run anticlockwise, so that letters on it
 * read from left to right there.
 * @param span degrees of the arc; 360 is the whole circle
 */
export function arcTrack(radius: number, span: number, reads: 'top' | 'bottom'): Track {
  const length = radius * radians(span);
  const sense = reads === 'top' ? -1 : 1;
  return {
    length,
    closed: span >= 360,
    at(s) {
      const middle = reads === 'top' ? 90 : 270;
      const { cos, sin } = direction(middle + degrees((sense * (s - length / 2)) / radius));
      return { x: radius * cos, y: radius * sin, cos: -sense * sin, sin: sense * cos };
    },
  };
}

/** A run of points as a track. Its middle is where it is half run, closed ones begin at their first point. */
export function polylineTrack(points: Contour, closed: boolean): Track {
  const n = points.length / 2;
  const sums = [0];
  for (let i = 1; i < n + (closed ? 1 : 0); i++) {
    const [a, b] = [2 * (i - 1), 2 * (i % n)];
    sums.push(sums[i - 1] + Math.hypot(points[b] - points[a], points[b + 1] - points[a + 1]));
  }
  const length = sums[sums.length - 1];
  const pointAt = (asked: number): readonly [number, number] => {
    const s = closed && length > 0 ? ((asked % length) + length) % length : asked;
    let low = 1;
    let high = sums.length - 1;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (sums[middle] < s) low = middle + 1;
      else high = middle;
    }
    const [a, b] = [2 * (low - 1), 2 * (low % n)];
    const step = sums[low] - sums[low - 1] || 1;
    const t = (s - sums[low - 1]) / step;
    return [points[a] + t * (points[b] - points[a]), points[a + 1] + t * (points[b + 1] - points[a + 1])];
  };
  return {
    length,
    closed,
    at(s, width = 0) {
      const [x, y] = pointAt(s);
      const half = Math.max(width / 2, length * 1e-6);
      const [[ax, ay], [bx, by]] = [pointAt(s - half), pointAt(s + half)];
      const chord = Math.hypot(bx - ax, by - ay);
      return chord === 0 ? { x, y, cos: 1, sin: 0 } : { x, y, cos: (bx - ax) / chord, sin: (by - ay) / chord };
    },
  };
}

/** The same track run the other way, so that what stood on its left stands on its right. */
export const reversedTrack = (track: Track): Track => ({
  ...track,
  at(s, width) {
    const { x, y, cos, sin } = track.at(track.length - s, width);
    return { x, y, cos: -cos, sin: -sin };
  },
});
