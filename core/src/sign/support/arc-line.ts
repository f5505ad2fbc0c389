import { type Contour, degrees } from '../../geometry/index.js';

/** A piece of a line, each going on where the one before ends and in its direction. */
export type ArcLinePiece =
  | { readonly kind: 'straight'; readonly length: number }
  /** `angle` in degrees. */
  | { readonly kind: 'arc'; readonly radius: number; readonly angle: number; readonly turns: 'left' | 'right' };

/** Pieces from a point on, in a direction in radians. */
export interface ArcLine {
  readonly from: readonly [number, number];
  readonly heading: number;
  readonly pieces: readonly ArcLinePiece[];
}

/** Turns sharper than so many radians are corners. */
const CORNER = (35 * Math.PI) / 180;
/** What is so many times as long as what lies beside it was drawn straight, and is no chord of a curve. */
const DRAWN_STRAIGHT = 3;
/** Radians that one pair of arcs turns by at most. */
const MOST_TURN = Math.PI / 2;
/** Part of the tolerance by which pieces that become one may leave what they were. */
const MERGED = 0.5;
/** Radians by which an arc turns that is as good as straight: 0.01 mm in a metre. */
const HARDLY = 1e-5;

type Point = readonly [number, number];
interface Vertex {
  readonly at: Point;
  /** Direction in which the line goes on, in radians. */
  readonly heading: number;
}

/**
 * A polyline as straight pieces and arcs, each going on in the direction of the one before: chords of curves by pairs of arcs (biarcs;
 * K. M. Bolton, Computer-Aided Design 7, 1975), as long as they stay within a tolerance, what was drawn straight as it is, and corners
 * rounded.
 * @param points open, in mm
 * @param corner radius of corners
 */
export function arcLine(points: Contour, tolerance: number, corner: number): ArcLine {
  const runs = smoothRuns(withoutDoubles(points), corner).map(headed);
  const pieces = runs.flatMap((vertices) => {
    const arcs: Arc[] = [];
    for (let i = 0; i + 1 < vertices.length;) {
      const j = furthest(vertices, i, tolerance);
      arcs.push(...biarc(vertices[i], vertices[j]));
      i = j;
    }
    return arcs.map(pieceOf);
  });
  return { from: runs[0][0].at, heading: runs[0][0].heading, pieces: merged(pieces, tolerance) };
}

const minus = (a: Point, b: Point): Point => [a[0] - b[0], a[1] - b[1]];
const apart = (a: Point, b: Point): number => Math.hypot(a[0] - b[0], a[1] - b[1]);
const headingOf = (from: Point, to: Point): number => Math.atan2(to[1] - from[1], to[0] - from[0]);
/** An angle as one of −π to π. */
const turnOf = (angle: number): number => angle - 2 * Math.PI * Math.round(angle / (2 * Math.PI));

function withoutDoubles(points: Contour): Point[] {
  const out: Point[] = [];
  for (let i = 0; i < points.length; i += 2) {
    const next: Point = [points[i], points[i + 1]];
    if (out.length === 0 || apart(out[out.length - 1], next) > 1e-6) out.push(next);
  }
  return out;
}

/** Points between which the direction goes over smoothly, each run beginning where the one before ended; corners are arcs by then. */
function smoothRuns(points: readonly Point[], corner: number): Point[][] {
  const runs: Point[][] = [];
  let run: Point[] = [points[0]];
  for (let i = 1; i + 1 < points.length; i++) {
    const [before, at, after] = [run[run.length - 1], points[i], points[i + 1]];
    const turn = turnOf(headingOf(at, after) - headingOf(before, at));
    if (Math.abs(turn) <= CORNER) {
      run.push(at);
      continue;
    }
    // No more than half of what is beside it: the other half may be another corner's.
    const set = Math.min(corner * Math.tan(Math.abs(turn) / 2), 0.49 * apart(before, at), 0.49 * apart(at, after));
    const [from, to] = [towards(at, before, set), towards(at, after, set)];
    run.push(from);
    runs.push(run, rounded(from, headingOf(before, at), turn, set));
    run = [to];
  }
  run.push(points[points.length - 1]);
  runs.push(run);
  return runs;
}

