import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { sliversIn } from '../../testing/slivers.js';
import { isWatertight } from './closed.js';
import { surfaceArea, volume } from './mesh.js';
import { facetNormals, unitNormals } from './facets.js';
import { LEAST_AREA, withoutSlivers } from './slivers.js';

interface Parts {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
  readonly belongs: Int32Array;
}

/** A box of 10 × 8 × 6 mm in 12 triangles, its sides parts 1 to 6. */
function box(): Parts {
  const positions = Float64Array.from(
    [0, 1].flatMap((z) => [0, 1].flatMap((y) => [0, 1].flatMap((x) => [10 * x, 8 * y, 6 * z]))),
  );
  const quads = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ];
  const triangles = Uint32Array.from(quads.flatMap(([a, b, c, d]) => [a, b, c, a, c, d]));
  return { positions, triangles, belongs: Int32Array.from(quads.flatMap((_, i) => [i + 1, i + 1])) };
}

/** The mesh with a corner set into one of its triangles, at shares of its corners. */
function split({ positions, triangles, belongs }: Parts, f: number, u: number, v: number): Parts {
  const corners = [triangles[3 * f], triangles[3 * f + 1], triangles[3 * f + 2]];
  const at = (k: number) => [0, 1, 2].map((axis) => positions[3 * corners[k] + axis]);
  const [a, b, c] = [at(0), at(1), at(2)];
  const added = positions.length / 3;
  const place = [0, 1, 2].map((axis) => u * a[axis] + v * b[axis] + (1 - u - v) * c[axis]);
  const rest = Array.from(triangles).filter((_, i) => Math.floor(i / 3) !== f);
  const [p, q, r] = corners;
  return {
    positions: Float64Array.from([...positions, ...place]),
    triangles: Uint32Array.from([...rest, p, q, added, q, r, added, r, p, added]),
    belongs: Int32Array.from([...Array.from(belongs).filter((_, i) => i !== f), belongs[f], belongs[f], belongs[f]]),
  };
}

describe('facet normals', () => {
  it('are as long as twice the area and look outwards', () => {
    const { positions, triangles } = box();
    const normals = facetNormals(positions, triangles);
    expect([...normals.slice(0, 3)]).toEqual([0, 0, -80]);
    expect(surfaceArea(box())).toBe(2 * (80 + 60 + 48));
    expect([...unitNormals(positions, triangles).slice(6, 9)]).toEqual([0, 0, 1]);
    expect([...unitNormals([0, 0, 0], [0, 0, 0])]).toEqual([0, 0, 0]);
  });
});

describe('withoutSlivers', () => {
  it('gives a mesh without slivers back as it is', () => {
    const mesh = box();
    expect(withoutSlivers(mesh)).toBe(mesh);
  });

  it('draws a corner onto the one that it nearly is, and turns the diagonal of a flat triangle', () => {
    // Near a corner: two short edges. Near the middle of an edge: a triangle as flat as that.
    for (const [u, v] of [
      [1 - 2e-8, 1e-8],
      [0.5, 0.5 - 1e-9],
    ]) {
      const broken = split(box(), 3, u, v);
      expect(sliversIn(broken)).toBeGreaterThan(0);
      const mended = withoutSlivers(broken);
      expect(sliversIn(mended)).toBe(0);
      expect(isWatertight(mended)).toBe(true);
      expect(volume(mended)).toBeCloseTo(480, 6);
      expect(surfaceArea(mended)).toBeCloseTo(376, 4);
    }
  });

  it('keeps any mesh closed, its volume, and every side with what it is part of', () => {
    const place = fc.record({
      f: fc.nat(11),
      u: fc.constantFrom(1e-9, 1e-7, 1e-5, 0.3, 0.5, 0.9),
      v: fc.constantFrom(1e-9, 1e-7, 1e-5, 0.05, 0.09),
    });
    fc.assert(
      fc.property(fc.array(place, { maxLength: 12 }), (places) => {
        const broken = places.reduce((mesh, { f, u, v }) => split(mesh, f, u, v), box());
        const mended = withoutSlivers(broken);
        expect(isWatertight(mended)).toBe(true);
        expect(Math.abs(volume(mended) - 480)).toBeLessThan(0.01);
        expect(sliversIn(mended)).toBeLessThanOrEqual(sliversIn(broken));
        const normals = unitNormals(mended.positions, mended.triangles);
        const sides = [-3, 3, -2, 2, -1, 1];
        mended.belongs.forEach((part, f) => {
          const axis = Math.abs(sides[part - 1]) - 1;
          const size = Math.hypot(...facetNormals(mended.positions, mended.triangles.slice(3 * f, 3 * f + 3)));
          if (size / 2 < LEAST_AREA) return;
          // The last resort may turn what is tiny.
          const least = size / 2 < 2e-5 ? 0.1 : 0.5;
          expect(normals[3 * f + axis] * Math.sign(sides[part - 1])).toBeGreaterThan(least);
        });
      }),
    );
  });

  it('leaves the rim of an open surface where it is', () => {
    const whole = box();
    const open = { ...whole, triangles: whole.triangles.slice(6), belongs: whole.belongs.slice(2) };
    const broken = split(open, 0, 1 - 2e-8, 1e-8);
    const rim = (mesh: Parts) => {
      const edges = new Map<string, number>();
      for (let i = 0; i < mesh.triangles.length; i++) {
        const [a, b] = [mesh.triangles[i], mesh.triangles[i % 3 === 2 ? i - 2 : i + 1]];
        const key = [Math.min(a, b), Math.max(a, b)].join();
        edges.set(key, (edges.get(key) ?? 0) + 1);
      }
      return [...edges]
        .filter(([, count]) => count === 1)
        .map(([key]) => key)
        .sort();
    };
    expect(rim(withoutSlivers(broken))).toEqual(rim(open));
  });
});
