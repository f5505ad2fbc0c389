import SvgPath from 'svgpath';
/** Outlines with curves, and their flattening to a chord tolerance. */

export type PathCommand =
  | { readonly kind: 'move'; readonly x: number; readonly y: number }
  | { readonly kind: 'line'; readonly x: number; readonly y: number }
  | { readonly kind: 'quadratic'; readonly x1: number; readonly y1: number; readonly x: number; readonly y: number }
  | {
      readonly kind: 'cubic';
      readonly x1: number;
      readonly y1: number;
      readonly x2: number;
      readonly y2: number;
      readonly x: number;
      readonly y: number;
    }
  | { readonly kind: 'close' };

const ARGUMENTS: Readonly<Record<string, number>> = { M: 2, L: 2, H: 1, V: 1, Q: 4, C: 6, Z: 0 };

/** What fonts give, and most drawings; everything else of SVG is brought to it. */
const PLAIN = /^[MLHVQCZ\d\s,.eE+-]*$/u;
const KNOWN = /^[MLHVQCZSTAmlhvqczsta]$/u;

/**
 * Reads path data: all commands of SVG (W3C, SVG 1.1, 8.3), also relative ones, shorthands and arcs. Angles of arcs run as the axes do:
 * with y up a sweep of 1 is anticlockwise.
 * @throws Error naming the command that is not among them or lacks numbers
 */
export function readPathData(text: string): PathCommand[] {
  if (PLAIN.test(text)) return readPlain(text);
  const [unknown] = (text.match(/[a-zA-Z]/gu) ?? []).filter((letter) => !KNOWN.test(letter) && !/[eE]/u.test(letter));
  if (unknown !== undefined) throw new Error(`Path command “${unknown}” is none of M, L, H, V, Q, C, S, T, A and Z.`);
  const path = new SvgPath(text);
  const { err } = path as unknown as { err: string };
  if (err) throw new Error(`This path cannot be read: ${err.replace(/^SvgPath: /u, '')}.`);
  return readPlain(path.abs().unshort().unarc().toString());
}