const between = (a: Point, b: Point, share: number): Point => [a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])];
const towards = (from: Point, to: Point, by: number): Point => between(from, to, by / apart(from, to));

/** Points of an arc that turns by an angle, whose tangents meet so far from its ends. */
function rounded(from: Point, heading: number, turn: number, set: number): Point[] {
  const radius = set / Math.tan(Math.abs(turn) / 2);
  const count = 12;
  const side = Math.sign(turn);
  const centre: Point = [from[0] - side * radius * Math.sin(heading), from[1] + side * radius * Math.cos(heading)];
  return Array.from({ length: count + 1 }, (_, i): Point => {
    const angle = heading + (turn * i) / count;
    return [centre[0] + side * radius * Math.sin(angle), centre[1] - side * radius * Math.cos(angle)];
  });
}

/** The direction at every point: along what was drawn straight, and else that of the circle through it and its neighbours. */
function headed(run: readonly Point[]): Vertex[] {
  const lengths = run.slice(1).map((point, i) => apart(run[i], point));
  const chords = run.slice(1).map((point, i) => headingOf(run[i], point));
  const isStraight = lengths.map(
    (length, i) => lengths.length === 1 || [lengths[i - 1], lengths[i + 1]].some((beside) => length > DRAWN_STRAIGHT * beside),
  );
  const inner = run.map((_, i) => {
    if (i === 0 || i === run.length - 1) return 0;
    if (isStraight[i - 1] !== isStraight[i]) return chords[isStraight[i - 1] ? i - 1 : i];
    const turn = turnOf(chords[i] - chords[i - 1]);
    return chords[i - 1] + (turn * lengths[i - 1]) / (lengths[i - 1] + lengths[i]);
  });
  const last = run.length - 1;
  if (last === 1) inner.fill(chords[0]);
  else {
    // An arc leaves its chord as it came to it.
    inner[0] = isStraight[0] ? chords[0] : chords[0] - turnOf(inner[1] - chords[0]);
    inner[last] = isStraight[last - 1] ? chords[last - 1] : chords[last - 1] + turnOf(chords[last - 1] - inner[last - 1]);
  }
  return run.map((at, i) => ({ at, heading: inner[i] }));
}

/** The last point up to which one pair of arcs stays within the tolerance. */
function furthest(vertices: readonly Vertex[], from: number, tolerance: number): number {
  let [good, step] = [from + 1, 1];
  // Twice as far as long as it goes, and then half as far.
  while (step > 0) {
    const next = Math.min(vertices.length - 1, good + step);
    if (next > good && isNear(vertices, from, next, tolerance)) {
      good = next;
      step *= 2;
    } else step = Math.floor(Math.min(step, next - good) / 2);
  }
  return good;
}

function isNear(vertices: readonly Vertex[], from: number, to: number, tolerance: number): boolean {
  let turned = 0;
  for (let i = from; i < to; i++) turned += Math.abs(turnOf(vertices[i + 1].heading - vertices[i].heading));
  if (turned > MOST_TURN) return false;
  const arcs = biarc(vertices[from], vertices[to]);
  for (let i = from; i < to; i++) {
    const [a, b] = [vertices[i].at, vertices[i + 1].at];
    // Two arcs may cross a chord in its middle.
    for (const place of [0.25, 0.5, 0.75, 1].map((share) => between(a, b, share)))
      if (Math.min(...arcs.map((arc) => distanceTo(arc, place))) > tolerance) return false;
  }
  return true;
}

/** An arc, or a straight piece where it does not bend: from a point in a direction, bending to the left above 0. */
interface Arc {
  readonly from: Point;
  readonly heading: number;
  readonly length: number;
  /** 1/mm. */
  readonly bend: number;
}

/** Two arcs from one point to another that begin and end in their directions, and meet as far from both. */
function biarc(a: Vertex, b: Vertex): Arc[] {
  const v = minus(b.at, a.at);
  const [s, t] = [direction(a.heading), direction(b.heading)];
  const along = v[0] * (s[0] + t[0]) + v[1] * (s[1] + t[1]);
  const square = v[0] * v[0] + v[1] * v[1];
  const open = 2 * (1 - (s[0] * t[0] + s[1] * t[1]));
  // 2(1 − s·t)d² + 2 v·(s + t) d − v·v = 0, by the form that does not cancel.
  const d = square / (along + Math.sqrt(Math.max(0, along * along + open * square)));
  const meeting: Point = [(a.at[0] + d * s[0] + b.at[0] - d * t[0]) / 2, (a.at[1] + d * s[1] + b.at[1] - d * t[1]) / 2];
  const first = arcTo(a.at, a.heading, meeting);
  return [first, arcTo(meeting, first.heading + first.bend * first.length, b.at)];
}

