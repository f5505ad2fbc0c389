import { describe, expect, it } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { area, contains } from '../geometry/index.js';
import { checkDigit, extentOfCode, outlineOfCode, SYMBOLOGIES, type SymbologyId, symbologyOf, symbolOf } from './index.js'; // prettier-ignore

describe('check digits', () => {
  // Worked examples: GS1's check digit calculator (629104150021 gives 3; from memory), ISBN-13 of the ISBN manual (978-0-306-40615-7),
  // and UPC-A of the usual textbook (0 36000 29145 2).
  it.each([
    ['629104150021', '3'],
    ['978030640615', '7'],
    ['03600029145', '2'],
    ['000000000000', '0'],
  ])('of %s is %s', (figures, digit) => expect(checkDigit(figures)).toBe(digit));
});

describe('codes', () => {
  it('are read by another library as what they say, as outlines of the plan and raised and lit', () => {
    const script = fileURLToPath(new URL('../../testing/codes-sweep.mjs', import.meta.url));
    const env = { ...process.env, NODE_OPTIONS: '' };
    const swept = JSON.parse(execFileSync(process.execPath, [script], { env, encoding: 'utf8' })) as {
      readonly tried: number;
      readonly plan: number;
      readonly litTried: number;
      readonly lit: number;
      readonly faults: readonly string[];
    };
    expect([swept.tried, swept.litTried]).toEqual([100, 15]);
    expect([swept.faults, swept.plan, swept.lit]).toEqual([[], swept.tried, swept.litTried]);
  });

  it('have rings about as much as is dark, apart where modules touch in a corner', () => {
    const symbol = symbolOf('qr', 'MILLRACE 2041');
    if ('fault' in symbol) throw new Error(symbol.fault);
    const size = { module: 2, height: 0 };
    const rings = outlineOfCode(symbol, size);
    const dark = symbol.dark.reduce((sum, is) => sum + is, 0);
    expect(area(rings)).toBe(4 * dark);
    for (let row = 0; row < symbol.rows; row++)
      for (let column = 0; column < symbol.columns; column++) {
        const [x, y] = [2 * column + 1 - symbol.columns, symbol.rows - 2 * row - 1];
        expect(contains(rings, x, y)).toBe(symbol.dark[row * symbol.columns + column] === 1);
      }
    // Every ring turns at every point, and edges have the dark on their left.
    for (const ring of rings)
      for (let i = 0; i < ring.length; i += 2) {
        const [ax, bx, ay, by] = [ring[i], ring[(i + 2) % ring.length], ring[i + 1], ring[(i + 3) % ring.length]];
        expect((ax === bx) !== (ay === by)).toBe(true);
        const [mx, my, long] = [(ax + bx) / 2, (ay + by) / 2, Math.hypot(bx - ax, by - ay)];
        const [nx, ny] = [-(by - ay) / long, (bx - ax) / long];
        // In the middle of a module: of an even number of them that is aside of the edge's middle.
        const aside = Math.round(long / 2) % 2 === 0 ? 1 / long : 0;
        const [px, py] = [mx + aside * (bx - ax), my + aside * (by - ay)];
        expect([contains(rings, px + nx / 2, py + ny / 2), contains(rings, px - nx / 2, py - ny / 2)]).toEqual([true, false]);
      }
    const diagonal = { columns: 2, rows: 2, dark: Uint8Array.of(1, 0, 0, 1), says: '' };
    expect(outlineOfCode(diagonal, size).map((ring) => ring.length / 2)).toEqual([4, 4]);
  });

  it('have a ground with their quiet zone, which with the modules fills a rectangle', () => {
    for (const { id, quiet } of SYMBOLOGIES) {
      const symbol = symbolOf(id, id === 'ean-13' ? '978030640615' : id === 'upc-a' ? '03600029145' : 'PIER 9');
      if ('fault' in symbol) throw new Error(symbol.fault);
      const size = { module: 1, height: 10 };
      const ground = area(outlineOfCode(symbol, size, quiet));
      const { width, height } = extentOfCode(symbol, size);
      const [before, after, along] = { qr: [4, 4, 4], 'data-matrix': [1, 1, 1], 'code-128': [10, 10, 0], 'ean-13': [11, 7, 0], 'upc-a': [9, 9, 0] }[id]; // prettier-ignore
      const whole = (width + before + after) * (symbol.rows === 1 ? height : height + 2 * along);
      expect(ground + area(outlineOfCode(symbol, size))).toBeCloseTo(whole, 6);
    }
  });

  it('are as large as the standards say: QR version 1 has 21 modules, EAN-13 and UPC-A 95', () => {
    const columns = (id: SymbologyId, words: string): number => {
      const symbol = symbolOf(id, words);
      return 'fault' in symbol ? 0 : symbol.columns;
    };
    expect([columns('qr', 'A'), columns('ean-13', '978030640615'), columns('upc-a', '03600029145')]).toEqual([21, 95, 95]);
    // Code 128: start, data, check and stop are 11 modules each, the stop 13 (ISO/IEC 15417).
    expect(columns('code-128', 'AB')).toBe(11 * 4 + 13);
    expect(columns('data-matrix', 'A')).toBe(10);
    expect(symbologyOf('qr').source).toBe('ISO/IEC 18004');
  });

  it.each([
    ['qr', '', 'it has no words yet'],
    ['qr', 'x'.repeat(2001), 'it has 2001 characters, and no code here has more than 2000'],
    ['qr', '\u0416'.repeat(1900), 'its words are too long for it'],
    ['data-matrix', 'Käthe', '“ä” cannot be in it: only letters without accents, figures and common signs can; a QR code takes any'], // prettier-ignore
    ['code-128', 'A\nB', 'a line break cannot be in it'],
    ['ean-13', '97803064061', 'it has to be 12 figures, or 13 with the check digit'],
    ['ean-13', '978-0-306-40615-1', 'its check digit has to be 7, not 1'],
    ['upc-a', '0360002914x', 'it has to be 11 figures, or 12 with the check digit'],
  ] as const)('of %s say why they cannot be: %#', (id, words, fault) => expect(symbolOf(id, words)).toEqual({ fault }));
});
