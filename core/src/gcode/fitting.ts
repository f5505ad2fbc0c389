/** A move of the tool's tip: straight, or an arc in the plan about a centre, which may rise or fall evenly. */
export interface Fitted {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly arc?: { readonly x: number; readonly y: number; readonly isClockwise: boolean };
}

/** mm by which a move may miss the points of the way that it stands for. */
export const FIT_TOLERANCE = 0.005;
/** mm by which an arc may bulge between two points, which are ends of a chord of a curve themselves: a little over the chord tolerance. */
const BULGE = 0.0215;
/** An arc is half a circle at most, that its centre is well known, and no larger than this, in mm. */
const MOST_SWEEP = Math.PI + 1e-6;
const LARGEST_RADIUS = 2000;
const LEAST_RADIUS = 0.02;
/** Points that a move may stand for. */
const MOST_POINTS = 400;

/**
 * A polyline as few straight moves and arcs, within the tolerance of its points.
 * @param points x, y, z of every point in turn; the first one is where the tool is
 */
export function fitted(points: ArrayLike<number>, hasArcs: boolean): Fitted[] {
  const n = points.length / 3;
  const moves: Fitted[] = [];
  for (let from = 0; from + 1 < n;) {
    const straight = farthest(from, n, (to) => isLine(points, from, to));
    const arc = hasArcs ? longestArc(points, from, n) : undefined;
    const to = arc && arc.to > straight && arc.to > from + 2 ? arc.to : straight;
    const end = { x: points[3 * to], y: points[3 * to + 1], z: points[3 * to + 2] };
    moves.push(to === straight || !arc ? end : { ...end, arc: arc.circle });
    from = to;
  }
  return moves;
}

/** The farthest point that a move reaches: doubled, then halved in. */
function farthest(from: number, n: number, reaches: (to: number) => boolean): number {
  const last = Math.min(n - 1, from + MOST_POINTS);
  let [good, step] = [from + 1, 1];
  while (good + step <= last && reaches(good + step)) {
    good += step;
    step *= 2;
  }
  for (; step >= 1; step = Math.floor(step / 2)) if (good + step <= last && reaches(good + step)) good += step;
  return good;
}

function isLine(p: ArrayLike<number>, from: number, to: number): boolean {
  const [ax, ay, az] = [p[3 * from], p[3 * from + 1], p[3 * from + 2]];
  const [dx, dy, dz] = [p[3 * to] - ax, p[3 * to + 1] - ay, p[3 * to + 2] - az];
  const square = dx * dx + dy * dy + dz * dz;
  let before = 0;
  for (let i = from + 1; i < to; i++) {
    const [ux, uy, uz] = [p[3 * i] - ax, p[3 * i + 1] - ay, p[3 * i + 2] - az];
    const share = square > 0 ? (ux * dx + uy * dy + uz * dz) / square : 0;
    if (share < before || share > 1) return false;
    before = share;
    if (Math.hypot(ux - share * dx, uy - share * dy, uz - share * dz) > FIT_TOLERANCE) return false;
  }
  return true;
}

type Circle = NonNullable<Fitted['arc']>;

function longestArc(p: ArrayLike<number>, from: number, n: number): { to: number; circle: Circle } | undefined {
  if (from + 3 >= n) return undefined;
  let circle: Circle | undefined;
  const to = farthest(from, n, (end) => {
    if (end < from + 2) return true;
    const found = circleOf(p, from, end);
    if (found) circle = found;
    return found !== undefined;
  });
  return to >= from + 3 && circle ? { to, circle: circleOf(p, from, to) ?? circle } : undefined;
}

/** The arc through the first, the middle and the last point, where all others lie on it and none turns back. */
function circleOf(p: ArrayLike<number>, from: number, to: number): Circle | undefined {
  const middle = (from + to) >> 1;
  const [ax, ay] = [p[3 * from], p[3 * from + 1]];
  const [bx, by] = [p[3 * middle] - ax, p[3 * middle + 1] - ay];
  const [cx, cy] = [p[3 * to] - ax, p[3 * to + 1] - ay];
  const twice = 2 * (bx * cy - by * cx);
  if (Math.abs(twice) < 1e-9) return undefined;
  const [bb, cc] = [bx * bx + by * by, cx * cx + cy * cy];
  const [x, y] = [ax + (cy * bb - by * cc) / twice, ay + (bx * cc - cx * bb) / twice];
  const radius = Math.hypot(ax - x, ay - y);
  if (radius > LARGEST_RADIUS || radius < LEAST_RADIUS) return undefined;
  const isClockwise = twice < 0;
  const sign = isClockwise ? -1 : 1;
  let sweep = 0;
  const sweeps = [0];
  for (let i = from + 1; i <= to; i++) {
    const [ux, uy] = [p[3 * i - 3] - x, p[3 * i - 2] - y];
    const [vx, vy] = [p[3 * i] - x, p[3 * i + 1] - y];
    if (Math.abs(Math.hypot(vx, vy) - radius) > FIT_TOLERANCE - 0.001) return undefined;
    const turn = sign * Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy);
    if (turn <= 0) return undefined;
    if (radius * (1 - Math.cos(turn / 2)) > BULGE) return undefined;
    sweep += turn;
    sweeps.push(sweep);
  }
  if (sweep > MOST_SWEEP) return undefined;
  // It rises evenly.
  const [low, rise] = [p[3 * from + 2], p[3 * to + 2] - p[3 * from + 2]];
  for (let i = from + 1; i < to; i++)
    if (Math.abs(low + (rise * sweeps[i - from]) / sweep - p[3 * i + 2]) > FIT_TOLERANCE) return undefined;
  return { x, y, isClockwise };
}
