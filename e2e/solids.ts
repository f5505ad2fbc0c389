import { readFileSync } from 'node:fs';
import { strFromU8, unzipSync } from 'fflate';
import ManifoldModule from 'manifold-3d';

/** A solid as a general geometry library takes it. */
export interface FoundSolid {
  readonly status: string;
  /** mm³. */
  readonly volume: number;
}

/** The objects of a 3MF package. */
export async function solidsOf(path: string): Promise<FoundSolid[]> {
  const m = await ManifoldModule();
  m.setup();
  const text = strFromU8(unzipSync(new Uint8Array(readFileSync(path)))['3D/3dmodel.model']);
  return text
    .split('<object ')
    .slice(1)
    .map((object) => {
      const solid = new m.Manifold(
        new m.Mesh({
          numProp: 3,
          vertProperties: Float32Array.from(numbersOf(object, 'vertex', ['x', 'y', 'z'])),
          triVerts: Uint32Array.from(numbersOf(object, 'triangle', ['v1', 'v2', 'v3'])),
        }),
      );
      return { status: solid.status(), volume: solid.volume() };
    });
}

/** Attributes of all elements of a name, which all have them first and in this order: of many thousands. */
function numbersOf(text: string, element: string, attributes: readonly string[]): number[] {
  const pattern = new RegExp(`<${element} ${attributes.map((name) => `${name}="([^"]+)"`).join(' ')}`, 'gu');
  const numbers: number[] = [];
  for (const [, ...values] of text.matchAll(pattern)) for (const value of values) numbers.push(Number(value));
  if (numbers.length !== attributes.length * (text.split(`<${element} `).length - 1))
    throw new Error(`A ${element} is written otherwise.`);
  return numbers;
}

/** Volume in mm³ of a binary STL file, triangle by triangle. */
export function stlVolume(path: string): number {
  const bytes = readFileSync(path);
  let six = 0;
  for (let at = 84; at < bytes.length; at += 50) {
    const [a, b, c] = [12, 24, 36].map((from) => [0, 4, 8].map((k) => bytes.readFloatLE(at + from + k)));
    six += a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
  }
  return six / 6;
}
