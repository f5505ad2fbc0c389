import { beforeAll, describe, expect, it } from '@jest/globals';
import type { Manifold, ManifoldToplevel } from 'manifold-3d';
import { Random } from '../../testing/random.js';
import { manifoldOf, referee } from '../../testing/referee.js';
import { type Mesh, volume } from '../mesh/index.js';
import { CombineError, combinedSolids, loopsOf, type Operation } from './index.js';

const OPERATIONS: readonly Operation[] = ['join', 'cut', 'common'];
let m: ManifoldToplevel;
beforeAll(async () => {
  m = await referee();
});

/** A solid of the reference library as a mesh of ours. */
function meshOf(solid: Manifold): Mesh {
  const { vertProperties, triVerts, numProp } = solid.getMesh();
  const positions = new Float64Array((3 * vertProperties.length) / numProp);
  for (let v = 0; v < positions.length / 3; v++)
    for (let k = 0; k < 3; k++) positions[3 * v + k] = vertProperties[numProp * v + k];
  return { positions, triangles: Uint32Array.from(triVerts) };
}

/** Volume by inclusion and exclusion, from the reference library. */
function theirVolume(a: Manifold, b: Manifold, operation: Operation): number {
  const both = a.intersect(b).volume();
  if (operation === 'common') return both;
  return operation === 'cut' ? a.volume() - both : a.volume() + b.volume() - both;
}

function check(a: Manifold, b: Manifold, within: number): void {
  const [ours, others] = [meshOf(a), meshOf(b)];
  // As our meshes have them: rounded to single precision by the other's interface.
  const [first, second] = [manifoldOf(m, ours), manifoldOf(m, others)];
  for (const operation of OPERATIONS) {
    const made = combinedSolids(ours, others, operation);
    const expected = theirVolume(first, second, operation);
    expect({ operation, off: Math.abs(volume(made) - expected) < within }).toEqual({ operation, off: true });
    if (made.triangles.length > 0) expect(Math.abs(manifoldOf(m, made).volume() - expected)).toBeLessThan(within + 0.01);
  }
}

describe('solids put together', () => {
  it('two boxes that meet, touch, lie in one another, or are the same', () => {
    const box = m.Manifold.cube([10, 10, 10]);
    const places = [
      [5, 5, 5],
      [10, 0, 0],
      [5, 0, 0],
      [0, 0, 0],
      [10, 10, 0],
      [20, 0, 0],
      [2, 3, 0],
    ] as const;
    // Those that touch in a line are parted there by a hair.
    for (const [x, y, z] of places)
      check(box, m.Manifold.cube([10, 10, 10]).translate(x, y, z), x === 10 && y === 10 ? 0.1 : 1e-6);
    check(box, m.Manifold.cube([4, 4, 4]).translate(3, 3, 3), 1e-6);
    check(box, m.Manifold.cube([4, 4, 10]).translate(3, 3, 0), 1e-6);
  });

  it('solids of all kinds that meet anyhow, as many as 150', () => {
    const random = new Random(4);
    for (let i = 0; i < 150; i++) {
      const [a, b] = [0, 1].map(() => {
        const kind = Math.floor(random.between(0, 4));
        const solid = [
          () => m.Manifold.cube([random.between(4, 20), random.between(4, 20), random.between(4, 20)], true),
          () => m.Manifold.sphere(random.between(4, 12), 24),
          () => m.Manifold.cylinder(random.between(4, 20), random.between(2, 9), random.between(0, 9), 20, true),
          () => m.Manifold.cube([14, 14, 6], true).subtract(m.Manifold.cylinder(20, 4, 4, 16, true)),
        ][kind]();
        return solid
          .rotate(random.between(0, 360), random.between(0, 360), random.between(0, 360))
          .translate(random.between(-8, 8), random.between(-8, 8), random.between(-8, 8));
      });
      check(a, b, 1e-5 * (a.volume() + b.volume()));
    }
  });

  it('say so where one of them is not closed', () => {
    const box = meshOf(m.Manifold.cube([10, 10, 10]));
    const open = { ...box, triangles: box.triangles.slice(3) };
    expect(() => combinedSolids(box, open, 'join')).toThrow(CombineError);
    expect(() => loopsOf([[0, 1], [1, 2]])).toThrow(CombineError); // prettier-ignore
  });
});
