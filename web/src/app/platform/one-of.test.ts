import { describe, expect, it } from '@jest/globals';
import { oneOf } from './one-of';

describe('a value of a choice', () => {
  it('is one of those that there are, or an error that names them', () => {
    expect(oneOf(['A4', 'A3'], 'A3')).toBe('A3');
    expect(() => oneOf(['A4', 'A3'], 'A5')).toThrow('“A5” is none of A4, A3.');
  });
});
