import { describe, expect, it } from '@jest/globals';
import type { KeptPlan } from '@plain-relief/api';
import { USUAL } from '@plain-relief/core/cutting';
import { readCutChoice } from '@plain-relief/core/making';
import type { Shop } from '@plain-relief/core/shop';
import {
  clockWords,
  type CutSettings,
  isBehind,
  minutesWords,
  orderOf,
  settingsOf,
  stillThere,
  USUAL_PINS,
  USUAL_SETTINGS,
} from './cut-settings';

const SETTINGS: CutSettings = { ...USUAL_SETTINGS, machine: 'long-bed', material: 'oak', tools: ['end-6', 'end-3'] };

describe('how a sign is cut, as it is typed', () => {
  it('is begun with what core takes where nothing is said', () => {
    expect({ ...orderOf(SETTINGS, 'front', undefined).choice, cutsOut: true }).toEqual(USUAL);
  });

  it.each<Partial<CutSettings>>([
    {},
    { holding: 'skin', skin: 0.7 },
    { holding: 'nothing' },
    { tabsAt: [{ x: 3, y: -20.5 }], pattern: { kind: 'lines', angle: 30 } },
    {
      stockThickness: 25,
      zeroAt: 'middle',
      zeroHeight: 'bed',
      direction: 'conventional',
      clamps: [{ x: 1, y: 2, width: 30, height: 20, above: 15 }],
    },
  ])('is asked for in words that core reads, and comes back as it was: %j', (change) => {
    const settings = { ...SETTINGS, ...change };
    const order = orderOf(settings, 'back', 'opt-1');
    expect(readCutChoice(order.choice)).toEqual(order.choice);
    expect([order.side, order.option]).toEqual(['back', 'opt-1']);
    const back = settingsOf(order);
    // What holds it another way is as usual again.
    expect(orderOf(back, 'back', 'opt-1')).toEqual(order);
  });

  it('lets go of tools that the shop has no longer, and of all where machine or material is gone', () => {
    const turned = {
      ...USUAL_SETTINGS,
      machine: 'm',
      material: 'o',
      tools: [],
      turning: { axis: 'level', pins: USUAL_PINS },
    } as const;
    expect(orderOf(turned, 'back', undefined).choice).toMatchObject({ turning: turned.turning });
    expect(settingsOf(orderOf(turned, 'back', undefined)).turning).toEqual(turned.turning);
    const shop = { machines: [{ id: 'long-bed' }], materials: [{ id: 'oak' }], tools: [{ id: 'end-3' }] } as unknown as Shop;
    expect(stillThere(SETTINGS, shop)?.tools).toEqual(['end-3']);
    expect(stillThere({ ...SETTINGS, material: 'gone' }, shop)).toBeUndefined();
    expect(stillThere({ ...SETTINGS, machine: 'gone' }, shop)).toBeUndefined();
  });

  it('says when a plan is not of what is seen', () => {
    const plan = { revision: 3, order: { side: 'front' } } as KeptPlan;
    expect(isBehind(plan, { revision: 3, side: 'front' })).toBe('');
    expect(isBehind(plan, { revision: 5, side: 'front' })).toMatch(/revision 3.*at 5/u);
    expect(isBehind(plan, { revision: 3, side: 'back' })).toMatch(/front/u);
    expect(isBehind(plan, { revision: 3, side: 'front', option: 'a' })).toMatch(/option/u);
  });

  it('says times as they are said', () => {
    expect([minutesWords(0.04), minutesWords(59.94), minutesWords(65.2), minutesWords(119.7)]).toEqual([
      '0.0 min',
      '59.9 min',
      '1 h 05 min',
      '2 h 00 min',
    ]);
    expect([clockWords(5), clockWords(185), clockWords(3729)]).toEqual(['0:05', '3:05', '1:02:09']);
  });
});
