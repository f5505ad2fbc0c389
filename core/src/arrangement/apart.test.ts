import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { area, circle, type Contour, movedBy, rectangle, ShapeCache } from '../geometry/index.js';
import { connectedComponents, touchingGroups, widestGap } from './apart.js';
import { union } from './combine.js';
import { ContourSet } from './contour-set.js';
import { neighbourhoods } from './isolated-glyphs.js';

const square = (x: number, y: number, side = 10): Contour => Float64Array.of(x, y, x + side, y, x + side, y + side, x, y + side);

describe('outlines apart', () => {
  it('are grouped by what touches: side by side, one in the other, and over others in between', () => {
    const outlines = [[square(0, 0)], [square(10, 0)], [square(30, 0, 40)], [square(40, 5)], [square(200, 0)]];
    expect(
      touchingGroups(outlines)
        .map((group) => group.sort())
        .sort(),
    ).toEqual([[0, 1], [2, 3], [4]]);
    expect(
      neighbourhoods(outlines, 9)
        .map((group) => group.length)
        .sort(),
    ).toEqual([1, 2, 2]);
    expect(
      neighbourhoods(outlines, 25)
        .map((group) => group.length)
        .sort(),
    ).toEqual([1, 4]);
    expect(touchingGroups([])).toEqual([]);
  });

  it('keep glyphs as they are, join those that touch, and take the rest as one', () => {
    const [a, b, c] = [[square(0, 0)], [square(5, 5)], [circle(60, 0, 8)]];
    const found = connectedComponents(ContourSet.of([a, b, c], [square(100, 0)]));
    expect(found).toHaveLength(3);
    expect(found.map((outline) => Math.round(area(outline)))).toEqual([175, Math.round(area(c)), 100]);
    expect(found[1]).toBe(c);
  });

  it('come to the same area as all joined, whatever they are', () => {
    const piece = fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 60 }), fc.integer({ min: 2, max: 20 }));
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 9 }), (pieces) => {
        const letters = pieces.map(([x, y, side]) => [square(x * 1.003, y * 0.997, side)]);
        const sum = connectedComponents(ContourSet.of(letters)).reduce((all, outline) => all + area(outline), 0);
        expect(Math.abs(sum - area(union(letters.flat())))).toBeLessThan(0.05);
      }),
    );
  });
});

describe('ShapeCache', () => {
  it('finds an outline again wherever it was moved on the grid, and says how far', () => {
    const cache = new ShapeCache<number>();
    let made = 0;
    const get = (contours: readonly Contour[], name = 'area') => cache.get(contours, name, (rings) => (made++, area(rings)));
    const letter = [rectangle(10, 6, 2), circle(0, 0, 1)];
    const first = get(letter);
    const [x, y] = letter[0];
    expect([first.dx, first.dy, made]).toEqual([x, y, 1]);
    const moved = get(movedBy(letter, 12.5, -3.25));
    expect([moved.value, moved.dx, moved.dy, made]).toEqual([first.value, x + 12.5, y - 3.25, 1]);
    get(letter, 'another name');
    get([rectangle(10, 6, 2)]);
    get([rectangle(10, 6, 2), circle(0, 0.000125, 1)]);
    expect(made).toBe(4);
  });

  it('works every value out with the first point at the origin, wherever the shape was met first', () => {
    const cache = new ShapeCache<readonly Contour[]>();
    const copied = (rings: readonly Contour[]) => rings.map((ring) => ring.slice());
    const letter = [square(100.125, -7.5), square(102, -5.25, 3)];
    cache.get(movedBy(letter, 31, 8), 'before', copied);
    for (const [dx, dy] of [
      [0, 0],
      [-3, 7.25],
    ]) {
      const placed = movedBy(letter, dx, dy);
      const found = cache.get(placed, 'copied', copied);
      expect([...found.value[0].slice(0, 2)]).toEqual([0, 0]);
      expect(movedBy(found.value, found.dx, found.dy)).toEqual(placed);
    }
  });
});

describe('widestGap', () => {
  it('is the longest edge of the minimum spanning tree: squares in a row, and an odd one out', () => {
    const square = (x: number, y: number): Contour[] => [Float64Array.of(x, y, x + 1, y, x + 1, y + 1, x, y + 1)];
    expect(widestGap([square(0, 0), square(2, 0), square(3.5, 0), square(6, 0)])).toBeCloseTo(1.5, 9);
    // The far one is reached over the diagonal: 3-4-5.
    expect(widestGap([square(0, 0), square(1, 0), square(5, 5)])).toBeCloseTo(5, 9);
    expect(widestGap([square(0, 0)])).toBe(0);
    expect(widestGap(Array.from({ length: 1501 }, (_, i) => square(2 * i, 0)))).toBeUndefined();
  });
});
