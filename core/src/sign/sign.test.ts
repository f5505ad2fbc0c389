import { describe, expect, it } from '@jest/globals';
import { catalogue } from '../testing/fonts.js';
import { addShape, addText, bareSign, demoSigns } from '../testing/signs.js';
import {
  actionAtLevel,
  actionOf,
  baseLevels,
  copyOf,
  hostChoices,
  hostFrom,
  hostValue,
  newShape,
  newSign,
  newText,
  nextTier,
  readSign,
  type Sign,
  SignError,
  ticket,
  ticketParagraphs,
  tierLevel,
} from './index.js';

type Loose = Record<string, unknown>;

/** A valid document with one change made to it. */
function changed(change: (document: Loose & { blank: Loose; parts: Loose[] }) => void): unknown {
  const sign = bareSign(100, 60, 8);
  addShape(sign, 10, { kind: 'cut-through' });
  addText(sign, 'Oak', 'barlow-semibold', 12, { kind: 'raise', by: 2 });
  const document = JSON.parse(JSON.stringify(sign)) as Loose & { blank: Loose; parts: Loose[] };
  change(document);
  return document;
}

function faultsOf(document: unknown): string[] {
  try {
    readSign(document, catalogue);
    return [];
  } catch (error) {
    if (!(error instanceof SignError)) throw error;
    return error.faults.map(({ path, message }) => `${path} ${message}`);
  }
}

describe('readSign', () => {
  it('takes what the application writes, and every demo sign', () => {
    expect(faultsOf(newSign('New', 'mm'))).toEqual([]);
    const sign = newSign('New', 'in');
    sign.parts.push(newText(sign, 'barlow-semibold'), newShape(sign, 'circle'), newShape(sign, 'rectangle'));
    expect(faultsOf(sign)).toEqual([]);
    for (const [, document] of demoSigns()) expect(faultsOf(document)).toEqual([]);
  });

  it.each<[string, (d: Loose & { blank: Loose; parts: Loose[] }) => void, string]>([
    [
      'an unknown field',
      (d) => (d.parts[1].colour = 'red'),
      'parts[1].colour is not a field that a sign has: take it out, or correct its spelling.',
    ],
    ['a missing field', (d) => delete d.blank.thickness, 'blank.thickness is missing.'],
    ['a value out of range', (d) => (d.parts[1].capHeight = -3), 'parts[1].capHeight is -3 and must be >= 0.5.'],
    ['a text for a number', (d) => (d.blank.thickness = '8'), 'blank.thickness is "8" and must be of type number.'],
    [
      'an unknown kind',
      (d) => (d.parts[0].shape = { kind: 'blob' }),
      'parts[0].shape.kind is "blob" and must be one of "rectangle", "circle".',
    ],
    ['a wrong choice', (d) => (d.unit = 'cubit'), 'unit is "cubit" and must be one of "mm", "in".'],
    [
      'a repeated id',
      (d) => (d.parts[1].id = d.parts[0].id),
      'parts[1].id “part-1” is the id of an earlier part: give each part its own.',
    ],
    [
      'a host that is not there',
      (d) => (d.parts[0].sitsOn = { kind: 'part', part: 'line-9', at: 'floor' }),
      'parts[0].sitsOn.part “line-9” is not the id of an earlier part: a part sits on the face or on one built before it.',
    ],
    [
      'an id with signs in it',
      (d) => (d.parts[0].id = '../x'),
      'parts[0].id is "../x" and may have letters, digits, hyphens and underscores, up to 64 of them.',
    ],
  ])('refuses %s by its path', (_, change, fault) => {
    expect(faultsOf(changed(change))).toEqual([fault]);
  });

  it('refuses what is no sign at all, other versions, and fonts not at hand', () => {
    expect(faultsOf('sign')).toEqual([' A sign is a JSON object, and this is "sign".']);
    expect(faultsOf([])).toEqual([' A sign is a JSON object, and this is [].']);
    expect(faultsOf({})).toEqual(['version is missing: write "version": 1.']);
    expect(faultsOf(changed((d) => (d.version = 99)))[0]).toContain('version 99 is not a version that this release reads');
    expect(faultsOf(changed((d) => (d.parts[1].font = 'papyrus')))[0]).toContain('parts[1].font “papyrus” is not a font at hand');
  });

  it('names every fault at once and does not change the document', () => {
    const document = changed((d) => {
      d.title = '';
      d.blank.thickness = 0;
      d.extra = 1;
    });
    const before = JSON.stringify(document);
    expect(faultsOf(document)).toHaveLength(3);
    expect(JSON.stringify(document)).toBe(before);
  });

  it('refuses numbers that are none and endless lists', () => {
    expect(faultsOf(changed((d) => (d.parts[1].capHeight = Number.NaN))).length).toBeGreaterThan(0);
    expect(faultsOf(changed((d) => (d.parts[1].capHeight = 1e300)))).toHaveLength(1);
    expect(faultsOf(changed((d) => (d.parts = Array.from({ length: 501 }, () => d.parts[0])))).join()).toContain(
      'has 501 entries and may have 500',
    );
  });
});

