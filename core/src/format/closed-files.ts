import { type Mesh } from '../mesh/index.js';
import { type ColouredMesh } from '../solid/index.js';
import { glbFile } from './glb.js';
import { stlFile } from './stl.js';
import { type NamedMesh, threeMfFile } from './three-mf.js';
import { assertClosed, readGlb, readStl, readThreeMf } from './written.js';

/**
 * Files of solids, read back as they were written before they leave: one whose solid is not closed is never given out.
 * All throw OpenSolidError where it is not, and NothingToWriteError where there is none.
 */

export function closedStl(mesh: Mesh, title: string): Uint8Array {
  const bytes = stlFile(mesh, title);
  assertClosed('STL', [readStl(bytes)]);
  return bytes;
}

export function closedThreeMf(pieces: readonly NamedMesh[], title: string, date: Date): Uint8Array {
  const bytes = threeMfFile(pieces, title, date);
  assertClosed('3MF', readThreeMf(bytes));
  return bytes;
}

export function closedGlb(solid: ColouredMesh, title: string): Uint8Array {
  const bytes = glbFile(solid, title);
  assertClosed('GLB', [readGlb(bytes)]);
  return bytes;
}
