import { radians } from './angle.js';
import { type Contour, reversed, snapRing } from './contour.js';

/** A placement in the plan: x′ = a·x + c·y + e, y′ = b·x + d·y + f, in mm. */
export interface Placement {
  readonly a: number;
  readonly b: number;
  readonly c: number;
  readonly d: number;
  readonly e: number;
  readonly f: number;
}

export const HERE: Placement = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };

/** Cosine and sine of an angle in degrees, exact at quarter turns. */
export function direction(degrees: number): { cos: number; sin: number } {
  const quarter = (((degrees % 360) + 360) % 360) / 90;
  if (Number.isInteger(quarter)) return { cos: [1, 0, -1, 0][quarter], sin: [0, 1, 0, -1][quarter] };
  const angle = radians(degrees);
  return { cos: Math.cos(angle), sin: Math.sin(angle) };
}

export interface PlacementParts {
  readonly x?: number;
  readonly y?: number;
  /** Degrees, anticlockwise. */
  readonly turn?: number;
  /** Left and right exchanged before turning. */
  readonly mirror?: boolean;
  readonly stretchX?: number;
  readonly stretchY?: number;
}

/** Stretch and mirror first, then turn, then move. */
export function placement(parts: PlacementParts): Placement {
  const { cos, sin } = direction(parts.turn ?? 0);
  const sx = (parts.stretchX ?? 1) * (parts.mirror ? -1 : 1);
  const sy = parts.stretchY ?? 1;
  return { a: cos * sx, b: sin * sx, c: -sin * sy, d: cos * sy, e: parts.x ?? 0, f: parts.y ?? 0 };
}

/** First `inner`, then `outer`. */
export function compose(outer: Placement, inner: Placement): Placement {
  return {
    a: outer.a * inner.a + outer.c * inner.b,
    b: outer.b * inner.a + outer.d * inner.b,
    c: outer.a * inner.c + outer.c * inner.d,
    d: outer.b * inner.c + outer.d * inner.d,
    e: outer.a * inner.e + outer.c * inner.f + outer.e,
    f: outer.b * inner.e + outer.d * inner.f + outer.f,
  };
}

/** A polyline under a placement, in floating point (not brought to the grid). */
export function placePolyline(polyline: Float64Array, p: Placement): Float64Array {
  const out = new Float64Array(polyline.length);
  for (let i = 0; i < polyline.length; i += 2) {
    out[i] = p.a * polyline[i] + p.c * polyline[i + 1] + p.e;
    out[i + 1] = p.b * polyline[i] + p.d * polyline[i + 1] + p.f;
  }
  return out;
}

/**
 * Rings under a placement, brought to the grid. One that mirrors runs them the other way round, so that what lay on the left of a ring
 * still does.
 */
export function placeRings(rings: readonly Contour[], p: Placement): Contour[] {
  const isMirrored = p.a * p.d - p.b * p.c < 0;
  return rings.map((ring) => {
    const placed = snapRing(placePolyline(ring, p));
    return isMirrored ? reversed(placed) : placed;
  });
}

/** A point under a placement. */
export const placePoint = (p: Placement, x: number, y: number): readonly [number, number] => [
  p.a * x + p.c * y + p.e,
  p.b * x + p.d * y + p.f,
];
