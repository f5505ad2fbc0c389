import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { ACTION_WORDS, actionAtLevel, actionOf, amountOf, riseOf, sinks, THROUGH, withMore } from './actions.js';
import { type Action } from './schema.js';

const by = fc.integer({ min: 0, max: 40_000 }).map((steps) => steps / 1000);
const action: fc.Arbitrary<Action> = fc.oneof(
  by.map((mm): Action => ({ kind: 'raise', by: mm })),
  by.map((mm): Action => ({ kind: 'carve', by: mm })),
  fc.integer({ min: -40_000, max: 40_000 }).map((steps): Action => ({ kind: 'set', to: steps / 1000 })),
  by.map((mm): Action => ({ kind: 'line', depth: mm, width: 1 })),
  by.map((mm): Action => ({ kind: 'insert', below: mm, thickness: 3, material: 'acrylic' })),
);

describe('actions', () => {
  it('keep their amounts when another is chosen', () => {
    expect(actionOf('carve', { kind: 'raise', by: 2 })).toEqual({ kind: 'carve', by: 2 });
    expect(actionOf('set', { kind: 'line', depth: 1.5, width: 1 })).toEqual({ kind: 'set', to: -1.5 });
    expect(actionOf('raise', { kind: 'cut-through' })).toEqual({ kind: 'raise', by: 2 });
    for (const [kind] of ACTION_WORDS) expect(actionOf(kind, { kind: 'carve', by: 3 }).kind).toBe(kind);
  });

  it('come to the level that they are brought to, those that sink no higher than the base (property)', () => {
    fc.assert(
      fc.property(action, fc.integer({ min: -30_000, max: 30_000 }), by, (before, steps, base) => {
        const level = steps / 1000;
        const rise = riseOf(actionAtLevel(before, level, base));
        const above = level - base;
        const isBound = before.kind === 'line' || before.kind === 'insert';
        expect(rise).toBeCloseTo(isBound ? Math.min(0, above) : above, 6);
      }),
    );
  });

  it('rise or sink by more without turning round (property)', () => {
    fc.assert(
      fc.property(action, fc.integer({ min: -50_000, max: 50_000 }), (before, steps) => {
        const more = steps / 1000;
        const after = withMore(before, more);
        if (before.kind === 'insert') return expect(after).toEqual(before);
        expect(amountOf(after)).toBeCloseTo(Math.max(0, amountOf(before) + more), 9);
        expect(Math.sign(riseOf(after)) * Math.sign(riseOf(before))).toBeGreaterThanOrEqual(0);
      }),
    );
  });

  it('that cut through or colour have no amount', () => {
    expect([amountOf({ kind: 'cut-through' }), riseOf({ kind: 'cut-through' })]).toEqual([0, THROUGH]);
    expect([amountOf({ kind: 'mark' }), sinks({ kind: 'mark' })]).toEqual([0, false]);
    expect(actionAtLevel({ kind: 'mark' }, 5, 0)).toEqual({ kind: 'mark' });
  });
});
