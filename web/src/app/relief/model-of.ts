import { FACE, heightColour } from '@plain-relief/core/drawing';
import { smoothNormals, unitNormals } from '@plain-relief/core/mesh';
import { linearColour } from '@plain-relief/core/sign';
import { type ColouredMesh } from '@plain-relief/core/solid';
import type { ModelView } from './views';

/**
 * Triangles with the colours of their heights and of their finishes. Caps are flat; sides and slopes that bend gently are shaded
 * as the curves that they stand for.
 */
export function modelOf({ mesh, finishes, wears, heights }: ColouredMesh, reach: number): ModelView {
  const { positions: p, triangles } = mesh;
  const n = triangles.length;
  const positions = new Float32Array(3 * n);
  const colours = new Float32Array(3 * n);
  const worn = new Float32Array(3 * n);
  const facets = unitNormals(p, triangles);
  const normals = smoothNormals(facets, triangles, p.length / 3);
  const side = linearColour(FACE).map((c) => c * 0.8);
  const ofFinish = finishes.map(({ colour }) => linearColour(colour));
  const caps = new Map<number, readonly number[]>();
  const { order, glosses } = byGloss(finishes, wears);
  const sorted = new Float32Array(3 * n);
  for (let place = 0; place < order.length; place++) {
    const t = 3 * order[place];
    let colour: readonly number[] = side;
    const height = heights?.[t / 3];
    if (height === undefined ? facets[t + 2] > 1e-6 : !Number.isNaN(height)) {
      const z = height ?? (p[3 * triangles[t] + 2] + p[3 * triangles[t + 1] + 2] + p[3 * triangles[t + 2] + 2]) / 3;
      // Slopes in steps that nobody tells apart.
      const step = height !== undefined || facets[t + 2] > 1 - 1e-9 ? z : Math.round(z * 50) / 50;
      let known = caps.get(step);
      if (!known) caps.set(step, (known = linearColour(heightColour(step, reach))));
      colour = known;
    }
    const finish = ofFinish[wears[t / 3]];
    for (let k = 0; k < 3; k++) {
      const at = 3 * (3 * place + k);
      const from = 3 * triangles[t + k];
      for (let axis = 0; axis < 3; axis++) {
        sorted[at + axis] = normals[3 * (t + k) + axis];
        positions[at + axis] = p[from + axis];
        colours[at + axis] = colour[axis];
        worn[at + axis] = finish[axis];
      }
    }
  }
  return { positions, normals: sorted, colours, finishes: worn, glosses };
}

const GLOSSES = ['matt', 'satin', 'gloss', 'metal'] as const;

/** Triangles in the order of their gloss, and how many corners of each follow each other. */
function byGloss(finishes: ColouredMesh['finishes'], wears: Int32Array): { order: Int32Array } & Pick<ModelView, 'glosses'> {
  const order = new Int32Array(wears.length);
  let at = 0;
  const glosses = GLOSSES.map((gloss) => {
    const from = at;
    for (let f = 0; f < wears.length; f++) if (finishes[wears[f]].gloss === gloss) order[at++] = f;
    return { gloss, count: 3 * (at - from) };
  });
  return { order, glosses };
}
