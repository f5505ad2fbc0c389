import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { catalogue } from '../../testing/fonts.js';
import { addShape, addText, bareSign, demoSigns } from '../../testing/signs.js';
import { actionAtLevel, actionOf } from './document/actions.js';
import { baseLevels, tierLevel } from './document/levels.js';
import { newCombined, newShape, newSign, newText } from './document/new-sign.js';
import { type Sign, SignSchema, type TextPart } from './document/schema.js';
import { SignError } from './document/faults.js';
import { readSign } from './document/validate.js';
import { copyOf, nextTier } from './edit/edit.js';
import { setLetter, movedLetters } from './edit/letters-by-hand.js';
import { setField } from './edit/set-field.js';
import { limitsAt, measureLimitsAt } from './ticket/limits.js';
import { hostChoices, hostFrom, hostValue, ticket, ticketParagraphs } from './ticket/ticket.js';

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

  it('takes the example of docs/sign-format.md, which shows every field of the schema', () => {
    const text = readFileSync(new URL('../../../docs/sign-format.md', import.meta.url), 'utf8');
    const example = JSON.parse(/```json\n([\s\S]*?)```/u.exec(text)![1]) as Sign;
    expect(faultsOf(example)).toEqual([]);
    // Every field's name, wherever it stands in the schema, is in the document.
    const names = new Set<string>();
    JSON.stringify(SignSchema, (key, value: unknown) => {
      if (key === 'properties') for (const name of Object.keys(value as object)) names.add(name);
      return value;
    });
    for (const name of names) expect(text).toMatch(new RegExp(`["\`.]${name}["\`]`, 'u'));
  });

  it.each<[string, (d: Loose & { blank: Loose; parts: Loose[] }) => void, string]>([
    [
      'an unknown field',
      (d) => (d.parts[1].colour = 'red'),
      'parts[1].colour is not a field that a sign has: take it out, or correct its spelling.',
    ],
    ['a missing field', (d) => delete d.blank.thickness, 'blank.thickness is missing.'],
    ['a value out of range', (d) => (d.parts[1].tracking = -300), 'parts[1].tracking is -300 and must be >= -50.'],
    ['a text for a number', (d) => (d.blank.thickness = '8'), 'blank.thickness is "8" and must be of type number.'],
    [
      'an unknown kind',
      (d) => (d.parts[0].shape = { kind: 'blob' }),
      'parts[0].shape.kind is "blob" and must be one of "rectangle", "circle", "ellipse", "stadium", "polygon", "arch", "sector", "line", "outline", "border", "combined", "fixings", "braille", "code".',
    ],
    ['a wrong choice', (d) => (d.unit = 'cubit'), 'unit is "cubit" and must be one of "mm", "in".'],
    [
      'a repeated id',
      (d) => (d.parts[1].id = d.parts[0].id),
      'parts[1].id “part-1” is the id of an earlier part: give each part its own.',
    ],
    [
      'path data of another kind',
      (d) => (d.parts[0].shape = { kind: 'outline', width: 10, height: 10, path: 'M0 0B10 10z' }),
      'parts[0].shape.path Path command “B” is none of M, L, H, V, Q, C, S, T, A and Z.',
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
    expect(faultsOf([])).toEqual([' A sign is a JSON object, and this is an empty list.']);
    expect(faultsOf({})).toEqual(['version is missing: write "version": 3.']);
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
    expect(faultsOf(changed((d) => (d.parts[1].tracking = Number.NaN))).length).toBeGreaterThan(0);
    expect(faultsOf(changed((d) => (d.parts[1].tracking = 1e300)))).toHaveLength(1);
    expect(faultsOf(changed((d) => (d.parts = Array.from({ length: 501 }, () => d.parts[0])))).join()).toContain(
      'has 501 entries and may have 500',
    );
  });
});

