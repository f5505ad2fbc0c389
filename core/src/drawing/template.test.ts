import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { bounds } from '../geometry/index.js';
import { newShape, newText, type Part, type Sign } from '../sign/index.js';
import { addShape, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { comparisonDrawing, IS, WAS } from './comparison.js';
import { FIGURE_WIDTH } from './dimension.js';
import { type LabelItem } from './drawing.js';
import { holesOf } from './holes.js';
import { dimensionedPlan } from './plan.js';
import { sectionDrawing } from './section.js';
import { sizesDrawing } from './sizes.js';
import { templateDrawing, tilesOf } from './template.js'; // prettier-ignore

const workshop = new Workshop();

/** Adds a shape; gives it. */
function shapeOn(sign: Sign, ...about: Parameters<typeof addShape> extends [Sign, ...infer R] ? R : never): Part {
  addShape(sign, ...about);
  return sign.parts[sign.parts.length - 1];
}

const labels = (items: readonly { kind: string }[]) => items.filter((item): item is LabelItem => item.kind === 'label');

/** The box that a figure takes, by the width that figures have in the mean. */
function boxOf({ x, y, text, height, align, turn }: LabelItem) {
  const width = text.length * height * FIGURE_WIDTH * 0.72;
  const left = { left: 0, centre: -width / 2, right: -width }[align];
  const [a, b, c, d] = [left, left + width, 0, height];
  if (Math.abs(turn) === 90) return turn === 90 ? { minX: x - d, maxX: x - c, minY: y + a, maxY: y + b } : { minX: x + c, maxX: x + d, minY: y - b, maxY: y - a }; // prettier-ignore
  return { minX: x + a, maxX: x + b, minY: y + c, maxY: y + d };
}

describe('dimensions of parts', () => {
  it('give sizes and distances as geometry has them, in one unit or in both', () => {
    const sign = bareSign(254, 127, 10);
    const panel = shapeOn(sign, [50.8, 25.4], { kind: 'raise', by: 2 }, { x: -40, y: 20 });
    panel.dimensioned = true;
    const evaluation = workshop.evaluate(sign);
    const said = (isInBothUnits: boolean) =>
      labels(dimensionedPlan(evaluation, { textHeight: 2, isInBothUnits }).items).map(({ text }) => text);
    // 254/2 − 40 − 25.4 from the left; 127/2 + 20 − 12.7 from below.
    expect(said(false).sort()).toEqual(['127 mm', '25.4 mm', '254 mm', '50.8 mm', '61.6 mm', '70.8 mm'].sort());
    expect(said(true)).toContain('50.8 mm (2 in)');
  });

  it('of a text are those of its capitals; what stands in the middle has no distance', () => {
    const sign = bareSign(200, 100, 10);
    const text = { ...newText(sign, 'barlow-semibold'), words: 'Hg', dimensioned: true, tiers: shapeOn(bareSign(9, 9, 9), 3, { kind: 'raise', by: 1 }).tiers }; // prettier-ignore
    text.size = { kind: 'capitals', height: 30, stretch: 100 };
    sign.parts.push(text);
    const said = labels(dimensionedPlan(workshop.evaluate(sign), { textHeight: 2 }).items).map(({ text: words }) => words);
    expect(said).toContain('30 mm');
    // Overall two, the width, the height, and at most one distance upwards: capitals stand in the middle.
    expect(said.length).toBeLessThanOrEqual(5);
  });

  it('never lie on each other, however many parts there are (property)', () => {
    const shape = fc.record({
      width: fc.double({ min: 2, max: 120, noNaN: true }),
      height: fc.double({ min: 2, max: 80, noNaN: true }),
      x: fc.double({ min: -80, max: 80, noNaN: true }),
      y: fc.double({ min: -50, max: 50, noNaN: true }),
    });
    fc.assert(
      fc.property(fc.array(shape, { minLength: 1, maxLength: 9 }), fc.constantFrom(1.2, 3, 6), (shapes, textHeight) => {
        const sign = bareSign(300, 200, 10);
        for (const { width, height, x, y } of shapes)
          shapeOn(sign, [width, height], { kind: 'raise', by: 1 }, { x, y }).dimensioned = true;
        const boxes = labels(dimensionedPlan(workshop.evaluate(sign), { textHeight }).items).map(boxOf);
        boxes.forEach((a, i) => {
          for (const b of boxes.slice(i + 1)) {
            const apart = a.maxX <= b.minX || b.maxX <= a.minX || a.maxY <= b.minY || b.maxY <= a.minY;
            if (!apart) throw new Error(`figures meet: ${JSON.stringify([a, b])}`);
          }
        });
      }),
      { numRuns: 60, seed: 5 },
    );
  });
});

describe('the section', () => {
  it('says the angle of a slope once, and of a round edge none', () => {
    const sign = bareSign(100, 60, 10);
    const panel = shapeOn(sign, [60, 40], { kind: 'raise', by: 4 });
    panel.tiers[0].edge = { kind: 'sloped', angle: 30, sized: 'foot' };
    const said = () =>
      labels(sectionDrawing(workshop.evaluate(sign), { x: 0, y: 0, turn: 0 }, { heightsTimes: 1, textHeight: 2 }).items)
        .map(({ text }) => text)
        .filter((text) => text.endsWith('°'));
    expect(said()).toEqual(['30°']);
    panel.tiers[0].edge = { kind: 'rounded', radius: 4 };
    expect(said()).toEqual([]);
  });
});

describe('the template', () => {
  it('has every hole where it is, with its diameter', () => {
    const sign = bareSign(200, 120, 6);
    const fixings = newShape(sign, 'fixings');
    fixings.shape = { kind: 'fixings', diameter: 6, inset: 15, places: 'corners', count: 4 };
    sign.parts.push(fixings);
    const evaluation = workshop.evaluate(sign);
    const holes = holesOf(evaluation);
    expect(holes.map(({ x, y, diameter }) => [x, y, diameter])).toEqual([
      [-85, 45, 6],
      [85, 45, 6],
      [-85, -45, 6],
      [85, -45, 6],
    ]);
    const drawing = templateDrawing(evaluation);
    expect(labels(drawing.items).filter(({ text }) => text === 'Ø 6 mm')).toHaveLength(4);
    const level = drawing.items.find(({ layer }) => layer === 'level line');
    expect(level).toMatchObject({ points: Float64Array.of(-112, 0, 112, 0) });
  });

  it('has the studs of flat-cut letters, within their outlines', () => {
    const sign = bareSign(300, 120, 12);
    const text = { ...newText(sign, 'montserrat-bold'), words: 'HIL', size: { kind: 'capitals' as const, height: 80, stretch: 100 }, tiers: [] }; // prettier-ignore
    sign.parts.push(text);
    sign.blank.cutTo = { parts: [text.id], studs: { diameter: 4, depth: 8, edge: 3, count: 2 } };
    const evaluation = workshop.evaluate(sign);
    const studs = holesOf(evaluation);
    expect(studs.map(({ kind, diameter }) => [kind, diameter])).toEqual(Array(6).fill(['stud', 4]));
    const { minX, maxX, minY, maxY } = bounds([...evaluation.kept!])!;
    for (const { x, y } of studs) {
      expect(x > minX + 5 && x < maxX - 5 && y > minY + 5 && y < maxY - 5).toBe(true);
    }
    // Seen from behind they are in the same places of the same letters.
    const behind = holesOf(workshop.evaluate(sign, 'back')).map(({ x, y }) => `${-x} ${y}`);
    expect(behind.sort()).toEqual(studs.map(({ x, y }) => `${x} ${y}`).sort());
  });

  it('is cut into sheets that cover it and share their strips (property)', () => {
    const mm = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    fc.assert(
      fc.property(mm(10, 6000), mm(10, 3000), mm(100, 900), mm(100, 900), mm(0, 40), (width, height, across, up, overlap) => {
        const box = { minX: -width / 3, minY: -height / 2, maxX: width - width / 3, maxY: height / 2 };
        const tiles = tilesOf(box, across, up, overlap);
        const [first, last] = [tiles[0], tiles[tiles.length - 1]];
        expect(first.window.minX).toBeLessThanOrEqual(box.minX + 1e-6);
        expect(first.window.maxY).toBeGreaterThanOrEqual(box.maxY - 1e-6);
        expect(last.window.maxX).toBeGreaterThanOrEqual(box.maxX - 1e-6);
        expect(last.window.minY).toBeLessThanOrEqual(box.minY + 1e-6);
        for (const { row, column, window } of tiles) {
          expect(window.maxX - window.minX).toBeCloseTo(across, 6);
          const next = tiles.find((other) => other.row === row && other.column === column + 1);
          if (next) expect(window.maxX - next.window.minX).toBeCloseTo(overlap, 6);
          const under = tiles.find((other) => other.column === column && other.row === row + 1);
          if (under) expect(under.window.maxY - window.minY).toBeCloseTo(overlap, 6);
        }
        // None too many: without the last column, or row, it is not covered.
        if (last.column > 0) expect(last.column * (across - overlap) + overlap).toBeLessThan(width + 1e-6);
        if (last.row > 0) expect(last.row * (up - overlap) + overlap).toBeLessThan(height + 1e-6);
      }),
      { numRuns: 300, seed: 3 },
    );
  });
});

describe('the sizes on a screen', () => {
  it('are the plan over the section, neither on the other, with the figures of both', () => {
    const sign = bareSign(240, 80, 12);
    shapeOn(sign, [100, 30], { kind: 'carve', by: 3 }).dimensioned = true;
    const { items, bounds: box } = sizesDrawing(workshop.evaluate(sign));
    const said = labels(items).map(({ text }) => text);
    for (const text of ['240 mm', '80 mm', '100 mm', '30 mm', '12 mm', 'carved 3 mm']) expect(said).toContain(text);
    const ys = (layer: string) =>
      items.flatMap((item) =>
        item.layer === layer && item.kind === 'area' ? [...item.outline[0]].filter((_, i) => i % 2 === 1) : [],
      );
    // The section is as thick as the blank, and lies under the dimensions of the plan.
    expect(Math.max(...ys('section')) - Math.min(...ys('section'))).toBeCloseTo(12, 6);
    expect(Math.max(...ys('section'))).toBeLessThan(-40);
    for (const { x, y } of labels(items)) expect(x >= box.minX && x <= box.maxX && y >= box.minY && y <= box.maxY).toBe(true);
  });
});

describe('the comparison', () => {
  it('draws what was under what is, each in its colour', () => {
    const [was, is] = [bareSign(100, 60, 10), bareSign(120, 60, 10)];
    addShape(was, [40, 20], { kind: 'raise', by: 2 });
    addShape(is, [40, 20], { kind: 'raise', by: 2 }, { x: 10 });
    const { items, bounds: box } = comparisonDrawing(workshop.evaluate(was), workshop.evaluate(is), 2);
    expect([box.minX, box.maxX]).toEqual([-62, 62]);
    const of = (colour: string) => items.filter((item) => item.kind === 'area' && item.pen?.colour === colour);
    expect(of(WAS).map(({ layer }) => layer)).toEqual(['was edge', 'was raised 2 mm']);
    expect(of(IS).map(({ layer }) => layer)).toEqual(['is edge', 'is raised 2 mm']);
    expect(items.indexOf(of(WAS)[1])).toBeLessThan(items.indexOf(of(IS)[0]));
  });
});
