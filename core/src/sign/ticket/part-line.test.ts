import { describe, expect, it } from '@jest/globals';
import { addText, bareSign } from '../../../testing/signs.js';
import { catalogue } from '../../../testing/fonts.js';
import { newShape, newTier } from '../document/new-sign.js';
import { blankLine, partLine } from './part-line.js';

describe('partLine', () => {
  const sign = bareSign(520, 240, 19);
  const text = addText(sign, 'Fernhollow\nArboretum', 'barlow-semibold', 44, { kind: 'raise', by: 6 });

  it('says words, font, size and what is made of them', () => {
    expect(partLine(sign, text, catalogue)).toBe('Fernhollow / Arboretum · Barlow Semibold 44 mm · raised 6 mm');
    expect(partLine({ unit: 'in' }, { ...text, words: ' ' }, catalogue)).toMatch(
      /^no words yet · Barlow Semibold 1\.73\S* in · raised /u,
    );
    const second = newTier('more', { kind: 'cut-through' });
    expect(partLine(sign, { ...text, tiers: [...text.tiers, second, { ...second, on: false }] }, catalogue)).toMatch(
      / · raised 6 mm, cut through$/u,
    );
    expect(partLine(sign, { ...text, hidden: true }, catalogue)).toMatch(/ · hidden$/u);
  });

  it('says what shape another part is, by the sizes that tell it', () => {
    const lines = (['rectangle', 'circle', 'fixings', 'border', 'polygon', 'line'] as const).map((kind) =>
      partLine(sign, newShape(sign, kind), catalogue),
    );
    expect(lines[0]).toMatch(/^Panel 1 · rectangle [\d.]+ × [\d.]+ mm · carved /u);
    expect(lines[1]).toMatch(/^Hole 1 · ⌀ [\d.]+ mm · cut through$/u);
    expect(lines[2]).toMatch(/^Fixing holes 1 · holes ⌀ [\d.]+ mm · cut through$/u);
    expect(lines[3]).toMatch(/^Border 1 · [\d.]+ mm wide, inset [\d.]+ mm · raised /u);
    expect(lines[4]).toMatch(/ · \d sides, [\d.]+ mm · /u);
    expect(lines[5]).toMatch(/ · rule [\d.]+ mm · engraved /u);
  });

  it('says what the blank is', () => {
    expect(blankLine({ ...sign, blank: { ...sign.blank, material: 'oak' } })).toBe('rectangle 520 × 240 mm · 19 mm thick · oak');
    expect(blankLine({ ...sign, blank: { ...sign.blank, material: '', cutTo: { parts: [] } } })).toBe(
      'rectangle 520 × 240 mm · 19 mm thick · cut to its letters',
    );
  });
});
