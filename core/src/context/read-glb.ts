import { type mat4, type Node, type Primitive, WebIO } from '@gltf-transform/core';
import { ContextError, refuseTooMany } from './context-error.js';
import { type Corners } from './read-stl.js';

const MM_PER_METRE = 1000;
/** How primitives of triangles are put together (glTF 2.0, 3.7.2.1). */
const MODES: Readonly<Record<number, 'list' | 'strip' | 'fan'>> = { 4: 'list', 5: 'strip', 6: 'fan' };
const MAGIC = 0x46546c67;

/** Whether bytes are a binary glTF file. */
export const isGlb = (bytes: Uint8Array): boolean =>
  bytes.length >= 12 && new DataView(bytes.buffer, bytes.byteOffset, 12).getUint32(0, true) === MAGIC;

/** All triangles of the scene of a binary glTF file, in mm. @throws ContextError where it cannot be read */
export async function glbCorners(bytes: Uint8Array): Promise<Corners> {
  const root = await opened(bytes);
  const scene = root.getDefaultScene() ?? root.listScenes()[0];
  const out: number[] = [];
  scene?.traverse((node) => addNode(node, out));
  return Float64Array.from(out);
}

async function opened(bytes: Uint8Array) {
  try {
    return (await new WebIO().readBinary(bytes)).getRoot();
  } catch (error) {
    const { message } = error as Error;
    // What it needs is written in the file: compression of meshes, above all.
    const wants = /extension,? "?([A-Za-z0-9_]+)/u.exec(message)?.[1];
    throw new ContextError(
      wants
        ? `The file needs ${wants}, which is not read here: save it without compression.`
        : `The file is no glTF 2.0 that can be read (${message.slice(0, 120)}): save it as GLB once more.`,
    );
  }
}

function addNode(node: Node, out: number[]): void {
  const matrix = node.getWorldMatrix();
  for (const primitive of node.getMesh()?.listPrimitives() ?? []) addPrimitive(primitive, matrix, out);
}

function addPrimitive(primitive: Primitive, matrix: mat4, out: number[]): void {
  const mode = MODES[primitive.getMode()];
  const places = primitive.getAttribute('POSITION');
  if (!mode || !places) return;
  const indices = primitive.getIndices();
  const count = indices?.getCount() ?? places.getCount();
  const cornerOf = (i: number): number => indices?.getScalar(i) ?? i;
  const at: number[] = [];
  const add = (...corners: number[]): void => {
    for (const corner of corners) {
      if (corner >= places.getCount()) throw new ContextError(`The file uses corner ${corner} of ${places.getCount()}.`);
      const [x, y, z] = places.getElement(corner, at);
      for (let row = 0; row < 3; row++)
        out.push(MM_PER_METRE * (matrix[row] * x + matrix[4 + row] * y + matrix[8 + row] * z + matrix[12 + row]));
    }
    refuseTooMany(Math.floor(out.length / 9));
  };
  if (mode === 'list') for (let i = 0; i + 2 < count; i += 3) add(cornerOf(i), cornerOf(i + 1), cornerOf(i + 2));
  else
    for (let i = 2; i < count; i++) {
      const [a, b] = mode === 'fan' ? [0, i - 1] : i % 2 === 0 ? [i - 2, i - 1] : [i - 1, i - 2];
      add(cornerOf(a), cornerOf(b), cornerOf(i));
    }
}
