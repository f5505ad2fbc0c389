import { describe, expect, it } from '@jest/globals';
import { bareSign } from '../../../testing/signs.js';
import { readSign } from '../document/validate.js';
import { takeOver } from './taken-over.js';

const colour = (hex: string, x = 0) => ({ colour: hex, width: 10, height: 8, path: 'M0 0L9 0L9 9Z', x, y: 2 });

describe('artwork that is taken over', () => {
  it('comes as one group, every part in its place and in its colour', () => {
    const sign = bareSign(200, 100, 5);
    const ids = takeOver(sign, 'Crozier', [colour('#3a5f0b', -4), colour('#d4af37', 6), colour('#3a5f0b', 9)]);
    expect(sign.parts.map(({ id }) => id)).toEqual(ids);
    expect(new Set(sign.parts.map(({ group }) => group))).toEqual(new Set(['group-1']));
    expect(sign.parts.map(({ name, place }) => [name, place.x, place.y])).toEqual([
      ['Crozier 1', -4, 2],
      ['Crozier 2', 6, 2],
      ['Crozier 3', 9, 2],
    ]);
    expect(sign.finishes?.map(({ id, colour: own }) => [id, own])).toEqual([
      ['colour-3a5f0b', '#3a5f0b'],
      ['colour-d4af37', '#d4af37'],
    ]);
    expect(sign.parts.map(({ tiers }) => tiers[0].finish?.top)).toEqual(['colour-3a5f0b', 'colour-d4af37', 'colour-3a5f0b']);
    expect(readSign(sign)).toEqual(sign);
    // Another logo has a group of its own, and the colours that are there already.
    takeOver(sign, 'Leaf', [colour('#d4af37'), colour('#000000')]);
    expect(sign.parts[3].group).not.toBe('group-1');
    expect(sign.finishes).toHaveLength(3);
  });

  it('of one colour is one part of bare material', () => {
    const sign = bareSign(200, 100, 5);
    takeOver(sign, 'Leaf', [colour('#000000')]);
    expect([sign.parts[0].name, sign.parts[0].group, sign.parts[0].tiers[0].finish, sign.finishes]).toEqual(['Leaf', undefined, undefined, undefined]); // prettier-ignore
  });
});
