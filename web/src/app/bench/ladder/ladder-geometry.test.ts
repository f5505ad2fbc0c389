import fc from 'fast-check';
import { rail, spread } from './ladder-geometry';

describe('rail', () => {
  it('is true to scale and reads back', () => {
    const scale = rail(5, -15, 400, 20);
    expect(scale.toPixel(5)).toBe(20);
    expect(scale.toPixel(-15)).toBe(380);
    expect(scale.toPixel(0) - scale.toPixel(5)).toBeCloseTo(90, 9);
    expect(scale.toHeight(scale.toPixel(-3.2))).toBeCloseTo(-3.2, 9);
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
