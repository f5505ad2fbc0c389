import { facePiece, laidBlock, lineCurve, profileCurve, sheetPieces, type Sign, type Support } from '../sign/index.js';
import { arcPiece, type CurvePiece, PieceCurve, snap } from '../geometry/index.js';
import { BlockSurface } from './block.js';
import { ConeSurface } from './cone.js';
import { DomeSurface } from './dome.js';
import { ExtrudedSurface } from './extruded.js';
import { type Room, type SupportSurface } from './surface.js';
import { SweptSurface } from './swept.js';

/** Where the plan of a sign is in space; undefined where it is flat. */
export function surfaceOf({ support, blank: { thickness } }: Pick<Sign, 'support' | 'blank'>): SupportSurface | undefined {
  if (!support) return undefined;
  const known = surfaces.get(support);
  if (known?.thickness === thickness) return known.surface;
  const surface = surfaceOfSupport(support, thickness);
  surfaces.set(support, { thickness, surface });
  return surface;
}

/** Surfaces by supports, which nobody changes. */
const surfaces = new WeakMap<Support, { readonly thickness: number; readonly surface: SupportSurface }>();

/** @param thickness of the sheet that is bent */
export function surfaceOfSupport(support: Support, thickness: number): SupportSurface {
  switch (support.kind) {
    case 'cylinder': {
      const { radius, facing, axis = 'upright', round = false } = support;
      const bends = facing === 'outside' ? 'away' : 'towards';
      const curve = new PieceCurve([arcPiece(radius, 360, bends)]);
      return new ExtrudedSurface(
        curve,
        axis,
        roomOf([arcPiece(radius, 360, bends)]),
        round ? 2 * snap(Math.PI * radius) : undefined,
      );
    }
    case 'cone':
      return new ConeSurface(support, support.facing, support.round ?? false);
    case 'bent': {
      const pieces = sheetPieces(support, thickness);
      return new ExtrudedSurface(new PieceCurve(pieces, support.centre), support.axis ?? 'upright', roomOf(pieces));
    }
    case 'swept': {
      const profile = support.profile.map(facePiece);
      const { line } = support;
      const rooms = [roomOf(profile), line.kind === 'ellipse' ? ellipseRoom(line) : roomOf(line.pieces.map(facePiece))];
      const room = { behind: Math.min(...rooms.map((r) => r.behind)), front: Math.min(...rooms.map((r) => r.front)) };
      const isStraight = profile.every(({ bend }) => bend === 0);
      return new SweptSurface(lineCurve(line, support.centre), profileCurve(support), isStraight, room);
    }
    case 'dome':
      return new DomeSurface(support.radius, support.facing);
    case 'block':
      return new BlockSurface(laidBlock(support).faces);
  }
}

function roomOf(pieces: readonly CurvePiece[]): Room {
  let [behind, front] = [Infinity, Infinity];
  for (const { bend } of pieces) {
    if (bend > 0) behind = Math.min(behind, 1 / bend);
    if (bend < 0) front = Math.min(front, -1 / bend);
  }
  return { behind, front };
}

/** The least radius of an ellipse of semi-axes a and b is the lesser of a²/b and b²/a. */
function ellipseRoom({ width, depth, bends }: { width: number; depth: number; bends: 'away' | 'towards' }): Room {
  const [a, b] = [width / 2, depth];
  const least = Math.min((a * a) / b, (b * b) / a);
  return bends === 'away' ? { behind: least, front: Infinity } : { behind: Infinity, front: least };
}
