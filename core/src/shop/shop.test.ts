import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { densityIn, materialFor, readShop, type Shop, ShopError } from './index.js';

const demo = JSON.parse(readFileSync(new URL('../../../demo/shop.json', import.meta.url), 'utf8')) as { library: Shop };
const faultsOf = (change: (shop: Shop) => void): string[] => {
  const shop = structuredClone(demo.library);
  change(shop);
  try {
    readShop(shop);
  } catch (error) {
    if (error instanceof ShopError) return error.faults.map(({ path, message }) => `${path}: ${message}`);
    throw error;
  }
  return [];
};

describe('a shop', () => {
  it('is read by itself, or from what holds it', () => {
    expect(readShop(demo)).toEqual(demo.library);
    expect(readShop(demo.library).tools.map(({ number }) => number)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13]);
  });

  it('is refused with every fault, its value and what would be right', () => {
    expect(faultsOf((shop) => (shop.tools[1].form.diameter = 0))).toEqual(['tools[1].form.diameter: is 0 and must be > 0.']);
    expect(faultsOf((shop) => (shop.tools[1].flutes = 0))).toEqual(['tools[1].flutes: is 0 and must be >= 1.']);
    expect(faultsOf((shop) => (shop.tools[1].number = 1))).toEqual([
      'tools[1].number: 1 stands at an earlier one: give each its own.',
    ]);
    expect(faultsOf((shop) => (shop.machines[1].id = 'long-bed'))[0]).toContain('long-bed stands at an earlier one');
    expect(faultsOf((shop) => Object.assign(shop.tools[4].form, { tip: 12 }))).toEqual([
      'tools[4].form.tip: is 12 and must be less than the diameter, 12.',
    ]);
    expect(faultsOf((shop) => Object.assign(shop.tools[0].form, { kind: 'saw' }))[0]).toMatch(
      /^tools\[0\]\.form\.kind: is "saw" and must be one of "end", "ball", "vee", "point", "drill", "taper"\.$/u,
    );
    expect(faultsOf((shop) => (shop.tools[0].holder.diameter = 5))).toEqual([
      'tools[0].shank: is 6 and must be less than the diameter of its holder, 5.',
    ]);
    expect(faultsOf((shop) => (shop.machines[0].travel = 0))).toEqual(['machines[0].travel: is 0 and must be > 0.']);
    expect(faultsOf((shop) => (shop.machines[0].spindle.least = 30_000))[0]).toMatch(/^machines\[0\]\.spindle\.least: is 30000/u);
    expect(faultsOf((shop) => shop.materials[0].chipLoads.reverse())[0]).toContain('list them by diameter');
    expect(faultsOf((shop) => Object.assign(shop, { colour: 'red' }))[0]).toContain('is not a field that a shop has');
  });

  it.each([null, 7, 'shop', [], {}, { library: 3 }, { version: 1, tools: {}, machines: [] }])('%j is none', (document) => {
    expect(() => readShop(document)).toThrow(ShopError);
  });
});

describe('a material in any words', () => {
  const shop = { materials: [{ id: 'a1', name: 'Black acrylic', density: 1180 }, { id: 'q', name: 'Oak, quarter-sawn', density: 690 }, { id: 'o', name: 'Oak', density: 710 }] }; // prettier-ignore

  it.each([
    ['a1', 'a1'],
    ['oak', 'o'],
    ['OAK, Quarter-sawn', 'q'],
    ['acrylic, 5 mm, black', 'a1'],
    ['oak, oiled', 'q'],
    ['black granite', undefined],
    ['black', 'a1'],
    ['', undefined],
    ['moon rock', undefined],
  ])('“%s” is %s of the library', (words, id) => expect(materialFor(shop, words)?.id).toBe(id));

  it('weighs what the library says, else what is typical, else nothing that is known', () => {
    const densityOf = densityIn(shop);
    expect(['Oak', 'black acrylic sheet', 'black granite', 'moon rock'].map(densityOf)).toEqual([710, 1180, 2700, undefined]);
  });
});
