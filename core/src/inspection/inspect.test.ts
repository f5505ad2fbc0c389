import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { addShape, addText, bareSign, demoSigns } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { readShop } from '../shop/index.js';
import { type Action, readSign, type Sign } from '../sign/index.js';
import { type CheckCode, CHECKS, type Finding, inspect, type Limits, limitsOf, USUAL_LIMITS } from './index.js';

const workshop = new Workshop();
const shop = readShop(JSON.parse(readFileSync(new URL('../../../demo/shop.json', import.meta.url), 'utf8')));

type At = readonly [width: number, height: number, x: number, y: number];

/** A plate of 80 × 50 × 12 mm with rectangles of which all are made alike. */
function plate(action: Action, ...shapes: readonly At[]): Sign {
  const sign = bareSign(80, 50, 12);
  for (const [width, height, x, y] of shapes) addShape(sign, [width, height], action, { x, y });
  return sign;
}

const all = (sign: Sign, limits: Partial<Limits> = {}): Finding[] => inspect(workshop.evaluate(sign), { ...USUAL_LIMITS, ...limits }); // prettier-ignore
const of = (check: CheckCode, sign: Sign, limits: Partial<Limits> = {}): Finding | undefined =>
  all(sign, limits).find((finding) => finding.check === check);

/** Within 1 % of what is worked out by hand, or within what a halving tells. */
const near = (value: number, wanted: number): void =>
  expect(Math.abs(value - wanted)).toBeLessThan(Math.max(0.01 * wanted, 0.02));

const raise = (by: number): Action => ({ kind: 'raise', by });
const carve = (by: number): Action => ({ kind: 'carve', by });
/** Two bars of 5 × 20 mm with a gap between them; they stand no higher than they are wide. */
const apart = (gap: number, action: Action): Sign => plate(action, [5, 20, -(5 + gap) / 2, 0], [5, 20, (5 + gap) / 2, 0]);

/** Checks whose limit is a most. */
const ABOVE: ReadonlySet<CheckCode> = new Set(['tall-stroke', 'unequal-margins', 'nearly-aligned', 'near-sizes', 'straight-quotes', 'hyphen-for-dash', 'no-sheet', 'hole-in-words', 'heavy-for-holes', 'double-blank', 'many-fonts', 'coarse-curve', 'sharp-corner', 'standing-water', 'glare']); // prettier-ignore

