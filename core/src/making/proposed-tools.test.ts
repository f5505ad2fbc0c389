import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { type Edge, readSign, type Sign } from '../sign/index.js';
import { readShop } from '../shop/index.js';
import { addShape, addText, bareSign, demoSigns } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { proposedMachine, proposedTools } from './index.js';

const shop = readShop(JSON.parse(readFileSync(new URL('../../../demo/shop.json', import.meta.url), 'utf8')));
const workshop = new Workshop();

function raised(width: number, height: number, edge?: Edge): Sign {
  const sign = bareSign(width, height, 10);
  addShape(sign, [width / 2, height / 2], { kind: 'raise', by: 3 });
  sign.parts[0].tiers[0] = { ...sign.parts[0].tiers[0], ...(edge && { edge }) };
  return sign;
}

const toolsOf = (sign: Sign, of = shop): string[] => proposedTools(workshop.evaluate(sign), of).map(({ id }) => id);

describe('what is proposed to cut a sign with', () => {
  it('is end mills, each well smaller than the one before, none larger than the sign stands', () => {
    expect(toolsOf(raised(300, 200))).toEqual(['end-1-5', 'end-quarter', 'end-eighth']);
    expect(toolsOf(raised(40, 25))).toEqual(['end-1-5', 'end-eighth']);
    // Smaller than any: the smallest that there is.
    expect(toolsOf(raised(8, 4))).toEqual(['end-0-8']);
  });

  it('takes a ball for slopes, or the cone whose angle they have', () => {
    const sloped = (angle: number): Edge => ({ kind: 'sloped', angle, sized: 'foot' });
    // Sides that lean by 30° from upright are those of a bit of 60° in all.
    expect(toolsOf(raised(300, 200, sloped(30)))).toEqual(expect.arrayContaining(['vee-60']));
    expect(toolsOf(raised(300, 200, sloped(30)))).not.toContain('ball-3');
    expect(toolsOf(raised(300, 200, sloped(22)))).toEqual(expect.arrayContaining(['ball-3']));
    expect(toolsOf(raised(300, 200, { kind: 'rounded', radius: 2 }))).toContain('ball-3');
  });

  it('takes an engraving point for letters that are sunk a little and too narrow for end mills', () => {
    const lettered = (by: number): Sign => {
      const sign = bareSign(80, 30, 3);
      addText(sign, 'PIER 9', 'barlow-condensed-semibold', 8, { kind: 'carve', by });
      return sign;
    };
    expect(toolsOf(lettered(0.3))).toContain('point-30');
    // Deeper than a point engraves, and strokes that end mills come into.
    expect(toolsOf(lettered(1.5))).not.toContain('point-30');
    expect(toolsOf(raised(300, 200))).not.toContain('point-30');
  });

  it('leaves out what is used up', () => {
    const of = { ...shop, tools: shop.tools.map((tool) => (tool.id === 'end-quarter' ? { ...tool, left: 0 } : tool)) };
    expect(toolsOf(raised(300, 200), of)).toContain('end-6');
  });

  it('has tools for every sign of the demo, on a machine that it fits', () => {
    for (const [, source] of demoSigns()) {
      const sign = readSign(source);
      const evaluation = workshop.evaluate(sign);
      const machine = proposedMachine(evaluation, shop)!;
      expect(machine.area.width).toBeGreaterThan(sign.blank.thickness);
      expect(proposedTools(evaluation, shop).some(({ form }) => form.kind === 'end')).toBe(true);
    }
  });

  it('proposes a machine that turns its work for what is bent around a cylinder', () => {
    const machines = shop.machines.filter(({ kind }) => kind === 'router' || kind === 'engraver');
    const sign = bareSign(100, 60, 5);
    const of = (support?: Sign['support']) =>
      proposedMachine(workshop.evaluate({ ...sign, ...(support && { support }) }), { machines })!.id;
    expect(of()).toBe('bench');
    expect(of({ kind: 'cylinder', radius: 60, facing: 'outside' })).toBe('long-bed');
    expect(of({ kind: 'cylinder', radius: 60, facing: 'inside' })).toBe('bench');
  });
});
