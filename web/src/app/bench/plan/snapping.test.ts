import { snapped, type Snappable } from './snapping';

const box = (minX: number, minY: number, w: number, h: number) => ({ minX, minY, maxX: minX + w, maxY: minY + h });
const part = (name: string, minX: number, minY: number, w: number, h: number): Snappable => ({
  name,
  ink: box(minX, minY, w, h),
});
const blank = box(-100, -50, 200, 100);

describe('snapping', () => {
  const nothing = { blank, others: [], guides: [] };

  it('holds a part to the middle and the edges of the blank, and says so', () => {
    const moving = part('Panel', 0, 0, 20, 10);
    const held = snapped(moving, -9.2, 18, nothing, 1.5);
    expect([held.dx, held.dy]).toEqual([-10, 18]);
    expect(held.reasons).toEqual([{ across: false, at: 0, text: 'middle of the blank' }]);
    expect(snapped(moving, 79.5, 40.3, nothing, 1).reasons.map(({ text }) => text)).toEqual([
      'right edge of the blank',
      'top edge of the blank',
    ]);
    expect(snapped(moving, 55, 20, nothing, 1)).toEqual({ dx: 55, dy: 20, reasons: [] });
  });

  it('holds words by their baseline and capitals, not by their descender', () => {
    const word: Snappable = { name: 'Line 2', ink: box(0, -4, 40, 14), caps: box(0, 0, 40, 10) };
    const other: Snappable = { name: 'Line 1', ink: box(-60, 16, 30, 14), caps: box(-60, 20, 30, 10) };
    const held = snapped(word, 31, 19.4, { blank, others: [other], guides: [] }, 1);
    expect(held.dy).toBe(20);
    expect(held.reasons).toEqual([{ across: true, at: 20, text: 'baseline of Line 1' }]);
  });

  it('holds to guides and to equal gaps', () => {
    const others = [part('A', -80, -5, 20, 10), part('B', -45, -5, 20, 10)];
    const moving = part('C', 25, -20, 14, 10);
    const row = snapped(moving, -35.4, 17, { blank, others, guides: [] }, 0.5);
    expect(row.dx).toBe(-35);
    expect(row.reasons.map(({ text }) => text)).toContain('equal gaps');
    const between = snapped(part('C', 0, 0, 10, 10), -57.2, 0.3, { blank, others, guides: [] }, 0.5);
    expect(between.dx).toBe(-57.5);
    const guide = snapped(moving, 8.2, 44, { blank, others: [], guides: [{ across: false, at: 33 }] }, 0.5);
    expect(guide).toMatchObject({ dx: 8, reasons: [{ at: 33, text: 'guide' }] });
  });
});
