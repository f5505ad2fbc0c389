import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { readShop } from '../shop/index.js';
import { costOf } from './index.js';

const shop = readShop(JSON.parse(readFileSync(new URL('../../../demo/shop.json', import.meta.url), 'utf8')));
const oak = shop.materials.find(({ id }) => id === 'oak')!;
const made = {
  machineMinutes: 90,
  toolChanges: 4,
  width: 400,
  height: 200,
  thickness: 20,
  material: oak,
  finished: new Map([['gloss', 80_000]]),
};

describe('what a sign costs', () => {
  it('is its time, its part of a sheet and its finish, each with what it comes from', () => {
    const { total, lines, currency } = costOf(made, shop.rates);
    // 1.5 h at 48, 4 changes at 1.50, a fifth of a board of 38, 0.08 m² at 85.
    expect(lines.map(({ amount }) => Number(amount.toFixed(6)))).toEqual([72, 6, 7.6, 6.8]);
    expect([Number(total.toFixed(6)), currency]).toEqual([92.4, 'EUR']);
    expect(lines[2].from).toBe('20.0 % of a sheet 2000 × 200 × 20 at 38');
  });

  it('is at least the least price, and says where no sheet is kept', () => {
    const { total, lines } = costOf({ ...made, machineMinutes: 1, toolChanges: 0, thickness: 90 }, shop.rates);
    expect(total).toBe(shop.rates.least);
    expect(lines.find(({ what }) => what === 'material')).toEqual({
      what: 'material',
      amount: 0,
      from: 'no sheet of oak is kept that is 90 mm thick and large enough',
    });
    expect(lines.at(-1)!.what).toBe('up to the least price');
    expect(lines.reduce((sum, { amount }) => sum + amount, 0)).toBeCloseTo(total, 9);
  });
});
