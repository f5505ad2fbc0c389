import { type BlockFace, faceAt } from '../sign/index.js';
import { type SupportSurface } from './surface.js';

/** The faces of a block, each where it is in space. What lies beside a face in the plan lies beside it in space. */
export class BlockSurface implements SupportSurface {
  readonly isDevelopable = true;
  readonly room = { behind: Infinity, front: Infinity };
  /** The face that was asked for last: neighbouring places are mostly on one. */
  private last: BlockFace;

  constructor(private readonly faces: readonly BlockFace[]) {
    this.last = faces[0];
  }

  place(x: number, y: number, z: number, out: Float64Array, at: number): void {
    placeOnFace(this.faceOf(x, y), x, y, z, out, at);
  }

  normal(x: number, y: number, out: Float64Array, at: number): void {
    out.set(this.faceOf(x, y).out, at);
  }

  stretch(): readonly [number, number] {
    return [1, 1];
  }

  creases(): readonly [] {
    return [];
  }

  private faceOf(x: number, y: number): BlockFace {
    return (this.last = faceAt([this.last, ...this.faces], x, y)!);
  }
}

/** Writes the place in space of a place of the plan, as the plan of one face goes on beyond it. */
export function placeOnFace(face: BlockFace, x: number, y: number, z: number, out: Float64Array, at: number): void {
  const { middle, across, up, out: outwards } = face;
  const [dx, dy] = [x - face.x, y - face.y];
  for (let k = 0; k < 3; k++) out[at + k] = middle[k] + dx * across[k] + dy * up[k] + z * outwards[k];
}
