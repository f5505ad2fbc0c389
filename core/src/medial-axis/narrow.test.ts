import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { addText, bareSign } from '../../testing/signs.js';
import { crossSection } from '../../testing/referee.js';
import { Workshop } from '../../testing/workshop.js';
import { difference, union } from '../arrangement/index.js';
import { area, circle, contains, type Contour, type Outline, rectangle } from '../geometry/index.js';
import { Terrain } from '../cutting/index.js';
import { solidOf } from '../solid/index.js';
import { DistanceField } from './distance-field.js';

const workshop = new Workshop();
const TOLERANCE = 0.001;
const moved = (ring: Contour, dx: number, dy = 0): Contour => ring.map((value, i) => value + (i % 2 === 0 ? dx : dy));
/** mm² that discs leave of a region, by a general library: the region less its opening. */
function leftByReferee(region: Outline, radius: number): number {
  const whole = crossSection(workshop.m, region);
  return whole.area() - whole.offset(-radius, 'Round', 2, 512).offset(radius, 'Round', 2, 512).intersect(whole).area();
}

/** A plate around letters: what is cleared where they are raised. */
function aroundLetters(words: string, font: string): Outline {
  const sign = bareSign(120, 50, 10);
  addText(sign, words, font, 24, { kind: 'raise', by: 2 });
  const raised = new Terrain(solidOf(workshop.evaluate(sign))).above(0);
  return difference([rectangle(120, 50)], raised);
}

describe('what discs leave of an outline', () => {
  it('is r²(1 − π/4) in each corner of a rectangle', () => {
    const field = new DistanceField([rectangle(40, 20)], 8, TOLERANCE);
    for (const radius of [0.5, 2, 7]) {
      const left = field.narrow(radius)!;
      expect(left).toHaveLength(4);
      expect(area(left) / (4 * radius ** 2 * (1 - Math.PI / 4))).toBeCloseTo(1, 1);
    }
  });

  it('is all of what is narrower than they are', () => {
    const field = new DistanceField([rectangle(40, 4)], 8, TOLERANCE);
    expect(area(field.narrow(2.01)!)).toBeCloseTo(160, 3);
    expect(area(field.narrow(1.99)!)).toBeLessThan(4 * 1.99 ** 2 * 0.22);
  });

  it('is a place at either wall between two discs that overlap', () => {
    // Two rooms with a door between them, 9.6 mm wide in a wall of 2 mm.
    const region = union([moved(rectangle(20, 20), -11)], [moved(rectangle(20, 20), 11)], [rectangle(4, 9.6)]);
    const left = new DistanceField(region, 8, TOLERANCE).narrow(4.9, 0.001)!;
    const beside = left.filter((ring) => ring.every((value, i) => Math.abs(value) < (i % 2 === 0 ? 1.001 : 4.81)));
    expect(beside).toHaveLength(2);
    expect(left.every((ring) => area([ring]) > 0)).toBe(true);
    expect(area(left) / leftByReferee(region, 4.9)).toBeCloseTo(1, 1);
  });

  it('is what a general library says between letters', () => {
    for (const font of ['barlow-semibold', 'lora-medium', 'archivo-narrow-semibold']) {
      const region = aroundLetters('Sage & Wren', font);
      const field = new DistanceField(region, 4, TOLERANCE);
      for (const radius of [0.4, 1.5, 3.175]) {
        const [own, theirs] = [area(field.narrow(radius)!), leftByReferee(region, radius)];
        expect([font, radius, Math.abs(own - theirs) < 0.02 * theirs + 0.3]).toEqual([font, radius, true]);
      }
    }
  });

  it('does not tell corners between chords of a curve where they reach less far than is asked', () => {
    const region = [circle(0, 0, 10, 0.02)];
    const field = new DistanceField(region, 12, TOLERANCE);
    expect(field.narrow(3, 0.015)).toEqual([]);
    expect(field.narrow(3)!.length).toBeGreaterThan(20);
    expect(field.linesBelow(1, 3, 0.015)).toEqual([]);
  });
});

describe('lines beside narrow places', () => {
  it('begin and end within the disc that touched there, and come nowhere nearer than their distance', () => {
    const region = aroundLetters('WAVE', 'barlow-semibold');
    const field = new DistanceField(region, 4, TOLERANCE);
    const [small, large] = [0.75, 3];
    const opening = difference(region, field.narrow(large)!);
    const lines = field.linesBelow(small, large);
    expect(lines.length).toBeGreaterThan(10);
    for (const { points, isClosed, begin, end } of lines) {
      for (let i = 0; i < points.length; i += 2) expect(field.distanceAt(points[i], points[i + 1])).toBeGreaterThan(small - 0.01);
      if (isClosed) continue;
      for (const [middle, i] of [
        [begin, 0],
        [end, points.length - 2],
      ] as const) {
        if (!middle) continue;
        expect(contains(opening, points[i], points[i + 1])).toBe(true);
        expect(Math.hypot(middle.x - points[i], middle.y - points[i + 1])).toBeCloseTo(large - small, 2);
        expect(field.distanceAt(middle.x, middle.y)).toBeCloseTo(large, 1);
      }
    }
    expect(lines.filter(({ isClosed, begin, end }) => isClosed || (begin && end)).length).toBe(lines.length);
  });

  it('cover all that a large disc left and a small one reaches', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 20, max: 60 }),
        fc.integer({ min: 3, max: 9 }),
        fc.integer({ min: 1, max: 8 }),
        (wide, slot, at) => {
          // A plate with a slot cut into one side, and a square that stands near another.
          const region = difference(
            [rectangle(60, 40)],
            [rectangle(wide, slot), moved(rectangle(8, 8), at * 3 - 14, 15.5 - slot)],
          );
          const field = new DistanceField(region, 6, TOLERANCE);
          const [small, large] = [0.97, 5.03];
          const strokes = field.linesBelow(small, large).concat(field.linesBelow(small + 0.9, large), field.linesBelow(small + 1.8, large), field.linesBelow(small + 2.7, large), field.linesBelow(small + 3.6, large)); // prettier-ignore
          const run = workshop.m.CrossSection.union(strokes.flatMap(({ points, isClosed }) => capsules(points, isClosed, small)));
          const missed = crossSection(workshop.m, field.narrow(large)!).subtract(crossSection(workshop.m, field.narrow(small)!)).subtract(run.offset(0.004, 'Round')); // prettier-ignore
          expect(missed.area()).toBeLessThan(0.05);
        },
      ),
      { numRuns: 12, seed: 3 },
    );
  });
});

/** Discs that run along a line, as hulls of two neighbours. */
function capsules(points: Contour, isClosed: boolean, radius: number) {
  const all = isClosed ? [...points, points[0], points[1]] : [...points];
  const disc = workshop.m.CrossSection.circle(radius, 96);
  return Array.from({ length: all.length / 2 - 1 }, (_, i) =>
    workshop.m.CrossSection.hull([
      disc.translate([all[2 * i], all[2 * i + 1]]),
      disc.translate([all[2 * i + 2], all[2 * i + 3]]),
    ]),
  );
}
