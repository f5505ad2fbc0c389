import { describe, expect, it } from '@jest/globals';
import { catalogue } from '../../../testing/fonts.js';
import { newSign } from '../document/new-sign.js';
import { type Sign } from '../document/schema.js';
import { readSign } from '../document/validate.js';
import { setField } from '../edit/set-field.js';
import { changesBetween } from './changes.js';
import { limitsAt } from './limits.js';
import { ticket, ticketParagraphs } from './ticket.js';

const fixed = (): Sign => ({
  ...newSign('Fixed', 'mm'),
  hardware: [
    { quantity: 4, what: 'standoffs, satin steel' },
    { quantity: 8, what: 'plugs' },
  ],
});
const changed = (build: (sign: Sign) => void): Sign => {
  const sign = fixed();
  build(sign);
  return readSign(JSON.parse(JSON.stringify(sign)));
};

describe('hardware', () => {
  it('is said in the ticket, and nothing of it where there is none', () => {
    expect(ticketParagraphs(ticket(fixed(), catalogue)).join(' ')).toContain(
      'It comes with two kinds of hardware: 4 × standoffs, satin steel; 8 × plugs.',
    );
    expect(ticketParagraphs(ticket(newSign('Bare', 'mm'), catalogue)).join(' ')).not.toMatch(/hardware/u);
  });

  it('begins, changes and ends by the fields of its sentences', () => {
    const sign = newSign('Bare', 'mm');
    setField(sign, ['hardware', 'kind'], '0');
    expect(sign.hardware).toBeUndefined();
    setField(sign, ['hardware', 'kind'], '1');
    setField(sign, ['hardware', 0, 'quantity'], 6);
    setField(sign, ['hardware', 0, 'what'], 'keyhole plates');
    setField(sign, ['hardware', 'kind'], '2');
    expect(sign.hardware).toEqual([
      { quantity: 6, what: 'keyhole plates' },
      { quantity: 4, what: 'screws' },
    ]);
    // Every field that the ticket offers can be set to what it says.
    for (const { field } of ticket(sign, catalogue).flatMap(({ words }) => words))
      if (field?.path[0] === 'hardware') setField(sign, field.path, field.value);
    expect(readSign(sign).hardware).toHaveLength(2);
    setField(sign, ['hardware', 'kind'], '1');
    expect(sign.hardware).toEqual([{ quantity: 6, what: 'keyhole plates' }]);
    setField(sign, ['hardware', 'kind'], '0');
    expect('hardware' in sign).toBe(false);
    expect(limitsAt(fixed(), ['hardware', 0, 'quantity'])).toEqual({ min: 1, max: 9999, isWhole: true });
  });

  it('is compared by what it is, whatever its order', () => {
    const told = (build: (sign: Sign) => void) => changesBetween(fixed(), changed(build), catalogue);
    expect(told((sign) => void (sign.hardware![0].quantity = 6))).toEqual(['Hardware: standoffs, satin steel 4 → 6']);
    expect(told((sign) => void sign.hardware!.shift())).toEqual(['Hardware: 4 × standoffs, satin steel is left out']);
    expect(told((sign) => void sign.hardware!.push({ quantity: 1, what: 'drill bit' }))).toEqual([
      'Hardware: 1 × drill bit is new',
    ]);
    expect(told((sign) => void (sign.hardware![1].what = 'anchors'))).toEqual([
      'Hardware: 8 × anchors is new',
      'Hardware: 8 × plugs is left out',
    ]);
  });

  it.each([
    [{ quantity: 0, what: 'screws' }, 'quantity'],
    [{ quantity: 1.5, what: 'screws' }, 'quantity'],
    [{ quantity: 1, what: '   ' }, 'what'],
    [{ quantity: 1, what: 'x'.repeat(81) }, 'what'],
  ])('is refused where it says %j', (item, field) => {
    expect(() => readSign({ ...newSign('Bad', 'mm'), hardware: [item] })).toThrow(field);
  });
});
