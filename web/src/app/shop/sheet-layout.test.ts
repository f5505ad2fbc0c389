import { describe, expect, it } from '@jest/globals';
import { EVERYTHING, type SheetLayout } from '@plain-relief/core/sheet';
import { isSameLayout, wayOf } from './sheet-layout';

describe('a layout', () => {
  it('lies by the sign, upright or across; upright is nothing where it lies by the sign', () => {
    const layouts: SheetLayout[] = [true, false].flatMap((isTurnedBySign) =>
      [true, false].map((isUpright) => ({ ...EVERYTHING, isTurnedBySign, isUpright })),
    );
    expect(layouts.map(wayOf)).toEqual(['by the sign', 'by the sign', 'upright', 'across']);
    expect(isSameLayout(layouts[0], layouts[1])).toBe(true);
    expect(isSameLayout(layouts[1], layouts[3])).toBe(false);
    // As layouts were kept before sheets were turned by their signs.
    expect(isSameLayout({ ...layouts[3], isTurnedBySign: undefined }, layouts[3])).toBe(true);
  });
});
