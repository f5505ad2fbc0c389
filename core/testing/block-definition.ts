import type { Manifold, ManifoldToplevel, Vec3 } from 'manifold-3d';
import { bounds } from '../src/geometry/index.js';
import { type Mesh } from '../src/mesh/index.js';
import { type BlockFace, type LaidBlock } from '../src/sign/index.js';
import { manifoldOf } from './referee.js';

/** The hull of the corners of a block, by the reference library. */
export function hullOf(m: ManifoldToplevel, faces: readonly BlockFace[]): Manifold {
  const corners = new Set(faces.flatMap((face) => face.corners.map((corner) => corner.join(' '))));
  return m.Manifold.hull([...corners].map((key) => key.split(' ').map(Number) as unknown as Vec3));
}

/** Brings what lies about the middle of a face to where that is in space. */
export function onFace(solid: Manifold, { across, up, out, middle }: BlockFace): Manifold {
  return solid.transform([...across, 0, ...up, 0, ...out, 0, ...middle, 1] as unknown as Parameters<Manifold['transform']>[0]);
}

/** A block by the definition: less what every face takes out of what is behind it, with what it adds. @param flat the solid of the plan */
export function blockByDefinition(m: ManifoldToplevel, flat: Mesh, { faces, depth }: LaidBlock): Manifold {
  const whole = manifoldOf(m, flat);
  const [away, more]: [Manifold[], Manifold[]] = [[], []];
  for (const face of faces) {
    const { minX, minY, maxX, maxY } = bounds([face.outline])!;
    const [wide, high] = [maxX - minX + 2, maxY - minY + 2];
    const own = whole.intersect(m.Manifold.cube([wide, high, 4 * depth + 4000]).translate(minX - 1, minY - 1, -2 * depth - 2000));
    const corners = Array.from({ length: face.outline.length / 2 }, (_, i): [number, number] => [
      face.outline[2 * i],
      face.outline[2 * i + 1],
    ]);
    const outline = new m.CrossSection([corners], 'NonZero');
    // A hair over the face: surfaces of both would lie in one another there.
    const slab = outline.extrude(depth).translate(0, 0, -depth);
    const put = (solid: Manifold): Manifold => onFace(solid.translate(-face.x, -face.y, 0), face);
    away.push(put(slab.subtract(own)));
    more.push(put(own.intersect(m.Manifold.cube([wide, high, 2000]).translate(minX - 1, minY - 1, 0))));
  }
  const left = away.reduce((all, solid) => all.subtract(solid), hullOf(m, faces));
  return more.reduce((all, solid) => all.add(solid), left);
}