function readPlain(text: string): PathCommand[] {
  const out: PathCommand[] = [];
  let x = 0;
  let y = 0;
  for (const [, letter, rest] of text.matchAll(/([a-zA-Z])([^a-zA-Z]*(?:[eE][-+]?\d[^a-zA-Z]*)*)/gu)) {
    const count = ARGUMENTS[letter];
    if (count === undefined) throw new Error(`Path command “${letter}” is none of M, L, H, V, Q, C, S, T, A and Z.`);
    const numbers = (rest.match(/[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?/gu) ?? []).map(Number);
    if (count === 0) {
      out.push({ kind: 'close' });
      continue;
    }
    if (numbers.length === 0 || numbers.length % count !== 0)
      throw new Error(`Path command “${letter}” needs ${count} numbers at a time and has ${numbers.length}.`);
    for (let i = 0; i < numbers.length; i += count) {
      const n = numbers.slice(i, i + count);
      if (letter === 'H') x = n[0];
      else if (letter === 'V') y = n[0];
      else [x, y] = n.slice(-2);
      if (letter === 'M' && i === 0) out.push({ kind: 'move', x, y });
      else if (letter === 'Q') out.push({ kind: 'quadratic', x1: n[0], y1: n[1], x, y });
      else if (letter === 'C') out.push({ kind: 'cubic', x1: n[0], y1: n[1], x2: n[2], y2: n[3], x, y });
      else out.push({ kind: 'line', x, y });
    }
  }
  return out;
}

/** Thrown where a path has more points than are wanted of it. */
export class TooManyPointsError extends Error {
  constructor() {
    super('The path has too many points.');
    this.name = 'TooManyPointsError';
  }
}

/** A flattened piece of a path, in the path's own unit. */
export interface FlatPath {
  readonly points: number[];
  readonly closed: boolean;
}

/**
 * Chords of a path that stray from it by no more than `tolerance` (same unit as the path).
 *
 * The number of chords follows from the largest second difference d of the control points: n chords of a curve of
 * degree k stray at most k(k−1)/8 · d / n² (Wang's bound; G. Wang, "The subdivision method for finding the intersection
 * between two Bézier curves or surfaces", 1984). Where a curve reaches furthest to a side a chord ends, so that
 * what is measured on the chords is as wide and high as the curve.
 * @param most points; with more it throws a {@link TooManyPointsError} before they are made
 */
export function flatten(path: readonly PathCommand[], tolerance: number, most = Infinity): FlatPath[] {
  if (!(tolerance > 0)) throw new RangeError(`A chord tolerance of ${tolerance} is not above 0.`);
  const subpaths: FlatPath[] = [];
  let points: number[] = [];
  let x0 = 0;
  let y0 = 0;
  let count = 0;
  const expect = (chords: number): void => {
    // What is no number is none of a curve's either.
    if ((count += chords) > most) throw new TooManyPointsError();
  };
  const finish = (closed: boolean) => {
    if (points.length >= 4) subpaths.push({ points, closed });
    points = [];
  };
  for (const command of path) {
    if (command.kind === 'close') {
      const [startX, startY] = points;
      finish(true);
      if (startX !== undefined) [x0, y0] = [startX, startY];
      continue;
    }
    const { x, y } = command;
    if (command.kind === 'move') {
      finish(false);
      points.push(x, y);
    } else {
      if (points.length === 0) points.push(x0, y0);
      if (command.kind === 'line') points.push(x, y);
      else if (command.kind === 'quadratic') {
        const { x1, y1 } = command;
        const bend = Math.hypot(x0 - 2 * x1 + x, y0 - 2 * y1 + y);
        const n = Math.max(1, Math.ceil(Math.sqrt(bend / (4 * tolerance))));
        expect(n);
        const turns = [(x0 - x1) / (x0 - 2 * x1 + x), (y0 - y1) / (y0 - 2 * y1 + y)];
        for (const t of parameters(n, turns)) {
          const u = 1 - t;
          points.push(u * u * x0 + 2 * u * t * x1 + t * t * x, u * u * y0 + 2 * u * t * y1 + t * t * y);
        }
        points.push(x, y);
      } else {
        const { x1, y1, x2, y2 } = command;
        const bend = Math.max(Math.hypot(x0 - 2 * x1 + x2, y0 - 2 * y1 + y2), Math.hypot(x1 - 2 * x2 + x, y1 - 2 * y2 + y));
        const n = Math.max(1, Math.ceil(Math.sqrt((3 * bend) / (4 * tolerance))));
        expect(n);
        const turns = [...cubicTurns(x0, x1, x2, x), ...cubicTurns(y0, y1, y2, y)];
        for (const t of parameters(n, turns)) {
          const u = 1 - t;
          const [p, q, r, s] = [u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t];
          points.push(p * x0 + q * x1 + r * x2 + s * x, p * y0 + q * y1 + r * y2 + s * y);
        }
        points.push(x, y);
      }
    }
    x0 = x;
    y0 = y;
  }
  finish(false);
  return subpaths;
}

/** Where the chords of a curve end, the curve's own ends left out: n equal steps, and where it turns back. */
function parameters(n: number, turns: readonly number[]): number[] {
  const out: number[] = [];
  for (let i = 1; i < n; i++) out.push(i / n);
  const inner = turns.filter((t) => t > 1e-6 && t < 1 - 1e-6);
  if (inner.length === 0) return out;
  return [...out, ...inner].sort((a, b) => a - b);
}

/** Parameters at which one coordinate of a cubic curve stands still: the roots of its derivative. */
function cubicTurns(p0: number, p1: number, p2: number, p3: number): number[] {
  const a = p3 - 3 * p2 + 3 * p1 - p0;
  const b = 2 * (p2 - 2 * p1 + p0);
  const c = p1 - p0;
  if (Math.abs(a) < 1e-12) return b === 0 ? [] : [-c / b];
  const root = b * b - 4 * a * c;
  if (root < 0) return [];
  return [(-b + Math.sqrt(root)) / (2 * a), (-b - Math.sqrt(root)) / (2 * a)];
}
