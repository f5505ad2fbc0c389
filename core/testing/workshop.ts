import { beforeAll } from '@jest/globals';
import type { ManifoldToplevel } from 'manifold-3d';
import { type Evaluation, Evaluator } from '../src/relief/index.js';
import type { Side, Sign } from '../src/sign/index.js';
import type { FontBook } from '../src/type/index.js';
import { loadedBook } from './fonts.js';
import { referee } from './referee.js';

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
}
