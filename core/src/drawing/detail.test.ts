import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { area } from '../geometry/index.js';
import { type Sign } from '../sign/index.js';
import { addShape, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { detailDrawing, detailLetter, smallestStep, withRing } from './detail.js';
import { sectionDrawing } from './section.js';
import { spread } from './spread.js';

const workshop = new Workshop();
const LINE = { x: 0, y: 0, turn: 0 };

/** A panel 3 mm deep, with a plate in it that stands 0.4 mm above its floor, and a slope. */
function stepped(): Sign {
  const sign = bareSign(100, 60, 10);
  addShape(sign, [80, 40], { kind: 'carve', by: 3 });
  addShape(sign, [20, 20], { kind: 'set', to: -2.6 }, { x: 10 });
  return sign;
}

describe('spread', () => {
  const wished = fc
    .array(fc.integer({ min: -50, max: 50 }), { minLength: 1, maxLength: 9 })
    .map((list) => list.sort((a, b) => a - b));

  it('keeps order and distance, and what is far enough apart where it is', () => {
    fc.assert(
      fc.property(wished, fc.integer({ min: 1, max: 9 }), (places, gap) => {
        const found = spread(places, gap);
        for (let i = 1; i < found.length; i++) expect(found[i] - found[i - 1]).toBeGreaterThan(gap - 1e-9);
        if (places.every((place, i) => i === 0 || place - places[i - 1] >= gap)) expect(found).toEqual(places);
      }),
    );
  });

  it('moves as little as can be: no other places that are tried are nearer in all', () => {
    const moved = (places: readonly number[], found: readonly number[]): number =>
      found.reduce((sum, place, i) => sum + (place - places[i]) ** 2, 0);
    fc.assert(
      fc.property(
        wished,
        fc.integer({ min: 1, max: 9 }),
        fc.array(fc.integer({ min: -60, max: 60 }), { minLength: 9, maxLength: 9 }),
        (places, gap, tries) => {
          // Any other places with the distance kept.
          const other = places.map((_, i) => tries[i]).sort((a, b) => a - b).map((place, i) => place + i * gap); // prettier-ignore
          expect(moved(places, spread(places, gap))).toBeLessThan(moved(places, other) + 1e-9);
        },
      ),
    );
  });

  it('shares the way of two at one place', () => expect(spread([10, 10], 4)).toEqual([8, 12]));
});

describe('the smallest step of a section', () => {
  it('is the one between the two nearest levels beside each other, and lies where it is on the plan', () => {
    const step = smallestStep(workshop.evaluate(stepped()), LINE)!;
    expect(step).toMatchObject({
      rise: expect.closeTo(0.4, 6) as unknown as number,
      run: 0,
      place: { x: expect.closeTo(step.along, 9) as unknown as number, y: 0 },
    });
    expect(step.z).toBeCloseTo(-2.8, 6);
    // From the floor up to the plate at its left edge, or down again at its right.
    expect([Math.round(step.along), step.falls]).toEqual(step.falls ? [20, true] : [0, false]);
  });

  it('turns with the line', () => {
    const { place } = smallestStep(workshop.evaluate(stepped()), { x: 10, y: 0, turn: 90 })!;
    expect(place.x).toBeCloseTo(10, 6);
    expect(Math.abs(place.y)).toBeCloseTo(10, 3);
  });

  it('is none on a bare blank, and no gentle slope', () => {
    expect(smallestStep(workshop.evaluate(bareSign(100, 60, 10)), LINE)).toBeUndefined();
    const sign = bareSign(100, 60, 10);
    addShape(sign, [60, 40], { kind: 'raise', by: 2 });
    sign.parts[0].tiers[0].edge = { kind: 'sloped', angle: 80, sized: 'foot' };
    expect(smallestStep(workshop.evaluate(sign), LINE)).toBeUndefined();
    sign.parts[0].tiers[0].edge = { kind: 'sloped', angle: 45, sized: 'foot' };
    expect(smallestStep(workshop.evaluate(sign), LINE)).toMatchObject({
      rise: 2,
      run: expect.closeTo(2, 6) as unknown as number,
    });
  });
});

describe('its detail', () => {
  it('is what the section has inside of a circle, with the height of the step', () => {
    const evaluation = workshop.evaluate(stepped());
    const step = smallestStep(evaluation, LINE)!;
    const { items, bounds } = detailDrawing(evaluation, LINE, step, { radius: 2, textHeight: 0.3 });
    const cut = items.flatMap((item) => (item.kind === 'area' ? item.outline : []));
    // Half of the circle and a bit: below the middle all is material, above it on the side of the plate, up to half of 0.4 mm.
    const quarter = (h: number): number => (h * Math.sqrt(4 - h * h) + 4 * Math.asin(h / 2)) / 2;
    expect(area(cut)).toBeCloseTo((Math.PI * 4) / 2 - quarter(0.2) + quarter(0.2), 1);
    expect(items).toContainEqual(expect.objectContaining({ kind: 'label', text: '0.4 mm' }));
    for (const item of items)
      if (item.kind === 'line')
        for (let i = 0; i < item.points.length; i += 2) {
          expect(item.points[i] > bounds.minX && item.points[i] < bounds.maxX).toBe(true);
          expect(item.points[i + 1] > bounds.minY && item.points[i + 1] < bounds.maxY).toBe(true);
        }
  });

  it('has the last letter that no section has', () => {
    expect(detailLetter([])).toBe('Z');
    expect(detailLetter([{ id: 's', name: 'Z–Z', ...LINE }])).toBe('Y');
  });

  it('is ringed where it lies, and its letter stands inside of what the drawing takes', () => {
    const drawing = sectionDrawing(workshop.evaluate(stepped()), LINE, { heightsTimes: 1, textHeight: 2 });
    for (const [x, y] of [
      [-49, 0],
      [0, -3],
      [49, -9],
    ] as const) {
      // prettier-ignore
      const { items, bounds } = withRing(drawing, { x, y }, 'Z', 2, 2.5);
      const label = items.find((item) => item.kind === 'label' && item.text === 'Z')!;
      expect(label).toMatchObject({ layer: 'details' });
      if (label.kind !== 'label') continue;
      expect(Math.hypot(label.x - x, label.y + 1.2 - y)).toBeLessThan(2.5 + 2 * 2);
      expect(label.x > bounds.minX && label.x < bounds.maxX && label.y > bounds.minY && label.y < bounds.maxY).toBe(true);
    }
  });
});

describe('labels of levels', () => {
  it('stand in the order of their levels, each with room', () => {
    const sign = bareSign(100, 60, 10);
    for (const [i, by] of [0.2, 0.4, 0.6, 0.8].entries()) addShape(sign, [12, 40], { kind: 'raise', by }, { x: -40 + 20 * i });
    const { items } = sectionDrawing(workshop.evaluate(sign), LINE, { heightsTimes: 1, textHeight: 2 });
    const labels = items.flatMap((item) => (item.kind === 'label' && /raised|face/u.test(item.text) ? [item] : []));
    expect(labels.map(({ text }) => text)).toEqual(['face', 'raised 0.2 mm', 'raised 0.4 mm', 'raised 0.6 mm', 'raised 0.8 mm']);
    for (let i = 1; i < labels.length; i++) expect(labels[i].y - labels[i - 1].y).toBeCloseTo(3, 6);
    // About the middle of what they stand for.
    expect((labels[0].y + labels[4].y) / 2 + 1).toBeCloseTo(0.4, 6);
  });
});
