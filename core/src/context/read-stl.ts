import { ContextError, refuseTooMany } from './context-error.js';

const HEADER_BYTES = 84;
const FACET_BYTES = 50;
const DIGITS = /[-+.\deE]+/gu;

/** Corners of triangles one after the other, nine numbers each, as the file has them. */
export type Corners = Float64Array;

/** Whether bytes are a binary STL file: as long as its count of triangles says. Some begin with “solid” as text files do. */
export function isBinaryStl(bytes: Uint8Array): boolean {
  if (bytes.length < HEADER_BYTES) return false;
  const count = viewOf(bytes).getUint32(HEADER_BYTES - 4, true);
  return bytes.length === HEADER_BYTES + FACET_BYTES * count;
}

/** @throws ContextError where a number is none */
export function binaryStl(bytes: Uint8Array): Corners {
  const view = viewOf(bytes);
  const count = view.getUint32(HEADER_BYTES - 4, true);
  refuseTooMany(count);
  const out = new Float64Array(9 * count);
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 9; k++) out[9 * t + k] = view.getFloat32(HEADER_BYTES + FACET_BYTES * t + 12 + 4 * k, true);
  return out;
}

/** The text form: the places behind every “vertex”, three a triangle. @throws ContextError where that is not so */
export function textStl(text: string): Corners {
  const out: number[] = [];
  for (let at = text.indexOf('vertex'); at >= 0; at = text.indexOf('vertex', at + 6)) {
    const end = text.indexOf('\n', at);
    const line = text.slice(at + 6, end < 0 ? at + 200 : Math.min(end, at + 200));
    const numbers = (line.match(DIGITS) ?? []).map(Number);
    if (numbers.length < 3 || !numbers.slice(0, 3).every(Number.isFinite)) {
      const row = text.slice(0, at).split('\n').length;
      throw new ContextError(`Line ${row} has “vertex${line.slice(0, 40)}” where three numbers are to follow.`);
    }
    out.push(numbers[0], numbers[1], numbers[2]);
    refuseTooMany(Math.floor(out.length / 9));
  }
  if (out.length === 0 || out.length % 9 !== 0)
    throw new ContextError(`The file ends within a triangle: it has ${out.length / 3} corners, and each triangle has three.`);
  return Float64Array.from(out);
}

const viewOf = (bytes: Uint8Array): DataView => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
