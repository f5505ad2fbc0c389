import { describe, expect, it } from '@jest/globals';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { generatedSign } from '../../testing/sign-generator.js';
import { Workshop } from '../../testing/workshop.js';
import { Evaluator } from '../relief/index.js';
import { dropStale, newOption, readSign, type Sign, SignError, type SlotSetting, withOption } from '../sign/index.js';
import { type Correction, filled, isOptionOfList, lengthsOf, offeredSettings, plateOf, signOfRun, unfilled } from './index.js';

const workshop = new Workshop();

/** A plate with a panel, two marks, words and two options. */
function plate(): Sign {
  const sign = bareSign(100, 60, 6);
  addShape(sign, [80, 40], { kind: 'carve', by: 2 });
  addText(sign, 'PIER', 'barlow-semibold', 10, { kind: 'raise', by: 1 });
  addShape(sign, 8, { kind: 'raise', by: 1 }, { x: -30 });
  addShape(sign, [8, 8], { kind: 'raise', by: 1 }, { x: -30 });
  sign.parts.forEach((part, i) => {
    part.id = ['panel', 'words', 'fern', 'osprey'][i];
    part.name = ['Panel', 'Words', 'Fern', 'Osprey'][i];
    part.tiers[0].id = 'tier-1';
  });
  const deep = { ...newOption(sign), name: 'Deep', tiers: [{ part: 'panel', tier: 'tier-1', amount: -4 }] };
  sign.options = [deep, { ...newOption({ ...sign, options: [deep] }), name: 'Plain', tiers: [] }];
  return sign;
}

function withSlots(sign: Sign, sets: Readonly<Record<string, SlotSetting>>): Sign {
  sign.slots = Object.entries(sets).map(([name, each]) => ({ name, empty: 'close', sets: each }));
  return readSign(structuredClone(sign), workshop.book.catalogue);
}

const fill = (sign: Sign, values: Readonly<Record<string, string>>) => filled(sign, new Map(Object.entries(values)));
const tierOf = ({ parts }: Sign, id: string) => parts.find((part) => part.id === id)!.tiers[0];