const direction = (heading: number): Point => [Math.cos(heading), Math.sin(heading)];

/** The arc that leaves a point in a direction and comes to another. */
function arcTo(from: Point, heading: number, to: Point): Arc {
  const chord = apart(from, to);
  const half = turnOf(headingOf(from, to) - heading);
  const length = Math.abs(half) < 1e-9 ? chord : (chord * half) / Math.sin(half);
  return { from, heading, length, bend: chord > 0 ? (2 * half) / length : 0 };
}

function distanceTo({ from, heading, bend, length }: Arc, place: Point): number {
  const [dx, dy] = minus(place, from);
  const [x, y] = [dx * Math.cos(heading) + dy * Math.sin(heading), dy * Math.cos(heading) - dx * Math.sin(heading)];
  if (Math.abs(bend) * length < 1e-9) return Math.abs(y);
  // From the circle, also where its middle is far away: (x² + y² − 2y/κ) / (distance to the middle + radius).
  const radius = 1 / bend;
  return Math.abs((x * x + y * y - 2 * y * radius) / (Math.hypot(x, y - radius) + Math.abs(radius)));
}

function pieceOf({ length, bend }: Pick<Arc, 'length' | 'bend'>): ArcLinePiece {
  if (Math.abs(bend) * length < HARDLY) return { kind: 'straight', length };
  return { kind: 'arc', radius: 1 / Math.abs(bend), angle: degrees(Math.abs(bend) * length), turns: bend > 0 ? 'left' : 'right' };
}

/** Points of a line, no further apart along it than so many mm. */
export function pointsAlong({ from, heading, pieces }: ArcLine, most: number): Contour {
  const out: number[] = [...from];
  let [at, direct]: [Point, number] = [from, heading];
  for (const piece of pieces) {
    const length = lengthOf(piece);
    const bend = bendOf(piece);
    const count = Math.max(1, Math.ceil(length / most));
    for (let i = 0; i < count; i++) {
      const half = (bend * length) / count / 2;
      const chord = ((length / count) * Math.sin(half)) / half || length / count;
      at = [at[0] + chord * Math.cos(direct + half), at[1] + chord * Math.sin(direct + half)];
      direct += 2 * half;
      out.push(...at);
    }
  }
  return Float64Array.from(out);
}

/** mm of a piece. */
export const lengthOf = (piece: ArcLinePiece): number =>
  piece.kind === 'straight' ? piece.length : (piece.radius * piece.angle * Math.PI) / 180;

/** 1/mm, to the left above 0. */
const bendOf = (piece: ArcLinePiece): number =>
  piece.kind === 'straight' ? 0 : (piece.turns === 'left' ? 1 : -1) / piece.radius;

/** Pieces that are as good as one: it turns as far as both and is as long, and leaves them by a part of the tolerance. */
function merged(pieces: readonly ArcLinePiece[], tolerance: number): ArcLinePiece[] {
  const out: ArcLinePiece[] = [];
  for (const piece of pieces) {
    const before = out[out.length - 1];
    if (before && strayOf(before, piece) < MERGED * tolerance) {
      const length = lengthOf(before) + lengthOf(piece);
      const turned = bendOf(before) * lengthOf(before) + bendOf(piece) * lengthOf(piece);
      out[out.length - 1] = pieceOf({ length, bend: turned / length });
    } else out.push(piece);
  }
  return out;
}

/** mm by which one piece in the place of two leaves where they meet: it turns too little, and then too much. */
function strayOf(a: ArcLinePiece, b: ArcLinePiece): number {
  const [first, second] = [lengthOf(a), lengthOf(b)];
  return (Math.abs(bendOf(a) - bendOf(b)) * first * second * Math.max(first, second)) / (2 * (first + second));
}
