import { describe, it } from '@jest/globals';
import { Evaluator } from '../core/src/relief/index.js';
import { solidOf, volume } from '../core/src/solid/index.js';
import { loadedBook } from '../core/src/testing/fonts.js';
import { crossSection, referee } from '../core/src/testing/referee.js';
import { plateOf } from './lettering.js';

/** Median of milliseconds over runs, after two that do not count. */
function median(runs: number, work: () => void): number {
  const times: number[] = [];
  for (let i = -2; i < runs; i++) {
    const began = performance.now();
    work();
    if (i >= 0) times.push(performance.now() - began);
  }
  return times.sort((a, b) => a - b)[Math.floor(times.length / 2)];
}

const report = (text: string): void => void process.stdout.write(`${text}\n`);

describe('core', () => {
  it('the solid of 440 letters on a plate against general 3D booleans', async () => {
    const [book, m] = [await loadedBook(), await referee()];
    const evaluator = new Evaluator(book);
    const sign = plateOf(440);
    const evaluation = evaluator.evaluateLoaded(sign);
    let ours = 0;
    let theirs = 0;
    const direct = median(9, () => {
      ours = volume(solidOf(evaluator.evaluateLoaded(sign)));
    });
    const { contours } = evaluation.parts[0];
    const general = median(3, () => {
      const plate = crossSection(m, [evaluation.blank]).extrude(12).translate(0, 0, -12);
      // One letter after the other, as one builds a sign with a general library: outer rings with their counters.
      const letters = crossSection(m, contours)
        .decompose()
        .map((letter) => letter.extrude(14).translate(0, 0, -12));
      theirs = m.Manifold.union([plate, ...letters]).volume();
    });
    report(
      `solid of 440 letters: ours ${direct.toFixed(0)} ms, 3D booleans ${general.toFixed(0)} ms, ratio ${(general / direct).toFixed(1)}` +
        ` (volumes differ by ${Math.abs(ours / theirs - 1).toExponential(1)})`,
    );
  }, 300_000);

  it('evaluation time a letter from 100 to 1600 letters', async () => {
    const book = await loadedBook();
    const perLetter = [100, 400, 1600].map((n) => {
      const sign = plateOf(n);
      const cold = median(7, () => void new Evaluator(book).evaluateLoaded(sign));
      return { n, us: (1000 * cold) / n };
    });
    report(
      `evaluation a letter: ${perLetter.map(({ n, us }) => `${n}: ${us.toFixed(0)} µs`).join(', ')}, ` +
        `growth ${(perLetter[2].us / perLetter[0].us).toFixed(2)}`,
    );
  }, 300_000);
});