describe('columns that choose', () => {
  it('take an option by its name, before what is said of its tiers besides', () => {
    const sign = withSlots(plate(), {
      depth: { kind: 'length', part: 'panel', tier: 'tier-1', of: 'amount', least: 1, most: 5 },
      make: { kind: 'option' },
    });
    expect(tierOf(fill(sign, { make: ' deep ' }).sign, 'panel').action).toEqual({ kind: 'carve', by: 4 });
    expect(tierOf(fill(sign, { make: 'Plain' }).sign, 'panel').action).toEqual({ kind: 'carve', by: 2 });
    expect(tierOf(fill(sign, { make: 'Deep', depth: '3' }).sign, 'panel').action).toEqual({ kind: 'carve', by: 3 });
    expect(fill(sign, { make: 'Oak' }).faults).toEqual(['make is “Oak”: it chooses between “Deep”, “Plain”.']);
    expect(fill(sign, {}).sign.parts).toEqual(sign.parts);
  });

  it('take the option of a run where the list chooses none, and of several the last alone', () => {
    const sign = plate();
    sign.options = [sign.options![0], { ...sign.options![1], tiers: [{ part: 'fern', tier: 'tier-1', on: false }] }];
    const [deep, plain] = sign.options;
    const made = (of: Sign, corrections: readonly Correction[] = []): unknown => {
      const { sign: own, faults } = filled(of, new Map(), corrections);
      return [own.slots, faults, tierOf(own, 'panel').action, tierOf(own, 'fern').on];
    };
    const as = (option?: string): Sign => signOfRun(sign, { option });
    // The sign as an option is what withOption says.
    for (const { id } of sign.options) expect(filled(as(id), new Map()).sign.parts).toEqual(withOption(sign, id).parts);
    expect(as()).toBe(sign);
    expect(as('gone')).toBe(sign);
    expect(made(as(deep.id))).toEqual([undefined, [], { kind: 'carve', by: 4 }, true]);
    // One plate alone otherwise: nothing of the option before stays.
    const alone: Correction[] = [{ sets: { kind: 'option' }, value: 'Plain' }];
    expect(made(as(deep.id), alone)).toEqual([undefined, [], { kind: 'carve', by: 2 }, false]);
    expect(made(as(plain.id), [{ sets: { kind: 'option' }, value: 'Deep' }])).toEqual([
      undefined,
      [],
      { kind: 'carve', by: 4 },
      true,
    ]);
    // A column comes before what the run says; and the slot that stands for it never has a name that is taken.
    const chosen = withSlots(plate(), { make: { kind: 'option' } });
    expect([isOptionOfList(chosen), signOfRun(chosen, { option: deep.id })]).toEqual([true, chosen]);
    const taken = signOfRun(withSlots(sign, { 'made as': { kind: 'shown', part: 'fern' } }), { option: deep.id });
    expect(taken.slots!.map(({ name }) => name)).toEqual(['made as', 'made as 2']);
    expect(unfilled(taken, new Map())).toEqual(['made as']);
  });

  it('take finishes of the sign, those at hand, and colours of CSS', () => {
    const sign = plate();
    sign.finishes = [{ id: 'own', name: 'Quay blue', colour: '#123456', gloss: 'matt' }];
    const slots = withSlots(sign, { ink: { kind: 'finish', part: 'words', tier: 'tier-1', of: 'both' }, ground: { kind: 'finish', part: 'panel', tier: 'tier-1', of: 'top' } }); // prettier-ignore
    const { sign: made } = fill(slots, { ink: 'quay BLUE', ground: 'gold leaf' });
    expect([tierOf(made, 'words').finish, tierOf(made, 'panel').finish]).toEqual([
      { top: 'own', sides: 'own' },
      { top: 'gold-leaf' },
    ]);
    // CSS Color 4: rebeccapurple is #663399.
    const css = fill(slots, { ink: 'rebeccapurple' }).sign;
    expect(css.finishes!.find(({ id }) => id === tierOf(css, 'words').finish!.top)!.colour).toBe('#663399');
    expect(fill(slots, { ink: 'gilt edge' }).faults).toEqual([
      'ink is “gilt edge”: that is no finish of the sign and no colour.',
    ]);
    // What is made of it is a sign.
    for (const each of [made, css]) expect(() => readSign(structuredClone(each), workshop.book.catalogue)).not.toThrow();
  });

  it('say whether parts and tiers are made, and which of several, by their names or those of files', () => {
    const slots = withSlots(plate(), {
      panel: { kind: 'shown', part: 'panel' },
      raised: { kind: 'shown', part: 'words', tier: 'tier-1' },
      mark: { kind: 'one of', parts: ['fern', 'osprey'] },
    });
    const hidden = (values: Readonly<Record<string, string>>) =>
      fill(slots, values).sign.parts.flatMap(({ id, hidden: isHidden }) => (isHidden ? [id] : []));
    expect(hidden({ panel: 'no', mark: 'Fern' })).toEqual(['panel', 'osprey']);
    expect(hidden({ panel: 'yes', mark: 'osprey.svg' })).toEqual(['fern']);
    expect(tierOf(fill(slots, { raised: 'off' }).sign, 'words').on).toBe(false);
    expect(fill(slots, { panel: 'perhaps', mark: 'Gull' }).faults).toEqual([
      'panel is “perhaps”: say yes or no.',
      'mark is “Gull”: it chooses between “Fern”, “Osprey”.',
    ]);
  });

  it('set lengths in any unit within their limits, of the blank, of parts, letters and tiers', () => {
    const slots = withSlots(plate(), {
      wide: { kind: 'length', of: 'width', least: 50, most: 200 },
      thick: { kind: 'length', of: 'thickness', least: 3, most: 12 },
      across: { kind: 'length', part: 'fern', of: 'diameter', least: 1, most: 10 },
      letters: { kind: 'length', part: 'words', of: 'height', least: 5, most: 20 },
      rise: { kind: 'length', part: 'words', tier: 'tier-1', of: 'amount', least: 0.5, most: 2 },
    });
    const { sign } = fill(slots, { wide: '6 in', thick: '1 cm', across: '7.5', letters: '1/2 in', rise: '1,5' });
    expect(sign.blank).toMatchObject({ outline: { width: 152.4, height: 60 }, thickness: 10 });
    expect(sign.parts[2]).toMatchObject({ shape: { diameter: 7.5 } });
    expect(sign.parts[1]).toMatchObject({ size: { height: 12.7 }, tiers: [{ action: { kind: 'raise', by: 1.5 } }] });
    const { faults } = fill(slots, { wide: '201', across: 'large', rise: '0' });
    expect(faults).toEqual(['wide is 201 mm: from 50 mm to 200 mm.', 'across is “large”: that is no length.', 'rise is 0 mm: from 0.5 mm to 2 mm.']); // prettier-ignore
    expect(lengthsOf(slots, { part: 'osprey' }).map(({ of, mm }) => [of, mm])).toEqual([['width', 8], ['height', 8], ['x', -30], ['y', 0]]); // prettier-ignore
    expect(lengthsOf(slots, { part: 'gone' })).toEqual([]);
  });

  it('hold back rows whose values choose nothing, with the sentence, and make others as the sign that has it so', () => {
    const slots = withSlots(plate(), {
      rise: { kind: 'length', part: 'words', tier: 'tier-1', of: 'amount', least: 0.5, most: 2 },
    });
    const by = (value: string) => plateOf(slots, new Map([['rise', value]]), new Evaluator(workshop.book));
    expect([by('9').state, by('9').refused]).toEqual(['refused', ['rise is 9 mm: from 0.5 mm to 2 mm.']]);
    const alone = plate();
    tierOf(alone, 'words').action = { kind: 'raise', by: 1.25 };
    expect(by('1.25').evaluation!.levels).toEqual(workshop.evaluate(alone).levels);
    expect(unfilled(slots, new Map())).toEqual(['rise']);
    expect(unfilled(slots, new Map([['rise', 'Rise']]))).toEqual([]);
  });

  it('are overruled on one plate alone, which stays so when the sign changes, until what it is about is gone', () => {
    const slots = withSlots(plate(), { across: { kind: 'length', part: 'fern', of: 'diameter', least: 1, most: 20 } });
    const alone: Correction[] = [
      { sets: { kind: 'length', part: 'fern', of: 'diameter', least: 1, most: 20 }, value: '9 mm' },
      { sets: { kind: 'length', part: 'words', of: 'y', least: -50, most: 50 }, value: '-12' },
    ];
    const made = (sign: Sign) => filled(sign, new Map([['across', '6']]), alone);
    expect(made(slots).sign.parts[2]).toMatchObject({ shape: { diameter: 9 } });
    expect(made(slots).sign.parts[1].place.y).toBe(-12);
    const changed = structuredClone(slots);
    changed.parts[1].place.x = 4;
    expect(made(changed).sign.parts[1].place).toMatchObject({ x: 4, y: -12 });
    const gone = structuredClone(slots);
    gone.parts = gone.parts.filter(({ id }) => id !== 'words');
    expect(made(gone).faults).toEqual([
      'For this plate alone the place up of words chooses a length that the sign does not have.',
    ]);
  });

  it('offer all that can be chosen, each of which takes what the sign has now', () => {
    const sign = plate();
    const offered = offeredSettings(sign);
    expect(offered.map(({ words }) => words)).toEqual(expect.arrayContaining(['which option the plate is made as', 'the width of the blank', 'whether Fern is made', 'the diameter of Fern', 'the place across of Fern', 'the rise or depth of Panel', 'the finish of Words'])); // prettier-ignore
    for (const { sets } of offered) {
      const now = { option: 'Plain', finish: 'white', shown: 'yes', 'one of': 'Fern', length: '' }[sets.kind];
      const mm = sets.kind === 'length' ? lengthsOf(sign, sets).find(({ of }) => of === sets.of)!.mm : 0;
      const { faults } = filled(withSlots(plate(), { a: sets }), new Map([['a', now || `${mm} mm`]]));
      expect(faults).toEqual([]);
    }
  });

  it('name parts and tiers that are there, and go with them', () => {
    const sign = plate();
    sign.slots = [{ name: 'a', empty: 'close', sets: { kind: 'shown', part: 'gone' } }];
    expect(() => readSign(structuredClone(sign))).toThrow(SignError);
    expect(() => readSign(structuredClone(sign))).toThrow(/slots\[0\]\.sets\.part.*“gone”/su);
    const slots = withSlots(plate(), { mark: { kind: 'one of', parts: ['fern', 'osprey'] }, b: { kind: 'shown', part: 'fern' }, c: { kind: 'option' } }); // prettier-ignore
    slots.parts = slots.parts.filter(({ id }) => id !== 'fern');
    dropStale(slots);
    expect(slots.slots!.map(({ sets }) => sets)).toEqual([{ kind: 'one of', parts: ['osprey'] }, undefined, { kind: 'option' }]);
    slots.parts = slots.parts.filter(({ id }) => id !== 'osprey');
    dropStale(slots);
    expect(slots.slots![0].sets).toBeUndefined();
  });

  it('of signs from a seed answer with a sign or with a sentence, whatever they are given', () => {
    let asked = 0;
    for (let seed = 0; seed < 400; seed++) {
      const sign = generatedSign(seed, seed % 2 === 0 ? 'plain' : 'extreme', workshop.book.catalogue);
      for (const { name, sets } of sign.slots ?? []) {
        if (!sets) continue;
        for (const value of ['yes', 'no', '12', '1/2 in', 'white', 'Option A', sign.parts[0]?.name ?? '', '', '€']) {
          const { sign: made, faults } = fill(sign, { [name]: value });
          asked++;
          expect(made.slots).toBeUndefined();
          for (const fault of faults) expect(fault).toMatch(/^.+\.$/u);
        }
      }
    }
    expect(asked).toBeGreaterThan(50);
  });
});
