import ManifoldModule, { type CrossSection, type Manifold, type ManifoldToplevel } from 'manifold-3d';
import { type Contour } from '../src/geometry/index.js';
import { type Mesh } from '../src/mesh/index.js';

/** manifold-3d, a general geometry library that results are compared with. */
export async function referee(): Promise<ManifoldToplevel> {
  const module = await ManifoldModule();
  module.setup();
  return module;
}

const points = (contour: Contour): [number, number][] =>
  Array.from({ length: contour.length / 2 }, (_, i) => [contour[2 * i], contour[2 * i + 1]]);

/** Contours as a cross-section by the non-zero rule. */
export const crossSection = (m: ManifoldToplevel, contours: readonly Contour[]): CrossSection => {
  const rings = contours.filter((contour) => contour.length >= 6).map(points);
  // The constructor takes no empty list.
  return new m.CrossSection(
    rings.length > 0
      ? rings
      : [
          [
            [0, 0],
            [0, 0],
            [0, 0],
          ],
        ],
    'NonZero',
  );
};

/** A mesh as a manifold; throws where it is not one. */
export function manifoldOf(m: ManifoldToplevel, { positions, triangles }: Mesh): Manifold {
  const mesh = new m.Mesh({ numProp: 3, vertProperties: Float32Array.from(positions), triVerts: triangles });
  return new m.Manifold(mesh);
}
