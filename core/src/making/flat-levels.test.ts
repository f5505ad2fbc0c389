import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { USUAL } from '../cutting/index.js';
import { readShop, rotaryOf } from '../shop/index.js';
import { type Sign } from '../sign/index.js';
import { writtenPlan } from './index.js';

const workshop = new Workshop();
const shop = readShop(JSON.parse(readFileSync(new URL('../../../demo/shop.json', import.meta.url), 'utf8')));

describe('a flat pad on a post', () => {
  it('is cut by programs that turn the work, its floor by a ball, and letters are left standing on it', () => {
    const sign: Sign = { ...bareSign(90, 50, 12), support: { kind: 'cylinder', radius: 45, facing: 'outside' } };
    const pad = addShape(sign, [30, 24], { kind: 'set', to: -5, flat: true });
    const text = addText(sign, 'I', 'barlow-bold', 14, { kind: 'raise', by: 2 });
    text.sitsOn = { kind: 'part', part: pad, at: 'floor' };
    const machine = { ...shop.machines[0], rotary: 'y' as const };
    const tools = ['end-6', 'end-3', 'ball-3'].map((id) => shop.tools.find((each) => each.id === id)!);
    const material = shop.materials.find(({ id }) => id === 'urethane')!;
    const choice = { ...USUAL, machine, material, tools, rotary: rotaryOf(sign, machine)!, cutsOut: false };
    const written = writtenPlan(workshop.evaluate(sign), choice, { cell: 0.2 });
    expect(written.isProven).toBe(true);
    expect(written.programs.some(({ text: program }) => /A-?\d/u.test(program))).toBe(true);
    // Inner corners stay round by the smallest tool, beside the letter and the walls: less than a twentieth of what is taken out.
    const taken = 24 * 30 * 3.2;
    expect(written.leftVolumeMm3).toBeLessThan(taken / 20);
  });
});
