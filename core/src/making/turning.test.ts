import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { addShape, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { type CutChoice, PlanError, type Turning, USUAL } from '../cutting/index.js';
import { type Stock } from '../dry-run/index.js';
import { readShop } from '../shop/index.js';
import { type Side, type Sign } from '../sign/index.js';
import { stageOf, writtenPlan, type WrittenPlan } from './index.js';

const workshop = new Workshop();
const shop = readShop(JSON.parse(readFileSync(new URL('../../../demo/shop.json', import.meta.url), 'utf8')));
const choiceOf = (turning: Turning | undefined, more: Partial<CutChoice> = {}): CutChoice => ({
  ...USUAL,
  machine: shop.machines[0],
  material: shop.materials.find(({ id }) => id === 'urethane')!,
  tools: ['end-6', 'end-3'].map((id) => shop.tools.find((each) => each.id === id)!),
  ...(turning && { turning }),
  ...more,
});
const PINS = { diameter: 8, apart: 14, deep: 6 };

/** A plate with a pocket in front, another one behind, a raised bar, and a hole; nothing lies in the middle of anything. */
function twoSided(): Sign {
  const sign = bareSign(80, 50, 12);
  addShape(sign, [20, 10], { kind: 'carve', by: 3 }, { x: -22, y: 12 });
  addShape(sign, [12, 6], { kind: 'raise', by: 2 }, { x: 20, y: -14 });
  addShape(sign, 8, { kind: 'cut-through' }, { x: 30, y: 15 });
  addShape(sign, [16, 24], { kind: 'carve', by: 5 }, { x: -25, y: -8 });
  sign.parts[3] = { ...sign.parts[3], side: 'back' };
  return sign;
}

interface Cut extends WrittenPlan {
  /** Height of what is left at a place of the machine, over its zero. */
  readonly heightAt: (x: number, y: number) => number;
}

/** Both sides cut from one stock; places as the machine has them, whose zero is not touched between. */
function cutFrom(side: Side, turning: Turning | undefined): Cut {
  const choice = choiceOf(turning, { cutsOut: side === 'front' });
  let left: Stock | undefined;
  const written = writtenPlan(workshop.evaluate(twoSided(), side), choice, { cell: 0.25, seen: (stock) => (left = stock) });
  const { zero } = written.plan;
  const origin = left!.placeOf(0, 0);
  const heightAt = (x: number, y: number): number => {
    const at = (place: number, from: number): number => Math.round((place - from) / left!.cell);
    return left!.heightAt(at(x + zero.x, origin.x), at(y + zero.y, origin.y)) - zero.z;
  };
  return { ...written, heightAt };
}

describe('a work that is turned', () => {
  it.each(['upright', 'level'] as const)('about its %s middle line on pins has every place where the sign has it', (axis) => {
    const turning = { axis, pins: PINS };
    const [back, front] = [cutFrom('back', turning), cutFrom('front', turning)];
    expect([back.isProven, front.isProven]).toEqual([true, true]);
    const { box, top, bottom } = front.plan.stock;
    const [width, height, thick] = [box.maxX - box.minX, box.maxY - box.minY, top - bottom];
    expect([width, height]).toEqual(axis === 'upright' ? [80, 50 + 2 * 23] : [80 + 2 * 23, 50]);
    expect(back.plan.stock.top - back.plan.stock.bottom).toBeCloseTo(thick, 9);
    const inFront = workshop.evaluate(twoSided());
    let told = 0;
    for (let x = -38.9; x < 39; x += 3.1) {
      for (let y = -23.8; y < 24; y += 2.7) {
        // Where the place is on the machine while the front lies up, and while the back did.
        const [mx, my] = [x - front.zero.x, y - front.zero.y];
        const [bx, by] = axis === 'upright' ? [width - mx, my] : [mx, height - my];
        const [upper, lower] = [front.heightAt(mx, my), -thick - back.heightAt(bx, by)];
        // Both are over the face of the stock, where the zero is; the face of the sign is 2 mm below it.
        const place = { thick: Math.max(0, upper - lower), from: lower + 2 };
        const isHole = Math.hypot(x - 30, y - 15) < 4;
        const isPocket = Math.abs(x + 22) < 10 && Math.abs(y - 12) < 5;
        const isBar = Math.abs(x - 20) < 6 && Math.abs(y + 14) < 3;
        // As seen from behind, x runs the other way.
        const isBehind = Math.abs(x - 25) < 8 && Math.abs(y + 8) < 12;
        const isNearEdge = [Math.hypot(x - 30, y - 15) - 4, ...[[-22, 12, 10, 5], [20, -14, 6, 3], [25, -8, 8, 12]].flatMap(([cx, cy, w, h]) => [Math.abs(x - cx) - w, Math.abs(y - cy) - h])].some((off) => Math.abs(off) < 1.6); // prettier-ignore
        if (isNearEdge) continue;
        told++;
        const wanted = isHole ? 0 : 12 + (isBar ? 2 : 0) - (isPocket ? 3 : 0) - (isBehind ? 5 : 0);
        expect([x, y, place.thick]).toEqual([x, y, expect.closeTo(wanted, 2)]);
        if (!isHole) expect(place.from).toBeCloseTo(isBehind ? -7 : -12, 2);
      }
    }
    expect(told).toBeGreaterThan(150);
    expect(inFront.levels.length).toBeGreaterThan(2);
    // What holds it stands in the very holes that the first side made in the bed.
    const onMachine = ({ plan: { pins, zero } }: WrittenPlan): number[][] => pins.map(({ x, y }) => [x - zero.x, y - zero.y]);
    const ends = onMachine(front).map(([x, y]) => (axis === 'upright' ? [width - x, y] : [x, height - y]));
    expect(ends).toEqual(onMachine(back));
    expect(back.cuts.map(({ purpose }) => purpose)).toContain('pins');
    expect(front.cuts.map(({ purpose }) => purpose)).not.toContain('pins');
    for (const [x, y] of onMachine(back)) {
      expect(back.heightAt(x, y)).toBeCloseTo(-thick - PINS.deep, 6);
      expect(front.heightAt(x, y)).toBe(0);
    }
  });

  it('on pins is drilled where a drill is as wide as they are', () => {
    const drill = shop.tools.find(({ id }) => id === 'drill-5')!;
    const choice = choiceOf({ axis: 'upright', pins: { ...PINS, diameter: 5 } }, { cutsOut: false });
    const { files, isProven } = writtenPlan(
      workshop.evaluate(twoSided(), 'back'),
      { ...choice, tools: [...choice.tools, drill] },
      { cell: 0.5 },
    );
    expect([files[0].tool.kind, isProven]).toEqual(['drill', true]);
  });

  it.each([
    [
      { ...PINS, apart: 8 },
      {},
      /stand 8 mm off the sign, and 6 mm end mill that cuts it out would come to them: put them at least 11 mm off/u,
    ],
    [
      { ...PINS, diameter: 20, apart: 30 },
      { cutsOut: false },
      /No tool makes the holes for pins, ⌀ 20 mm and 20 mm deep \(6 mm of it into the bed\): tick a drill/u,
    ],
    [{ ...PINS, deep: 60 }, { cutsOut: false }, /74 mm deep/u],
  ])('is refused with pins that cannot be made: %j', (pins, more, sentence) => {
    const lay = () => writtenPlan(workshop.evaluate(twoSided(), 'cutsOut' in more ? 'back' : 'front'), choiceOf({ axis: 'level', pins }, more)); // prettier-ignore
    expect(lay).toThrow(PlanError);
    expect(lay).toThrow(sentence);
  });

  it('may go into the bed at its pins and nowhere else', () => {
    const { plan, programs } = cutFrom('back', { axis: 'upright', pins: PINS });
    const { workplace } = stageOf(plan);
    expect(workplace.pits).toHaveLength(2);
    expect(programs[0].text).toContain('pins');
    expect(stageOf({ ...plan, pins: [] }).workplace.pits).toEqual([]);
  });
});
