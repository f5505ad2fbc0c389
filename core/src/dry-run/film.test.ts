import { describe, expect, it } from '@jest/globals';
import { DryRunError, Film, Stock, stockPicture, type TurningTool } from './index.js';

const end = (diameter: number): TurningTool => ({
  form: { kind: 'end', diameter },
  cuttingLength: 20,
  shank: diameter,
  holder: { diameter: 20, standOut: 30 },
});
const workplace = {
  tools: new Map([
    [1, end(4)],
    [2, end(2)],
  ]),
  // So fast that a move of 60 mm at 600 mm a minute takes 6 s.
  limits: { acceleration: 1e12, rapid: 1e9, mostFeed: 1e9, deviation: 1 },
  zero: { x: 0, y: 0, z: 0 },
};
const box = { minX: 0, minY: 0, maxX: 80, maxY: 40 };
const PROGRAMS = [
  { name: 'one', text: 'G21 G90\nT1 M6\nM3 S9000\nG0 X10 Y20 Z0\nG1 Z-2 F6000\nG1 X70 F600\nG0 Z5\nM30\n' },
  {
    name: 'two',
    text: 'G21 G90 G17\nT2 M6\nM3 S9000\nG0 X40 Y30 Z5\nG0 Z0\nG1 Z-1 F6000\nG3 X40 Y10 I0 J-10 F600\nG0 Z5\nM30\n',
  },
];
const filmed = () => new Film(PROGRAMS, { box, top: 0 }, workplace, 0.5, 10);

const heights = ({ stock }: Film): number[] => {
  const all = [];
  for (let row = 0; row < stock.rows; row++)
    for (let column = 0; column < stock.columns; column++) all.push(stock.heightAt(column, row));
  return all;
};

describe('programs as a film', () => {
  it('lasts as long as the moves and the changes of tools', () => {
    const film = filmed();
    // Two changes of 10 s, 60 mm and half a circle of radius 10 at 10 mm/s, and two plunges at 100.
    expect(film.seconds).toBeCloseTo(20 + 6 + Math.PI + 0.03, 3);
    expect(film.reels.map(({ name, tool }) => [name, tool])).toEqual([
      ['one', 1],
      ['two', 2],
    ]);
    expect(film.reels[1].seconds).toBeCloseTo(16.02, 2);
  });

  it('has the tool where it is at a moment, and cut as far', () => {
    const film = filmed();
    const { tool } = film.at(10 + 0.02 + 3);
    expect(tool).toMatchObject({ number: 1, program: 0, line: 6 });
    expect([tool!.place.x, tool!.place.z]).toEqual([expect.closeTo(40, 1), -2]);
    const heightAt = (x: number, y: number): number => film.stock.heightAt(Math.floor(x / 0.5), Math.floor(y / 0.5));
    expect([heightAt(41.2, 20), heightAt(43, 20), heightAt(30, 21.5), heightAt(30, 22.7)]).toEqual([-2, 0, -2, 0]);
    expect(film.stock.toolAt(60, 40)).toBe(1);
    // In the middle of the half circle, which goes anticlockwise from the top: at its left.
    const later = film.at(film.reels[1].seconds + 10 + 0.01 + Math.PI / 2);
    expect([later.tool!.place.x, later.tool!.place.y]).toEqual([expect.closeTo(30, 1), expect.closeTo(20, 1)]);
    expect([heightAt(40, 30), heightAt(40, 10)]).toEqual([-1, 0]);
  });

  it('shows the same whichever way a moment is come to', () => {
    const [forth, back] = [filmed(), filmed()];
    back.at(back.seconds);
    for (const seconds of [28, 20, 12.5, 11, 0]) {
      const straight = filmed();
      expect(back.at(seconds)).toEqual(straight.at(seconds));
      expect(heights(back)).toEqual(heights(straight));
    }
    for (let seconds = 0; seconds <= forth.seconds; seconds += 0.7) forth.at(seconds);
    forth.at(forth.seconds);
    const whole = filmed();
    whole.at(whole.seconds);
    expect(heights(forth)).toEqual(heights(whole));
  });

  it('knows when a line is done', () => {
    const film = filmed();
    expect(film.secondsAt(0, 6)).toBeCloseTo(10 + 0.02 + 6, 2);
    // A line without moves: those before it.
    expect(film.secondsAt(0, 3)).toBe(0);
    expect(film.secondsAt(1, 2)).toBe(film.reels[1].seconds);
    expect(film.secondsAt(1, 99)).toBe(film.seconds);
  });

  it('gives the ways of some of the lines', () => {
    const ways = filmed().ways(1, 6, 7);
    expect(ways.map(({ isRapid }) => isRapid)).toEqual([false]);
    const { points } = ways[0];
    expect(points.slice(0, 3)).toEqual([40, 30, 0]);
    expect(points.slice(-3).map((mm) => Number(mm.toFixed(6)))).toEqual([40, 10, -1]);
    for (let i = 6; i < points.length; i += 3) expect(Math.hypot(points[i] - 40, points[i + 1] - 20)).toBeCloseTo(10, 6);
  });

  it('says which program cannot be read, and where', () => {
    const bad = [...PROGRAMS, { name: 'three', text: 'G21\nG1 Q1\n' }];
    expect(() => new Film(bad, { box, top: 0 }, workplace, 1)).toThrow(DryRunError);
    expect(() => new Film(bad, { box, top: 0 }, workplace, 1)).toThrow(/^three: .*2/u);
    const other = [{ name: 'four', text: 'G21 G90\nT9 M6\nM3 S100\nG1 X1 F100\nM30\n' }];
    expect(() => new Film(other, { box, top: 0 }, workplace, 1)).toThrow(/four: .*T9/u);
  });
});

describe('the picture of a stock', () => {
  it('is lit from the upper left, clear where nothing is to be seen, and no larger than its places', () => {
    const stock = new Stock({ x: 0, y: 0 }, 40, 20, 0, 0.5);
    const form = { kind: 'ball', diameter: 16 } as const;
    const motion = { kind: 'feed', line: 1, feed: 1, tool: 1, spindle: 'clockwise', speed: 1, isCooled: false } as const;
    stock.cut({ ...motion, from: { x: 20, y: 10, z: -6 }, to: { x: 20, y: 10, z: -6 } }, form);
    const { width, height, rgba } = stockPicture(stock, 500, (column) => (column < 4 ? undefined : [200, 150, 100]));
    expect([width, height]).toEqual([80, 40]);
    const pixel = (x: number, y: number): number[] => [...rgba.slice(4 * (y * width + x), 4 * (y * width + x) + 4)];
    expect(pixel(1, 20)[3]).toBe(0);
    expect(pixel(10, 20)).toEqual([200, 150, 100, 255]);
    // A dish: the side at the lower right looks to the light, that at the upper left away from it.
    expect(pixel(46, 25)[0]).toBeGreaterThan(pixel(34, 15)[0] + 40);
  });
});