describe('what is measured of a sign', () => {
  it('is the narrowest gap that the smallest tool has to pass, and what it cannot reach', () => {
    const found = of('narrow-gap', apart(1.2, raise(2)))!;
    near(found.measured, 1.2);
    expect(found.limit).toBe(1.5);
    expect(found.places[0].x).toBeCloseTo(0, 1);
    // 80 × 50 mm less the bars are cleared; the gap is left.
    expect(Number(/([\d.]+) mm²/u.exec(found.text)![1]) / (1.2 * 20)).toBeCloseTo(1, 1);
    expect(Number(/([\d.]+) %/u.exec(found.text)![1])).toBeCloseTo((100 * 24) / (4000 - 200), 1);
    expect(of('narrow-gap', apart(1.55, raise(2)))).toBeUndefined();
    expect(of('narrow-gap', apart(1.55, raise(2)), { tool: 3 })?.measured).toBeGreaterThan(1.5);
    // Beside the edge of the blank there is room for any tool.
    expect(of('narrow-gap', plate(raise(2), [10, 20, -34.5, 0]))).toBeUndefined();
  });

  it('is the narrowest carved stroke', () => {
    near(of('narrow-gap', plate(carve(1), [30, 1.1, 0, 0]))!.measured, 1.1);
    expect(of('narrow-gap', plate(carve(1), [30, 1.6, 0, 0]))).toBeUndefined();
  });

  it('is the thinnest raised stroke, and the thinnest wall of what is carved or cut through', () => {
    near(of('thin-stroke', plate(raise(2), [30, 0.8, 0, 0]))!.measured, 0.8);
    expect(of('thin-stroke', plate(raise(2), [30, 1.05, 0, 0]))).toBeUndefined();
    near(of('thin-wall', apart(1.2, carve(3)))!.measured, 1.2);
    expect(of('thin-wall', apart(1.55, carve(3)))).toBeUndefined();
    // A hole 1.25 mm from the edge.
    near(of('thin-wall', plate({ kind: 'cut-through' }, [10, 10, 40 - 1.25 - 5, 0]))!.measured, 1.25);
    expect(of('thin-wall', plate({ kind: 'cut-through' }, [10, 10, 40 - 1.6 - 5, 0]))).toBeUndefined();
    // Square corners are no strokes, and neither are those of an equilateral triangle.
    expect(all(plate(raise(2), [30, 20, 0, 0]))).toEqual([]);
  });

  it('is how tall a stroke stands for its width', () => {
    const tall = of('tall-stroke', plate(raise(10), [30, 2, 0, 0]))!;
    near(tall.measured, 5);
    expect(of('tall-stroke', plate(raise(10), [30, 2.6, 0, 0]))).toBeUndefined();
    // On a foot it counts from there, and all of it from the ground.
    const sign = plate(raise(4), [30, 20, 0, 0]);
    addShape(sign, [20, 2], raise(10));
    near(of('tall-stroke', sign, { slenderness: 2.5 })!.measured, 3);
    expect(of('tall-stroke', sign, { slenderness: 3.2 })).toBeUndefined();
  });

  it('is a step that nobody sees', () => {
    const sign = plate(raise(2), [30, 20, 0, 0]);
    addShape(sign, [10, 10], raise(2.12));
    near(of('small-step', sign)!.measured, 0.12);
    expect(of('small-step', sign, { leastStep: 0.12 })).toBeUndefined();
    // Levels that lie apart are no step.
    expect(of('small-step', plate(raise(2), [10, 10, -20, 0]))).toBeUndefined();
  });

  it('is how far off capitals can be read: 25 mm for 3 m', () => {
    const sign = bareSign(200, 50, 12);
    addText(sign, 'PIER', 'barlow-semibold', 20, raise(1));
    expect(of('small-letters', sign)).toBeUndefined();
    expect(of('small-letters', sign, { distance: 2.4 })).toBeUndefined();
    const found = of('small-letters', sign, { distance: 3 })!;
    expect([found.measured, found.limit, found.part]).toEqual([20, 25, sign.parts[0].id]);
    expect(found.text).toContain('capitals of 20 mm are read from 2.4 m; from 3 m they want 25 mm');
  });

  it.each(['barlow-semibold', 'lora-bold', 'cinzel-bold'])(
    'agrees with sampled outlines on the gap between letters of %s',
    (font) => {
      const sign = bareSign(120, 60, 12);
      const text = addText(sign, 'HO', font, 30, raise(2));
      text.tracking = -4;
      const evaluation = workshop.evaluate(sign);
      const [gap] = inspect(evaluation, { ...USUAL_LIMITS, tool: 6 }).filter(({ check }) => check === 'narrow-gap');
      const rings = evaluation.parts[0].area.contours.map((ring) => sampled(ring, 0.02));
      const middle = Math.max(...rings[0].map(([x]) => x));
      const [left, right] = [rings.filter((ring) => ring[0][0] <= middle), rings.filter((ring) => ring[0][0] > middle)];
      let least = Infinity;
      for (const a of left.flat()) for (const b of right.flat()) least = Math.min(least, Math.hypot(a[0] - b[0], a[1] - b[1]));
      // The counter of an O or the room in an H may be narrower still: only where it is not the gap is the narrowest.
      if (least < 5) expect(gap.measured).toBeLessThanOrEqual(least + 0.06);
      expect(least).toBeGreaterThan(0);
    },
  );

  it('does not change where the sign is moved, turned or mirrored', () => {
    const sign = apart(1.2, raise(6));
    addShape(sign, [30, 1.3], carve(3), { x: 0, y: -18 });
    const before = all(sign, { leastStroke: 6 });
    expect(before.map(({ check }) => check)).toEqual(['narrow-gap', 'thin-stroke']);
    const placed = (change: (place: Sign['parts'][number]['place']) => object): Sign => ({
      ...structuredClone(sign),
      blank: { ...sign.blank, outline: { kind: 'rectangle', width: 160, height: 160, cornerRadius: 0 } },
      parts: sign.parts.map((part) => ({ ...part, place: { ...part.place, ...change(part.place) } })) as Sign['parts'],
    });
    const rad = (37 * Math.PI) / 180;
    for (const change of [
      ({ x, y }: { x: number; y: number }) => ({ x: x + 7.3, y: y - 4.1 }),
      ({ x }: { x: number }) => ({ x: -x, mirror: true }),
      ({ x, y }: { x: number; y: number }) => ({
        x: x * Math.cos(rad) - y * Math.sin(rad),
        y: x * Math.sin(rad) + y * Math.cos(rad),
        turn: 37,
      }),
    ]) {
      const after = all(placed(change), { leastStroke: 6 });
      expect(after.map(({ check }) => check)).toEqual(before.map(({ check }) => check));
      after.forEach(({ measured }, i) => near(measured, before[i].measured));
    }
  });

  it('is nothing of signs that a shop makes, but for what its tools do not reach', () => {
    // A round hole wider than the tool is no narrow place, whatever its chords are.
    const holed = apart(1.2, raise(2));
    addShape(holed, 6, { kind: 'cut-through' }, { x: 30, y: 0 });
    expect(of('narrow-gap', holed)!.places.every(({ x }) => Math.abs(x) < 1)).toBe(true);
    for (const [name, source] of demoSigns().filter(([each]) => /^(?:keyring|bilge|tree)/u.test(each))) {
      const sign = readSign(source, workshop.book.catalogue);
      const found = inspect(workshop.evaluate(sign), limitsOf(shop, sign.blank.material));
      for (const { check, measured, limit, places, text } of found) {
        expect([name, check in CHECKS, places.length > 0 || check === 'no-sheet', text.includes('undefined')]).toEqual([
          name,
          true,
          true,
          false,
        ]);
        expect([name, check, check === 'no-sheet' || (ABOVE.has(check) ? measured > limit : measured < limit)]).toEqual([
          name,
          check,
          true,
        ]);
      }
    }
  });
});

