import { describe, expect, it } from '@jest/globals';
import {
  closedGlb,
  closedStl,
  closedThreeMf,
  NothingToWriteError,
  OpenSolidError,
  readGlb,
  readStl,
  readThreeMf,
  stlFile,
} from '@plain-relief/core/format';
import { type Finish, newSign } from '@plain-relief/core/sign';
import { type ColouredMesh } from '@plain-relief/core/solid';
import { faultReport } from './fault-report.js';
import { fileStem } from './make-file.js';

const FINISH: Finish = { id: 'red', name: 'red', colour: '#a5281f', gloss: 'matt' };
const DATE = new Date('2026-11-26T12:00:00Z');

/** Some of the triangles of a tetrahedron. */
function tetrahedron(...facets: readonly (readonly [number, number, number])[]): ColouredMesh {
  const mesh = {
    positions: Float64Array.of(0, 0, 0, 10, 0, 0, 0, 10, 0, 0, 0, 10),
    triangles: Uint32Array.from(facets.flat()),
    belongs: new Int32Array(facets.length),
  };
  return { mesh, finishes: [FINISH], wears: new Uint8Array(facets.length) } as unknown as ColouredMesh;
}
const ALL = [
  [0, 2, 1],
  [0, 1, 3],
  [0, 3, 2],
  [1, 2, 3],
] as const;

describe('files of solids', () => {
  it('hold what was written, read back', () => {
    const solid = tetrahedron(...ALL);
    for (const [read] of [
      [readStl(closedStl(solid.mesh, 'T'))],
      readThreeMf(closedThreeMf([{ name: 'blank', mesh: solid }], 'T', DATE)),
      [readGlb(closedGlb(solid, 'T'))],
    ]) {
      expect([read.positions.length / 3, read.triangles.length / 3]).toEqual([4, 4]);
      expect(Math.max(...read.positions)).toBeCloseTo(10, 4);
    }
  });

  it.each([
    ['a triangle is missing', ALL.slice(1)],
    ['one looks inwards', [[0, 1, 2] as const, ...ALL.slice(1)]],
    ['one is there twice', [ALL[0], ...ALL]],
    ['a flap hangs on it', [...ALL, [0, 1, 2] as const, [0, 2, 1] as const]],
  ])('are not given out where %s', (_, facets) => {
    const solid = tetrahedron(...facets);
    expect(() => closedStl(solid.mesh, 'T')).toThrow(OpenSolidError);
    expect(() => closedThreeMf([{ name: 'blank', mesh: solid }], 'T', DATE)).toThrow(OpenSolidError);
    expect(() => closedGlb(solid, 'T')).toThrow(
      /^The GLB file was not written: its solid is open at \d+ edges, the first at x /u,
    );
  });

  it('are not empty', () => {
    expect(() => closedStl(tetrahedron().mesh, 'T')).toThrow(NothingToWriteError);
    expect(() => closedThreeMf([], 'T', DATE)).toThrow(NothingToWriteError);
    expect(readStl(stlFile(tetrahedron().mesh, 'T')).triangles).toHaveLength(0);
  });

  it('leave a report of the sign and the place where they were refused', () => {
    const document = newSign('West gate', 'mm');
    let report = '';
    try {
      closedStl(tetrahedron(...ALL.slice(1)).mesh, 'T');
    } catch (error) {
      report = faultReport(error as OpenSolidError, document);
    }
    expect(JSON.parse(report)).toEqual({
      fault: 'open solid',
      file: 'STL',
      edges: 3,
      at: { x: expect.any(Number), y: expect.any(Number), z: expect.any(Number) },
      document,
    });
  });

  it('have names that are whole characters, whatever the title', () => {
    const name = fileStem('FH-0142', '𐐀'.repeat(200));
    expect(Array.from(name)).toHaveLength(80);
    expect(encodeURIComponent(name)).not.toBe('');
  });
});
