import { strToU8 } from 'fflate';
import { smoothNormals, unitNormals } from '../mesh/index.js';
import { type Finish, linearColour } from '../sign/index.js';
import { type ColouredMesh } from '../solid/index.js';

const ROUGHNESS: Readonly<Record<Finish['gloss'], number>> = { matt: 0.9, satin: 0.5, gloss: 0.15, metal: 0.35 };

const MM_PER_METRE = 1000;
const FLOAT = 5126;
const ARRAY_BUFFER = 34962;

/**
 * A binary glTF file (glTF 2.0, Khronos; ISO/IEC 12113): metres, y up, the face of the sign looking to +z; one primitive a finish
 * with its colour, roughness and metalness, flat normals so that edges are crisp.
 */
export function glbFile({ mesh, finishes, wears, heights }: ColouredMesh, title: string): Uint8Array {
  const { positions: p, triangles } = mesh;
  const facets = unitNormals(p, triangles);
  // What is bent is shaded as the curve that its chords stand for.
  const smooth = heights && smoothNormals(facets, triangles, p.length / 3);
  const counts = finishes.map((_, i) => wears.reduce((sum, wear) => sum + (wear === i ? 1 : 0), 0));
  const views: object[] = [];
  const accessors: object[] = [];
  const primitives: object[] = [];
  const bytes = new Uint8Array(counts.reduce((sum, n) => sum + n, 0) * 3 * 24);
  const floats = new Float32Array(bytes.buffer);
  let at = 0;
  finishes.forEach((_, i) => {
    const n = 3 * counts[i];
    if (n === 0) return;
    const [normalsAt, start] = [at + 3 * n, at];
    const least = [Infinity, Infinity, Infinity];
    const most = [-Infinity, -Infinity, -Infinity];
    let k = 0;
    for (let f = 0; f < wears.length; f++) {
      if (wears[f] !== i) continue;
      const corners = [3 * triangles[3 * f], 3 * triangles[3 * f + 1], 3 * triangles[3 * f + 2]];
      corners.forEach((corner, c) => {
        for (let axis = 0; axis < 3; axis++) {
          const value = Math.fround(p[corner + axis] / MM_PER_METRE);
          floats[start + 3 * k + axis] = value;
          floats[normalsAt + 3 * k + axis] = smooth ? smooth[3 * (3 * f + c) + axis] : facets[3 * f + axis];
          least[axis] = Math.min(least[axis], value);
          most[axis] = Math.max(most[axis], value);
        }
        k++;
      });
    }
    views.push(
      { buffer: 0, byteOffset: 4 * start, byteLength: 12 * n, target: ARRAY_BUFFER },
      { buffer: 0, byteOffset: 4 * normalsAt, byteLength: 12 * n, target: ARRAY_BUFFER },
    );
    accessors.push(
      { bufferView: views.length - 2, componentType: FLOAT, count: n, type: 'VEC3', min: least, max: most },
      { bufferView: views.length - 1, componentType: FLOAT, count: n, type: 'VEC3' },
    );
    primitives.push({ attributes: { POSITION: accessors.length - 2, NORMAL: accessors.length - 1 }, material: i });
    at = normalsAt + 3 * n;
  });
  const json = {
    asset: { version: '2.0', generator: 'Plain Relief' },
    scene: 0,
    scenes: [{ nodes: [0] }],
    nodes: [{ mesh: 0, name: title }],
    meshes: [{ name: title, primitives }],
    materials: finishes.map(({ name, colour, gloss }) => ({
      name,
      pbrMetallicRoughness: {
        baseColorFactor: [...linearColour(colour), 1],
        metallicFactor: gloss === 'metal' ? 1 : 0,
        roughnessFactor: ROUGHNESS[gloss],
      },
    })),
    buffers: [{ byteLength: bytes.length }],
    bufferViews: views,
    accessors,
  };
  return container(strToU8(JSON.stringify(json)), bytes);
}

/** Header and two chunks, each padded to four bytes. */
function container(json: Uint8Array, binary: Uint8Array): Uint8Array {
  const [jsonLength, binaryLength] = [4 * Math.ceil(json.length / 4), 4 * Math.ceil(binary.length / 4)];
  const out = new Uint8Array(12 + 8 + jsonLength + 8 + binaryLength);
  const view = new DataView(out.buffer);
  const put = (at: number, ...values: number[]) => values.forEach((value, i) => view.setUint32(at + 4 * i, value, true));
  put(0, 0x46546c67, 2, out.length, jsonLength, 0x4e4f534a);
  out.fill(0x20, 20, 20 + jsonLength);
  out.set(json, 20);
  put(20 + jsonLength, binaryLength, 0x004e4942);
  out.set(binary, 28 + jsonLength);
  return out;
}
