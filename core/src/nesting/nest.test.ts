import { describe, expect, it } from '@jest/globals';
import { Random } from '../../testing/random.js';
import { Workshop } from '../../testing/workshop.js';
import { addText, bareSign } from '../../testing/signs.js';
import { bounds, circle, gapBetween, type Outline, polygonsOf, rectangle, reversed } from '../geometry/index.js';
import { colliding, type Laid, laidOutline, type Nest, type NestChoice, nested, packed } from './index.js';

const workshop = new Workshop();
const SHEET = { width: 300, height: 200 };
const CHOICE: NestChoice = { sheet: SHEET, spacing: 2, margin: 5, turns: [0, 90, 180, 270] };

/** Every outline where it lies, by sheets. */
function bySheets(outlines: readonly Outline[], { laid, sheets }: Nest): Outline[][] {
  return Array.from({ length: sheets }, (_, sheet) =>
    laid.filter((each) => each.sheet === sheet).map((each: Laid) => laidOutline(outlines[each.item], each)),
  );
}

/** Distances by our exact measure of gaps, and edges. */
function expectApart(outlines: readonly Outline[], nest: Nest, { sheet, spacing, margin }: NestChoice): void {
  for (const placed of bySheets(outlines, nest)) {
    placed.forEach((one, i) => {
      const box = bounds(one)!;
      expect(Math.min(box.minX, box.minY, sheet.width - box.maxX, sheet.height - box.maxY)).toBeGreaterThanOrEqual(margin - 2e-3); // prettier-ignore
      for (const other of placed.slice(i + 1)) {
        const near = bounds(other)!;
        if (near.minX > box.maxX + spacing || box.minX > near.maxX + spacing || near.minY > box.maxY + spacing || box.minY > near.maxY + spacing) continue; // prettier-ignore
        // In a hole of the other it lies in no material of it.
        expect(gapBetween(one, other, 'edges')).toBeGreaterThanOrEqual(spacing - 2e-3);
      }
    });
  }
}

/** Letters of a font as pieces of their own. */
function letters(words: string, font: string, height: number): Outline[] {
  const sign = bareSign(2000, 200, 5);
  addText(sign, words, font, height, { kind: 'raise', by: 1 });
  return polygonsOf(workshop.evaluate(sign).parts[0].area.contours).map(({ outer, holes }) => [outer, ...holes]);
}

