import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { addShape, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { isProven } from '../dry-run/index.js';
import { area, contains, type Contour, rectangle, reversed } from '../geometry/index.js';
import { writtenPlan } from '../making/index.js';
import { readShop } from '../shop/index.js';
import { hatched } from './hatch.js';
import { type CutChoice, USUAL } from './index.js';

const workshop = new Workshop();
const shop = readShop(JSON.parse(readFileSync(new URL('../../../demo/shop.json', import.meta.url), 'utf8')));
const length = (points: Contour): number =>
  points.reduce((sum, _, i) => (i % 2 === 0 && i > 1 ? sum + Math.hypot(points[i] - points[i - 2], points[i + 1] - points[i - 1]) : sum), 0); // prettier-ignore

describe('straight lines over a region', () => {
  it('are as long as its area through the step, at any angle', () => {
    const region = [rectangle(60, 40), reversed(rectangle(20, 10))];
    for (const angle of [0, 30, 90, -45]) {
      const lines = hatched(region, angle, 0.5);
      const own = lines.reduce((sum, line) => sum + length(line), 0);
      expect(own / (area(region) / 0.5)).toBeGreaterThan(0.98);
      expect(own / (area(region) / 0.5)).toBeLessThan(1.12);
    }
  });

  it('never leave it: what stands in the way parts them', () => {
    const region = [rectangle(60, 40), reversed(rectangle(20, 10))];
    const lines = hatched(region, 0, 2);
    expect(lines.length).toBeGreaterThan(1);
    for (const line of lines)
      for (let i = 2; i < line.length; i += 2)
        for (const share of [0.25, 0.5, 0.75]) {
          const [x, y] = [0, 1].map((axis) => line[i - 2 + axis] + share * (line[i + axis] - line[i - 2 + axis]));
          expect(contains([rectangle(60.001, 40.001), reversed(rectangle(19.999, 9.999))], x, y)).toBe(true);
        }
    expect(hatched([], 0, 1)).toEqual([]);
  });

  it('clear a pocket as rings do, and a face that lies below the stock', () => {
    const sign = bareSign(70, 50, 12);
    addShape(sign, [50, 30], { kind: 'carve', by: 3 });
    addShape(sign, 12, { kind: 'raise', by: 2 });
    const choice: CutChoice = {
      ...USUAL,
      machine: shop.machines[0],
      material: shop.materials.find(({ id }) => id === 'urethane')!,
      tools: shop.tools.filter(({ id }) => id === 'end-6'),
    };
    const evaluation = workshop.evaluate(sign);
    const [rings, lines] = [choice.pattern, { kind: 'lines', angle: 35 } as const].map((pattern) =>
      writtenPlan(evaluation, { ...choice, pattern }, { cell: 0.2 }),
    );
    expect([isProven(rings.run), isProven(lines.run)]).toEqual([true, true]);
    expect(lines.run.leftAreaMm2 / rings.run.leftAreaMm2).toBeCloseTo(1, 1);
    expect(lines.cuts.map(({ purpose }) => purpose)).toEqual(['face', 'clear', 'cut out']);
  });
});
