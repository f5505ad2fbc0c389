/// <reference lib="webworker" />
import { expose, transfer } from 'comlink';
import {
  ContextError,
  type ContextMesh,
  type Fit,
  fitted,
  type FitKind,
  lengthAlong,
  readContext,
  smoothFace,
} from '@plain-relief/core/context';

/** An object as it is shown: nine numbers a triangle, in mm as in its file. */
export interface ShownObject {
  readonly kind: ContextMesh['kind'];
  readonly corners: Float32Array;
  readonly min: readonly number[];
  readonly max: readonly number[];
}

/** What can be fitted to the triangles that are chosen, or why it cannot. */
export type FitAnswer =
  /** `height`: mm of the triangles along the axis. */
  { readonly kind: FitKind; readonly fit: Fit; readonly height: number } | { readonly kind: FitKind; readonly refusal: string };

export interface ChosenFace {
  /** Numbers of triangles, ascending. */
  readonly triangles: Uint32Array;
  readonly answers: readonly FitAnswer[];
}

const KINDS: readonly FitKind[] = ['plane', 'cylinder', 'cone'];
let mesh: ContextMesh | undefined;
let chosen = new Set<number>();

/** Reads one object, and finds faces of it; the page ends this worker when it takes too long. */
const desk = {
  /** @returns a sentence where it cannot be read */
  async read(bytes: ArrayBuffer, unit: number): Promise<ShownObject | string> {
    try {
      mesh = await readContext(new Uint8Array(bytes), unit);
    } catch (error) {
      if (error instanceof ContextError) return error.message;
      throw error;
    }
    chosen = new Set();
    const { kind, positions, triangles } = mesh;
    const corners = new Float32Array(3 * triangles.length);
    const [min, max] = [
      [Infinity, Infinity, Infinity],
      [-Infinity, -Infinity, -Infinity],
    ];
    triangles.forEach((corner, i) => {
      for (let axis = 0; axis < 3; axis++) {
        const value = positions[3 * corner + axis];
        corners[3 * i + axis] = value;
        min[axis] = Math.min(min[axis], value);
        max[axis] = Math.max(max[axis], value);
      }
    });
    return transfer({ kind, corners, min, max }, [corners.buffer]);
  },

  /** Chooses the face of a triangle, or adds it to what is chosen; the same once more takes it out again. */
  choose(triangle: number, turn: number, isAdding: boolean): ChosenFace {
    if (!mesh) throw new Error('Nothing was read.');
    const face = smoothFace(mesh, triangle, turn);
    const isTaken = isAdding && chosen.has(triangle);
    if (!isAdding) chosen = new Set();
    for (const t of face) {
      if (isTaken) chosen.delete(t);
      else chosen.add(t);
    }
    return { triangles: Uint32Array.from(chosen).sort(), answers: KINDS.map(answerOf) };
  },
};
export type ContextDesk = typeof desk;

function answerOf(kind: FitKind): FitAnswer {
  try {
    const fit = fitted(kind, mesh!, chosen);
    return { kind, fit, height: fit.kind === 'plane' ? 0 : lengthAlong(mesh!, chosen, fit.axis) };
  } catch (error) {
    if (error instanceof ContextError) return { kind, refusal: error.message };
    throw error;
  }
}

expose(desk);
