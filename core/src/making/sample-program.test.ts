import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { readShop, type ShopMachine } from '../shop/index.js';
import { sampleProgram } from './index.js';

const shop = readShop(JSON.parse(readFileSync(new URL('../../../demo/shop.json', import.meta.url), 'utf8')));
const router = shop.machines.find(({ kind }) => kind === 'router')!;
const withDialect = (change: Partial<ShopMachine['dialect']>): ShopMachine => ({
  ...router,
  dialect: { ...router.dialect, ...change },
});

describe('a sample in the dialect of a machine', () => {
  it('is read back whole for every machine of the demo', () => {
    for (const machine of shop.machines) expect(sampleProgram(machine).trouble).toBe('');
  });

  it('is written as the dialect says', () => {
    expect(sampleProgram(router).text).toMatch(/G2[01]/u);
    expect(sampleProgram(withDialect({ units: 'in', decimals: 4 })).text).toContain('X0.7874');
    expect(sampleProgram(withDialect({ lineNumbers: 10 })).text).toMatch(/^N30 G17/mu);
    expect(sampleProgram({ ...router, knowsArcs: false }).text).not.toMatch(/G[23] /u);
  });

  it.each<[Partial<ShopMachine['dialect']>, RegExp]>([
    [{ header: ['G21 G90 FOO'] }, /F|letter|line/iu],
    [{ header: ['G999'] }, /G999/u],
    [{ toolChange: [] }, /takes no tool up/u],
    [{ spindleOn: [] }, /spindle stands still/u],
    [{ footer: [] }, /no end/u],
  ])('says what is wrong with %j', (change, words) => {
    expect(sampleProgram(withDialect(change)).trouble).toMatch(words);
  });
});
