import { describe, expect, it } from '@jest/globals';
import { generatedSign } from '../../testing/sign-generator.js';
import { manifoldOf } from '../../testing/referee.js';
import { addShape, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { area } from '../geometry/index.js';
import { isWatertight, type Mesh, meshBounds, volume } from '../mesh/index.js';
import { type Axis, cutByPlane, planeSection, solidOf } from './index.js';

const workshop = new Workshop();

function stepped(): Mesh {
  const sign = bareSign(80, 40, 10);
  addShape(sign, [40, 20], { kind: 'raise', by: 4 });
  addShape(sign, 12, { kind: 'cut-through' }, { x: 0, y: 0 });
  return solidOf(workshop.evaluate(sign));
}

describe('a solid that is cut by a plane', () => {
  it.each<[Axis, number, number]>([
    // Through the hole: 40 × 10 and 20 × 4 less 12 × 14; beside it; level through the raised field.
    [0, 0, 40 * 10 + 20 * 4 - 12 * 14],
    [0, 30, 400],
    [1, 15, 800],
    [2, 2, 40 * 20 - Math.PI * 36],
  ])('along axis %i at %f has a face of %f mm², and its sides make the whole again', (axis, at, mm2) => {
    const solid = stepped();
    expect(area(planeSection(solid, axis, at)) / mm2).toBeCloseTo(1, 3);
    const [low, high] = cutByPlane(solid, axis, at)!;
    expect([isWatertight(low.mesh), isWatertight(high.mesh)]).toEqual([true, true]);
    expect(volume(low.mesh) + volume(high.mesh)).toBeCloseTo(volume(solid), 3);
    expect(meshBounds(low.mesh).max[axis]).toBeCloseTo(at, 3);
    expect(meshBounds(high.mesh).min[axis]).toBeCloseTo(at, 3);
    expect(low.from.some((triangle) => triangle < 0)).toBe(true);
    // Faces of the cut, which look the way the axis does.
    const caps = [...low.from].flatMap((triangle, t) => (triangle < 0 ? [t] : []));
    for (const t of caps)
      for (let k = 0; k < 3; k++) expect(low.mesh.positions[3 * low.mesh.triangles[3 * t + k] + axis]).toBeCloseTo(at, 3);
  });

  it('gives what a general library finds on either side, for generated signs', () => {
    for (let seed = 0; seed < 8; seed++) {
      const solid = solidOf(workshop.evaluate(generatedSign(seed, 'plain', workshop.book.catalogue)));
      if (solid.triangles.length === 0) continue;
      const { min, max } = meshBounds(solid);
      for (const axis of [(seed % 2) as 0 | 1]) {
        const at = min[axis] + (max[axis] - min[axis]) * (0.2 + 0.05 * seed);
        // A plane that runs along an edge closes a little aside.
        const parts = [0, 0.013, 0.029].map((aside) => cutByPlane(solid, axis, at + aside)).find((each) => each !== undefined);
        expect([seed, axis, parts !== undefined]).toEqual([seed, axis, true]);
        const normal: [number, number, number] = [0, 0, 0];
        normal[axis] = 1;
        const [theirs] = manifoldOf(workshop.m, solid).splitByPlane(normal, meshBounds(parts![0].mesh).max[axis]);
        const [low, high] = parts!.map(({ mesh }) => (mesh.triangles.length > 0 ? volume(mesh) : 0));
        expect(Math.abs(low + high - volume(solid))).toBeLessThan(1e-5 * volume(solid));
        expect(Math.abs(high - theirs.volume())).toBeLessThan(1e-3 * volume(solid));
      }
    }
  });

  it('has sockets on both sides, as deep and wide as they are asked', () => {
    const sign = bareSign(80, 40, 10);
    const solid = solidOf(workshop.evaluate(sign));
    const sockets = [-12, 12].map((u) => ({ u, v: -5, radius: 3, deep: 8 }));
    const [low, high] = cutByPlane(solid, 0, 5, sockets)!;
    const without = cutByPlane(solid, 0, 5)!;
    const each = Math.PI * 9 * 8;
    expect((volume(without[0].mesh) - volume(low.mesh)) / (2 * each)).toBeCloseTo(1, 2);
    expect((volume(without[1].mesh) - volume(high.mesh)) / (2 * each)).toBeCloseTo(1, 2);
    for (const { mesh } of [low, high]) expect(manifoldOf(workshop.m, mesh).status()).toBe('NoError');
  });

  it('leaves all of it on one side of a plane that misses it', () => {
    const solid = stepped();
    const [low, high] = cutByPlane(solid, 0, 300)!;
    expect([low.mesh.triangles.length, high.mesh.triangles.length]).toEqual([solid.triangles.length, 0]);
    expect(planeSection(solid, 0, 300)).toEqual([]);
  });
});
