import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { referee, crossSection } from '../../testing/referee.js';
import { area, type Contour, STEPS_PER_MM } from '../geometry/index.js';
import { arrange, areasByLabel } from './arrangement.js';
import { NodingMemory } from './noding-memory.js';
import { ringsOf } from './rings.js';

/** A star of many corners about a place, all on the grid. */
function star(cx: number, cy: number, size: number, corners: number, seed: number): Contour {
  const out: number[] = [];
  for (let i = 0; i < corners; i++) {
    const angle = (2 * Math.PI * i) / corners;
    const radius = size * (0.6 + 0.4 * Math.abs(Math.sin(seed * (i + 1))));
    for (const value of [cx + radius * Math.cos(angle), cy + radius * Math.sin(angle)])
      out.push(Math.round(value * STEPS_PER_MM) / STEPS_PER_MM);
  }
  return Float64Array.from(out);
}

const label = (windings: readonly number[]): number =>
  windings.filter((_, i) => i % 2 === 0).reduce((sum, layer) => sum + 2 ** layer, 0);

const placed = fc.record({
  x: fc.integer({ min: 0, max: 5 }),
  y: fc.integer({ min: 0, max: 3 }),
  shape: fc.integer({ min: 1, max: 3 }),
  layer: fc.integer({ min: 0, max: 2 }),
  aside: fc.constantFrom(0, 0, 0.3, 4.9),
});

describe('NodingMemory', () => {
  it('gives the same places as without it, whatever was remembered before (property)', async () => {
    const m = await referee();
    const memory = new NodingMemory();
    fc.assert(
      fc.property(fc.array(placed, { minLength: 6, maxLength: 14 }), (list) => {
        const layers: Contour[][] = [[], [], []];
        for (const { x, y, shape, layer, aside } of list) layers[layer].push(star(x * 11 + aside, y * 11, 5, 60, shape));
        const constraints = list.flatMap(({ x, y }) =>
          [x * 11 - 2, y * 11, x * 11 + 2, y * 11 + 1].map((mm) => mm * STEPS_PER_MM),
        );
        const constrained = { segments: constraints, on: () => true };
        const plain = areasByLabel(arrange(layers, label, constrained));
        const first = arrange(layers, label, { ...constrained, memory });
        const again = arrange(layers, label, { ...constrained, memory });
        const fresh = arrange(layers, label, { ...constrained, memory: new NodingMemory() });
        // What comes out does not hang on what went before.
        expect(again).toEqual(first);
        expect(fresh.base).toEqual(first.base);
        const areas = areasByLabel(first);
        for (const key of new Set([...plain.keys(), ...areas.keys()]))
          expect(Math.abs((areas.get(key) ?? 0) - (plain.get(key) ?? 0))).toBeLessThan(1e-3);
        const covered = area(ringsOf(first, (each) => each > 0));
        expect(Math.abs(covered - crossSection(m, layers.flat()).area())).toBeLessThan(2e-3);
      }),
      { numRuns: 40 },
    );
  });

  it('takes clusters that nearly touch as one, and far ones apart', () => {
    const memory = new NodingMemory();
    const square = (x: number, size: number): Contour => Float64Array.of(x, 0, x + size, 0, x + size, size, x, size);
    // A hundred squares in a row, each a grid step from the next, and many more far away.
    const row = Array.from({ length: 60 }, (_, i) => square(i * (1 + 1 / STEPS_PER_MM), 1));
    const far = Array.from({ length: 60 }, (_, i) => square(200 + 3 * i, 1));
    const { edges } = arrange([[...row, ...far]], (windings) => (windings.length > 0 ? 1 : 0), {
      segments: [],
      on: () => false,
      memory,
    });
    expect(edges.lo.length).toBe(480);
  });
});
