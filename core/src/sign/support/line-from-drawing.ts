import { type Contour, type FlatPath, reversed, squareToSegment } from '../../geometry/index.js';
import { type LinePiece } from '../document/schema-support.js';
import { arcLine, type ArcLinePiece, lengthOf, pointsAlong } from './arc-line.js';

/** A line of pieces as it was found in a drawing. */
export interface DrawnLinePieces {
  /** As the face is bent, from left to right. */
  readonly pieces: readonly LinePiece[];
  /** mm. */
  readonly length: number;
  /** mm by which it leaves what is drawn at most. */
  readonly off: number;
  /** Whether it was an outline, which is opened where it lies furthest back. */
  readonly isOutline: boolean;
}

/** A drawing in which there is no line that a sign could be bent along, with what would be one. */
export class LineError extends Error {
  override readonly name = 'LineError';
}

const MOST_PIECES = 60;
/** mm by which a line may leave what is drawn, where its pieces suffice; and share of its length by which it may at most. */
const CLOSE = 0.05;
const MOST_OFF = 0.01;
/** mm of the shortest line that is one. */
const LEAST_LENGTH = 1;
/** Places at which it is looked how far a line is off. */
const LOOKED_AT = 2000;

/**
 * The longest line of a drawing of the ground, as straight pieces and arcs: what is below in the drawing is towards the reader. A closed
 * outline is opened where it lies furthest back.
 * @param drawn in mm, y up
 * @param corner radius of the face in its corners
 * @throws LineError where there is none, or it has more pieces than a document keeps
 */
export function lineFromDrawing(drawn: readonly FlatPath[], corner: number): DrawnLinePieces {
  const measured = drawn
    .map(({ points, closed }) => ({ points: Float64Array.from(closed ? [...points, points[0], points[1]] : points), closed }))
    .map((line) => ({ ...line, length: lengthAlong(line.points) }))
    .filter(({ length }) => length >= LEAST_LENGTH)
    .sort((a, b) => Number(a.closed) - Number(b.closed) || b.length - a.length);
  const [longest] = measured;
  if (!longest)
    throw new LineError(
      'The drawing has no line of a millimetre or more: draw the ground plan’s line, such as the front edge of a desk from above.',
    );
  const points = longest.closed ? openedBehind(longest.points) : fromTheLeft(longest.points);
  for (let tolerance = CLOSE; tolerance <= MOST_OFF * longest.length; tolerance *= 2) {
    const line = arcLine(points, tolerance, corner);
    if (line.pieces.length > MOST_PIECES) continue;
    return {
      pieces: line.pieces.map(linePiece),
      length: line.pieces.reduce((sum, piece) => sum + lengthOf(piece), 0),
      off: furthestFrom(points, pointsAlong(line, longest.length / LOOKED_AT)),
      isOutline: longest.closed,
    };
  }
  throw new LineError(`The drawing’s longest line has more than ${MOST_PIECES} bends: draw it more simply.`);
}

const lengthAlong = (points: Contour): number => {
  let sum = 0;
  for (let i = 2; i < points.length; i += 2) sum += Math.hypot(points[i] - points[i - 2], points[i + 1] - points[i - 1]);
  return sum;
};

const fromTheLeft = (points: Contour): Contour => (points[0] <= points[points.length - 2] ? points : reversed(points));

/** A ring, its first point repeated, anticlockwise from its point furthest back. */
function openedBehind(points: Contour): Contour {
  const ring = points.slice(0, -2);
  const n = ring.length / 2;
  let [top, twice] = [0, 0];
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    twice += ring[2 * i] * ring[2 * j + 1] - ring[2 * j] * ring[2 * i + 1];
    if (ring[2 * i + 1] > ring[2 * top + 1]) top = i;
  }
  const from = Float64Array.from([...ring.subarray(2 * top), ...ring.subarray(0, 2 * top + 2)]);
  return twice > 0 ? from : reversed(from);
}

/** To the left, away from the reader, is away. */
const linePiece = (piece: ArcLinePiece): LinePiece =>
  piece.kind === 'straight'
    ? { kind: 'straight', length: rounded(piece.length) }
    : {
        kind: 'arc',
        radius: rounded(piece.radius),
        angle: rounded(piece.angle, 1e6),
        bends: piece.turns === 'left' ? 'away' : 'towards',
      };

const rounded = (value: number, per = 1e4): number => Math.round(value * per) / per;

/** mm from points to a polyline at most. */
function furthestFrom(line: Contour, points: Contour): number {
  let most = 0;
  for (let i = 0; i < points.length; i += 2) {
    let least = Infinity;
    for (let k = 2; k < line.length && least > 0; k += 2)
      least = Math.min(least, squareToSegment(line[k - 2], line[k - 1], line[k], line[k + 1], points[i], points[i + 1]));
    most = Math.max(most, least);
  }
  return Math.sqrt(most);
}