describe('outlines on sheets', () => {
  it('are squares side by side, one after the other in rows or by the packer', () => {
    // 9 by 6 of 30 mm with 2 mm between them: 286 and 190 mm, of 290 and 190.
    const squares = Array.from({ length: 55 }, () => [rectangle(30, 30)]);
    for (const keepsOrder of [true, false]) {
      const choice = { ...CHOICE, keepsOrder };
      const nest = packed(squares, choice);
      expect([nest.sheets, nest.left, nest.laid.filter(({ sheet }) => sheet === 1).length]).toEqual([2, [], 1]);
      expectApart(squares, nest, choice);
      expect(nest.share).toBeCloseTo((55 * 900) / 120_000, 6);
    }
    // Plates of 110 by 60 mm: 20 in rows of 5, where packers by maximal rectangles lay 18.
    const plates = Array.from({ length: 20 }, () => [rectangle(110, 60)]);
    expect(packed(plates, { ...CHOICE, sheet: { width: 610, height: 305 }, spacing: 3, margin: 10 }).sheets).toBe(1);
    // In cells each takes a little more.
    const nest = nested(squares.slice(0, 40), { ...CHOICE, cell: 0.25 });
    expect(nest.sheets).toBe(1);
    expectApart(squares, nest, CHOICE);
  });

  it('that are rectangles are packed apart, turned where they may be: 40 random lists', () => {
    for (let seed = 0; seed < 40; seed++) {
      const random = new Random(seed);
      const outlines = Array.from({ length: random.whole(1, 60) }, () => [rectangle(random.whole(5, 320), random.whole(5, 120))]);
      const choice = { ...CHOICE, spacing: random.pick([0, 1, 4.3]), turns: random.pick([[0], [0, 90]]), keepsOrder: random.chance(0.5) }; // prettier-ignore
      const nest = packed(outlines, choice);
      expect(nest.laid.length + nest.left.length).toBe(outlines.length);
      expectApart(outlines, nest, choice);
      for (const item of nest.left)
        expect(bounds(outlines[item])!.maxX * 2).toBeGreaterThan(choice.turns.length === 1 ? 290 : 290);
      if (choice.keepsOrder) nest.laid.forEach(({ sheet }, i) => i > 0 && expect(sheet).toBeGreaterThanOrEqual(nest.laid[i - 1].sheet)); // prettier-ignore
    }
  });

  it('lie in holes of others', () => {
    const ring: Outline = [circle(0, 0, 80, 0.01), reversed(circle(0, 0, 60, 0.01))];
    const outlines = [ring, [rectangle(60, 60)]];
    const nest = nested(outlines, { ...CHOICE, sheet: { width: 172, height: 172 } });
    expect(nest.sheets).toBe(1);
    expectApart(outlines, nest, { ...CHOICE, sheet: { width: 172, height: 172 } });
  });

  it('that are too large are left, and only the turns that are allowed are taken', () => {
    const outlines: Outline[] = [[rectangle(150, 310)], [rectangle(150, 250)]];
    expect(nested(outlines, CHOICE)).toMatchObject({ left: [0], laid: [{ item: 1, turn: 90 }] });
    // 120 by 10 mm lie aslant alone in a square of 100 mm.
    const aslant = {
      ...CHOICE,
      sheet: { width: 100, height: 100 },
      margin: 0,
      turns: Array.from({ length: 24 }, (_, i) => 15 * i),
    };
    const [{ turn }] = nested([[rectangle(120, 10)]], aslant).laid;
    expect(turn % 90).toBe(45);
    expect(nested(outlines, { ...CHOICE, turns: [0, 180] })).toMatchObject({ left: [0, 1], sheets: 0, share: 0 });
  });

  it('keep their order where it is asked for', () => {
    const outlines = [20, 90, 20, 90, 120, 20].map((size): Outline => [rectangle(size, size)]);
    const { laid } = nested(outlines, { ...CHOICE, sheet: { width: 200, height: 150 }, keepsOrder: true });
    expect(laid.map(({ item }) => item)).toEqual([0, 1, 2, 3, 4, 5]);
    expect(laid.every(({ sheet }, i) => i === 0 || sheet >= laid[i - 1].sheet)).toBe(true);
  });

  it('are never nearer to each other than the spacing: 60 random nests', () => {
    const fonts = ['barlow-semibold', 'lora-bold', 'cinzel-bold', 'archivo-narrow-semibold'];
    const pool = fonts.flatMap((font) => letters('ABDGLOQRSTVW&', font, 24));
    for (let seed = 0; seed < 60; seed++) {
      const random = new Random(seed);
      const outlines = Array.from({ length: random.whole(3, 14) }, () =>
        random.chance(0.6) ? random.pick(pool) : [rectangle(random.whole(5, 60), random.whole(5, 60))],
      );
      const choice = { ...CHOICE, spacing: random.pick([0.3, 1, 3.7]), margin: random.pick([0, 2, 8]), turns: random.pick([[0], [0, 90, 180, 270], [0, 45, 133]]), cell: random.pick([0.5, 1]), keepsOrder: random.chance(0.3) }; // prettier-ignore
      const nest = nested(outlines, choice);
      expect(nest.laid.length + nest.left.length).toBe(outlines.length);
      expectApart(outlines, nest, choice);
    }
  });

  it('are laid closer, and still never nearer to each other than the spacing: 10 random nests on sheets, offcuts, around clamps and what is locked', () => {
    const fonts = ['barlow-semibold', 'lora-bold', 'cinzel-bold', 'archivo-narrow-semibold'];
    const pool = fonts.flatMap((font) => letters('ABDGLOQRSTVW&', font, 24));
    let closer = 0;
    for (let seed = 0; seed < 10; seed++) {
      const random = new Random(seed);
      const outlines = Array.from({ length: random.whole(6, 26) }, () =>
        random.chance(0.8) ? random.pick(pool) : [rectangle(random.whole(8, 40), random.whole(8, 40))],
      );
      const choice: NestChoice = {
        ...CHOICE,
        sheet: random.pick([SHEET, { width: 130, height: 90 }]),
        spacing: random.pick([0, 0.3, 2]),
        margin: random.pick([0, 5]),
        turns: random.pick([[0], [0, 180], [0, 90, 180, 270], Array.from({ length: 24 }, (_, i) => 15 * i)]),
        offcuts: random.chance(0.3) ? [{ width: 70, height: 60 }] : [],
        clamps: random.chance(0.3) ? [{ x: 0, y: 0, width: 20, height: 15 }] : [],
      };
      const first = nested(outlines, choice);
      const locked = random.chance(0.3) ? first.laid.slice(0, 2) : [];
      const [before, after] = [0, 1000].map((effort) => nested(outlines, { ...choice, locked, effort }));
      expect([...after.laid.map(({ item }) => item)].sort((a, b) => a - b)).toEqual(before.laid.map(({ item }) => item).sort((a, b) => a - b)); // prettier-ignore
      expect(after.left).toEqual(before.left);
      expect(after.sheets).toBeLessThanOrEqual(before.sheets);
      if (after.sheets === before.sheets) expect(after.lastMm).toBeLessThanOrEqual(before.lastMm);
      if (after.sheets < before.sheets || after.lastMm < before.lastMm - 0.01) closer++;
      for (const each of locked) expect(after.laid).toContainEqual(each);
      for (const each of after.laid) expect(choice.turns).toContain(each.turn);
      for (let sheet = 0; sheet < after.sheets; sheet++) {
        const own = after.laid.filter((each) => each.sheet === sheet);
        const byHand = colliding(outlines, { laid: own }, { ...choice, locked: own });
        expect([seed, sheet, ...byHand]).toEqual([seed, sheet]);
      }
    }
    expect(closer).toBeGreaterThan(4);
  });

  it('are laid closer on fewer sheets where they fit, the same each time, and until it is stopped', () => {
    const outlines = letters('ABDGLOQRSTVWABDG', 'lora-bold', 24);
    const sheet = { width: 130, height: 500 };
    // A sheet that is too low for them as they are laid at first.
    const height = 0.97 * nested(outlines, { ...CHOICE, sheet }).lastMm + 5;
    const choice: NestChoice = { ...CHOICE, sheet: { ...sheet, height }, effort: 4000 };
    const before = nested(outlines, { ...choice, effort: 0 });
    const after = nested(outlines, choice);
    expect([before.sheets, after.sheets]).toEqual([2, 1]);
    expectApart(outlines, after, choice);
    expect(after.share).toBeGreaterThan(before.share);
    expect(nested(outlines, choice)).toEqual(after);
    let told = 0;
    const stop = (done: number): void => {
      expect(done).toBeGreaterThanOrEqual(told);
      told = done;
      if (done > 0.3) throw new Error('stopped');
    };
    expect(() => nested(outlines, { ...choice, onProgress: stop })).toThrow('stopped');
  });

  it('take far less by their true shapes than by their boxes where those are half empty', () => {
    // 20 right triangles of 60 mm: two in a square, or nearly, where boxes take one each.
    const triangles = Array.from({ length: 20 }, (): Outline => [Float64Array.of(0, 0, 60, 0, 0, 60)]);
    const strip: NestChoice = { sheet: { width: 330, height: 2000 }, spacing: 2, margin: 5, turns: [0, 90, 180, 270], tries: 4 };
    const [shapes, boxes] = [nested(triangles, strip), packed(triangles, strip)];
    expectApart(triangles, shapes, strip);
    expect(boxes.lastMm).toBeCloseTo(5 + 4 * 60 + 3 * 2, 6);
    expect(shapes.lastMm).toBeLessThan(0.82 * boxes.lastMm);
  });
});
