import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { USUAL } from '../cutting/index.js';
import { Stock } from '../dry-run/index.js';
import { rectangle } from '../geometry/index.js';
import { readShop } from '../shop/index.js';
import { addShape, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { leftStanding } from './left-standing.js';
import { writtenPlan } from './index.js';

const workshop = new Workshop();

describe('what programs leave standing', () => {
  const stock = new Stock({ x: 0, y: 0 }, 40, 30, 0, 0.5);
  /** 3 mm too high in one square, 1 mm in another. */
  const overAt = (column: number, row: number): number => {
    const { x, y } = stock.placeOf(column, row);
    if (x > 10 && x < 14 && y > 10 && y < 14) return 3;
    return x > 30 && x < 32 && y > 20 && y < 22 ? 1 : x < 1 ? -2 : 0;
  };
  const left = { areaMm2: 15.9, volumeMm3: 999, deepestMm: 99, reason: 'too narrow', cause: 'width' } as const;

  it('has the heights that are found at its own places, and is told of where nobody foresaw it', () => {
    const square = rectangle(5, 5).map((value) => value + 12);
    const [foreseen, elsewhere, ...more] = leftStanding([{ ...left, region: [square] }], stock, overAt);
    expect(foreseen).toMatchObject({ areaMm2: 15.9, volumeMm3: 16 * 3, deepestMm: 3, reason: 'too narrow' });
    expect(elsewhere).toMatchObject({ areaMm2: 4, volumeMm3: 4, deepestMm: 1 });
    expect(more).toEqual([]);
  });

  it('leaves holes of a region out, and keeps what has no place as it was said', () => {
    const ring = [rectangle(8, 8).map((value) => value + 12), Float64Array.of(10, 10, 10, 14, 14, 14, 14, 10)];
    const [around, whole] = leftStanding(
      [
        { ...left, region: ring },
        { ...left, region: [] },
      ],
      stock,
      overAt,
    );
    expect(around).toMatchObject({ volumeMm3: 0, deepestMm: 0 });
    expect(whole).toMatchObject({ volumeMm3: 999, deepestMm: 99 });
  });

  it('names the tool that would clear a groove, which then does', () => {
    const shop = readShop(JSON.parse(readFileSync(new URL('../../../demo/shop.json', import.meta.url), 'utf8')));
    const sign = bareSign(60, 30, 8);
    addShape(sign, [40, 1], { kind: 'carve', by: 0.7 });
    const evaluation = workshop.evaluate(sign);
    const choice = (tools: readonly string[]) => ({
      ...USUAL,
      machine: shop.machines[0],
      material: shop.materials[0],
      tools: shop.tools.filter(({ id }) => tools.includes(id)),
    });
    const groove = writtenPlan(evaluation, choice(['end-6', 'end-1-5']), { cell: 0.1 }).left;
    expect(groove).toHaveLength(1);
    expect(groove[0].areaMm2).toBeCloseTo(40, 0);
    expect(groove[0].volumeMm3).toBeCloseTo(40 * 0.7, 0);
    expect(groove[0].deepestMm).toBeCloseTo(0.7, 3);
    expect([groove[0].needs, groove[0].reason]).toEqual([0.9, expect.stringContaining('One of 0.9 mm would clear most of it')]);
    const smaller = writtenPlan(evaluation, choice(['end-6', 'end-1-5', 'end-0-8']), { cell: 0.1 }).left;
    expect(smaller.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)).toBeLessThan(1);
  });
});
