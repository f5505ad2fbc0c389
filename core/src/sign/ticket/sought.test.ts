import { describe, expect, it } from '@jest/globals';
import { catalogue } from '../../../testing/fonts.js';
import { addText, bareSign } from '../../../testing/signs.js';
import { soughtValues } from './sought.js';
import { ticket } from './ticket.js';

describe('soughtValues', () => {
  const sign = bareSign(520, 240, 19);
  for (const words of ['FERNHOLLOW', 'Arboretum']) addText(sign, words, 'barlow-semibold', 44, { kind: 'raise', by: 6 });
  const [first, second] = sign.parts;
  const sought = (question: string, selected?: string) =>
    soughtValues(ticket(sign, catalogue), sign, question, selected).map(({ about, label }) => `${about}: ${label}`);

  it('finds values by their names, those of the selected part first', () => {
    expect(sought('tracking', second.id)[0]).toBe(`${second.name}: tracking`);
    expect(sought('tracking', first.id)[0]).toBe(`${first.name}: tracking`);
    expect(sought('thick')).toContain('Blank: thickness');
    const [found] = soughtValues(ticket(sign, catalogue), sign, 'tracking', second.id);
    expect([found.topic, found.part, found.isQuiet, found.text]).toEqual(['layout', second.id, true, '0 %']);
  });

  it('finds them by part and name together, and by what they are', () => {
    expect(sought(`${second.name.toLowerCase()} height`, first.id)[0]).toBe(`${second.name}: height`);
    expect(sought('FERNHOLLOW', undefined)).toEqual([`${first.name}: words`]);
    expect(sought('barlow').every((text) => text.endsWith('font'))).toBe(true);
  });

  it('finds nothing for nothing, and no more than fit on a list', () => {
    expect(sought(' ')).toEqual([]);
    expect(sought('no such value anywhere')).toEqual([]);
    expect(sought('e').length).toBe(8);
  });
});
