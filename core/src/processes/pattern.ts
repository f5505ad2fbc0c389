import { type Mesh } from '../mesh/index.js';
import { isUpright, type Sign, type Tier } from '../sign/index.js';

/** Draft that is asked of a pattern, in degrees from upright (common practice for sand, no source). */
export const USUAL_DRAFT = 2;

/** Degrees by which sides lean less than asked because their corners lie on a grid. */
const ROUNDING = 0.05;

/** Sides that lean less than they should for a pattern to leave the sand, by how much. */
export interface DraftLack {
  readonly areaMm2: number;
  /** Degrees that the steepest of them leans; below 0 it leans the other way. */
  readonly least: number;
  /** The middle of the largest of them. */
  readonly at: { readonly x: number; readonly y: number; readonly z: number } | undefined;
}

/** A pattern for casting: as large as the metal was before it shrank by so many percent (patternmaker's allowance: size × (1 + s)). */
export function patternOf({ positions, triangles }: Mesh, shrinkage: number): Mesh {
  const scale = 1 + shrinkage / 100;
  return { positions: positions.map((mm) => mm * scale), triangles };
}

/**
 * A sign whose tiers lean by the draft where their sides were upright, so that a pattern of it leaves the sand; their outlines stay what
 * they are at the foot. The edge of the blank, holes, and sides that lean some other way stay as they are: {@link draftLack} tells them.
 * @param draft degrees from upright
 */
export function withDraft(sign: Sign, draft: number): Sign {
  const drafted = (tier: Tier): Tier =>
    tier.edge || isUpright(tier.action) ? tier : { ...tier, edge: { kind: 'sloped', angle: draft, sized: 'foot' } };
  return { ...sign, parts: sign.parts.map((part) => ({ ...part, tiers: part.tiers.map(drafted) })) };
}

/**
 * The sides of a solid that lean less than the draft from upright, as it is drawn from the sand by its back: what looks up and what looks
 * straight down is none of them.
 * @param draft degrees
 * @param isSide which triangles are looked at
 */
export function draftLack(
  { positions: p, triangles }: Mesh,
  draft: number,
  isSide: (triangle: number) => boolean = () => true,
): DraftLack {
  let [areaMm2, least, largest] = [0, Infinity, 0];
  let at: DraftLack['at'];
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const across = Math.hypot(nx, ny);
    // The back lies on the board.
    if (across < 1e-9 || nz < -20 * across || !isSide(t / 3)) continue;
    const leans = (Math.atan2(nz, across) * 180) / Math.PI;
    if (leans >= draft - ROUNDING) continue;
    const own = Math.hypot(nx, ny, nz) / 2;
    areaMm2 += own;
    least = Math.min(least, leans);
    if (own > largest) {
      largest = own;
      at = { x: (p[a] + p[b] + p[c]) / 3, y: (p[a + 1] + p[b + 1] + p[c + 1]) / 3, z: (p[a + 2] + p[b + 2] + p[c + 2]) / 3 };
    }
  }
  return { areaMm2, least: at ? least : draft, at };
}
