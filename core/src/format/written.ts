import { strFromU8, unzipSync } from 'fflate';
import { edgeFaults, type Mesh } from '../mesh/index.js';

/**
 * Solids read back from the bytes that were written, as whoever gets a file reads them: corners at the same place are one, triangles
 * without area by that are none.
 */

/** The solids of a file are not closed: it must not leave. */
export class OpenSolidError extends Error {
  /**
   * @param file what was to be written, such as "STL"
   * @param edges how many edges are not met by exactly two triangles, one each way
   * @param at the middle of one of them in mm
   */
  constructor(
    readonly file: string,
    readonly edges: number,
    readonly at: readonly [number, number, number],
  ) {
    const [x, y, z] = at.map((value) => value.toFixed(2));
    super(
      `The ${file} file was not written: its solid is open at ${edges} edges, the first at x ${x}, y ${y}, z ${z} mm. ` +
        'This is a fault of the application: please send in the report. Moving or resizing the part there a little often gets round it.',
    );
    this.name = 'OpenSolidError';
  }
}

/** There is no solid to write. */
export class NothingToWriteError extends Error {
  constructor(file: string) {
    super(`The ${file} file was not written: nothing is left of the sign. Its notes say what takes everything away.`);
    this.name = 'NothingToWriteError';
  }
}

/** Whether a file may leave. @throws OpenSolidError, NothingToWriteError */
export function assertClosed(file: string, meshes: readonly Mesh[]): void {
  if (meshes.every(({ triangles }) => triangles.length === 0)) throw new NothingToWriteError(file);
  for (const mesh of meshes) {
    const { count, at } = edgeFaults(mesh);
    if (at) throw new OpenSolidError(file, count, at);
  }
}

const HEADER_BYTES = 84;
const FACET_BYTES = 50;

/** The solid of a binary STL file. */
export function readStl(bytes: Uint8Array): Mesh {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const facets = view.getUint32(HEADER_BYTES - 4, true);
  const welded = new Welded(3 * facets);
  for (let f = 0; f < facets; f++) {
    const at = HEADER_BYTES + FACET_BYTES * f + 12;
    for (let k = 0; k < 3; k++)
      welded.add(
        view.getFloat32(at + 12 * k, true),
        view.getFloat32(at + 12 * k + 4, true),
        view.getFloat32(at + 12 * k + 8, true),
      );
  }
  return welded.mesh();
}

/** The solids of a 3MF package, by the numbers that its triangles name. */
export function readThreeMf(bytes: Uint8Array): Mesh[] {
  const model = strFromU8(unzipSync(bytes)['3D/3dmodel.model']);
  return model
    .split('<object ')
    .slice(1)
    .map((object) => {
      const positions: number[] = [];
      for (const [, x, y, z] of object.matchAll(/<vertex x="([^"]*)" y="([^"]*)" z="([^"]*)"/gu))
        positions.push(Number(x), Number(y), Number(z));
      const triangles: number[] = [];
      for (const [, a, b, c] of object.matchAll(/<triangle v1="(\d+)" v2="(\d+)" v3="(\d+)"/gu))
        triangles.push(Number(a), Number(b), Number(c));
      return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) };
    });
}

const GLB_JSON_AT = 20;

/** The solid of a binary glTF file, all its primitives together, in mm. */
export function readGlb(bytes: Uint8Array): Mesh {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const length = view.getUint32(GLB_JSON_AT - 8, true);
  const gltf = JSON.parse(strFromU8(bytes.subarray(GLB_JSON_AT, GLB_JSON_AT + length))) as {
    readonly meshes: readonly { readonly primitives: readonly { readonly attributes: { readonly POSITION: number } }[] }[];
    readonly accessors: readonly { readonly bufferView: number; readonly count: number }[];
    readonly bufferViews: readonly { readonly byteOffset: number }[];
  };
  const body = GLB_JSON_AT + length + 8;
  const accessors = gltf.meshes.flatMap(({ primitives }) =>
    primitives.map(({ attributes }) => gltf.accessors[attributes.POSITION]),
  );
  const welded = new Welded(accessors.reduce((sum, { count }) => sum + count, 0));
  for (const { bufferView, count } of accessors) {
    const at = body + gltf.bufferViews[bufferView].byteOffset;
    for (let i = 0; i < count; i++)
      welded.add(
        1000 * view.getFloat32(at + 12 * i, true),
        1000 * view.getFloat32(at + 12 * i + 4, true),
        1000 * view.getFloat32(at + 12 * i + 8, true),
      );
  }
  return welded.mesh();
}

/** Corners of triangles in turn; those at one place are one. */
class Welded {
  private readonly positions: number[] = [];
  private readonly corners: Uint32Array;
  private count = 0;
  /** Numbers of corners by a hash of their place, in open addressing. */
  private readonly table: Int32Array;
  private readonly mask: number;
  private readonly bits = new DataView(new ArrayBuffer(24));

  constructor(expected: number) {
    this.corners = new Uint32Array(expected);
    const size = 2 ** Math.ceil(Math.log2(Math.max(16, 2 * expected)));
    this.table = new Int32Array(size).fill(-1);
    this.mask = size - 1;
  }

  add(x: number, y: number, z: number): void {
    const { table, mask, positions } = this;
    let at = this.hash(x, y, z) & mask;
    for (; table[at] >= 0; at = (at + 1) & mask) {
      const p = 3 * table[at];
      if (positions[p] === x && positions[p + 1] === y && positions[p + 2] === z) break;
    }
    if (table[at] < 0) {
      table[at] = positions.length / 3;
      positions.push(x, y, z);
    }
    this.corners[this.count++] = table[at];
  }

  mesh(): Mesh {
    const { corners } = this;
    const triangles = new Uint32Array(corners.length);
    let n = 0;
    for (let t = 0; t < corners.length; t += 3) {
      const [a, b, c] = [corners[t], corners[t + 1], corners[t + 2]];
      if (a === b || b === c || c === a) continue;
      triangles[n++] = a;
      triangles[n++] = b;
      triangles[n++] = c;
    }
    return { positions: Float64Array.from(this.positions), triangles: triangles.slice(0, n) };
  }

  /** FNV-1a over the bits. */
  private hash(x: number, y: number, z: number): number {
    const { bits } = this;
    // −0 and 0 are one place.
    bits.setFloat64(0, x + 0);
    bits.setFloat64(8, y + 0);
    bits.setFloat64(16, z + 0);
    let hash = 0x811c9dc5;
    for (let i = 0; i < 24; i += 4) {
      hash = Math.imul(hash ^ bits.getInt32(i), 0x01000193);
      hash ^= hash >>> 15;
    }
    return hash;
  }
}
