import { facetNormals, type Mesh } from '../mesh/index.js';

/** Stretches beside a plane, along it, with the heights that something has there. */
interface Face {
  readonly from: number;
  readonly to: number;
  readonly low: number;
  readonly high: number;
}

/** The part of a facet's size below which it looks up or down by nothing. */
const UPRIGHT = 1e-9;

/** Where beside an upright plane a solid has material all the way, on both sides of it. */
export class PegRoom {
  private readonly tops: Face[] = [];
  private readonly grounds: Face[] = [];
  private readonly walls: Face[] = [];

  /**
   * @param axis of the coordinate that is `at` on the plane: 0 for x, 1 for y
   * @param half mm of material that are asked for on either side
   */
  constructor({ positions: p, triangles }: Mesh, axis: 0 | 1, at: number, half: number) {
    const normals = facetNormals(p, triangles);
    for (let t = 0; t < triangles.length; t += 3) {
      const corners = [0, 1, 2].map((k) => {
        const corner = 3 * triangles[t + k];
        return [p[corner + axis], p[corner + 1 - axis], p[corner + 2]];
      });
      const within = clipped(clipped(corners, at - half, 1), at + half, -1);
      if (within.length === 0) continue;
      const [alongs, heights] = [within.map(([, along]) => along), within.map(([, , z]) => z)];
      const face = { from: Math.min(...alongs), to: Math.max(...alongs), low: Math.min(...heights), high: Math.max(...heights) };
      const up = normals[t + 2] / Math.hypot(normals[t], normals[t + 1], normals[t + 2]);
      (up > UPRIGHT ? this.tops : up < -UPRIGHT ? this.grounds : this.walls).push(face);
    }
  }

  /** Between which heights there is nothing but material along a stretch of the plane; as high as low where there is no such height. */
  between(from: number, to: number): { readonly low: number; readonly high: number } {
    const here = (faces: readonly Face[]): Face[] => faces.filter((face) => face.from < to && face.to > from);
    const low = here(this.grounds).reduce((most, face) => Math.max(most, face.high), -Infinity);
    const high = here(this.tops).reduce((least, face) => Math.min(least, face.low), Infinity);
    const isOpen = here(this.walls).some((wall) => wall.low < high && wall.high > low);
    return isOpen || !Number.isFinite(high - low) || high < low ? { low: 0, high: 0 } : { low, high };
  }
}

/** What of a ring lies where its first coordinate is above a value, or below it (Sutherland and Hodgman, Reentrant polygon clipping, 1974). */
function clipped(ring: readonly (readonly number[])[], value: number, sign: 1 | -1): readonly (readonly number[])[] {
  const isInside = ([across]: readonly number[]): boolean => sign * (across - value) > 0;
  return ring.flatMap((corner, i) => {
    const before = ring[(i + ring.length - 1) % ring.length];
    if (isInside(corner) === isInside(before)) return isInside(corner) ? [corner] : [];
    const share = (value - before[0]) / (corner[0] - before[0]);
    const between = before.map((from, k) => from + share * (corner[k] - from));
    return isInside(corner) ? [between, corner] : [between];
  });
}
