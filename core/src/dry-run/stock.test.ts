import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { type Motion, placeOn, readProgram } from '../program/index.js';
import { cuspHeight, rise, stepoverFor, type ToolForm, veeDepth } from '../tooling/index.js';
import { Stock } from './index.js';

const moves = (...lines: readonly string[]): Motion[] =>
  [...readProgram(lines.join('\n'))].filter((step): step is Motion => step.kind === 'feed' || step.kind === 'rapid');
const cutAll = (stock: Stock, form: ToolForm, ...lines: readonly string[]) =>
  moves('F900', ...lines).map((motion) => stock.cut(motion, form));
const lowest = (stock: Stock): number => {
  let least = Infinity;
  for (let row = 0; row < stock.rows; row++)
    for (let column = 0; column < stock.columns; column++) least = Math.min(least, stock.heightAt(column, row));
  return least;
};

describe('profiles of tools', () => {
  it('give the depth of a vee, the cusp of a ball nose, and the stepover for it', () => {
    // A 90° vee stands as deep as half the groove is wide; at 60°, by tan 30°.
    expect(veeDepth(6, 90)).toBeCloseTo(3, 12);
    expect(veeDepth(6, 60)).toBeCloseTo(3 / Math.tan(Math.PI / 6), 12);
    expect(veeDepth(6, 90, 0.5)).toBeCloseTo(2.75, 12);
    expect(rise({ kind: 'vee', diameter: 12, angle: 90, tip: 0 }, 3)).toBeCloseTo(veeDepth(6, 90), 12);
    // r = 3, s = 1: 3 − √(9 − 0.25) = 0.0420 mm.
    expect(cuspHeight(3, 1)).toBeCloseTo(0.04196, 5);
    expect(stepoverFor(3, cuspHeight(3, 1))).toBeCloseTo(1, 12);
    expect(rise({ kind: 'ball', diameter: 6 }, 0.5)).toBeCloseTo(cuspHeight(3, 1), 12);
    expect(rise({ kind: 'end', diameter: 6 }, 3.01)).toBe(Infinity);
  });
});

describe('a stock that is cut', () => {
  it('loses the volume of a slot with round ends, and of a ring', () => {
    const slot = new Stock({ x: -20, y: -10 }, 40, 20, 0, 0.05);
    const [, , removed] = cutAll(slot, { kind: 'end', diameter: 6 }, 'G0 X-10 Z5', 'G1 Z-2', 'X10');
    // The plunge took the disc at the beginning.
    const disc = Math.PI * 9 * 2;
    expect((removed.volumeMm3 + disc) / (20 * 6 * 2 + disc)).toBeCloseTo(1, 2);
    expect(removed.deepest).toBeCloseTo(2, 5);
    const ring = new Stock({ x: -20, y: -20 }, 40, 40, 0, 0.05);
    const all = cutAll(ring, { kind: 'end', diameter: 4 }, 'G0 X10 Z5', 'G1 Z-1', 'G3 X10 Y0 I-10 J0');
    const volume = all.reduce((sum, { volumeMm3 }) => sum + volumeMm3, 0);
    expect(volume / (Math.PI * (12 ** 2 - 8 ** 2))).toBeCloseTo(1, 3);
  });

  it('has cusps between passes of a ball nose, and a vee’s groove as wide as it is deep', () => {
    // Places lie on the middle between two passes, where the ridge is.
    const field = new Stock({ x: -6.025, y: -6.025 }, 12, 12, 0, 0.05);
    const form: ToolForm = { kind: 'ball', diameter: 6 };
    const passes = Array.from({ length: 13 }, (_, i) => `G0 X-12 Y${i - 6}\nG1 Z-2\nX12\nG0 Z5`);
    cutAll(field, form, 'G0 Z5', ...passes);
    let highest = -Infinity;
    for (let row = 20; row < field.rows - 20; row++) highest = Math.max(highest, field.heightAt(120, row));
    expect(highest + 2).toBeCloseTo(cuspHeight(3, 1), 3);
    const groove = new Stock({ x: -6, y: -6 }, 12, 12, 0, 0.02);
    cutAll(groove, { kind: 'vee', diameter: 12, angle: 60, tip: 0 }, 'G0 X-9 Z5', 'G1 Z-3', 'X9');
    let cut = 0;
    for (let row = 0; row < groove.rows; row++) if (groove.heightAt(300, row) < -1e-6) cut++;
    expect(veeDepth(cut * 0.02, 60)).toBeCloseTo(3, 1);
  });

  it('is cut by a rapid move that is not high enough, and by none that is', () => {
    const stock = new Stock({ x: 0, y: 0 }, 20, 20, 0, 0.1);
    const [above, into] = cutAll(stock, { kind: 'end', diameter: 3 }, 'G0 X10 Y10 Z0.5', 'G0 X15 Z-0.2');
    expect([above.deepest, into.deepest > 0.1]).toEqual([0, true]);
    expect(lowest(stock)).toBeCloseTo(-0.2, 5);
  });

  it('is exactly as high at its places as the lowest of the tool that passed over them, for any tool and move', () => {
    const tool = fc.oneof(
      fc.record({ kind: fc.constant('end' as const), diameter: fc.integer({ min: 1, max: 8 }) }),
      fc.record({ kind: fc.constant('ball' as const), diameter: fc.integer({ min: 1, max: 8 }) }),
      fc.record({
        kind: fc.constant('vee' as const),
        diameter: fc.integer({ min: 2, max: 8 }),
        angle: fc.integer({ min: 20, max: 120 }),
        tip: fc.constantFrom(0, 0.3, 1),
      }),
    );
    const at = fc.integer({ min: -60, max: 60 }).map((n) => n / 10);
    const depth = fc.integer({ min: -50, max: 5 }).map((n) => n / 10);
    fc.assert(
      fc.property(
        tool,
        at,
        at,
        depth,
        at,
        at,
        depth,
        fc.constantFrom('G1', 'G2 R', 'G3 R', 'G2 R-', 'G3 R-'),
        (form, x, y, z, x2, y2, z2, way) => {
          const stock = new Stock({ x: -5, y: -5 }, 10, 10, 0, 0.5);
          const reach = Math.hypot(x2 - x, y2 - y);
          const turn = way !== 'G1' && reach > 0.1 ? `${way}${reach * 0.7}` : 'G1';
          const [, motion] = moves('F900', `G0 X${x} Y${y} Z${z}`, `${turn} X${x2} Y${y2} Z${z2}`);
          stock.cut(motion, form);
          const SAMPLES = 2500;
          for (let row = 0; row < stock.rows; row += 3) {
            for (let column = 0; column < stock.columns; column += 3) {
              const place = stock.placeOf(column, row);
              let least = 0;
              // A place at the very edge of the tool may be passed over between two samples, or not.
              let isAtEdge = false;
              for (let i = 0; i <= SAMPLES; i++) {
                const tip = placeOn(motion, i / SAMPLES);
                const distance = Math.hypot(place.x - tip.x, place.y - tip.y);
                if (Math.abs(distance - form.diameter / 2) < 0.03) isAtEdge = true;
                least = Math.min(least, tip.z + rise(form, distance));
              }
              if (!isAtEdge) expect(Math.abs(stock.heightAt(column, row) - least)).toBeLessThan(0.02);
            }
          }
        },
      ),
      { numRuns: 120, seed: 2 },
    );
  });

  it('has no more places than can be kept', () => {
    expect(() => new Stock({ x: 0, y: 0 }, 4000, 4000, 0, 0.1)).toThrow('choose a coarser grid');
  });
});
