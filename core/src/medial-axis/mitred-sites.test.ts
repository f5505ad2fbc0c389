import { beforeAll, describe, expect, it } from '@jest/globals';
import { type FontBook, placeLetter, setBlock } from '../type/index.js';
import { loadedBook } from '../../testing/fonts.js';
import { Area } from '../../testing/brute-area.js';
import { Random } from '../../testing/random.js';
import { connectedComponents, ContourSet, difference, union, offset } from '../arrangement/index.js';
import { area, bounds, circle, contains, type Outline, placement, placeRings, rectangle, reversed } from '../geometry/index.js';
import { GrowthField } from './distance-field.js';

let book: FontBook;
beforeAll(async () => {
  book = await loadedBook();
});

const areaOf = (outline: Outline): Area =>
  new Area(outline.map((ring) => Array.from({ length: ring.length / 2 }, (_, i) => [ring[2 * i], ring[2 * i + 1]] as const)));

/** Places within a growth, with the distance from where it ended by brute force. */
function places(inner: Outline, outer: Outline, maxDistance: number, count: number): { x: number; y: number; d: number }[] {
  const random = new Random(7);
  const { minX, minY, maxX, maxY } = bounds(outer)!;
  const whole = areaOf(inner);
  return Array.from({ length: count }, () => [random.between(minX, maxX), random.between(minY, maxY)])
    .filter(([x, y]) => contains(outer, x, y))
    .map(([x, y]) => ({ x, y, d: whole.contains(x, y) ? maxDistance : maxDistance - whole.mitredGrowth(x, y) }));
}

describe('GrowthField', () => {
  it('has rectangles of a rectangle', () => {
    const inner = [rectangle(20, 10)];
    const field = new GrowthField(offset(inner, 5, undefined, 'mitred'), inner, 5, 0.001);
    expect([field.distanceAt(12, 0), field.distanceAt(11, 6), field.distanceAt(3, 2)]).toEqual([3, 4, 5]);
    const { rings } = field.drawn([1, 2.5, 5]);
    expect(rings.map((ring) => area(ring))).toEqual([28 * 18, 25 * 15, 200]);
  });

  it.each([
    ['script letters with counters that fill', 'A&B', 'great-vibes-regular', 4.6],
    ['bold letters', 'R8g', 'barlow-bold', 1.5],
  ])('agrees with brute force beside %s, and so do its lines', (_, words, font, maxDistance) => {
    const block = setBlock(book, {
      words,
      font: book.font(font),
      size: { kind: 'capitals', height: 30, stretch: 100 },
      tracking: 0,
      leading: { kind: 'percent', of: 150 },
      align: 'centre',
    });
    const inner = connectedComponents(ContourSet.of(block.letters.map((letter) => placeLetter(letter).outline))).flat();
    const outer = union(offset(inner, maxDistance, undefined, 'mitred'));
    const field = new GrowthField(outer, inner, maxDistance, 0.002);
    const found = places(inner, outer, maxDistance, 1200);
    for (const { x, y, d } of found) expect(Math.abs(field.distanceAt(x, y) - d)).toBeLessThan(1e-6);
    const levels = [0.1, 0.4, 0.8, 0.97].map((share) => share * maxDistance);
    field.drawn(levels).rings.forEach((rings, k) => {
      // The farther places lie within the line.
      for (const { x, y, d } of found) if (Math.abs(d - levels[k]) > 0.02) expect(contains(rings, x, y)).toBe(d > levels[k]);
    });
  });

  it('has a dent where a counter is filled half', () => {
    const outline: Outline = [circle(0, 0, 20), reversed(circle(0, 0, 4))];
    const field = new GrowthField(union(offset(outline, 6, undefined, 'mitred')), outline, 6, 0.001);
    // The middle of the counter is 4 mm from its edge.
    expect(field.distanceAt(0, 0)).toBeCloseTo(6 - 4, 1);
  });

  it.each([
    ['upright', 0],
    ['turned, where rounding decides which of two edges on one line is ahead', 51.8],
  ])('has closed lines about a word that grows over itself, %s', (_, turn) => {
    const block = setBlock(book, {
      words: 'A&B A&B',
      font: book.font('lora-bold'),
      size: { kind: 'em', size: 21.7, stretch: 93.9 },
      tracking: 5.6,
      leading: { kind: 'percent', of: 100 },
      align: 'centre',
    });
    const upright = block.letters.flatMap((letter) => placeLetter(letter).outline);
    const letters = placeRings(upright, placement({ turn }));
    // Strokes along the inside of the letters, whose own inner sides grow as well.
    const inner = difference(letters, offset(letters, -1));
    const maxDistance = 9.25;
    const field = new GrowthField(union(offset(inner, maxDistance, undefined, 'mitred')), inner, maxDistance, 0.004);
    const levels = [0.3, 2, 4, 6, 8];
    field.drawn(levels).rings.forEach((rings, k) => {
      const exact = area(offset(inner, maxDistance - levels[k], undefined, 'mitred'));
      expect(Math.abs(area(rings) - exact) / exact).toBeLessThan(2e-3);
    });
  });
});
