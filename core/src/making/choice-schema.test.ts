import { describe, expect, it } from '@jest/globals';
import { ShopError } from '../shop/index.js';
import { USUAL } from '../cutting/index.js';
import { readCutChoice } from './index.js';

const faultsOf = (source: unknown): string[] => {
  try {
    readCutChoice(source);
  } catch (error) {
    if (error instanceof ShopError) return error.faults.map(({ path, message }) => `${path}: ${message}`);
    throw error;
  }
  return [];
};

describe('how a sign is cut, as a document', () => {
  it('may leave out everything, or have all that is usual', () => {
    expect(readCutChoice({})).toEqual({});
    expect(readCutChoice(USUAL)).toEqual(USUAL);
    expect(readCutChoice({ holding: { kind: 'skin', thickness: 0.4 }, stockThickness: 25 })).toMatchObject({
      stockThickness: 25,
    });
  });

  it.each<[unknown, RegExp]>([
    [{ stepover: 0.9 }, /^stepover: is 0\.9 and must be <= 0\.5/u],
    [{ cusp: 0 }, /^cusp: is 0 and must be >= 0\.001/u],
    [{ direction: 'sideways' }, /^direction: is "sideways"/u],
    [{ zero: { at: 'lower left' } }, /^zero.*height/u],
    [{ holding: { kind: 'glue' } }, /^holding\.kind: is "glue"/u],
    [{ clamps: [{ x: 0, y: 0, width: 10, height: 10 }] }, /^clamps\[0\].*above/u],
    [{ speed: 9 }, /speed/u],
    ['fast', /object/u],
  ])('%j is refused with the field and what would be right', (source, words) => {
    expect(faultsOf(source).join('\n')).toMatch(words);
  });
});
