import { cutLineEnds, fit, onSteps, ticks, toPlan, turnTowards, zoomed } from './plan-geometry';

const blank = { minX: -150, minY: -100, maxX: 150, maxY: 100 };

describe('the viewport', () => {
  it('shows the whole blank in the middle of its room', () => {
    const view = fit(blank, 700, 500);
    expect(300 * view.scale).toBeLessThanOrEqual(700);
    expect(toPlan(view, view.x, view.y).map((mm) => mm + 0)).toEqual([0, 0]);
    const [left] = toPlan(view, view.x - 150 * view.scale, 0);
    expect(left).toBeCloseTo(-150, 9);
  });

  it('keeps the point under the pointer when it comes nearer', () => {
    const view = fit(blank, 700, 500);
    const before = toPlan(view, 123, 321);
    const after = toPlan(zoomed(view, 3, 123, 321), 123, 321);
    expect(after[0]).toBeCloseTo(before[0], 9);
    expect(after[1]).toBeCloseTo(before[1], 9);
    expect(zoomed(view, 1e9, 0, 0).scale).toBe(400);
  });
});

describe('rulers', () => {
  it('have figures far enough apart, in the unit of the sign', () => {
    const view = fit(blank, 700, 500);
    for (const unit of ['mm', 'in'] as const) {
      const marks = ticks(view, 'x', 700, unit);
      for (let i = 1; i < marks.length; i++) expect(marks[i].at - marks[i - 1].at).toBeGreaterThanOrEqual(46);
      expect(marks.map(({ text }) => text)).toContain('0');
    }
    // A mark so near the corner that its figure would run into the unit has none.
    const upright = ticks({ scale: 1, x: 0, y: 230 }, 'y', 500, 'mm').map(({ at, text }) => [at, text]);
    expect(upright.slice(-2)).toEqual([
      [80, '150'],
      [30, ''],
    ]);
    expect(ticks({ scale: 10, x: 100, y: 100 }, 'x', 400, 'in').map(({ text }) => text)).toContain('1/4');
  });
});

describe('the cut line', () => {
  it('reaches a little over the blank', () => {
    const [x1, y1, x2, y2] = cutLineEnds({ x: 0, y: 20, turn: 0 }, blank);
    expect(x1).toBeLessThan(-150);
    expect(x2).toBeGreaterThan(150);
    expect([y1, y2]).toEqual([20, 20]);
    const upright = cutLineEnds({ x: 30, y: 0, turn: 90 }, blank);
    expect(upright[1]).toBeLessThan(-100);
    expect(upright[3]).toBeGreaterThan(100);
    expect(upright[0]).toBeCloseTo(30, 9);
  });

  it('holds to multiples of 15° when turned near them', () => {
    expect(turnTowards({ x: 0, y: 0 }, 100, 1, true)).toBe(0);
    expect(turnTowards({ x: 0, y: 0 }, 100, 100, true)).toBe(45);
    expect(turnTowards({ x: 0, y: 0 }, 100, 13, true)).toBe(7);
    expect(turnTowards({ x: 0, y: 0 }, -100, 0, false)).toBe(0);
  });
});

describe('dragged places', () => {
  it('lie on half millimetres or 64ths of an inch', () => {
    expect(onSteps(12.34, 'mm')).toBe(12.5);
    expect(onSteps(12.34, 'in') / 25.4).toBeCloseTo(31 / 64, 6);
  });
});
