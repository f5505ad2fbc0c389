import { arcPiece, type Curve, type CurvePiece, EllipseCurve, PieceCurve, radians, straightPiece } from '../../geometry/index.js';
import { type LinePiece, type Support } from '../document/schema-support.js';

type Swept = Extract<Support, { kind: 'swept' }>;
type Bent = Extract<Support, { kind: 'bent' }>;

/** The line of the ground plan that a profile is led along. */
export const lineCurve = (line: Swept['line'], centre?: number): Curve =>
  line.kind === 'ellipse'
    ? new EllipseCurve(line.width / 2, line.depth, line.bends)
    : new PieceCurve(line.pieces.map(facePiece), centre);

/** The profile that is led along a line. */
export const profileCurve = ({ profile, centreUp }: Swept): Curve => new PieceCurve(profile.map(facePiece), centreUp);

/** The pieces of a bent sheet of this thickness. */
export const sheetPieces = ({ pieces, neutral }: Bent, thickness: number): CurvePiece[] =>
  pieces.map((piece) => sheetPiece(piece, thickness, neutral));

/** A piece whose radius is that of the face. */
export const facePiece = (piece: LinePiece): CurvePiece =>
  piece.kind === 'straight' ? straightPiece(piece.length) : arcPiece(piece.radius, piece.angle, piece.bends);

/** A piece of a bent sheet: the radius is that inside the bend, and the length is that of the neutral layer. */
function sheetPiece(piece: LinePiece, thickness: number, neutral: number): CurvePiece {
  if (piece.kind === 'straight') return straightPiece(piece.length);
  const { radius, angle, bends } = piece;
  // Bent away from the reader the face is outside.
  const face = bends === 'away' ? radius + thickness : radius;
  return arcPiece(face, angle, bends, bendAllowance(radius, angle, thickness, neutral));
}

/**
 * How long a bend is in the flat sheet: its angle times the radius of the layer that keeps its length.
 * @param radius inside the bend @param angle in degrees @param neutral where that layer is, in percent of the thickness from inside
 */
export const bendAllowance = (radius: number, angle: number, thickness: number, neutral: number): number =>
  radians(angle) * (radius + (neutral / 100) * thickness);

/**
 * How long, in the plan, the line is that a sign is bent along, and for a profile that is led along one how long that is; undefined where it goes
 * on without end.
 */
export function lineLengths(support: Support, thickness: number): { readonly line?: number; readonly profile?: number } {
  const lengthOf = ({ from, to }: Curve): number => to - from;
  if (support.kind === 'bent') return { line: lengthOf(new PieceCurve(sheetPieces(support, thickness))) };
  if (support.kind !== 'swept') return {};
  const profile = support.profile.length > 0 ? lengthOf(profileCurve(support)) : undefined;
  return { line: lengthOf(lineCurve(support.line)), ...(profile !== undefined && { profile }) };
}
