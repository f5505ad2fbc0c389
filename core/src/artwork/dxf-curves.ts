/** Curves of DXF drawings as points along them. Angles in radians here, lengths in the drawing's unit. */

/** Chords in an arc so that they stray no more than `tolerance`. */
function chords(radius: number, sweep: number, tolerance: number): number {
  const step = radius > tolerance ? 2 * Math.acos(1 - tolerance / radius) : Math.PI / 2;
  return Math.min(5000, Math.max(1, Math.ceil(Math.abs(sweep) / step)));
}

/**
 * Points of an elliptic arc about (x, y): its major half axis is (ax, ay), its minor half axis that turned to the left and scaled
 * by `ratio`. It runs from parameter `from` through `sweep`, both ends included.
 */
export function ellipticArc(
  [x, y]: readonly [number, number],
  [ax, ay]: readonly [number, number],
  ratio: number,
  from: number,
  sweep: number,
  tolerance: number,
): number[] {
  const n = chords(Math.hypot(ax, ay) * Math.max(1, ratio), sweep, tolerance);
  const out: number[] = [];
  for (let i = 0; i <= n; i++) {
    const t = from + (sweep * i) / n;
    const [u, v] = [Math.cos(t), Math.sin(t) * ratio];
    out.push(x + u * ax - v * ay, y + u * ay + v * ax);
  }
  return out;
}

/**
 * Points of a bulged edge from a to b, a left out: an arc whose included angle is four times the arc tangent of the bulge, to the
 * left of the edge where the bulge is negative (DXF reference, LWPOLYLINE code 42).
 */
export function bulgedEdge(ax: number, ay: number, bx: number, by: number, bulge: number, tolerance: number): number[] {
  const chord = Math.hypot(bx - ax, by - ay);
  if (bulge === 0 || chord === 0 || !Number.isFinite(bulge)) return [bx, by];
  const sweep = 4 * Math.atan(bulge);
  // From the middle of the edge to the centre, along the edge turned left.
  const h = (1 - bulge * bulge) / (4 * bulge);
  const [cx, cy] = [(ax + bx) / 2 - h * (by - ay), (ay + by) / 2 + h * (bx - ax)];
  const radius = Math.hypot(ax - cx, ay - cy);
  const from = Math.atan2(ay - cy, ax - cx);
  const n = chords(radius, sweep, tolerance);
  const out: number[] = [];
  for (let i = 1; i < n; i++) {
    const t = from + (sweep * i) / n;
    out.push(cx + radius * Math.cos(t), cy + radius * Math.sin(t));
  }
  out.push(bx, by);
  return out;
}

/** A rational B-spline of the plane. */
export interface Spline {
  readonly degree: number;
  readonly knots: readonly number[];
  /** x, y of each control point. */
  readonly control: readonly number[];
  /** One for each control point. */
  readonly weights: readonly number[];
}

/** Points of a spline: each span is halved until its chords stray no more than `tolerance`. */
export function splinePoints(spline: Spline, tolerance: number): number[] {
  const { degree, knots, control } = spline;
  const n = control.length / 2;
  const out: number[] = [...deBoor(spline, degree, knots[degree])];
  for (let span = degree; span < n; span++) {
    const [from, to] = [knots[span], knots[span + 1]];
    if (!(to > from)) continue;
    // A span between two knots is smooth; four pieces see an S that its middle alone would hide.
    for (let k = 0; k < 4; k++) {
      const [a, b] = [from + ((to - from) * k) / 4, from + ((to - from) * (k + 1)) / 4];
      halve(spline, span, a, b, deBoor(spline, span, a), deBoor(spline, span, b), tolerance, 12, out);
    }
  }
  return out;
}

function halve(
  spline: Spline,
  span: number,
  from: number,
  to: number,
  a: readonly [number, number],
  b: readonly [number, number],
  tolerance: number,
  depth: number,
  out: number[],
): void {
  const middle = (from + to) / 2;
  const m = deBoor(spline, span, middle);
  if (depth === 0 || strays(m, a, b) <= tolerance) {
    out.push(...b);
    return;
  }
  halve(spline, span, from, middle, a, m, tolerance, depth - 1, out);
  halve(spline, span, middle, to, m, b, tolerance, depth - 1, out);
}

function strays(
  [x, y]: readonly [number, number],
  [ax, ay]: readonly [number, number],
  [bx, by]: readonly [number, number],
): number {
  const [dx, dy] = [bx - ax, by - ay];
  const length = Math.hypot(dx, dy);
  return length === 0 ? Math.hypot(x - ax, y - ay) : Math.abs(dx * (y - ay) - dy * (x - ax)) / length;
}

/** The point at a parameter within a span of knots (de Boor's algorithm on homogeneous points; Piegl & Tiller, The NURBS Book, ch. 4). */
function deBoor({ degree, knots, control, weights }: Spline, span: number, t: number): readonly [number, number] {
  const d: [number, number, number][] = [];
  for (let j = 0; j <= degree; j++) {
    const i = j + span - degree;
    const w = weights[i];
    d.push([control[2 * i] * w, control[2 * i + 1] * w, w]);
  }
  for (let r = 1; r <= degree; r++) {
    for (let j = degree; j >= r; j--) {
      const i = j + span - degree;
      const width = knots[i + degree - r + 1] - knots[i];
      const s = width > 0 ? (t - knots[i]) / width : 0;
      const [p, q] = [d[j - 1], d[j]];
      d[j] = [p[0] + s * (q[0] - p[0]), p[1] + s * (q[1] - p[1]), p[2] + s * (q[2] - p[2])];
    }
  }
  const [x, y, w] = d[degree];
  return w === 0 ? [x, y] : [x / w, y / w];
}
