import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { USUAL } from '../cutting/index.js';
import { troubleOf } from '../dry-run/index.js';
import { type Action, type Sign } from '../sign/index.js';
import { readShop } from '../shop/index.js';
import { addShape, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { signToCut, writtenPlan } from './index.js';

const workshop = new Workshop();
const shop = readShop(JSON.parse(readFileSync(new URL('../../../demo/shop.json', import.meta.url), 'utf8')));
const choice = {
  ...USUAL,
  machine: shop.machines[0],
  material: shop.materials[0],
  tools: shop.tools.filter(({ id }) => ['end-6', 'end-3', 'ball-3'].includes(id)),
};
const planned = (sign: Sign) => writtenPlan(workshop.evaluate(signToCut(sign)), choice, { cell: 0.2 });

describe('a sign that is cut', () => {
  it('has windows where another material is let in, also where that is thicker', () => {
    const sign = bareSign(60, 40, 5);
    const insert: Action = { kind: 'insert', below: 1, thickness: 8, material: 'acrylic', clearance: 0.2 };
    addShape(sign, [30, 20], insert);
    const { run, left, stock } = planned(sign);
    expect(troubleOf(run)).toBe('');
    expect(stock.bottom).toBe(-5);
    // All but the corners of the window, r²(1 − π/4) each.
    expect(left.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)).toBeCloseTo(4 * 1.5 ** 2 * (1 - Math.PI / 4), 0);
    // What it is filled with is another piece, and the sign itself is as it was.
    expect(sign.parts[0].tiers[0].action).toEqual(insert);
  });

  it('is not gone below beside slopes that end at a window', () => {
    const sign = bareSign(60, 40, 6);
    addShape(sign, 24, { kind: 'carve', by: 4 });
    sign.parts[0].tiers[0] = { ...sign.parts[0].tiers[0], edge: { kind: 'cove', radius: 4 } };
    addShape(sign, 12, { kind: 'cut-through' });
    const { run } = planned(sign);
    expect(troubleOf(run)).toBe('');
  });

  it('is of stock that holds what its back raises', () => {
    const sign = bareSign(60, 40, 6);
    addShape(sign, [30, 20], { kind: 'raise', by: 3 });
    sign.parts[0] = { ...sign.parts[0], side: 'back' };
    expect(planned(sign).stock).toMatchObject({ top: 0, bottom: -9 });
  });
});
