import { beforeAll, expect } from '@jest/globals';
import type { ManifoldToplevel } from 'manifold-3d';
import { perimeter } from '../src/geometry/index.js';
import { type Evaluation, Evaluator } from '../src/relief/index.js';
import { type Side, type Sign } from '../src/sign/index.js';
import { isWatertight, type ReliefMesh, volume } from '../src/mesh/index.js';
import { solidOf, volumeOf } from '../src/solid/index.js';
import { type FontBook } from '../src/type/index.js';
import { loadedBook } from './fonts.js';
import { manifoldOf, referee } from './referee.js';
import { sliversIn } from './slivers.js';

/** What most tests of signs need: the shipped fonts, and the general library that results are compared with. */
export class Workshop {
  m!: ManifoldToplevel;
  book!: FontBook;

  constructor() {
    beforeAll(async () => {
      this.m = await referee();
      this.book = await loadedBook();
    });
  }

  /** An evaluation by an evaluator of its own, which remembers nothing. */
  evaluate(sign: Sign, side: Side = 'front'): Evaluation {
    return new Evaluator(this.book).evaluateLoaded(sign, side);
  }

  /**
   * The solid of an evaluation: closed, without slivers, and taken by a general library that finds the same volume.
   */
  soundSolid(evaluation: Evaluation): { readonly mesh: ReliefMesh; readonly mm3: number } {
    const mesh = solidOf(evaluation);
    expect(isWatertight(mesh)).toBe(true);
    expect(sliversIn(mesh)).toBe(0);
    const mm3 = volume(mesh);
    const theirs = manifoldOf(this.m, mesh);
    expect(theirs.status()).toBe('NoError');
    // It reads corners as single floats.
    expect(Math.abs(theirs.volume() - mm3)).toBeLessThan(1e-5 * mm3);
    // Of what is bent it is the volume in space. Slivers are taken out of the solid: a hundred-thousandth of a mm along the edge.
    const slivers = 1e-5 * perimeter([evaluation.blank]) * evaluation.sign.blank.thickness;
    if (!evaluation.sign.support) expect(Math.abs(volumeOf(evaluation) - mm3)).toBeLessThan(1e-6 * mm3 + slivers);
    return { mesh, mm3 };
  }
}
