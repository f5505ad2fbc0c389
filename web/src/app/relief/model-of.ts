import { radians } from '@plain-relief/core/geometry';
import { FACE, heightColour } from '@plain-relief/core/drawing';
import { unitNormals } from '@plain-relief/core/mesh';
import { linearColour } from '@plain-relief/core/sign';
import { type ColouredMesh } from '@plain-relief/core/solid';
import type { ModelView } from './views';

/** Facets that meet at less than this are one curved surface: the cosine of 32°. */
const CREASE = Math.cos(radians(32));

/**
 * Triangles with the colours of their heights and of their finishes. Caps are flat; sides and slopes that bend gently are shaded
 * as the curves that they stand for.
 */
export function modelOf({ mesh, finishes, wears }: ColouredMesh, reach: number): ModelView {
  const { positions: p, triangles } = mesh;
  const n = triangles.length;
  const positions = new Float32Array(3 * n);
  const colours = new Float32Array(3 * n);
  const worn = new Float32Array(3 * n);
  const facets = unitNormals(p, triangles);
  const normals = smoothed(facets, triangles, p.length / 3);
  const side = linearColour(FACE).map((c) => c * 0.8);
  const ofFinish = finishes.map(({ colour }) => linearColour(colour));
  const caps = new Map<number, readonly number[]>();
  const { order, glosses } = byGloss(finishes, wears);
  const sorted = new Float32Array(3 * n);
  for (let place = 0; place < order.length; place++) {
    const t = 3 * order[place];
    let colour: readonly number[] = side;
    if (facets[t + 2] > 1e-6) {
      const z = (p[3 * triangles[t] + 2] + p[3 * triangles[t + 1] + 2] + p[3 * triangles[t + 2] + 2]) / 3;
      // Slopes in steps that nobody tells apart.
      const step = facets[t + 2] > 1 - 1e-9 ? z : Math.round(z * 50) / 50;
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

/** Normals of all corners of all triangles: the mean over the facets around that meet gently; level caps stay as they are. */
function smoothed(facets: Float64Array, triangles: Uint32Array, corners: number): Float32Array {
  const start = new Int32Array(corners + 1);
  for (const v of triangles) start[v + 1]++;
  for (let v = 0; v < corners; v++) start[v + 1] += start[v];
  const around = new Int32Array(triangles.length);
  const fill = start.slice(0, -1);
  for (let i = 0; i < triangles.length; i++) around[fill[triangles[i]]++] = i - (i % 3);
  const out = new Float32Array(3 * triangles.length);
  for (let i = 0; i < triangles.length; i++) {
    const own = i - (i % 3);
    let x = facets[own];
    let y = facets[own + 1];
    let z = facets[own + 2];
    if (Math.abs(z) < 1 - 1e-6) {
      const v = triangles[i];
      const [ox, oy, oz] = [x, y, z];
      for (let k = start[v]; k < start[v + 1]; k++) {
        const other = around[k];
        if (other === own || ox * facets[other] + oy * facets[other + 1] + oz * facets[other + 2] < CREASE) continue;
        x += facets[other];
        y += facets[other + 1];
        z += facets[other + 2];
      }
      const length = Math.sqrt(x * x + y * y + z * z) || 1;
      x /= length;
      y /= length;
      z /= length;
    }
    out[3 * i] = x;
    out[3 * i + 1] = y;
    out[3 * i + 2] = z;
  }
  return out;
}