describe('documents of earlier versions', () => {
  it('are read as they were meant', () => {
    const now = bareSign(100, 60, 8);
    addText(now, 'Oak', 'barlow-semibold', 12, { kind: 'raise', by: 2 });
    addShape(now, 10, { kind: 'cut-through' });
    const { size, leading, ...text } = now.parts[0] as TextPart;
    expect([size.kind, leading.kind]).toEqual(['capitals', 'percent']);
    const before = { ...now, version: 1, parts: [{ ...text, capHeight: 12, leading: 155 }, now.parts[1]] };
    const kept = JSON.stringify(before);
    expect(readSign(before)).toEqual(now);
    expect(JSON.stringify(before)).toBe(kept);
    expect(faultsOf({ ...before, parts: [{ ...text, capHeight: -1, leading: 155 }] })).toEqual([
      'parts[0].size.height is -1 and must be >= 0.5.',
    ]);
    expect(faultsOf({ version: 1, parts: 3 }).join()).toContain('parts is 3 and must be of type array');
  });
});

const NO_MARGIN = { kind: 'length', length: 0 } as const;
const FRAME = { width: 80, height: 30, marginAcross: NO_MARGIN, marginUp: NO_MARGIN, upright: 'middle', fit: [] } as const;

describe('letters by hand', () => {
  const kerns = (letters: TextPart['letters']) => letters?.map(({ at, kern }) => [at, kern]);

  it('stay with the letters that stayed when words change', () => {
    const letters = [1, 4, 7].map((at) => ({ at, kern: at / 10 }));
    const moved = (after: string) => kerns(movedLetters(letters, 'Fernhollow', after));
    expect(moved('A Fernhollow')).toEqual([
      [3, 0.1],
      [6, 0.4],
      [9, 0.7],
    ]);
    expect(moved('Ferns')).toEqual([[1, 0.1]]);
    expect(moved('Fernhallow')).toEqual([
      [1, 0.1],
      [4, 0.4],
      [7, 0.7],
    ]);
    expect(moved('')).toEqual([]);
    // Typed anew at both ends at once.
    expect(kerns(movedLetters([{ at: 2, kern: 1 }], 'AVATAR', 'xAVATARy'))).toEqual([[3, 1]]);
  });

  it('are kept only where they differ from the font', () => {
    const made = bareSign(100, 60, 8);
    const text = addText(made, 'AVATAR', 'barlow-semibold', 12, { kind: 'raise', by: 2 });
    setLetter(text, 3, { kern: 0.5 });
    setLetter(text, 1, { turn: 10 });
    setLetter(text, 3, { size: 120 });
    expect(text.letters).toEqual([
      { at: 1, turn: 10 },
      { at: 3, kern: 0.5, size: 120 },
    ]);
    setLetter(text, 3, { kern: 0, size: 100 });
    setLetter(text, 1, { turn: 0 });
    expect(text.letters).toBeUndefined();
    expect(faultsOf(made)).toEqual([]);
  });

  it('are carried over by an edit of the words', () => {
    const made = bareSign(100, 60, 8);
    addText(made, 'AVATAR', 'barlow-semibold', 12, { kind: 'raise', by: 2 }).letters = [{ at: 1, kern: 0.5 }];
    setField(made, ['parts', 0, 'words'], 'THE\r\nAVATAR');
    expect(made.parts[0]).toMatchObject({ words: 'THE\nAVATAR', letters: [{ at: 5, kern: 0.5 }] });
  });
});

