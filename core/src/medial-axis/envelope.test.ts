import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { type Basis, Envelope, POWERS, WAVES, type Weights } from './envelope.js';

interface Added {
  readonly weights: Weights;
  readonly from: number;
  readonly to: number;
}

const weight = fc.integer({ min: -40, max: 40 }).map((n) => n / 8);
const added: fc.Arbitrary<Added> = fc
  .tuple(weight, weight, weight, fc.integer({ min: 0, max: 30 }), fc.integer({ min: 1, max: 30 }))
  .map(([a, b, c, from, length]) => ({ weights: [a, b, c], from: from / 10, to: (from + length) / 10 }));

/** The least of all functions that hold at t, one after the other. */
const least = (basis: Basis, first: Weights, functions: readonly Added[], t: number): number =>
  Math.min(
    basis.value(first, t),
    ...functions.filter(({ from, to }) => t > from && t < to).map(({ weights }) => basis.value(weights, t)),
  );

const zerosOf = (basis: Basis, weights: Weights, from: number, to: number): number[] => {
  const out = new Float64Array(2);
  return [...out.subarray(0, basis.zeros(weights, from, to, out))];
};

describe('Envelope', () => {
  it.each([
    ['parabolas and lines', POWERS],
    ['waves', WAVES],
  ] as const)('is the least of %s everywhere, and covers its range once', (_, basis) => {
    fc.assert(
      fc.property(fc.array(added, { maxLength: 12 }), (functions) => {
        const first: Weights = [3, 0, 0];
        const envelope = new Envelope(basis, 0, 4, first, -1);
        functions.forEach(({ weights, from, to }, owner) => envelope.add(weights, owner, from, to));
        const { pieces } = envelope;
        expect([pieces[0].from, pieces[pieces.length - 1].to]).toEqual([0, 4]);
        pieces.forEach((piece, i) => {
          expect(piece.to).toBeGreaterThan(piece.from);
          if (i > 0) expect(piece.from).toBe(pieces[i - 1].to);
          for (const share of [0.1, 0.5, 0.83]) {
            const t = piece.from + share * (piece.to - piece.from);
            expect(Math.abs(basis.value(piece.weights, t) - least(basis, first, functions, t))).toBeLessThan(1e-9);
          }
          const own = piece.owner < 0 ? first : functions[piece.owner].weights;
          expect(piece.weights).toEqual(own);
        });
      }),
      { numRuns: 200 },
    );
  });

  it('finds zeros without losing digits: the roots of x² − 10⁸·x + 1 (the small one is 10⁻⁸, textbook)', () => {
    const [small, large] = zerosOf(POWERS, [1, -1e8, 1], -1, 1e9);
    expect(small / 1e-8).toBeCloseTo(1, 12);
    expect(large / 1e8).toBeCloseTo(1, 12);
    expect(zerosOf(POWERS, [1, 0, 1], -9, 9)).toEqual([]);
    expect(zerosOf(POWERS, [2, -1, 0], 0, 9)).toEqual([2]);
    expect(zerosOf(POWERS, [2, 0, 0], 0, 9)).toEqual([]);
    // cos t = 1/2 at ±60°, sin t = 0 at every half turn.
    expect(zerosOf(WAVES, [-0.5, 1, 0], -2, 2).map((t) => (t * 180) / Math.PI)).toEqual([
      expect.closeTo(-60, 9),
      expect.closeTo(60, 9),
    ]);
    expect(zerosOf(WAVES, [0, 0, 1], 1, 6).map((t) => t / Math.PI)).toEqual([expect.closeTo(1, 12)]);
    expect(zerosOf(WAVES, [3, 1, 1], -9, 9)).toEqual([]);
  });
});
