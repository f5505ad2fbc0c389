import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { type CutChoice, USUAL } from '../cutting/index.js';
import { dryRunOfSheet, type Target, type Workplace } from '../dry-run/index.js';
import { area } from '../geometry/index.js';
import { type Evaluation } from '../relief/index.js';
import { readShop } from '../shop/index.js';
import { sheetPlan, type SheetPlan, type SheetWork, turningTools, writtenPlan } from './index.js';

const workshop = new Workshop();
const shop = readShop(JSON.parse(readFileSync(new URL('../../../demo/shop.json', import.meta.url), 'utf8')));
const choiceOf = (more: Partial<CutChoice> = {}): CutChoice => ({
  ...USUAL,
  machine: shop.machines[0],
  material: shop.materials.find(({ id }) => id === 'urethane')!,
  tools: ['end-6', 'end-3'].map((id) => shop.tools.find((each) => each.id === id)!),
  ...more,
});
const SHEET = { width: 400, height: 300, spacing: 7 };

/** A plate with a pocket that only the smaller tool comes into the corners of, and a raised bar; higher ones raise it more. */
function plate(high = 2, wide = 60): Evaluation {
  const sign = bareSign(wide, 30, 10);
  addShape(sign, [20, 8], { kind: 'carve', by: 3 }, { x: -wide / 6, y: 5 });
  addShape(sign, [12, 5], { kind: 'raise', by: high }, { x: wide / 5, y: -6 });
  return workshop.evaluate(sign);
}

const at = (name: string, evaluation: Evaluation, x: number, y: number, turn = 0): SheetWork => ({
  name,
  evaluation,
  x,
  y,
  turn,
});
const plan = (works: readonly SheetWork[], more: Partial<CutChoice> = {}): SheetPlan => sheetPlan(works, SHEET, choiceOf(more), 'Sheet 1', { cell: 0.25 }); // prettier-ignore

describe('the programs of a sheet', () => {
  it('go through all plates with one tool before the next, free them at last, and leave of each what its own would', () => {
    const [one, other] = [plate(), plate(1, 80)];
    const sheet = plan([at('plate 1', one, 40, 30), at('plate 2', one, 110, 40, 90), at('plate 3', other, 180, 30, 180), at('plate 4', one, 40, 100, 270)]); // prettier-ignore
    expect([sheet.isProven, sheet.run.gougeMm, sheet.run.rapidsInMaterial]).toEqual([true, 0, 0]);
    const tools = sheet.files.map(({ tool }) => tool.number);
    // Cleared by the larger tool, then by the smaller one, then cut out: alone each plate takes as many.
    const alone = writtenPlan(one, choiceOf(), { cell: 0.25 });
    expect(tools).toEqual(alone.files.map(({ tool }) => tool.number));
    const freed = sheet.cuts.findIndex(({ purpose }) => purpose === 'cut out');
    expect(sheet.cuts.slice(freed).every(({ purpose }) => purpose === 'cut out')).toBe(true);
    expect(sheet.programs.map(({ text }) => [...text.matchAll(/of (plate \d)/gu)].map(([, name]) => name)).flat()).toEqual(expect.arrayContaining(['plate 1', 'plate 2', 'plate 3', 'plate 4'])); // prettier-ignore
    for (const { name, gougeMm, leftAreaMm2 } of sheet.works) {
      const own = writtenPlan(name === 'plate 3' ? other : one, choiceOf(), { cell: 0.25 });
      expect(gougeMm).toBe(0);
      expect(Math.abs(leftAreaMm2 - own.leftAreaMm2)).toBeLessThan(0.5);
    }
    // Fewer changes of tools and no more cutting than by plates one after the other.
    expect(sheet.minutes).toBeLessThan(3 * alone.minutes + writtenPlan(other, choiceOf(), { cell: 0.25 }).minutes);
  });

  it('clear the face of a plate that is lower than the highest', () => {
    // What stays are corners of pockets: 4 (1 − π/4) r² of each.
    const sheet = plan([at('low', plate(1), 40, 30), at('high', plate(4), 120, 30)]);
    expect(sheet.stock).toEqual({ top: 4, bottom: -10 });
    expect([sheet.isProven, sheet.works.every(({ leftAreaMm2 }) => leftAreaMm2 < 3)]).toEqual([true, true]);
  });

  it('are laid once for plates that are alike: the same cuts, moved', () => {
    const one = plate();
    const { cuts } = plan([at('a', one, 40, 30), at('b', one, 140, 60)]);
    const own = (name: string) => cuts.filter(({ of }) => of === name);
    own('a').forEach((cut, i) => {
      const moved = own('b')[i];
      moved.runs.forEach(({ x, y }, k) => {
        expect(x - 100).toBeCloseTo(cut.runs[k].x, 9);
        expect(y - 30).toBeCloseTo(cut.runs[k].y, 9);
      });
    });
  });

  it('are refused where plates lie nearer than the tool that frees them, are of several thicknesses, or none are there', () => {
    const one = plate();
    const near = () => sheetPlan([at('a', one, 40, 30), at('b', one, 104, 30)], { ...SHEET, spacing: 4 }, choiceOf(), 'S');
    expect(near).toThrow(/Plates lie 4 mm apart and are cut out by a tool of \d/u);
    const thick = workshop.evaluate(bareSign(60, 30, 12));
    expect(() => plan([at('a', one, 40, 30), at('b', thick, 140, 30)])).toThrow('b is 12 mm thick and a 10 mm: cut them from sheets of their own.'); // prettier-ignore
    expect(() => plan([])).toThrow('Nothing lies on the sheet.');
    const both = bareSign(60, 30, 10);
    addShape(both, [20, 8], { kind: 'carve', by: 3 });
    both.parts[0] = { ...both.parts[0], side: 'back' };
    expect(() => plan([at('a', workshop.evaluate(both), 40, 30)])).toThrow(
      'a has a back, and a sheet is cut from the front alone',
    );
  });

  it('are proven for plates of any pockets, anywhere, in any quarter turn', () => {
    const pocket = fc.record({ w: fc.integer({ min: 4, max: 24 }), h: fc.integer({ min: 4, max: 14 }), x: fc.integer({ min: -30, max: 30 }), y: fc.integer({ min: -16, max: 16 }), by: fc.integer({ min: -4, max: 3 }) }); // prettier-ignore
    const work = fc.record({ pockets: fc.array(pocket, { minLength: 1, maxLength: 3 }), turn: fc.constantFrom(0, 90, 180, 270), shift: fc.integer({ min: 0, max: 9 }) }); // prettier-ignore
    fc.assert(
      fc.property(fc.array(work, { minLength: 2, maxLength: 4 }), (all) => {
        const works = all.map(({ pockets, turn, shift }, i) => {
          const sign = bareSign(60, 30, 10);
          for (const { w, h, x, y, by } of pockets) if (by !== 0) addShape(sign, [w, h], by > 0 ? { kind: 'raise', by } : { kind: 'carve', by: -by }, { x, y }); // prettier-ignore
          return at(`plate ${i + 1}`, workshop.evaluate(sign), 50 + 85 * i, 60 + shift, turn);
        });
        const { isProven, run } = plan(works);
        expect({ isProven, gouge: run.gougeMm, rapids: run.rapidsInMaterial, holder: run.holderTouches }).toEqual({ isProven: true, gouge: 0, rapids: 0, holder: 0 }); // prettier-ignore
      }),
      { numRuns: 12, seed: 17 },
    );
  });
});

