import { describe, expect, it } from '@jest/globals';
import { addShape, bareSign } from '../../../testing/signs.js';
import { setField } from '../edit/set-field.js';
import { ticket, sentenceText } from '../ticket/ticket.js';
import { baseLevels, planeHosts } from './levels.js';
import { type Action, type Sign } from './schema.js';

const FLAT: Action = { kind: 'set', to: -3, flat: true };

/** A sign of parts that sit on each other, in this order. */
function tower(...actions: readonly Action[]): Sign {
  const sign: Sign = { ...bareSign(100, 60, 8), support: { kind: 'cylinder', radius: 60, facing: 'outside' } };
  let below: string | undefined;
  for (const action of actions) {
    const id = addShape(sign, 10, action);
    if (below !== undefined) sign.parts[sign.parts.length - 1].sitsOn = { kind: 'part', part: below, at: 'floor' };
    below = id;
  }
  return sign;
}

describe('levels in planes', () => {
  it('are handed on to what sits on them, and to what sits on that', () => {
    const sign = tower(FLAT, { kind: 'raise', by: 1 }, { kind: 'carve', by: 0.5 });
    const [pad, first, second] = sign.parts.map(({ id }) => id);
    expect(planeHosts(sign)).toEqual(
      new Map([
        [first, pad],
        [second, pad],
      ]),
    );
    expect([...baseLevels(sign).values()]).toEqual([0, -3, -2]);
  });

  it('are those of the tier that a part sits on: another level of the same part follows the surface', () => {
    const sign = tower(FLAT, { kind: 'raise', by: 1 });
    sign.parts[0].tiers.push({ ...sign.parts[0].tiers[0], id: 'upper', action: { kind: 'set', to: 1 } });
    expect(planeHosts(sign).size).toBe(1);
    sign.parts[1].sitsOn = { kind: 'part', part: sign.parts[0].id, at: 'top' };
    expect(planeHosts(sign).size).toBe(0);
  });

  it('are chosen in the ticket, where the sign is bent, and keep that when the level is set anew', () => {
    const sign = tower({ kind: 'set', to: -3 });
    const words = (): string => ticket(sign, []).map(sentenceText).join(' ');
    expect(words()).not.toMatch(/flat/u);
    const path = ['parts', 0, 'tiers', 0, 'action', 'flat'];
    setField(sign, path, 'true');
    expect(sign.parts[0].tiers[0].action).toEqual(FLAT);
    expect(words()).toMatch(/−3 mm from the face, flat, square to the surface at its place/u);
    setField(sign, ['parts', 0, 'tiers', 0, 'action', 'to'], -2);
    expect(sign.parts[0].tiers[0].action).toEqual({ ...FLAT, to: -2 });
    setField(sign, path, 'false');
    expect(sign.parts[0].tiers[0].action).toEqual({ kind: 'set', to: -2 });
    delete sign.support;
    const choices = ticket(sign, []).flatMap((sentence) => sentence.words.map(({ field }) => field?.label));
    expect(choices).not.toContain('how it lies');
  });
});
