import { type Contour, snapRing } from './contour.js';
import { CHORD_TOLERANCE } from './grid.js';

/** Chords in a full circle of the given radius that stray by no more than the tolerance: 2π / (2·acos(1 − t/r)). */
export function chordsInCircle(radius: number, tolerance = CHORD_TOLERANCE): number {
  if (radius <= tolerance) return 8;
  return Math.max(8, Math.ceil(Math.PI / Math.acos(1 - tolerance / radius) / 4) * 4);
}

/** Chords of a circle whose area is less by a thousandth: 1 − sin(2π/n) / (2π/n), about (2π/n)² / 6. */
const FINE_CHORDS = 84;
/** mm; chords of larger circles keep to the tolerance alone. */
const SMALL_RADIUS = 10;
/** mm below which no chord is worth a point of its own. */
const LEAST_CHORD = 0.002;

/** Chords in the circle of a shape: small ones also keep their area to a thousandth. */
function chordsInShape(radius: number, tolerance: number): number {
  const least = radius < SMALL_RADIUS ? Math.min(FINE_CHORDS, 4 * Math.ceil((2 * Math.PI * radius) / LEAST_CHORD / 4)) : 0;
  return Math.max(chordsInCircle(radius, tolerance), least);
}

/** A circle about (x, y), anticlockwise, as chords that share its quarter points. */
export function circle(x: number, y: number, radius: number, tolerance = CHORD_TOLERANCE): Contour {
  const n = chordsInShape(radius, tolerance);
  const points = new Float64Array(2 * n);
  for (let i = 0; i < n; i++) {
    const angle = (2 * Math.PI * i) / n;
    points[2 * i] = x + radius * Math.cos(angle);
    points[2 * i + 1] = y + radius * Math.sin(angle);
  }
  return snapRing(points);
}

/** How the corners of a rectangle are treated. */
export type Corners = 'rounded' | 'chamfered' | 'scooped';

/**
 * A rectangle about the origin, anticlockwise. Its corners are rounded, chamfered or scooped (a quarter circle about the corner)
 * by a radius, which past half the shorter side becomes that half.
 */
export function rectangle(
  width: number,
  height: number,
  cornerRadius = 0,
  corners: Corners = 'rounded',
  tolerance = CHORD_TOLERANCE,
): Contour {
  const r = Math.min(Math.max(cornerRadius, 0), width / 2, height / 2);
  const [w, h] = [width / 2, height / 2];
  const points: number[] = [];
  const steps = r === 0 ? 0 : corners === 'chamfered' ? 1 : chordsInCircle(r, tolerance) / 4;
  for (const [x, y, from] of [
    [w, h, 0],
    [-w, h, 1],
    [-w, -h, 2],
    [w, -h, 3],
  ]) {
    const [inX, inY] = [x - r * Math.sign(x), y - r * Math.sign(y)];
    for (let i = 0; i <= steps; i++) {
      const t = steps === 0 ? 0 : i / steps;
      if (corners === 'scooped') {
        // About the corner itself, from the side before it to the side after it, the other way round.
        const angle = (Math.PI / 2) * (from + 3 - t);
        points.push(x + r * Math.cos(angle), y + r * Math.sin(angle));
      } else {
        const angle = (Math.PI / 2) * (from + t);
        points.push(inX + r * Math.cos(angle), inY + r * Math.sin(angle));
      }
    }
  }
  return snapRing(points);
}

/** An ellipse about the origin, anticlockwise, its chords no further off than those of a circle of its greater radius. */
export function ellipse(width: number, height: number, tolerance = CHORD_TOLERANCE): Contour {
  const n = chordsInShape(Math.max(width, height) / 2, tolerance);
  const points: number[] = [];
  for (let i = 0; i < n; i++) {
    const angle = (2 * Math.PI * i) / n;
    points.push((width / 2) * Math.cos(angle), (height / 2) * Math.sin(angle));
  }
  return snapRing(points);
}

/** A regular polygon with its corners on a circle about the origin, a side or a corner at the bottom. */
export function regularPolygon(sides: number, diameter: number, stands: 'flat' | 'point'): Contour {
  const points: number[] = [];
  for (let i = 0; i < sides; i++) {
    const angle = -Math.PI / 2 + (2 * Math.PI * (i + (stands === 'flat' ? 0.5 : 0))) / sides;
    points.push((diameter / 2) * Math.cos(angle), (diameter / 2) * Math.sin(angle));
  }
  return snapRing(points);
}

/**
 * A piece of a ring, anticlockwise: its middle line has this radius, and its middle in the origin.
 * @param height from the inner to the outer edge; where it is more than the radius leaves, the piece begins in its centre
 * @param span in degrees
 */
export function ringSector(
  radius: number,
  height: number,
  span: number,
  apex: 'above' | 'below',
  tolerance = CHORD_TOLERANCE,
): Contour {
  const [inner, outer] = [Math.max(0, radius - height / 2), radius + height / 2];
  const half = (span / 360) * Math.PI;
  const up = apex === 'above' ? 1 : -1;
  const points: number[] = [];
  // Edges of both radii have the same angles, which are the same on either side of the middle.
  const steps = 2 * Math.max(1, Math.ceil((half / Math.PI / 2) * chordsInCircle(outer, tolerance)));
  const along = (r: number, from: number): void => {
    for (let i = 0; i <= steps; i++) {
      const angle = from * half * (2 * (i / steps) - 1);
      points.push(r * Math.sin(angle), up * (radius - r * Math.cos(angle)));
    }
  };
  along(outer, up);
  if (inner > 0) along(inner, -up);
  else points.push(0, up * radius);
  return snapRing(points);
}

/**
 * A rectangle under the arc of a circle, its whole box about the origin, anticlockwise. The arc's radius is (c² / 4 + s²) / (2 s)
 * for a chord c and a rise s (any book of geometry); a rise past half the width becomes that half.
 */
export function arch(width: number, height: number, rise: number, tolerance = CHORD_TOLERANCE): Contour {
  const s = Math.min(rise, width / 2, height);
  const [w, h] = [width / 2, height / 2];
  const radius = (w * w + s * s) / (2 * s);
  const half = Math.atan2(w, radius - s);
  const steps = Math.max(2, Math.ceil((half / Math.PI) * chordsInCircle(radius, tolerance)));
  const points = [-w, -h, w, -h];
  for (let i = 0; i <= steps; i++) {
    const angle = Math.PI / 2 - half + (2 * half * i) / steps;
    points.push(radius * Math.cos(angle), h - radius + radius * Math.sin(angle));
  }
  return snapRing(points);
}
