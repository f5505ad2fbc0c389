import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { addShape, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { troubleOf } from '../dry-run/index.js';
import { circle, rectangle } from '../geometry/index.js';
import { writtenPlan } from '../making/index.js';
import { readShop } from '../shop/index.js';
import { drillRun, holeOf, pointDepth } from './drilling.js';
import { type CutChoice, USUAL } from './index.js';

const workshop = new Workshop();
const shop = readShop(JSON.parse(readFileSync(new URL('../../../demo/shop.json', import.meta.url), 'utf8')));
const choiceOf = (tools: readonly string[], more: Partial<CutChoice>): CutChoice => ({
  ...USUAL,
  machine: shop.machines[0],
  material: shop.materials.find(({ id }) => id === 'urethane')!,
  tools: shop.tools.filter(({ id }) => tools.includes(id)),
  ...more,
});
const drill = shop.tools.find(({ id }) => id === 'drill-7')!;

/** A plate with two holes of 7 mm and one of 9 mm. */
function plate() {
  const sign = bareSign(80, 50, 18);
  for (const [diameter, x] of [[7, -25], [9, 0], [7, 25]]) addShape(sign, diameter, { kind: 'cut-through' }, { x, y: 0 }); // prettier-ignore
  return workshop.evaluate(sign);
}

describe('drilling', () => {
  it('knows round holes by their edge', () => {
    expect(holeOf([circle(3, 4, 3.5, 0.005)])).toEqual({ x: expect.closeTo(3, 3), y: expect.closeTo(4, 3), diameter: expect.closeTo(7, 1) }); // prettier-ignore
    expect(holeOf([rectangle(7, 7)])).toBeUndefined();
    expect(holeOf([rectangle(7, 7, 2)])).toBeUndefined();
    expect(holeOf([circle(0, 0, 5), circle(0, 0, 2)])).toBeUndefined();
  });

  it('goes down by pecks no deeper than the drill is wide, and comes up to clear its flutes between them', () => {
    const { stretches, airTo, x, y } = drillRun({ x: 1, y: 2, diameter: 7 }, 7, 0, -20, 5);
    expect([x, y, airTo]).toEqual([1, 2, 0.5]);
    const plunges = stretches.filter(({ pace }) => pace === 'plunge').map(({ points }) => points[2]);
    expect(plunges).toHaveLength(3);
    expect(plunges.at(-1)).toBe(-20);
    plunges.forEach((z, i) => expect((plunges[i - 1] ?? 0) - z).toBeLessThanOrEqual(7));
    // Up after each but the last, and fast back to just above where it had been.
    expect(stretches.filter(({ pace }) => pace === 'rapid').map(({ points }) => points[2] > 0)).toEqual([
      true,
      false,
      true,
      false,
    ]);
  });

  it('takes the holes that a drill is as wide as, where its point may come out below; others are milled', () => {
    const evaluation = plate();
    const point = pointDepth(drill);
    // Of a point of 118°: half the diameter through tan 59°.
    expect(point).toBeCloseTo(3.5 / Math.tan((59 * Math.PI) / 180), 6);
    const tools = ['end-3', 'end-6', 'drill-7'];
    const through = writtenPlan(evaluation, choiceOf(tools, { overcut: 2.2 }), { cell: 0.1 });
    expect(through.cuts.map(({ purpose }) => purpose)).toEqual(['drill', 'window', 'cut out']);
    expect([troubleOf(through.run), through.run.leftAreaMm2 < 1]).toEqual(['', true]);
    const short = writtenPlan(evaluation, choiceOf(tools, { overcut: 1 }), { cell: 0.4 });
    expect(short.cuts.map(({ purpose }) => purpose)).not.toContain('drill');
  });
});
