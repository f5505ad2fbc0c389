import { type FlatPath, TooManyPointsError } from '../geometry/index.js';

/** How a line is drawn (SVG 2, chapter 13.5). Lengths in the line's own unit. */
export interface StrokeStyle {
  readonly width: number;
  readonly join: 'miter' | 'round' | 'bevel';
  readonly cap: 'butt' | 'round' | 'square';
  /** Miters longer than this many widths are bevelled. */
  readonly miterLimit: number;
}

/**
 * The area of a drawn line as overlapping pieces: a rectangle for every edge, a wedge at every corner, and caps at its ends.
 * Together they cover it; where they overlap they are the same ground.
 * @param tolerance how far the chords of round corners may stray
 * @param most points of all pieces; with more it throws a TooManyPointsError
 */
export function strokePieces({ points, closed }: FlatPath, style: StrokeStyle, tolerance: number, most = Infinity): number[][] {
  const r = style.width / 2;
  const polyline = distinct(points, closed);
  const n = polyline.length / 2;
  const out: number[][] = [];
  if (n === 1) return dot(polyline[0], polyline[1], r, style.cap, tolerance);
  const edges = closed ? n : n - 1;
  // A quarter of a circle at every corner, more or less.
  const atCorner = style.join === 'round' ? stepsOfArc(Math.PI / 2, r, tolerance) : 4;
  let count = 0;
  for (let i = 0; i < edges; i++) {
    const [ax, ay] = [polyline[2 * i], polyline[2 * i + 1]];
    const j = (i + 1) % n;
    const [bx, by] = [polyline[2 * j], polyline[2 * j + 1]];
    const [nx, ny] = normal(ax, ay, bx, by, r);
    // By way of its ends: what a corner or a cap adds meets it along the very same edges.
    out.push([ax + nx, ay + ny, ax, ay, ax - nx, ay - ny, bx - nx, by - ny, bx, by, bx + nx, by + ny]);
    if (!closed && j === n - 1) continue;
    const k = (j + 1) % n;
    if ((count += 6) + atCorner > most) throw new TooManyPointsError();
    count += out[out.length - 2]?.length ?? 0;
    out.push(corner(bx, by, [nx, ny], normal(bx, by, polyline[2 * k], polyline[2 * k + 1], r), r, style, tolerance));
  }
  if (!closed && style.cap !== 'butt') {
    const [ax, ay, bx, by] = polyline;
    const [cx, cy, dx, dy] = polyline.slice(-4);
    out.push(cap(ax, ay, normal(bx, by, ax, ay, r), style.cap, r, tolerance));
    out.push(cap(dx, dy, normal(cx, cy, dx, dy, r), style.cap, r, tolerance));
  }
  return out.filter((piece) => piece.length >= 6);
}

/** To the left of the direction, as long as the reach. */
function normal(ax: number, ay: number, bx: number, by: number, reach: number): [number, number] {
  const length = Math.hypot(bx - ax, by - ay);
  return [(-(by - ay) / length) * reach, ((bx - ax) / length) * reach];
}

function distinct(points: readonly number[], closed: boolean): number[] {
  const out: number[] = [];
  for (let i = 0; i < points.length; i += 2) {
    const isSame = out.length > 0 && points[i] === out[out.length - 2] && points[i + 1] === out[out.length - 1];
    if (!isSame) out.push(points[i], points[i + 1]);
  }
  while (closed && out.length > 2 && out[0] === out[out.length - 2] && out[1] === out[out.length - 1]) out.length -= 2;
  return out;
}

function corner(
  x: number,
  y: number,
  before: readonly [number, number],
  after: readonly [number, number],
  r: number,
  { join, miterLimit }: StrokeStyle,
  tolerance: number,
): number[] {
  const turned = before[0] * after[1] - before[1] * after[0];
  const along = before[0] * after[0] + before[1] * after[1];
  if (turned === 0 && along >= 0) return [];
  // The side that opens is on the right of a left turn.
  const side = turned > 0 ? -1 : 1;
  const [ax, ay, bx, by] = [side * before[0], side * before[1], side * after[0], side * after[1]];
  const angle = Math.atan2(Math.abs(turned), along);
  if (join === 'round')
    return [x, y, x + ax, y + ay, ...arc(x, y, Math.atan2(ay, ax), -side * angle, r, tolerance), x + bx, y + by];
  const stretch = 1 / Math.cos(angle / 2);
  const sum = Math.hypot(ax + bx, ay + by);
  if (join === 'bevel' || stretch > miterLimit || sum < 1e-9 * r) return [x, y, x + ax, y + ay, x + bx, y + by];
  const tip = (r * stretch) / sum;
  return [x, y, x + ax, y + ay, x + (ax + bx) * tip, y + (ay + by) * tip, x + bx, y + by];
}

/** Chords of an arc that stray from it by no more than the tolerance. */
function stepsOfArc(through: number, r: number, tolerance: number): number {
  const chord = r > tolerance ? 2 * Math.acos(1 - tolerance / r) : Math.PI / 4;
  return Math.max(2, Math.ceil(Math.abs(through) / chord));
}

/** Points of a rim from an angle through a sweep, without its ends. */
function arc(x: number, y: number, from: number, through: number, r: number, tolerance: number): number[] {
  const steps = stepsOfArc(through, r, tolerance);
  const out: number[] = [];
  for (let i = 1; i < steps; i++) {
    const angle = from + (through * i) / steps;
    out.push(x + r * Math.cos(angle), y + r * Math.sin(angle));
  }
  return out;
}

function cap(
  x: number,
  y: number,
  [nx, ny]: readonly [number, number],
  kind: 'round' | 'square',
  r: number,
  tolerance: number,
): number[] {
  if (kind === 'round') return [x, y, x + nx, y + ny, ...arc(x, y, Math.atan2(ny, nx), -Math.PI, r, tolerance), x - nx, y - ny];
  // Ahead of the end by half the width: the normal turned clockwise.
  const [fx, fy] = [ny, -nx];
  return [x + nx, y + ny, x, y, x - nx, y - ny, x - nx + fx, y - ny + fy, x + nx + fx, y + ny + fy];
}

/** A line of no length: nothing, a disc or a square. */
function dot(x: number, y: number, r: number, kind: StrokeStyle['cap'], tolerance: number): number[][] {
  if (kind === 'butt') return [];
  if (kind === 'square') return [[x - r, y - r, x + r, y - r, x + r, y + r, x - r, y + r]];
  return [[x + r, y, ...arc(x, y, 0, 2 * Math.PI, r, tolerance)]];
}

/** Pieces of a stroke turn the same way, so that they add up where they overlap. */
export function orderedTo(piece: readonly number[], isTurnedOver: boolean): readonly number[] {
  let twice = 0;
  for (let i = 0, j = piece.length - 2; i < piece.length; j = i, i += 2)
    twice += piece[j] * piece[i + 1] - piece[i] * piece[j + 1];
  if (twice >= 0 !== isTurnedOver) return piece;
  const out: number[] = [];
  for (let i = piece.length - 2; i >= 0; i -= 2) out.push(piece[i], piece[i + 1]);
  return out;
}