describe('the limits of a sign', () => {
  it('are those of the shop’s library, and of its smallest end mill that is left', () => {
    expect(limitsOf(shop, 'oak')).toMatchObject({ tool: 0.8, leastStroke: shop.materials[0].leastStroke, slenderness: shop.materials[0].slenderness }); // prettier-ignore
    expect(limitsOf({ materials: [], tools: [] }, '')).toEqual(USUAL_LIMITS);
    expect(limitsOf({ materials: [], tools: [] }, 'oak')).toEqual({ ...USUAL_LIMITS, density: 720 });
    expect(limitsOf(shop, 'oak').machines).toContainEqual(expect.objectContaining({ width: shop.machines[0].area.width }));
  });
});

function sampled(ring: Float64Array, step: number): [number, number][] {
  const out: [number, number][] = [];
  for (let i = 0; i < ring.length; i += 2) {
    const j = (i + 2) % ring.length;
    const count = Math.max(1, Math.ceil(Math.hypot(ring[j] - ring[i], ring[j + 1] - ring[i + 1]) / (10 * step)));
    for (let k = 0; k < count; k++)
      out.push([ring[i] + ((ring[j] - ring[i]) * k) / count, ring[i + 1] + ((ring[j + 1] - ring[i + 1]) * k) / count]);
  }
  return out;
}
