import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { formatLength, formatLengthExact, LengthError, parseLength } from './length.js';

describe('parseLength', () => {
  // Exact by the definition of the inch: 25.4 mm.
  it.each([
    ['19mm', 19],
    ['19', 19],
    ['1.5 cm', 15],
    ['0.3 m', 300],
    ['3/4 in', 19.05],
    ['3⁄4"', 19.05],
    ['¾ in', 19.05],
    ['1¾ in', 44.45],
    ['2 1/2 in', 63.5],
    ['1 ft 2 1/2 in', 368.3],
    ['1\' 2 1/2"', 368.3],
    ['6 mm + 1/8 in', 9.175],
    ['1 in - 2 mm', 23.4],
    ['−3 mm', -3],
    ['- 1/2 in', -12.7],
    ['2,5 mm', 2.5],
    ['.5 in', 12.7],
    ['0.1 in + 0.2 in', 7.62],
    ['2 FT', 609.6],
  ])('reads %s', (text, mm) => expect(parseLength(text)).toBe(mm));

  it('takes a bare number in the unit of the sign', () => {
    expect(parseLength('3/4', 'in')).toBe(19.05);
    expect(parseLength('1 + 5 mm', 'in')).toBe(30.4);
  });

  it.each([
    ['', ''],
    ['thick', 'thick'],
    ['5 parsecs', 'parsecs'],
    ['5 mm mm', 'mm'],
    ['1/0 in', '1/0'],
    ['5 6 mm', '5 6'],
    ['1.5 1/2 in', '1.5 1/2'],
    ['3 mm +', '+'],
    ['3 mm 4', '4'],
    ['12 * 2', '* 2'],
    ['1,250 mm', '1,250'],
    ['NaN', 'NaN'],
    ['<b>3</b>', '<b>3</b>'],
  ])('refuses %s and says what was not understood', (text, part) => {
    try {
      parseLength(text);
      throw new Error('It was read.');
    } catch (error) {
      expect(error).toBeInstanceOf(LengthError);
      expect((error as LengthError).notUnderstood).toBe(part);
    }
  });
});

describe('formatLength', () => {
  it('shows fractions where they are exact', () => {
    expect(formatLength(19.05, 'in')).toBe('3/4 in');
    expect(formatLength(63.5, 'in')).toBe('2 1/2 in');
    expect(formatLength(-3.175, 'in')).toBe('−1/8 in');
    // Kept to a thousandth of a millimetre it is the same fraction.
    expect(formatLength(1.588, 'in')).toBe('1/16 in');
    expect(formatLength(10, 'in')).toBe('0.394 in');
    expect(formatLength(0, 'in')).toBe('0 in');
    expect(formatLength(-0.001, 'mm')).toBe('0 mm');
    expect(formatLength(12.3456, 'mm')).toBe('12.35 mm');
    expect(formatLength(3.175, 'mm')).toBe('3.18 mm');
    expect(formatLength(-3.175, 'mm')).toBe('−3.18 mm');
  });

  it('is read back to the same length in its exact form', () => {
    const micrometres = fc.integer({ min: -8_000_000, max: 8_000_000 }).map((n) => n / 1000);
    const sixtyFourths = fc.integer({ min: -20_000, max: 20_000 }).map((n) => Number(((n / 64) * 25.4).toFixed(9)));
    fc.assert(
      fc.property(fc.oneof(micrometres, sixtyFourths), fc.constantFrom('mm' as const, 'in' as const), (mm, unit) => {
        expect(parseLength(formatLengthExact(mm, unit), unit)).toBeCloseTo(mm, 8);
      }),
    );
  });
});