describe('a dry run of a sheet', () => {
  it('finds plates that lie elsewhere than they were thought, rapid moves between them, and cuts without a spindle', () => {
    const works = [at('a', plate(), 40, 30), at('b', plate(), 140, 30)];
    const { programs, zero, stock } = plan(works);
    const workplace: Workplace = { tools: turningTools(choiceOf().tools), limits: shop.machines[0], zero };
    const targets = (moved: number): Target[] =>
      works.map(({ evaluation, x, y }, i) => {
        const { mesh, blank } = flat(evaluation, x + (i === 1 ? moved : 0), y);
        return { mesh, blank, top: stock.top, floor: stock.bottom };
      });
    const run = (texts: (text: string) => string, moved = 0) =>
      dryRunOfSheet(programs.map((program) => ({ ...program, text: texts(program.text) })), targets(moved), workplace, { cell: 0.25 }); // prettier-ignore
    const right = run((text) => text);
    expect([right.gougeMm, right.rapidsInMaterial]).toEqual([0, 0]);
    const shifted = run((text) => text, 0.4);
    expect([shifted.of[0].gougeMm, shifted.of[1].gougeMm > 1]).toEqual([0, true]);
    const low = run((text) => text.replace(/^M30/mu, 'G0 Z-1\nG0 X-30 Y-20\nG0 X-30 Y200\nM30'));
    expect(low.rapidsInMaterial).toBeGreaterThan(0);
    expect(run((text) => text.replace(/^.*M3\b.*$/mu, '')).spindleStill).toBeGreaterThan(100);
    expect(right.of.map(({ leftAreaMm2 }) => leftAreaMm2 < area([blankOf(works[0].evaluation)]) / 50)).toEqual([true, true]);
  });

  it('of engraved words leaves what is too narrow, and says so by plate', () => {
    const sign = bareSign(90, 30, 5);
    addText(sign, 'FERN', 'barlow-semibold', 12, { kind: 'carve', by: 2 });
    const words = workshop.evaluate(sign);
    const { works, isProven } = sheetPlan([at('row 7', words, 60, 40), at('row 9', words, 160, 40)], SHEET, choiceOf(), 'Sheet', { cell: 0.2 }); // prettier-ignore
    expect(isProven).toBe(true);
    expect(works.map(({ name, left }) => [name, left.length > 0])).toEqual([['row 7', true], ['row 9', true]]); // prettier-ignore
  });
});

const blankOf = ({ blank }: Evaluation) => blank;

/** A plate's own solid, moved. */
function flat(evaluation: Evaluation, dx: number, dy: number): { mesh: Target['mesh']; blank: Target['blank'] } {
  const { work } = writtenPlan(evaluation, choiceOf(), { cell: 1 }).plan;
  const { positions, triangles } = work.mesh;
  return {
    mesh: { positions: positions.map((value, i) => value + (i % 3 === 0 ? dx : i % 3 === 1 ? dy : 0)), triangles },
    blank: work.blank.map((value, i) => value + (i % 2 === 0 ? dx : dy)),
  };
}