describe('levels', () => {
  it('are measured from what a part sits on', () => {
    const sign = bareSign(100, 60, 10);
    const panel = addShape(sign, [80, 40], { kind: 'carve', by: 3 });
    sign.parts[0].tiers.push({ ...sign.parts[0].tiers[0], id: 'rim', action: { kind: 'raise', by: 2 } });
    addShape(sign, 10, { kind: 'raise', by: 1 }, { sitsOn: { kind: 'part', part: panel, at: 'floor' } });
    addShape(sign, 10, { kind: 'raise', by: 1 }, { sitsOn: { kind: 'part', part: panel, at: 'top' } });
    const bases = baseLevels(sign);
    expect([...bases.values()]).toEqual([0, -3, 2]);
    expect(tierLevel(sign.parts[1].tiers[0], bases.get('part-2')!)).toBe(-2);
    // Two pockets of 0.1 in make a 0.2 in level (common practice, no source).
    const pocket = { id: 't', on: true, area: { kind: 'outline' as const }, action: { kind: 'carve' as const, by: 2.54 } };
    expect(tierLevel(pocket, -2.54)).toBe(-5.08);
    expect(tierLevel({ ...pocket, action: { kind: 'cut-through' } }, 0)).toBe(-Infinity);
  });

  it('leave a host without tiers at its own base', () => {
    const sign = bareSign(100, 60, 10);
    const panel = addShape(sign, [80, 40], { kind: 'carve', by: 3 });
    sign.parts[0].tiers[0].on = false;
    addShape(sign, 10, { kind: 'raise', by: 1 }, { sitsOn: { kind: 'part', part: panel, at: 'floor' } });
    expect(baseLevels(sign).get('part-2')).toBe(0);
  });
});

describe('edits', () => {
  it('change the action and keep the amount', () => {
    expect(actionOf('carve', { kind: 'raise', by: 1.5 })).toEqual({ kind: 'carve', by: 1.5 });
    expect(actionOf('set', { kind: 'carve', by: 3 })).toEqual({ kind: 'set', to: -3 });
    expect(actionOf('line', { kind: 'raise', by: 0.4 })).toEqual({ kind: 'line', depth: 0.4, width: 1 });
    expect(actionOf('raise', { kind: 'cut-through' })).toEqual({ kind: 'raise', by: 2 });
  });

  it('bring a tier to a level, through its base and back', () => {
    expect(actionAtLevel({ kind: 'raise', by: 2 }, -1.5, 0)).toEqual({ kind: 'carve', by: 1.5 });
    expect(actionAtLevel({ kind: 'carve', by: 2 }, 1, -3)).toEqual({ kind: 'raise', by: 4 });
    expect(actionAtLevel({ kind: 'line', depth: 1, width: 2 }, -3, -2)).toEqual({ kind: 'line', depth: 1, width: 2 });
    expect(actionAtLevel({ kind: 'cut-through' }, -3, 0)).toEqual({ kind: 'cut-through' });
    expect(actionAtLevel({ kind: 'set', to: 1 }, 4, 1)).toEqual({ kind: 'set', to: 3 });
  });

  it('give copies and tiers names of their own', () => {
    const sign = bareSign(100, 60, 10);
    const text = addText(sign, 'Oak', 'barlow-semibold', 12, { kind: 'raise', by: 2 });
    const copy = copyOf(text, sign);
    expect(copy.id).not.toBe(text.id);
    expect(copy.place.y).toBeLessThan(text.place.y);
    expect(nextTier(text).id).toBe('tier-2');
  });
});

describe('the ticket', () => {
  const sign = (): Sign => {
    const made = bareSign(300, 200, 12);
    made.blank.material = 'oak';
    addShape(made, [280, 180], { kind: 'carve', by: 2 });
    const text = addText(made, 'HERBARIUM', 'barlow-semibold', 18, { kind: 'raise', by: 3 });
    text.sitsOn = { kind: 'part', part: 'part-1', at: 'floor' };
    return made;
  };

  it('says what will be made', () => {
    expect(ticketParagraphs(ticket(sign(), catalogue))).toEqual([
      'The blank is 300 mm wide, 200 mm high and 12 mm thick, in oak.',
      'Part-1: a rectangle 280 mm wide and 180 mm high, middle at 0 mm across and 0 mm up from the middle. Carved by 2 mm from the face.',
      '“HERBARIUM” set in Barlow Semibold, capitals 18 mm tall, centred at 0 mm across and 0 mm up from the middle. ' +
        'Raised by 3 mm from the floor of part-1.',
    ]);
  });

  it('speaks inches and fractions where the sign does', () => {
    const inches = sign();
    inches.unit = 'in';
    inches.blank.thickness = 19.05;
    expect(ticketParagraphs(ticket(inches, catalogue))[0]).toContain('3/4 in thick');
  });

  it('lets every value be edited where it stands', () => {
    const made = sign();
    for (const sentence of ticket(made, catalogue)) {
      for (const { field } of sentence.words) {
        if (!field || field.path.at(-1) === 'sitsOn') continue;
        const there = field.path.reduce((at: unknown, key) => (at as Record<string | number, unknown>)[key], made);
        expect(there).toBe(field.value);
      }
    }
  });

  it('offers what stands before a part as its host', () => {
    const made = sign();
    expect(hostChoices(made, 1).map(([value]) => value)).toEqual(['face', 'floor:part-1', 'top:part-1']);
    for (const [value] of hostChoices(made, 1)) expect(hostValue({ ...made.parts[1], sitsOn: hostFrom(value) })).toBe(value);
  });
});
