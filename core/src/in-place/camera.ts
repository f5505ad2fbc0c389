import { direction } from '../geometry/index.js';
import { inverse, mapped, type Matrix3, PlaceError, type Point } from './homography.js';

/** A place in front of the wall, in mm: x to the right, y up, z away from the wall. */
export type Place3 = readonly [x: number, y: number, z: number];

/** Pixels from the middle of a picture at which something is seen that stands as far aside as it is away, in longer sides: of a telephone’s wide lens. */
const ASSUMED_FOCAL = 0.8;
/** The same for lenses that there are. */
const LEAST_FOCAL = 0.3;
const MOST_FOCAL = 20;
/** Share of the first two columns that the third has to have for a picture to show by its perspective what lens it was taken with. */
const LEAST_PERSPECTIVE = 0.02;

/** How a wall and what stands before it come onto a picture. */
export class Camera {
  /** What is left of a place in front of the wall when that of its foot is taken off, and back. */
  private readonly back: Matrix3;
  private readonly wallBack: Matrix3;

  /**
   * @param columns of the camera matrix: of x, y and z on the wall, and of its origin; each in pixels, the third number being the depth
   * @param isAssumed whether the lens could not be told from the picture
   */
  constructor(
    private readonly columns: readonly [Place3, Place3, Place3, Place3],
    readonly isAssumed = false,
  ) {
    const [p, q, r, o] = columns;
    this.back = inverse([p[0], q[0], r[0], p[1], q[1], r[1], p[2], q[2], r[2]]);
    this.wallBack = inverse([p[0], q[0], o[0], p[1], q[1], o[1], p[2], q[2], o[2]]);
  }

  /** Pixels across and down, and how near it is: more is nearer, and 0 or less is behind the one who looks. */
  seen(x: number, y: number, z: number): readonly [across: number, down: number, nearness: number] {
    const [p, q, r, o] = this.columns;
    const w = p[2] * x + q[2] * y + r[2] * z + o[2];
    return [(p[0] * x + q[0] * y + r[0] * z + o[0]) / w, (p[1] * x + q[1] * y + r[1] * z + o[1]) / w, 1 / w];
  }

  /** The place that is seen at a pixel, so near. */
  placeAt(across: number, down: number, nearness: number): Place3 {
    const [o0, o1, o2] = this.columns[3];
    const [u, v, w] = [across / nearness - o0, down / nearness - o1, 1 / nearness - o2];
    const m = this.back;
    return [m[0] * u + m[1] * v + m[2] * w, m[3] * u + m[4] * v + m[5] * w, m[6] * u + m[7] * v + m[8] * w];
  }

  /** The point of the wall that is seen at a pixel; undefined beyond the wall’s horizon. */
  onWall(across: number, down: number): Point | undefined {
    const point = mapped(this.wallBack, { x: across, y: down });
    return this.seen(point.x, point.y, 0)[2] > 0 ? point : undefined;
  }

  /** Where the one who looks stands: what is seen of it is nothing but nearness without end. */
  get eye(): Place3 {
    const [o0, o1, o2] = this.columns[3];
    const m = this.back;
    return [-(m[0] * o0 + m[1] * o1 + m[2] * o2), -(m[3] * o0 + m[4] * o1 + m[5] * o2), -(m[6] * o0 + m[7] * o1 + m[8] * o2)];
  }
}

/**
 * The camera that took a picture of a wall, of square pixels and with its axis in the middle: what a map of the wall says of it
 * (Z. Zhang, A Flexible New Technique for Camera Calibration, 2000, 3.1, with one plane and one unknown). The wall itself is seen
 * exactly as the map says.
 */
export function cameraOf(map: Matrix3, width: number, height: number): Camera {
  const longest = Math.max(width, height);
  const [cx, cy] = [width / 2, height / 2];
  const columnOf = (k: number): Place3 => [map[k], map[k + 3], map[k + 6]];
  const [p, q, o] = [columnOf(0), columnOf(1), columnOf(2)];
  const centred = ([u, v, w]: Place3): Place3 => [u - cx * w, v - cy * w, w];
  const [a, b] = [centred(p), centred(q)];
  const known = focalOf(a, b, longest);
  const focal = known ?? ASSUMED_FOCAL * longest;
  // Without the lens both are the wall’s directions, equally long, and the one away from it is square to them.
  const straight = ([u, v, w]: Place3): Place3 => [u / focal, v / focal, w];
  const [s, t] = [straight(a), straight(b)];
  const size = (Math.hypot(...s) + Math.hypot(...t)) / 2;
  const [n0, n1, n2] = cross(s, t).map((each) => each / size);
  const r: Place3 = [focal * n0 + cx * n2, focal * n1 + cy * n2, n2];
  return new Camera([p, q, r, o], known === undefined);
}

/** Focal length in pixels; undefined where the picture was taken so straight that it does not tell, or by no lens that there is. */
function focalOf(a: Place3, b: Place3, longest: number): number | undefined {
  // The directions of the wall are square to each other, and equally long: twice an equation of 1/f².
  const equations = [
    [a[0] * b[0] + a[1] * b[1], a[2] * b[2]],
    [a[0] ** 2 + a[1] ** 2 - b[0] ** 2 - b[1] ** 2, a[2] ** 2 - b[2] ** 2],
  ];
  const perspective = Math.hypot(a[2], b[2]) * longest;
  if (perspective < LEAST_PERSPECTIVE * Math.hypot(a[0], a[1], b[0], b[1])) return undefined;
  const top = equations.reduce((sum, [first, second]) => sum - first * second, 0);
  const bottom = equations.reduce((sum, [first]) => sum + first * first, 0);
  const focal = Math.sqrt(bottom / top);
  return focal >= LEAST_FOCAL * longest && focal <= MOST_FOCAL * longest ? focal : undefined;
}

const cross = (a: Place3, b: Place3): Place3 => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];

/** From where something is looked at. */
export interface Standpoint {
  /** Degrees to the right of straight in front of it, and above it. */
  readonly turn: number;
  readonly tilt: number;
  /** mm to what is looked at. */
  readonly distance: number;
}

/**
 * A camera that looks at a point of the wall.
 * @param focal pixels, of square ones; the point comes into the middle
 */
export function cameraAt(at: Point, { turn, tilt, distance }: Standpoint, focal: number, width: number, height: number): Camera {
  if (!(distance > 0)) throw new PlaceError('Stand before the wall: the distance has to be more than 0.');
  const [across, up] = [direction(turn), direction(tilt)];
  const forward: Place3 = [-across.sin * up.cos, -up.sin, -across.cos * up.cos];
  const right: Place3 = [across.cos, 0, -across.sin];
  const down = cross(forward, right);
  const eye = [at.x - distance * forward[0], at.y - distance * forward[1], -distance * forward[2]] as const;
  const [cx, cy] = [width / 2, height / 2];
  const projected = (x: number, y: number, z: number): Place3 => {
    const along = (axis: Place3): number => axis[0] * x + axis[1] * y + axis[2] * z;
    const w = along(forward);
    return [focal * along(right) + cx * w, focal * along(down) + cy * w, w];
  };
  return new Camera([projected(1, 0, 0), projected(0, 1, 0), projected(0, 0, 1), projected(-eye[0], -eye[1], -eye[2])]);
}
