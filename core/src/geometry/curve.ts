import { radians } from './angle.js';

/** A place of a curve: the point, the direction in which it goes on there, and how sharply it bends. */
export interface CurvePlace {
  /** Across, and towards the reader, in mm. */
  across: number;
  out: number;
  /** Radians that it has turned since the middle: anticlockwise, towards the reader, is positive. */
  turned: number;
  /** 1/mm, positive where it bends away from the reader. */
  bend: number;
  /** mm of the curve for one of the plan: more than 1 where what keeps its length lies further in. */
  rate: number;
}

/** A place to write to. */
export const curvePlace = (): CurvePlace => ({ across: 0, out: 0, turned: 0, bend: 0, rate: 1 });

/**
 * A curve in a plane by its length, its middle in (0, 0), where it runs across. What lies `out` of it by h is h along its normal,
 * which in its middle points to the reader.
 */
export interface Curve {
  /** Lengths at which it begins and ends; before and after it goes on straight. */
  readonly from: number;
  readonly to: number;
  /** Lengths at which its curvature jumps. */
  readonly breaks: readonly number[];
  /** Writes the place at a length into `place`. */
  at(length: number, place: CurvePlace): void;
}

/** A piece of a curve; `made` is how long it is in the plan where that is another length, such as that of a neutral layer. */
export interface CurvePiece {
  readonly length: number;
  /** 1/mm, positive where it bends away from the reader. */
  readonly bend: number;
  readonly made?: number;
}

/** A straight piece, or an arc of this radius and angle in degrees. */
export const straightPiece = (length: number): CurvePiece => ({ length, bend: 0 });
export const arcPiece = (radius: number, angle: number, bends: 'away' | 'towards', made?: number): CurvePiece => ({
  length: radians(angle) * radius,
  bend: (bends === 'away' ? 1 : -1) / radius,
  made,
});

interface Laid extends CurvePlace {
  readonly from: number;
}

/** A curve of straight pieces and arcs, one going on where the other ends. */
export class PieceCurve implements Curve {
  readonly from: number;
  readonly to: number;
  readonly breaks: readonly number[];
  private readonly laid: readonly Laid[];

  /** @param centre the length in the plan, from the beginning, at which its middle is; half of it where nothing is said */
  constructor(pieces: readonly CurvePiece[], centre?: number) {
    const made = pieces.map(({ length, made: plan }) => plan ?? length);
    const total = made.reduce((sum, length) => sum + length, 0);
    const middle = centre ?? total / 2;
    this.from = -middle;
    this.to = total - middle;
    const laid: Laid[] = [];
    let pose = curvePlace();
    let from = this.from;
    const beyond = (start: number): Laid => ({ ...pose, bend: 0, rate: 1, from: start });
    laid.push(beyond(-Infinity));
    pieces.forEach(({ length, bend }, i) => {
      const piece: Laid = { ...pose, bend, from, rate: made[i] === 0 ? 1 : length / made[i] };
      laid.push(piece);
      const end = { ...pose };
      moveOn(piece, length, end);
      pose = end;
      from += made[i];
    });
    laid.push(beyond(from));
    this.breaks = laid.slice(1).map((piece) => piece.from);
    this.laid = this.centred(laid);
  }

  at(length: number, place: CurvePlace): void {
    const { laid } = this;
    let [low, high] = [0, laid.length - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (laid[middle].from <= length) low = middle;
      else high = middle - 1;
    }
    const piece = laid[low];
    // What goes on before the beginning is measured from there.
    const from = low === 0 ? this.from : piece.from;
    moveOn(piece, (length - from) * piece.rate, place);
    place.rate = piece.rate;
  }

  /** The pieces moved and turned so that the curve runs across in its middle. */
  private centred(laid: readonly Laid[]): readonly Laid[] {
    const middle = curvePlace();
    Object.assign(this, { laid });
    this.at(0, middle);
    const [cos, sin] = [Math.cos(middle.turned), Math.sin(middle.turned)];
    return laid.map((piece) => {
      const [x, z] = [piece.across - middle.across, piece.out - middle.out];
      return { ...piece, across: cos * x + sin * z, out: cos * z - sin * x, turned: piece.turned - middle.turned };
    });
  }
}

/** Writes where a piece has come to after a length of its own. */
function moveOn(piece: CurvePlace, length: number, place: CurvePlace): void {
  const { bend } = piece;
  const turn = -bend * length;
  // sin(t)/t and (1 − cos t)/t, also where t is nothing: an arc as its chord, turned by half of its angle.
  const half = turn / 2;
  const chord = Math.abs(half) < 1e-9 ? length : (length * Math.sin(half)) / half;
  const direction = piece.turned + half;
  const [across, out] = [piece.across + chord * Math.cos(direction), piece.out + chord * Math.sin(direction)];
  place.turned = piece.turned + turn;
  place.across = across;
  place.out = out;
  place.bend = bend;
}

