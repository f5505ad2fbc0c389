import { describe, expect, it } from '@jest/globals';
import { bareSign, addShape } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { type LabelItem, type LineItem } from './drawing.js';
import { dimensionedPlan } from './plan.js';
import { withSectionMarks } from './section-marks.js';
import { lineSeenFrom, sectionSpans } from './section.js';

const workshop = new Workshop();

describe('marks of named sections', () => {
  const plan = () => dimensionedPlan(workshop.evaluate(bareSign(100, 60, 10)), { textHeight: 2 });
  const marked = (sections: Parameters<typeof withSectionMarks>[1]) => {
    const before = plan();
    const { items, bounds } = withSectionMarks(before, sections, 2);
    const marks = items.filter(({ layer }) => layer === 'sections');
    return {
      before,
      bounds,
      labels: marks.filter((item): item is LabelItem => item.kind === 'label'),
      lines: marks.filter((item): item is LineItem => item.kind === 'line'),
    };
  };

  it('stand at both ends of the line, outside of the plan and its dimensions', () => {
    const { before, bounds, labels, lines } = marked([{ id: 'a', name: 'A–A', x: 5, y: 7, turn: 0 }]);
    expect(labels.map(({ text }) => text)).toEqual(['A', 'A']);
    expect(labels.map(({ y }) => y)).toEqual([6, 6]);
    expect(labels[0].x).toBeLessThan(before.bounds.minX);
    expect(labels[1].x).toBeGreaterThan(before.bounds.maxX);
    for (const { points } of lines) expect([points[1], points[3]]).toEqual([7, 7]);
    expect(bounds.minX).toBeLessThan(labels[0].x);
    expect(bounds.maxX).toBeGreaterThan(labels[1].x);
  });

  it('follow lines that are turned, keep other names whole, and leave out lines that pass by', () => {
    const { labels, lines } = marked([
      { id: 'b', name: 'Through the O', x: 0, y: 0, turn: 90 },
      { id: 'c', name: 'C–C', x: 0, y: 500, turn: 0 },
    ]);
    expect(labels.map(({ text }) => text)).toEqual(['Through the O', 'Through the O']);
    expect(lines).toHaveLength(2);
    for (const { points } of lines) expect(Math.abs(points[0]) + Math.abs(points[2])).toBeLessThan(1e-9);
  });

  it('change nothing where there are none', () => {
    const before = plan();
    expect(withSectionMarks(before, [], 2)).toBe(before);
  });
});

describe('a line seen from the other side', () => {
  it('cuts the same: every height of one is the depth of the other', () => {
    const sign = bareSign(100, 60, 10);
    addShape(sign, [30, 20], { kind: 'carve', by: 3 }, { x: 20, y: 5 });
    addShape(sign, [16, 40], { kind: 'raise', by: 2 }, { x: -30 });
    sign.parts[1].side = 'back';
    for (const line of [
      { x: 3, y: 4, turn: 0 },
      { x: -8, y: 2, turn: 25 },
      { x: 12, y: 0, turn: -70 },
    ]) {
      const [front, back] = (['front', 'back'] as const).map((side) =>
        sectionSpans(workshop.evaluate(sign, side), lineSeenFrom(line, side)),
      );
      const areaOf = (spans: typeof front) => spans.reduce((sum, { from, to, z, under }) => sum + (to - from) * (z - under), 0);
      expect(areaOf(front)).toBeCloseTo(areaOf(back), 3);
      expect(Math.max(...front.map(({ z }) => z))).toBeCloseTo(-10 - Math.min(...back.map(({ under }) => under)), 9);
      expect(lineSeenFrom(lineSeenFrom(line, 'back'), 'back')).toEqual(line);
    }
  });
});
