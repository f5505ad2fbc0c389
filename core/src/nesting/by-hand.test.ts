import { describe, expect, it } from '@jest/globals';
import { Random } from '../../testing/random.js';
import { bounds, circle, gapBetween, type Outline, rectangle } from '../geometry/index.js';
import { colliding, type Laid, laidOutline, type NestChoice, nested, sizeOfSheet } from './index.js';

const CHOICE: NestChoice = { sheet: { width: 300, height: 200 }, spacing: 2, margin: 5, turns: [0, 90] };
const squares = (count: number, side = 30): Outline[] => Array.from({ length: count }, () => [rectangle(side, side)]);
const boxOf = (outlines: readonly Outline[], laid: Laid) => bounds(laidOutline(outlines[laid.item], laid))!;

describe('sheets that are not whole and empty', () => {
  it('offcuts are taken first, in their order, each as large as it is', () => {
    const outlines = squares(60);
    const choice = { ...CHOICE, offcuts: [{ width: 80, height: 80 }, { width: 45, height: 110 }] }; // prettier-ignore
    const nest = nested(outlines, choice);
    const on = (sheet: number): number => nest.laid.filter((each) => each.sheet === sheet).length;
    // 70 mm hold two of 30 with 2 between them, 35 one; 100 three.
    expect([on(0), on(1), nest.left]).toEqual([4, 3, []]);
    for (const each of nest.laid) {
      const { width, height } = sizeOfSheet(choice, each.sheet);
      const { minX, minY, maxX, maxY } = boxOf(outlines, each);
      expect(Math.min(minX, minY, width - maxX, height - maxY)).toBeGreaterThanOrEqual(5 - 2e-3);
    }
    // What only an offcut has room for is left when that is full.
    const long: Outline[] = [[rectangle(390, 20)], [rectangle(390, 20)]];
    const strip = { ...CHOICE, offcuts: [{ width: 400, height: 30 }] };
    expect(nested(long, strip)).toMatchObject({ left: [1], sheets: 1 });
  });

  it('nothing comes near a clamp of a whole sheet', () => {
    const clamps = [{ x: 0, y: 0, width: 60, height: 40 }, { x: 240, y: 160, width: 60, height: 40 }]; // prettier-ignore
    const outlines = squares(50);
    const nest = nested(outlines, { ...CHOICE, clamps });
    expect(nest.left).toEqual([]);
    for (const each of nest.laid)
      for (const { x, y, width, height } of clamps) {
        const box = boxOf(outlines, each);
        const apart = Math.max(x - box.maxX, box.minX - x - width, y - box.maxY, box.minY - y - height);
        expect(apart).toBeGreaterThanOrEqual(2 - 2e-3);
      }
    // Clamps that leave no room leave all, and no end of sheets.
    const everywhere = { ...CHOICE, clamps: [{ x: 0, y: 0, width: 300, height: 200 }] };
    expect(nested(squares(3), everywhere)).toMatchObject({ left: [0, 1, 2], sheets: 0 });
  });

  it('what is locked stays, and others are laid around it: 40 random lists', () => {
    for (let seed = 0; seed < 40; seed++) {
      const random = new Random(seed);
      const outlines = Array.from({ length: random.whole(4, 30) }, (): Outline => random.chance(0.5) ? [circle(0, 0, random.whole(5, 25), 0.01)] : [rectangle(random.whole(8, 60), random.whole(8, 60))]); // prettier-ignore
      const locked: Laid[] = [
        { item: 1, sheet: 0, x: 100 + random.whole(0, 373) / 10, y: 80.17, turn: random.pick([0, 30, 90]) },
        { item: 2, sheet: 1, x: 211.9, y: 90 + random.whole(0, 111) / 10, turn: 0 },
      ];
      const choice = { ...CHOICE, locked };
      const nest = nested(outlines, choice);
      expect(nest.laid.length + nest.left.length).toBe(outlines.length);
      for (const each of locked) expect(nest.laid).toContainEqual(each);
      const placed = nest.laid.map((each) => ({ ...each, outline: laidOutline(outlines[each.item], each) }));
      for (const one of placed)
        for (const other of placed)
          if (one.item < other.item && one.sheet === other.sheet)
            expect(gapBetween(one.outline, other.outline, 'edges')).toBeGreaterThanOrEqual(2 - 2e-3);
      expect(colliding(outlines, nest, choice)).toEqual(new Set());
    }
  });

  it('what was put too near is told, on whichever side', () => {
    const outlines = [...squares(4), [rectangle(4, 4)] as Outline];
    const at = (item: number, x: number, y: number, sheet = 0): Laid => ({ item, sheet, x, y, turn: 0 });
    const told = (...laid: Laid[]): number[] =>
      [...colliding(outlines, { laid }, { ...CHOICE, locked: laid, clamps: [{ x: 200, y: 100, width: 20, height: 20 }] })].sort();
    const [left, bottom] = [-bounds(outlines[0])!.minX, -bounds(outlines[0])!.minY];
    expect(told(at(0, left + 10, bottom + 10), at(1, left + 42, bottom + 10))).toEqual([]);
    expect(told(at(0, left + 10, bottom + 10), at(1, left + 41.9, bottom + 10))).toEqual([0, 1]);
    expect(told(at(0, left + 10, bottom + 10), at(1, left + 41, bottom + 10, 1))).toEqual([]);
    expect(told(at(0, left + 4, bottom + 10))).toEqual([0]);
    expect(told(at(0, left + 169, bottom + 90))).toEqual([0]);
    // One that lies inside of another one.
    expect(told(at(0, left + 50, bottom + 50), at(4, left + 60, bottom + 60))).toEqual([0, 4]);
    // What was laid by itself gives way to nobody, and is not blamed.
    const laid = [at(0, left + 10, bottom + 10), at(1, left + 30, bottom + 10)];
    expect([...colliding(outlines, { laid }, { ...CHOICE, locked: [laid[1]] })]).toEqual([1]);
  });
});