describe('limits', () => {
  it('are those of the schema, by the kind that stands there', () => {
    const made = bareSign(100, 60, 8);
    addShape(made, 10, { kind: 'line', depth: 1, width: 2 });
    const text = addText(made, 'Oak', 'barlow-semibold', 12, { kind: 'raise', by: 2 });
    text.frame = { ...FRAME, fit: [{ kind: 'wrap', lines: 2 }] };
    text.tiers[0].area = { kind: 'offset', by: 1 };
    expect(limitsAt(made, ['blank', 'outline', 'width'])).toMatchObject({ min: 0.01, max: 8000 });
    expect(limitsAt(made, ['parts', 0, 'tiers', 0, 'action', 'width'])).toMatchObject({ min: 0.01, max: 100 });
    expect(limitsAt(made, ['parts', 1, 'tiers', 0, 'area', 'by'])).toMatchObject({ min: -500, max: 500 });
    expect(limitsAt(made, ['parts', 1, 'size', 'height'])).toMatchObject({ min: 0.5, max: 4000 });
    expect(limitsAt(made, ['parts', 1, 'frame', 'fit', 0, 'lines'])).toEqual({ min: 2, max: 20, isWhole: true });
    expect(measureLimitsAt(made, ['parts', 1, 'leading'])).toMatchObject({
      percent: { min: 50, max: 1000 },
      length: { min: 0.01 },
    });
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
      'The blank is a rectangle 300 mm wide and 200 mm high, in oak. It is 12 mm thick.',
      'Part-1: a rectangle 280 mm wide and 180 mm high, middle at 0 mm across and 0 mm up from the middle. Carved by 2 mm from the face.',
      '“HERBARIUM” set in Barlow Semibold, capitals 18 mm tall, centred at 0 mm across and 0 mm up from the middle. ' +
        'Raised by 3 mm from the floor of part-1.',
    ]);
  });

  it('tells areas, edges and finishes, each to be edited where it stands', () => {
    const made = sign();
    made.finishes = [{ id: 'leaf', name: 'gold leaf', colour: '#d3a93f', gloss: 'metal' }];
    made.blank.edge = { kind: 'chamfered', width: 3, height: 2 };
    made.blank.finish = { face: 'leaf' };
    const [panel, text] = made.parts;
    panel.tiers[0].edge = { kind: 'cove', radius: 2 };
    Object.assign(text.tiers[0], {
      area: { kind: 'stroke', width: 5, side: 'outside', corners: 'mitred', scales: true },
      edge: { kind: 'sloped', angle: 10, sized: 'top' },
      finish: { top: 'leaf', sides: 'leaf' },
    });
    const [tier] = text.tiers;
    text.tiers.push(
      { ...tier, id: 'ridge', area: { kind: 'offset', by: -0.5 }, edge: { kind: 'ridged', angle: 90, capped: true }, finish: {} },
      { ...tier, id: 'mark', area: { kind: 'outline' }, action: { kind: 'mark' }, finish: { top: 'leaf' } },
      { ...tier, id: 'cut', area: { kind: 'outline' }, action: { kind: 'cut-through' } },
    );
    text.bridges = { width: 2, count: 3, turn: 0 };
    expect(faultsOf(made)).toEqual([]);
    expect(ticketParagraphs(ticket(made, catalogue))).toEqual([
      'The blank is a rectangle 300 mm wide and 200 mm high, in oak. It is 12 mm thick, its edge chamfered by 3 mm across and 2 mm in height, face gold leaf.',
      'Part-1: a rectangle 280 mm wide and 180 mm high, middle at 0 mm across and 0 mm up from the middle. ' +
        'Carved by 2 mm from the face, sides hollowed by a cove of 2 mm.',
      '“HERBARIUM” set in Barlow Semibold, capitals 18 mm tall, centred at 0 mm across and 0 mm up from the middle. ' +
        'Its islands are held by bridges, 3 from each, 2 mm wide, the first at 0°. ' +
        'Raised by 3 mm from the floor of part-1, over a stroke of 5 % of its height outside the line, corners mitred, ' +
        'sides sloped by 10° from upright, sized at the top, top gold leaf, sides gold leaf. ' +
        'Raised by 3 mm from the floor of part-1, over its outline shrunk by 0.5 mm, ' +
        'sides sloped to a ridge at an included angle of 90°, cut off at that height. Coloured in gold leaf. Cut through.',
    ]);
    const sentences = ticket(made, catalogue);
    for (const { words } of sentences) {
      for (const { field } of words) {
        if (!field) continue;
        const again = structuredClone(made);
        setField(again, field.path, field.value);
        expect([field.path.join('.'), ticketParagraphs(ticket(again, catalogue))]).toEqual([
          field.path.join('.'),
          ticketParagraphs(sentences),
        ]);
        expect(faultsOf(again)).toEqual([]);
      }
    }
  });

  it('refuses slopes that are none, unknown finishes, and colours that are none, by name', () => {
    const made = sign();
    made.parts[0].tiers[0].edge = { kind: 'sloped', angle: 90, sized: 'foot' };
    expect(faultsOf(made)).toEqual(['parts[0].tiers[0].edge.angle is 90 and must be <= 85.']);
    made.parts[0].tiers[0].edge = { kind: 'sloped', angle: 0, sized: 'foot' };
    expect(faultsOf(made)).toEqual(['parts[0].tiers[0].edge.angle is 0 and must be >= 0.5.']);
    delete made.parts[0].tiers[0].edge;
    made.parts[0].tiers[0].finish = { top: 'tinsel' };
    expect(faultsOf(made)).toEqual([
      'parts[0].tiers[0].finish.top “tinsel” is not the id of a finish of this sign: add it to its finishes.',
    ]);
    delete made.parts[0].tiers[0].finish;
    made.finishes = [{ id: 'leaf', name: 'leaf', colour: 'golden', gloss: 'metal' }];
    expect(faultsOf(made)).toEqual(['finishes[0].colour is "golden" and must be a colour such as "#3f7d6e".']);
  });

  it('sets copies in a row beside each other, also of what is wider than its share of the blank', () => {
    const made = bareSign(200, 100, 10);
    addShape(made, [120, 20], { kind: 'raise', by: 1 });
    setField(made, ['parts', 0, 'copies', 'kind'], 'row');
    expect(made.parts[0].copies).toEqual({ kind: 'row', count: 4, stepX: 150, stepY: 0 });
    const seen = { width: 80, height: 20, capHeight: 20, em: 28, stretch: 100 };
    addText(made, 'Oak', 'barlow-semibold', 20, { kind: 'raise', by: 1 });
    setField(made, ['parts', 1, 'copies', 'kind'], 'row', { seen });
    expect(made.parts[1].copies).toMatchObject({ stepX: 100 });
  });

  it('shrinks an outline by what is written as a plain length, and gives a polygon across its flats', () => {
    const made = newSign('Test', 'mm');
    const shape = { kind: 'polygon', sides: 6, diameter: 40, stands: 'flat' } as const;
    made.parts.push({ ...newShape(made, 'polygon'), shape });
    const [part] = made.parts;
    part.tiers[0].area = { kind: 'offset', by: 2 };
    setField(made, ['parts', 0, 'tiers', 0, 'area', 'kind'], 'shrunk');
    expect(part.tiers[0].area).toEqual({ kind: 'offset', by: -2 });
    setField(made, ['parts', 0, 'tiers', 0, 'area', 'shrunkBy'], 0.5);
    expect(part.tiers[0].area).toEqual({ kind: 'offset', by: -0.5 });
    expect(ticketParagraphs(ticket(made, [])).join(' ')).toContain('its outline shrunk by 0.5 mm');
    setField(made, ['parts', 0, 'tiers', 0, 'area', 'kind'], 'offset');
    expect(part.tiers[0].area).toEqual({ kind: 'offset', by: 0.5 });
    // A hexagon across flats is √3/2 of it across corners.
    expect(ticketParagraphs(ticket(made, [])).join(' ')).toContain('40 mm across corners (34.64 mm across flats)');
    setField(made, ['parts', 0, 'shape', 'flats'], 10 * Math.sqrt(3));
    expect(part).toMatchObject({ shape: { diameter: 20 } });
  });

  it('keeps the size of an amount that comes to scale with its part', () => {
    const made = sign();
    const text = made.parts[1];
    text.tiers[0].area = { kind: 'offset', by: 0.9 };
    const seen = { width: 60, height: 20, capHeight: 18, em: 25, stretch: 100 };
    setField(made, ['parts', 1, 'tiers', 0, 'area', 'scales'], 'true', { seen });
    expect(text.tiers[0].area).toEqual({ kind: 'offset', by: 5, scales: true });
    setField(made, ['parts', 1, 'tiers', 0, 'area', 'scales'], 'false', { seen });
    expect(text.tiers[0].area).toEqual({ kind: 'offset', by: 0.9 });
    setField(made, ['parts', 1, 'tiers', 0, 'area', 'kind'], 'stroke', { seen });
    expect(text.tiers[0].area).toEqual({ kind: 'stroke', width: 0.9, side: 'outside' });
  });

  it('speaks inches and fractions where the sign does', () => {
    const inches = sign();
    inches.unit = 'in';
    inches.blank.thickness = 19.05;
    expect(ticketParagraphs(ticket(inches, catalogue))[0]).toContain('3/4 in thick');
  });

  it('lets every value be edited where it stands: set to what it is, nothing changes', () => {
    const made = sign();
    const text = made.parts[1] as TextPart;
    text.frame = {
      ...FRAME,
      fit: [
        { kind: 'narrow', floor: 80 },
        { kind: 'wrap', lines: 2 },
      ],
    };
    text.path = { kind: 'arc', radius: 100, span: 360, reads: 'top', side: 'outside', shift: 0 };
    for (const kind of ['ellipse', 'polygon', 'arch', 'border', 'line'] as const) made.parts.push(newShape(made, kind));
    made.parts.push({
      ...newCombined(made, 'cut', ['part-1', 'ellipse-1']),
      copies: { kind: 'ring', count: 3, radius: 20, turning: true },
    });
    expect(faultsOf(made)).toEqual([]);
    const sentences = ticket(made, catalogue);
    const fields = sentences.flatMap(({ words }) => words.flatMap(({ field }) => (field ? [field] : [])));
    expect(fields.length).toBeGreaterThan(100);
    for (const field of fields) {
      const again = structuredClone(made);
      setField(again, field.path, field.value);
      expect([field.path.join('.'), ticket(again, catalogue)]).toEqual([field.path.join('.'), sentences]);
      expect(faultsOf(again)).toEqual([]);
    }
  });

  it('takes every choice that it offers', () => {
    const made = sign();
    made.parts.push(newShape(made, 'rectangle'), { ...newText(made, 'lora-bold'), words: 'Oak' });
    const seen = { width: 60, height: 20, capHeight: 18, em: 25, stretch: 90 };
    for (const { words } of ticket(made, catalogue)) {
      for (const { field } of words) {
        if (field?.kind !== 'choice') continue;
        for (const { value } of field.choices) {
          const again = structuredClone(made);
          setField(again, field.path, value, { seen });
          expect([field.path.join('.'), value, faultsOf(again)]).toEqual([field.path.join('.'), value, []]);
          const now = ticket(again, catalogue).flatMap(({ words: all }) =>
            all.flatMap((word) => (word.field ? [word.field] : [])),
          );
          const same = now.find((other) => other.path.join('.') === field.path.join('.'));
          expect([field.label, same?.value]).toEqual([field.label, value]);
        }
      }
    }
  });

  it('changes the kind of a size and leaves the look', () => {
    const made = sign();
    const seen = { width: 100, height: 19, capHeight: 18, em: 25.5, stretch: 100 };
    const size = (kind: string) => {
      setField(made, ['parts', 1, 'size', 'kind'], kind, { seen });
      return (made.parts[1] as TextPart).size;
    };
    expect(size('seen')).toEqual({ kind: 'seen', width: 100, height: 19 });
    expect(size('seen-width')).toEqual({ kind: 'seen-width', width: 100, stretch: 100 });
    expect(size('em')).toEqual({ kind: 'em', size: 25.5, stretch: 100 });
    expect(size('capitals')).toEqual({ kind: 'capitals', height: 18, stretch: 100 });
  });

  it('orders the ways of fitting by choosing them', () => {
    const made = sign();
    const text = made.parts[1] as TextPart;
    text.frame = {
      ...FRAME,
      fit: [
        { kind: 'narrow', floor: 80 },
        { kind: 'reduce', floor: 50 },
      ],
    };
    const fit = (at: number, kind: string) => {
      setField(made, ['parts', 1, 'frame', 'fit', at, 'kind'], kind);
      return text.frame!.fit.map((step) => step.kind);
    };
    expect(fit(0, 'reduce')).toEqual(['reduce', 'narrow']);
    expect(fit(2, 'wrap')).toEqual(['reduce', 'narrow', 'wrap']);
    expect(fit(0, 'tighten')).toEqual(['tighten', 'narrow', 'wrap']);
    expect(fit(1, 'none')).toEqual(['tighten', 'wrap']);
  });

  it('offers what stands before a part as its host', () => {
    const made = sign();
    expect(hostChoices(made, 1).map(([value]) => value)).toEqual(['face', 'floor:part-1', 'top:part-1']);
    for (const [value] of hostChoices(made, 1)) expect(hostValue({ ...made.parts[1], sitsOn: hostFrom(value) })).toBe(value);
  });
});
