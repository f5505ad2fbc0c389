import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { addShape, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { type NestChoice } from '../nesting/index.js';
import { Evaluator } from '../relief/index.js';
import { readShop } from '../shop/index.js';
import { type Sign } from '../sign/index.js';
import {
  evaluationsToCut,
  filesOfPrograms,
  keptMeans,
  type LaidPlates,
  meansOf,
  MeansError,
  programsOfSheet,
  proposedTools,
  proposedToolsOf,
} from './index.js';

const workshop = new Workshop();
const shop = readShop(JSON.parse(readFileSync(new URL('../../../demo/shop.json', import.meta.url), 'utf8')));
const choice: NestChoice = { sheet: { width: 300, height: 120 }, spacing: 8, margin: 10, turns: [0], keepsOrder: true, tries: 1 };

/** A plate with a pocket; with grooves so narrow that an engraving point is proposed where it is engraved. */
function plate(isEngraved = false): Sign {
  const sign = bareSign(60, 40, 10);
  sign.blank.material = 'oak';
  addShape(sign, [30, 10], { kind: 'carve', by: 0.4 }, { y: 8 });
  if (isEngraved) for (const y of [-6, -9, -12]) addShape(sign, [50, 1], { kind: 'carve', by: 0.4 }, { y });
  return sign;
}

/** Plates side by side on the first of two sheets. */
function laid(signs: readonly Sign[], apart = 70, more: Partial<NestChoice> = {}): LaidPlates {
  const evaluator = new Evaluator(workshop.book);
  const edge = [Float64Array.of(-30, -20, 30, -20, 30, 20, -30, 20)];
  return {
    title: 'Plates',
    items: signs.map((_, i) => ({ name: String(i + 1), edge })),
    nest: { laid: signs.map((_, item) => ({ item, sheet: 0, x: 45 + apart * item, y: 60, turn: 0 })) },
    choice: { ...choice, ...more },
    evaluationOf: evaluationsToCut(evaluator, (item) => signs[item]),
  };
}

describe('the programs of a run', () => {
  it('are made with all tools that plates of the sheet are proposed, whichever comes first', () => {
    const [plain, engraved] = [plate(), plate(true)].map((sign) => workshop.evaluate(sign));
    const idsOf = (tools: readonly { readonly id: string }[]): string[] => tools.map(({ id }) => id);
    // What one plate alone is proposed is not enough for the other.
    expect(idsOf(proposedTools(engraved, shop))).not.toEqual(idsOf(proposedTools(plain, shop)));
    const both = [...new Set([...proposedTools(plain, shop), ...proposedTools(engraved, shop)])].sort(
      (a, b) => a.number - b.number,
    );
    expect(idsOf(proposedToolsOf([plain, engraved], shop))).toEqual(idsOf(both));
    expect(idsOf(proposedToolsOf([engraved, plain], shop))).toEqual(idsOf(both));
    const kept = keptMeans(shop, plate(), { machine: 'long-bed' });
    const { plan, trouble } = programsOfSheet(laid([plate(), plate(true)]), 0, meansOf(kept), { cell: 0.3 });
    expect(trouble).toBeUndefined();
    expect(plan!.isProven).toBe(true);
    const point = both.find(({ form }) => form.kind === 'point')!;
    expect(plan!.cuts.filter(({ tool }) => tool.id === point.id).map(({ of }) => of)).toEqual(
      expect.arrayContaining(['plate 2']),
    );
    expect(filesOfPrograms(plan!, 0).every(({ name }) => name.startsWith('sheet 1/'))).toBe(true);
    // Nothing lies on the second.
    expect(programsOfSheet(laid([plate()]), 1, meansOf(kept))).toEqual({});
  });

  it('use the tools that were chosen and no others', () => {
    const kept = keptMeans(shop, plate(), { machine: 'long-bed', tools: ['end-6'] });
    expect([kept.isChosen, kept.material.id]).toEqual([true, 'oak']);
    const { plan } = programsOfSheet(laid([plate()]), 0, meansOf(kept), { cell: 0.3 });
    expect(new Set(plan!.cuts.map(({ tool }) => tool.id))).toEqual(new Set(['end-6']));
  });

  it('tell how far they are, plate by plate and through the dry run, and never go back', () => {
    const told: [part: number, words: string][] = [];
    const kept = keptMeans(shop, plate(), { machine: 'long-bed' });
    const progress = (part: number, words: string) => void told.push([part, words]);
    programsOfSheet(laid([plate(), plate(true)]), 0, meansOf(kept), { cell: 0.3, progress });
    const parts = told.map(([part]) => part);
    expect(parts).toEqual([...parts].sort((a, b) => a - b));
    expect(parts[0]).toBe(0);
    // A dry run tells every 500 lines.
    expect(parts[parts.length - 1]).toBeGreaterThan(0.6);
    expect(parts[parts.length - 1]).toBeLessThanOrEqual(1);
    expect([...new Set(told.map(([, words]) => words))]).toEqual(['Laying plate 1', 'Laying plate 2', 'Dry run']);
    // Within a plate too: one alone may take long.
    expect(told.filter(([, words]) => words === 'Laying plate 1').length).toBeGreaterThan(3);
    const stop = () => {
      throw new Error('Nobody waits for it.');
    };
    expect(() => programsOfSheet(laid([plate()]), 0, meansOf(kept), { progress: stop })).toThrow('Nobody waits');
  });

  it('take plates that are alike but for their titles as one', () => {
    const { evaluationOf } = laid([plate(), { ...plate(), title: 'Another' }, plate(true)]);
    const [one, other, engraved] = [0, 1, 2].map(evaluationOf);
    expect(one).toBe(other);
    expect(engraved).not.toBe(one);
  });

  it('are refused with what is asked for and not there, and with what lies too near', () => {
    const cases: [string, Parameters<typeof keptMeans>][] = [
      ['machine', [shop, plate(), { machine: 'lathe' }]],
      // A laser has no programs of cuts.
      ['machine', [shop, plate(), { machine: 'laser' }]],
      ['tools', [shop, plate(), { machine: 'bench', tools: ['end-6', 'end-99'] }]],
      ['material', [shop, bareSign(60, 40, 10), { machine: 'bench' }]],
    ];
    for (const [path, asked] of cases) {
      let caught: unknown;
      try {
        keptMeans(...asked);
      } catch (error) {
        caught = error;
      }
      expect(caught).toBeInstanceOf(MeansError);
      expect((caught as MeansError).path).toBe(path);
    }
    // The first was put there by hand.
    const locked = [{ item: 0, sheet: 0, x: 45, y: 60, turn: 0 }];
    const near = programsOfSheet(
      laid([plate(), plate()], 62, { locked }),
      0,
      meansOf(keptMeans(shop, plate(), { machine: 'long-bed' })),
    );
    expect(near).toEqual({ trouble: expect.stringMatching(/^plate 1 lies too near/u) });
  });
});
