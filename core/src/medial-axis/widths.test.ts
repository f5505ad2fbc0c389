import { describe, expect, it } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { area, perimeter, rectangle, regularPolygon, type Outline } from '../geometry/index.js';
import { union } from '../arrangement/index.js';
import { addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { Widths } from './index.js';

const moved = (ring: Float64Array, x: number, y: number): Float64Array => ring.map((mm, i) => mm + (i % 2 === 0 ? x : y));
/** Two squares of 10 mm, 10 mm apart, with a bar between them. */
const dumbbell = (bar: number): Outline =>
  union([moved(rectangle(10, 10), -10, 0)], [moved(rectangle(10, 10), 10, 0)], [rectangle(12, bar)]);

const workshop = new Workshop();

describe('how wide an area is', () => {
  it.each([0.4, 1, 1.7])('is the width of a bar, also of one between wider things: %f mm', (width) => {
    for (const outline of [[rectangle(30, width)], dumbbell(width)]) {
      const widths = new Widths(outline, 2, 3);
      expect(Math.abs(widths.least()! - width)).toBeLessThan(2 / 64);
      expect(widths.narrowerThan(width - 0.02)).toEqual([]);
      // The bar alone, and into its corners with the squares.
      const found = area(widths.narrowerThan(width + 0.1));
      expect(found / (outline.length === 1 && outline[0].length === 8 ? 30 * width : 10 * width)).toBeCloseTo(1, 0);
    }
  });

  it('is not told of corners, however sharp, as far as a tip is allowed to reach', () => {
    const triangle = regularPolygon(3, 20, 'flat');
    // In a corner of 60° a disc lies as far from the tip as it is wide.
    expect(new Widths([triangle], 2, 1.1).least()).toBeUndefined();
    expect(new Widths([triangle], 2, 0.9).least()).toBeLessThan(0.6);
    expect(new Widths([rectangle(10, 10)], 2, 0.5).least()).toBeUndefined();
    expect(new Widths([], 2, 1).least()).toBeUndefined();
  });

  it.each([
    [60, 0.3],
    [60, 0.95],
    [90, 0.8],
  ])(
    'leaves of a triangle with a corner of %i° what its opening by a disc of %f of the one within does not cover',
    (degrees, share) => {
      const angle = (degrees * Math.PI) / 180;
      const triangle = union([Float64Array.of(0, 0, 10, 0, 10 * Math.cos(angle), 10 * Math.sin(angle))]);
      const inner = (2 * area(triangle)) / perimeter(triangle);
      // Steiner: what is shrunk and grown again is the triangle made smaller, and a disc: all but A·f² − π·r².
      const left = area(triangle) * share ** 2 - Math.PI * (share * inner) ** 2;
      const found = area(new Widths(triangle, 2 * inner, 0).narrowerThan(2 * share * inner));
      expect(found / left).toBeCloseTo(1, 1);
      expect(Math.abs(found - left)).toBeLessThan(0.07);
    },
  );
});

describe('strokes and gaps of shipped fonts’ letters', () => {
  it('are what sampled discs leave, A to Z, at three sizes', () => {
    const script = fileURLToPath(new URL('../../testing/widths-sweep.mjs', import.meta.url));
    const env = { ...process.env, NODE_OPTIONS: '' };
    const swept = JSON.parse(execFileSync(process.execPath, [script], { env, encoding: 'utf8' })) as {
      readonly tried: number;
      readonly missed: number;
      readonly invented: number;
      readonly where: string;
    };
    expect(swept.tried).toBeGreaterThan(150);
    // mm² that one has and the other clearly not.
    expect([swept.where, swept.missed < 0.02, swept.invented < 0.02]).toEqual([swept.where, true, true]);
  });
});

describe('where lines do not close', () => {
  it('it is told by offsets, and what discs leave of corners is not', () => {
    // Letters that were left out without a word.
    const sign = bareSign(60, 30, 5);
    addText(sign, 'WX', 'lora-bold', 2, { kind: 'raise', by: 1 });
    const letters = union(workshop.evaluate(sign).parts[0].area.contours);
    const [all, tips] = [0, 3].map((tip) => area(new Widths(letters, 0.26, tip).narrowerThan(0.26)));
    // Sampled discs leave 0.79 mm² of both.
    expect(all).toBeGreaterThan(0.7);
    expect(tips).toBeLessThan(all);
  });
});

describe('what is exactly as wide as what is asked for at most', () => {
  it('is told, and so is what is next to it', () => {
    // Discs as large as the largest that are told of would seem to be smaller, and all of it narrow, or nothing.
    for (const bar of [1, 1.5, 2.64]) {
      const widths = new Widths(dumbbell(bar), 2.64, 3);
      const places = widths.narrowerThan(2.64);
      expect(Math.abs(area(places) - (bar < 2.64 ? 10 * bar : 0))).toBeLessThan(0.25 * 2.64 ** 2);
    }
  });
});

describe('a hole of a few µm', () => {
  it('keeps no disc away: it is smaller than lines are told', () => {
    const square = [Float64Array.of(0, 0, 10, 0, 10, 10, 0, 10)];
    const speck = Float64Array.of(5, 5, 5.001, 5.004, 5.004, 5);
    expect(new Widths([...square, speck], 2, 0).narrowerThan(2)).toEqual(new Widths(square, 2, 0).narrowerThan(2));
    const hole = Float64Array.of(5, 5, 5.01, 5.04, 5.04, 5);
    expect(area(new Widths([...square, hole], 2, 0).narrowerThan(2))).toBeGreaterThan(
      area(new Widths(square, 2, 0).narrowerThan(2)),
    );
  });
});
