import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { type CutChoice, USUAL } from '../cutting/index.js';
import { Evaluator } from '../relief/index.js';
import { readShop } from '../shop/index.js';
import { type Edge, type Sign } from '../sign/index.js';
import { mend, type SignRemedy, signRemedies, writtenPlan } from './index.js';

const workshop = new Workshop();
const evaluator = (): Evaluator => new Evaluator(workshop.book);
const shop = readShop(JSON.parse(readFileSync(new URL('../../../demo/shop.json', import.meta.url), 'utf8')));

function planned(sign: Sign, tools: readonly string[]) {
  const evaluation = workshop.evaluate(sign);
  const choice: CutChoice = {
    ...USUAL,
    machine: shop.machines[0],
    material: shop.materials.find(({ id }) => id === 'urethane')!,
    tools: shop.tools.filter(({ id }) => tools.includes(id)),
    cutsOut: false,
  };
  const { left } = writtenPlan(evaluation, choice, { cell: 0.2 });
  const mm2 = (cause: string): number => left.reduce((sum, each) => sum + (each.cause === cause ? each.areaMm2 : 0), 0);
  return { mm2, left, remedies: signRemedies(evaluator(), evaluation, left, choice.tools) };
}

function mended(sign: Sign, remedy: SignRemedy): Sign {
  const changed = structuredClone(sign);
  mend(changed, remedy);
  return changed;
}

/** A plate with one shape, whose first tier has an edge. */
function plate(size: [number, number], action: Parameters<typeof addShape>[2], edge?: Edge): Sign {
  const sign = bareSign(80, 40, 12);
  addShape(sign, size, action);
  if (edge) sign.parts[0].tiers[0].edge = edge;
  return sign;
}

describe('what could be changed of a sign for what is left standing', () => {
  it('is to open raised words up for the smallest end mill, which then passes between all letters', () => {
    const sign = bareSign(140, 50, 12);
    addText(sign, 'HILL', 'barlow-semibold', 24, { kind: 'raise', by: 2 });
    const { remedies, mm2 } = planned(sign, ['end-6']);
    const [opening] = remedies;
    expect(remedies.map(({ kind }) => kind)).toEqual(['open up']);
    expect(opening).toMatchObject({ part: sign.parts[0].id, name: sign.parts[0].name, diameter: 6 });
    const open = mended(sign, opening);
    const gaps = evaluator()
      .gaps(workshop.evaluate(open), open.parts[0].id)
      .map(({ gap }) => gap);
    expect(Math.min(...gaps)).toBeGreaterThanOrEqual(6);
    const after = planned(open, ['end-6']);
    expect(mm2('width')).toBeGreaterThan(10);
    // What is left are inner corners of letters that no round tool comes into.
    expect(after.mm2('width')).toBeLessThan(mm2('width') / 4);
    expect(after.remedies).toEqual([]);
  });

  it('is nothing where words are carved, or far enough apart', () => {
    const sign = bareSign(140, 50, 12);
    addText(sign, 'HILL', 'barlow-semibold', 24, { kind: 'raise', by: 2 });
    expect(planned(sign, ['end-0-8']).remedies).toEqual([]);
    const carved = structuredClone(sign);
    carved.parts[0].tiers[0].action = { kind: 'carve', by: 1 };
    expect(planned(carved, ['end-6']).remedies.map(({ kind }) => kind)).not.toContain('open up');
  });

  it('is to carve narrow strokes as a vee bit cuts them', () => {
    const sign = plate([40, 2], { kind: 'carve', by: 3 });
    const { remedies, mm2 } = planned(sign, ['end-6', 'vee-90']);
    expect(mm2('width')).toBeCloseTo(80, 0);
    expect(remedies).toEqual([
      expect.objectContaining({ kind: 'edge', edge: { kind: 'ridged', angle: 90, capped: true }, tool: '90° vee bit' }),
    ]);
    const after = planned(mended(sign, remedies[0]), ['end-6', 'vee-90']);
    expect([after.mm2('width'), after.mm2('slope')]).toEqual([0, 0]);
    // A panel is no stroke, whatever stands too close in it.
    const panel = plate([70, 35], { kind: 'carve', by: 3 });
    addText(panel, 'HILL', 'barlow-semibold', 24, { kind: 'raise', by: 2 });
    expect(planned(panel, ['end-6', 'vee-90']).remedies.map(({ kind }) => kind)).toEqual(['open up']);
    // Without a vee bit there is nothing that would help.
    expect(planned(sign, ['end-6']).remedies).toEqual([]);
  });

  it('is to slope sides as a vee bit does, or to have them upright, where nothing finishes them', () => {
    const sign = plate([30, 15], { kind: 'raise', by: 4 }, { kind: 'sloped', angle: 20, sized: 'foot' });
    const tools = ['end-6', 'vee-90'];
    const { remedies, mm2 } = planned(sign, tools);
    expect(mm2('slope')).toBeGreaterThan(50);
    expect(remedies.map((remedy) => (remedy.kind === 'edge' ? remedy.edge : remedy))).toEqual([
      { kind: 'sloped', angle: 45, sized: 'foot' },
      undefined,
    ]);
    for (const remedy of remedies) expect(planned(mended(sign, remedy), tools).mm2('slope')).toBe(0);
    const rounded = plate([30, 15], { kind: 'raise', by: 4 }, { kind: 'rounded', radius: 3 });
    expect(planned(rounded, tools).remedies).toEqual([expect.objectContaining({ kind: 'edge', edge: undefined })]);
    expect(planned(rounded, [...tools, 'ball-3']).remedies).toEqual([]);
  });

  it('changes nothing of a sign that has the part no longer', () => {
    const sign = plate([40, 2], { kind: 'carve', by: 3 });
    const [remedy] = planned(sign, ['end-6', 'vee-90']).remedies;
    const other = bareSign(80, 40, 12);
    expect(mended(other, remedy)).toEqual(other);
    expect(mended(sign, { ...remedy, tier: 'gone' } as SignRemedy)).toEqual(sign);
  });
});
