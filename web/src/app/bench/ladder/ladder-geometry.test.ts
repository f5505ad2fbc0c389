import fc from 'fast-check';
import { BREAK_PX, breakOf, rail, spread } from './ladder-geometry';

describe('rail', () => {
  it('is true to scale and reads back', () => {
    const scale = rail(5, -15, 400, 20);
    expect(scale.toPixel(5)).toBe(20);
    expect(scale.toPixel(-15)).toBe(380);
    expect(scale.toPixel(0) - scale.toPixel(5)).toBeCloseTo(90, 9);
    expect(scale.toHeight(scale.toPixel(-3.2))).toBeCloseTo(-3.2, 9);
  });
});

describe('a break in the rail', () => {
  it('leaves out most of a thick blank where nothing lies', () => {
    const gap = breakOf([6, 0, -4, -60])!;
    expect(gap).toEqual({ upper: -6.5, lower: -57.5 });
    const scale = rail(6, -60, 400, 20, gap);
    expect([scale.toPixel(6), scale.toPixel(-60)]).toEqual([20, expect.closeTo(380, 9)]);
    expect(scale.toPixel(gap.lower) - scale.toPixel(gap.upper)).toBeCloseTo(BREAK_PX, 9);
    // To scale on both sides of it, and larger than without.
    const perMm = scale.toPixel(-4) - scale.toPixel(-3);
    expect(perMm).toBeCloseTo(scale.toPixel(-59) - scale.toPixel(-58), 9);
    expect(perMm).toBeGreaterThan(3 * (360 / 66));
  });

  it('is none where levels are spread over the blank', () => {
    expect(breakOf([2, 0, -7, -12, -19])).toBeUndefined();
    expect(breakOf([0])).toBeUndefined();
  });

  it('reads back, falls from top to bottom, and keeps every level out of what is left out, for any levels', () => {
    const levels = fc
      .array(fc.integer({ min: -1000, max: 200 }), { minLength: 2, maxLength: 8 })
      .filter((z) => new Set(z).size > 1);
    fc.assert(
      fc.property(levels, fc.double({ min: 0, max: 1, noNaN: true }), (zs, at) => {
        const [top, bottom] = [Math.max(...zs), Math.min(...zs)];
        const gap = breakOf(zs);
        for (const z of zs) expect(gap !== undefined && z < gap.upper && z > gap.lower).toBe(false);
        const scale = rail(top, bottom, 500, 20, gap);
        const [low, high] = [bottom + at * (top - bottom), top];
        expect(scale.toHeight(scale.toPixel(low))).toBeCloseTo(low, 6);
        expect(scale.toPixel(low)).toBeGreaterThanOrEqual(scale.toPixel(high) - 1e-9);
        expect(scale.toPixel(bottom)).toBeCloseTo(480, 6);
      }),
    );
  });
});

describe('spread', () => {
  it('leaves labels where they wish to be when they have room', () => {
    expect(spread([10, 200, 100], 40, 0, 300)).toEqual([10, 200, 100]);
  });

  it('keeps order, distance and bounds for any wishes', () => {
    const wishes = fc.array(fc.integer({ min: 0, max: 500 }), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(wishes, (wanted) => {
        const places = spread(wanted, 40, 0, 500);
        const order = wanted.map((_, i) => i).sort((a, b) => wanted[a] - wanted[b] || a - b);
        for (let i = 1; i < order.length; i++) expect(places[order[i]] - places[order[i - 1]]).toBeGreaterThanOrEqual(40 - 1e-6);
        for (const place of places) {
          expect(place).toBeGreaterThanOrEqual(-1e-6);
          expect(place).toBeLessThanOrEqual(500 + 1e-6);
        }
      }),
    );
  });
});
