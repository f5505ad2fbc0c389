import { type Mesh } from '../mesh/index.js';
import { ContextError, refuseTooLarge } from './context-error.js';
import { glbCorners, isGlb } from './read-glb.js';
import { binaryStl, type Corners, isBinaryStl, textStl } from './read-stl.js';

/** What an object is, from its file: it need not be closed. */
export interface ContextMesh extends Mesh {
  readonly kind: 'glb' | 'stl';
  /** Numbers of the triangles beside each, over its sides from the first corner on; −1 where there is none. */
  readonly beside: Int32Array;
}

/** Share of an object's size within which corners are one. */
const SAME = 1e-6;
/** mm that an object may be large, and is at least: one in metres is read as mm before its unit is told. */
const MOST_SIZE = 100_000;
const LEAST_SIZE = 0.001;

/**
 * An object from a binary glTF file, which is in metres, or from an STL file, which has no unit.
 * @param unit mm for each unit of an STL file
 * @throws ContextError that says what is wrong with it
 */
export async function readContext(bytes: Uint8Array, unit: number): Promise<ContextMesh> {
  refuseTooLarge(bytes.length);
  if (isGlb(bytes)) return joined('glb', await glbCorners(bytes));
  const corners = isBinaryStl(bytes) ? binaryStl(bytes) : textStl(asText(bytes));
  return joined(
    'stl',
    corners.map((value) => value * unit),
  );
}

/** As a text of single bytes, where it is one of an STL file. @throws ContextError where it is not */
function asText(bytes: Uint8Array): string {
  const begin = String.fromCharCode(...bytes.subarray(0, 80)).trimStart();
  if (!/^solid\b/iu.test(begin))
    throw new ContextError('The file is neither GLB (binary glTF 2.0) nor STL, or it is not complete: save it as one of them.');
  const pieces: string[] = [];
  for (let at = 0; at < bytes.length; at += 8192) pieces.push(String.fromCharCode(...bytes.subarray(at, at + 8192)));
  return pieces.join('');
}

/** Corners that lie in the same place become one; triangles without area are left out. */
function joined(kind: ContextMesh['kind'], corners: Corners): ContextMesh {
  const size = sizeOf(corners);
  const grid = 1 / (SAME * size);
  const numbers = new Map<string, number>();
  const [positions, triangles]: [number[], number[]] = [[], []];
  for (let t = 0; t < corners.length; t += 9) {
    const found = [0, 3, 6].map((k) => {
      const [x, y, z] = corners.subarray(t + k, t + k + 3);
      const key = `${Math.round(x * grid)},${Math.round(y * grid)},${Math.round(z * grid)}`;
      let number = numbers.get(key);
      if (number === undefined) {
        numbers.set(key, (number = positions.length / 3));
        positions.push(x, y, z);
      }
      return number;
    });
    if (found[0] !== found[1] && found[1] !== found[2] && found[2] !== found[0]) triangles.push(...found);
  }
  if (triangles.length === 0) throw new ContextError('The file has no triangles: save the object’s surface, not its lines.');
  const mesh = { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) };
  return { kind, ...mesh, beside: trianglesBeside(mesh) };
}

/** mm of its greatest extent. @throws ContextError where it is out of reason, or places are none */
function sizeOf(corners: Corners): number {
  const [low, high] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (let i = 0; i < corners.length; i++) {
    if (!Number.isFinite(corners[i]))
      throw new ContextError(`Corner ${Math.floor(i / 3) + 1} of the file is at no place (${corners[i]}).`);
    low[i % 3] = Math.min(low[i % 3], corners[i]);
    high[i % 3] = Math.max(high[i % 3], corners[i]);
  }
  if (corners.length === 0) throw new ContextError('The file has no triangles: save the object’s surface, not its lines.');
  const size = Math.max(...high.map((value, axis) => value - low[axis]));
  const furthest = Math.max(...[...low, ...high].map(Math.abs));
  if (size < LEAST_SIZE || size > MOST_SIZE || furthest > 10 * MOST_SIZE)
    throw new ContextError(
      `The object would be ${size.toPrecision(3)} mm large, and ${LEAST_SIZE} to ${MOST_SIZE} mm are shown: choose the unit that the file is in.`,
    );
  return size;
}

function trianglesBeside({ positions, triangles }: Mesh): Int32Array {
  const beside = new Int32Array(triangles.length).fill(-1);
  const corners = positions.length / 3;
  const waiting = new Map<number, number>();
  for (let i = 0; i < triangles.length; i++) {
    const [a, b] = [triangles[i], triangles[i % 3 === 2 ? i - 2 : i + 1]];
    const key = Math.min(a, b) * corners + Math.max(a, b);
    const other = waiting.get(key);
    if (other === undefined) waiting.set(key, i);
    else {
      beside[i] = Math.floor(other / 3);
      beside[other] = Math.floor(i / 3);
      waiting.delete(key);
    }
  }
  return beside;
}