/** Nodes and weights of Gauss and Legendre on −1 … 1 for ten places (Abramowitz and Stegun, table 25.4). */
const GAUSS: readonly (readonly [number, number])[] = [
  [0.148874338981631, 0.295524224714753],
  [0.433395394129247, 0.269266719309996],
  [0.679409568299024, 0.219086362515982],
  [0.865063366688985, 0.149451349150581],
  [0.973906528517172, 0.066671344308688],
];

/** How many equal angles a quarter of an ellipse is summed up in. */
const STRETCHES = 1024;

/**
 * Half an ellipse by its length, its vertex in the middle: semi-axes `a` across and `b` out. Lengths are elliptic integrals of the second
 * kind, summed up by Gauss and Legendre.
 */
export class EllipseCurve implements Curve {
  readonly from: number;
  readonly to: number;
  readonly breaks: readonly number[];
  /** Lengths from the vertex to angles of equal steps. */
  private readonly lengths: readonly number[];

  constructor(
    private readonly a: number,
    private readonly b: number,
    private readonly bends: 'away' | 'towards',
  ) {
    const lengths = [0];
    for (let i = 0; i < STRETCHES; i++) lengths.push(lengths[i] + this.between(step(i), step(i + 1)));
    this.lengths = lengths;
    this.to = lengths[STRETCHES];
    this.from = -this.to;
    this.breaks = [this.from, this.to];
  }

  at(length: number, place: CurvePlace): void {
    const { a, b } = this;
    const size = Math.min(Math.abs(length), this.to);
    const t = this.angleAt(size);
    const [cos, sin] = [Math.cos(t), Math.sin(t)];
    const speed = Math.hypot(a * cos, b * sin);
    const past = Math.abs(length) - size;
    const side = length < 0 ? -1 : 1;
    const sign = this.bends === 'away' ? 1 : -1;
    place.across = side * (a * sin + (past * a * cos) / speed);
    place.out = -sign * (b * (1 - cos) + (past * b * sin) / speed);
    place.turned = -side * sign * Math.atan2(b * sin, a * cos);
    place.bend = past > 0 ? 0 : (sign * a * b) / speed ** 3;
    place.rate = 1;
  }

  private between(from: number, to: number): number {
    const [middle, half] = [(from + to) / 2, (to - from) / 2];
    const speed = (t: number): number => Math.hypot(this.a * Math.cos(t), this.b * Math.sin(t));
    return (
      half * GAUSS.reduce((sum, [node, weight]) => sum + weight * (speed(middle - half * node) + speed(middle + half * node)), 0)
    );
  }

  /** Between two angles of the table by the cubic that has their slopes, 1 / speed, too. */
  private angleAt(length: number): number {
    const { a, b, lengths } = this;
    let [low, high] = [0, STRETCHES];
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (lengths[middle] <= length) low = middle;
      else high = middle;
    }
    const [from, to] = [step(low), step(high)];
    const size = lengths[high] - lengths[low];
    const t = (length - lengths[low]) / size;
    const slope = (angle: number): number => size / Math.hypot(a * Math.cos(angle), b * Math.sin(angle));
    const [one, two] = [slope(from), slope(to)];
    return from + t * (one + t * (3 * (to - from) - 2 * one - two + t * (one + two - 2 * (to - from))));
  }
}

const step = (i: number): number => (i / STRETCHES) * (Math.PI / 2);

/** mm from the ends within which nothing is creased: a curve may end there by its own figures. */
const APART = 0.01;

/** Longest step of a crease where nothing bends, in mm: straight pieces need none. */
const FAR = 1e9;

/**
 * Lengths between two at which a curve is creased, so that chords of what lies within reach of it are nowhere further from their true curves
 * than the tolerance.
 */
export function creasesOf(curve: Curve, from: number, to: number, reach: Reach, tolerance: number): number[] {
  const place = curvePlace();
  const stops = [...curve.breaks.filter((at) => at > from && at < to), to];
  const creases: number[] = [];
  let at = from;
  for (const stop of stops) {
    while (at < stop) {
      const first = stepAt(curve, Math.min(at + 1e-7, stop), place, reach, tolerance);
      const most = Math.min(first, stepAt(curve, Math.min(at + first, stop - 1e-7), place, reach, tolerance));
      const left = stop - at;
      // As many equal steps as there is room for at this one, while nothing changes.
      const count = Math.ceil(left / most - 1e-9);
      at = count <= 1 ? stop : at + (most === first ? left / count : most);
      if (at > from + APART && at < to - APART) creases.push(at);
    }
  }
  return creases;
}

/** How far below and above the face there is something, in mm. */
export interface Reach {
  readonly low: number;
  readonly high: number;
}

/** The sagitta s of a chord over the angle δ of radius r is r·(1 − cos(δ/2)). */
function stepAt(curve: Curve, at: number, place: CurvePlace, { low, high }: Reach, tolerance: number): number {
  curve.at(at, place);
  const { bend, rate } = place;
  if (Math.abs(bend) < 1e-9) return FAR;
  const radius = 1 / Math.abs(bend);
  const outermost = radius + Math.max(0, bend > 0 ? high : -low);
  const angle = 2 * Math.acos(Math.max(0, 1 - tolerance / outermost));
  return (Math.min(angle, Math.PI / 8) * radius) / rate;
}
