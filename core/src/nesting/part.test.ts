import { describe, expect, it } from '@jest/globals';
import { Random } from '../../testing/random.js';
import { circle, gapBetween, type Outline, rectangle, reversed, squareToSegment } from '../geometry/index.js';
import { grownNear } from './cover.js';
import { DistanceField, pointsAlong } from './distance-field.js';
import { laidOutline } from './nest-choice.js';
import { OverlapSearch, type Room, type Spot } from './overlap.js';
import { parted } from './part.js';
import { Weights } from './weights.js';

const ring: Outline = [circle(0, 0, 12, 0.005), reversed(circle(0, 0, 8, 0.005))];
const room = (width: number, height: number): Room[] => [{ width, height, taken: [] }];

describe('distances from an outline', () => {
  it('are those of the definition, in holes too, but for what lies between cells: a ring at 600 places', () => {
    const field = new DistanceField(ring, 0.1, 3);
    for (let seed = 0; seed < 600; seed++) {
      const random = new Random(seed);
      const [x, y] = [32 * random.unit() - 16, 32 * random.unit() - 16];
      const far = Math.hypot(x, y);
      // Outside of 12 mm and inside of 8 it is more than 0, and no more than the reach.
      const exact = Math.max(-3, Math.min(3, Math.max(far - 12, 8 - far)));
      expect(Math.abs(field.at(x, y) - exact)).toBeLessThan(0.05);
    }
    expect(field.at(100, 0)).toBe(3);
  });

  it('are asked for at points along it that are near enough to each other', () => {
    const points = pointsAlong([rectangle(10, 4)], 0.3);
    for (let i = 0; i < points.length; i += 2) {
      const next = (i + 2) % points.length;
      expect(Math.hypot(points[next] - points[i], points[next + 1] - points[i + 1])).toBeLessThanOrEqual(0.3 + 1e-9);
    }
    expect(points.length / 2).toBe(2 * (34 + 14));
  });

  it('of an outline that is grown are nowhere less than it was grown by: 40 random polygons', () => {
    for (let seed = 0; seed < 40; seed++) {
      const random = new Random(seed);
      const count = random.whole(3, 40);
      const corners = Array.from({ length: count }, (_, i) => [(2 * Math.PI * i) / count, 5 + 10 * random.unit()]);
      const outline: Outline = [
        Float64Array.from(corners.flatMap(([angle, far]) => [far * Math.cos(angle), far * Math.sin(angle)])),
      ];
      const [cell, near] = [random.pick([0.2, 1]), random.pick([0, 0.5, 2])];
      const [own] = outline;
      for (const grown of grownNear(outline, cell, near)) {
        for (let k = 0; k < grown.length; k += 2) {
          let least = Infinity;
          for (let i = 0, j = own.length - 2; i < own.length; j = i, i += 2)
            least = Math.min(least, squareToSegment(own[j], own[j + 1], own[i], own[i + 1], grown[k], grown[k + 1]));
          expect(Math.sqrt(least)).toBeGreaterThanOrEqual(near + Math.SQRT1_2 * cell - 1e-6);
        }
      }
    }
  });
});

describe('what overlaps', () => {
  it('weighs more the longer it lasts, up to what overlaps most, and less again after', () => {
    const weights = new Weights(2, 3, { least: 1.1, most: 2 });
    weights.reset();
    weights.found(0, 1, 4);
    weights.found(0, 2, 2);
    weights.update();
    // Of what was found what every round takes is made up for.
    expect(weights.of(0, 1)).toBeCloseTo(2 / 0.98, 12);
    expect(weights.of(1, 0)).toBe(weights.of(0, 1));
    expect(weights.of(0, 2)).toBeCloseTo(1.55 / 0.98, 12);
    weights.update();
    expect(weights.of(0, 1)).toBeCloseTo(2, 12);
    for (let k = 0; k < 60; k++) weights.update();
    expect(weights.of(0, 1)).toBe(1);
  });

  it('is moved apart where there is room, and told where there is none', () => {
    const squares: Outline[] = [[rectangle(10, 10)], [rectangle(10, 10)], [rectangle(10, 10)]];
    const spots: Spot[] = squares.map(() => ({ sheet: 0, turn: 0, x: 2, y: 0 }));
    const random = (): (() => number) => {
      const numbers = new Random(5);
      return () => numbers.unit();
    };
    const search = (width: number): OverlapSearch =>
      new OverlapSearch(squares, [0], room(width, 10), 1, 0.5, random(), () => undefined);
    // 3 of 10 mm with 1 mm between them.
    const wide = search(32);
    wide.begin(spots);
    expect(wide.settle(10, 200, 4000)).toBe(0);
    const narrow = search(29);
    narrow.begin(spots);
    expect(narrow.settle(10, 50, 1000)).toBeGreaterThan(0);
    expect(narrow.overlapping.length).toBeGreaterThan(1);
    expect(wide.settle(9, 50, 1000)).toBe(Infinity);
  });

  it('a little is moved apart exactly: letters of nothing but rings and squares, 10 times', () => {
    for (let seed = 0; seed < 10; seed++) {
      const numbers = new Random(seed);
      const outlines: Outline[] = [ring, [rectangle(9, 9)], ring, [rectangle(20, 6)]];
      // The square in the first ring's hole, and the others beside it, all a little too near.
      const start: Spot[] = [[0, 0], [7.5 + numbers.unit(), 7.5 + numbers.unit()], [24 + numbers.unit(), 0], [10, 24 + numbers.unit()]].map(([x, y]) => ({ sheet: 0, turn: 0, x, y })); // prettier-ignore
      const { spots, stuck, height } = parted(outlines, [0], room(50, 60), 1.2, 0.5, start, { first: 31, most: 36 }, new Map(), () => numbers.unit(), () => true); // prettier-ignore
      expect(stuck).toEqual([]);
      expect(height).toBeLessThanOrEqual(36);
      const placed = spots.map(({ x, y }, i) => {
        const box = [-12, -4.5, -12, i === 3 ? -10 : -4.5][i];
        const low = [-12, -4.5, -12, -3][i];
        return laidOutline(outlines[i], { x: x - box, y: y - low, turn: 0 });
      });
      placed.forEach((one, i) => placed.slice(i + 1).forEach((other) => expect(gapBetween(one, other, 'edges')).toBeGreaterThanOrEqual(1.2))); // prettier-ignore
    }
    // A square that the hole is too small for.
    const tight: Outline[] = [ring, [rectangle(11, 11)]];
    const start: Spot[] = [{ sheet: 0, turn: 0, x: 0, y: 0 }, { sheet: 0, turn: 0, x: 6.5, y: 6.5 }]; // prettier-ignore
    const numbers = new Random(1);
    const { stuck } = parted(tight, [0], room(24, 60), 1.2, 0.5, start, { first: 24, most: 25 }, new Map(), () => numbers.unit(), () => true); // prettier-ignore
    expect(stuck.length).toBeGreaterThan(0);
  });
});
