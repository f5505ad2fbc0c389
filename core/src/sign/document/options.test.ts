import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { addShape, addText, bareSign, demoSigns } from '../../../testing/signs.js';
import { setField } from '../edit/set-field.js';
import { newTier } from './new-sign.js';
import { newOption, splitOption, withOption } from './options.js';
import { dropStale } from './references.js';
import { type Sign } from './schema.js';
import { SignError } from './faults.js';
import { readSign } from './validate.js';

/** A sign with two parts and two options that are as it is. */
function signWithOptions(): Sign {
  const sign = bareSign(200, 100, 12);
  addText(sign, 'FERN', 'cinzel-bold', 20, { kind: 'raise', by: 2 });
  addShape(sign, [150, 60], { kind: 'carve', by: 3 });
  for (let i = 0; i < 2; i++) sign.options = [...(sign.options ?? []), newOption(sign)];
  return sign;
}

describe('options of a sign', () => {
  it('are named in turn, and are as the sign is to begin with', () => {
    const sign = signWithOptions();
    expect(sign.options?.map(({ name }) => name)).toEqual(['Option A', 'Option B']);
    expect(withOption(sign, 'option-1')).toEqual(sign);
    expect(withOption(sign, undefined)).toBe(sign);
  });

  it('keep amounts, finishes and what is on to themselves; words and places are those of the sign', () => {
    const sign = signWithOptions();
    const shown = structuredClone(withOption(sign, 'option-1'));
    setField(shown, ['parts', 0, 'tiers', 0, 'action', 'by'], 5);
    setField(shown, ['parts', 0, 'tiers', 0, 'finish', 'top'], 'gold-leaf');
    setField(shown, ['parts', 0, 'words'], 'MOSS');
    setField(shown, ['blank', 'material'], 'slate');
    shown.parts[1].tiers[0].on = false;
    const next = splitOption(sign, 'option-1', shown);
    expect(withOption(next, 'option-1')).toEqual({ ...shown, options: next.options });
    const plain = withOption(next, 'option-2');
    expect(plain.parts[0]).toMatchObject({ words: 'MOSS', tiers: [{ on: true, action: { kind: 'raise', by: 2 } }] });
    expect(plain.parts[0].tiers[0].finish).toBeUndefined();
    expect(plain.parts[1].tiers[0].on).toBe(true);
    expect([plain.blank.material, withOption(next, 'option-1').blank.material]).toEqual(['', 'slate']);
    expect(readSign(next)).toEqual(next);
  });

  it('carry a letter over the face: what is raised in the sign may be carved in an option', () => {
    const sign = signWithOptions();
    const shown = structuredClone(sign);
    shown.parts[0].tiers[0].action = { kind: 'carve', by: 1 };
    const next = splitOption(sign, 'option-1', shown);
    expect(next.parts[0].tiers[0].action).toEqual({ kind: 'raise', by: 2 });
    expect(withOption(next, 'option-1').parts[0].tiers[0].action).toEqual({ kind: 'carve', by: 1 });
  });

  it('take another kind of action, and a new tier, for all options', () => {
    const sign = signWithOptions();
    const shown = structuredClone(sign);
    shown.parts[0].tiers[0].action = { kind: 'cut-through' };
    shown.parts[1].tiers.push(newTier('tier-2', { kind: 'carve', by: 1 }));
    const next = splitOption(sign, 'option-1', shown);
    expect(withOption(next, 'option-2').parts[0].tiers[0].action).toEqual({ kind: 'cut-through' });
    expect(next.parts[1].tiers).toHaveLength(2);
    expect(next.options?.[0].tiers).toEqual([]);
  });

  it('show what was edited, whatever was edited in whatever order (property)', () => {
    const signs = demoSigns().map(([, document]) => readSign(document));
    const edit = fc.record({
      option: fc.constantFrom(undefined, 'option-1', 'option-2'),
      part: fc.nat(20),
      amount: fc.double({ min: -3, max: 9, noNaN: true }),
      what: fc.constantFrom('on', 'amount', 'finish', 'face'),
    });
    fc.assert(
      fc.property(fc.constantFrom(...signs), fc.array(edit, { maxLength: 8 }), (first, edits) => {
        let sign: Sign = structuredClone(first);
        for (let i = 0; i < 2; i++) sign.options = [...(sign.options ?? []), newOption(sign)];
        for (const { option, part, amount, what } of edits) {
          const others = ['option-1', 'option-2'].filter((id) => id !== option);
          const before = others.map((id) => JSON.stringify(withOption(sign, id).parts.map(({ tiers }) => tiers.map(({ on, finish }) => [on, finish])))); // prettier-ignore
          const shown = structuredClone(withOption(sign, option));
          const tier = shown.parts[part % shown.parts.length]?.tiers[0];
          if (what === 'face') setField(shown, ['blank', 'finish', 'face'], 'ivory');
          else if (what === 'on' && tier) tier.on = !tier.on;
          else if (what === 'finish' && tier)
            setField(shown, ['parts', part % shown.parts.length, 'tiers', 0, 'finish', 'top'], 'moss'); // prettier-ignore
          else if (tier?.action.kind === 'raise') tier.action.by = Math.abs(Number(amount.toFixed(3)));
          sign = option === undefined ? shown : splitOption(sign, option, shown);
          const seen = withOption(sign, option);
          expect({ ...seen, options: 0 }).toEqual({ ...shown, options: 0 });
          if (option !== undefined) {
            const after = others.map((id) => JSON.stringify(withOption(sign, id).parts.map(({ tiers }) => tiers.map(({ on, finish }) => [on, finish])))); // prettier-ignore
            expect(after).toEqual(before);
          }
          readSign(sign);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('say which tier is not there, and lose what is said of tiers that are taken out', () => {
    const sign = signWithOptions();
    sign.options![0].tiers = [{ part: 'part-2', tier: 'gone', on: false }];
    expect(() => readSign(sign)).toThrow(SignError);
    expect(() => readSign(sign)).toThrow('options[0].tiers[0].tier: “gone” is not the id of a tier of “part-2”');
    dropStale(sign);
    expect(sign.options![0].tiers).toEqual([]);
    readSign(sign);
  });
});

describe('flat-cut letters and sides in the ticket', () => {
  it('a choice of the ticket makes what it says, and what was chosen is read back', () => {
    const sign = signWithOptions();
    delete sign.options;
    setField(sign, ['blank', 'cutTo', 'kind'], 'letters');
    expect(sign.blank.cutTo).toEqual({ parts: [sign.parts[0].id] });
    setField(sign, ['blank', 'cutTo', 'hollow', 'kind'], 'hollow');
    setField(sign, ['blank', 'cutTo', 'studs', 'kind'], 'studs');
    setField(sign, ['blank', 'cutTo', 'backer', 'kind'], 'grown');
    expect(sign.blank.cutTo).toMatchObject({ hollow: { wall: 3 }, studs: { count: 2 }, backer: { margin: 4, thickness: 4 } });
    setField(sign, ['blank', 'cutTo', 'backer', 'kind'], 'bar');
    expect(sign.blank.cutTo?.backer).toMatchObject({ kind: 'bar', height: 5 });
    readSign(sign);
    setField(sign, ['parts', 1, 'cutOut'], 'out');
    expect(sign.blank.cutTo?.parts).toEqual([sign.parts[0].id, sign.parts[1].id]);
    for (const index of [0, 1]) setField(sign, ['parts', index, 'cutOut'], 'left');
    expect(sign.blank.cutTo).toBeUndefined();
    setField(sign, ['blank', 'cutTo', 'kind'], 'letters');
    setField(sign, ['blank', 'cutTo', 'kind'], 'whole');
    expect(sign.blank.cutTo).toBeUndefined();
  });

  it('a part turned over sits on its own face, and what sat on it stays behind', () => {
    const sign = signWithOptions();
    sign.parts[1].sitsOn = { kind: 'part', part: sign.parts[0].id, at: 'top' };
    setField(sign, ['parts', 0, 'side'], 'back');
    expect(sign.parts[1].sitsOn).toEqual({ kind: 'face' });
    readSign(sign);
    sign.parts[1].sitsOn = { kind: 'part', part: sign.parts[0].id, at: 'top' };
    expect(() => readSign(sign)).toThrow('is on the other side of the blank');
    setField(sign, ['parts', 0, 'side'], 'front');
    expect('side' in sign.parts[0]).toBe(false);
  });

  it('limits the height where that is asked, to begin with at the highest tier', () => {
    const sign = signWithOptions();
    setField(sign, ['heightLimit', 'kind'], 'limited');
    expect(sign.heightLimit).toBe(2);
    setField(sign, ['heightLimit'], 1.5);
    expect(sign.heightLimit).toBe(1.5);
    setField(sign, ['heightLimit', 'kind'], 'free');
    expect('heightLimit' in sign).toBe(false);
  });
});
