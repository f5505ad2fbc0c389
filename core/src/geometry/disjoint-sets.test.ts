import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { DisjointSets } from './disjoint-sets.js';

describe('DisjointSets', () => {
  it('joins what hangs together through others', () => {
    const sets = new DisjointSets(6);
    sets.join(4, 1);
    sets.join(1, 5);
    sets.join(0, 2);
    expect(sets.areJoined(4, 5)).toBe(true);
    expect(sets.areJoined(4, 0)).toBe(false);
    expect(sets.rootOf(4)).toBe(5);
    expect(sets.groups()).toEqual([[0, 2], [1, 4, 5], [3]]);
  });

  it('finds the components that a walk through all joins finds (property)', () => {
    const pairs = fc.array(fc.tuple(fc.nat(19), fc.nat(19)), { maxLength: 30 });
    fc.assert(
      fc.property(pairs, (list) => {
        const sets = new DisjointSets(20);
        for (const [i, j] of list) sets.join(i, j);
        const met = (start: number): number[] => {
          const found = new Set([start]);
          for (const at of found) for (const [i, j] of list) if (i === at) found.add(j); else if (j === at) found.add(i); // prettier-ignore
          return [...found].sort((a, b) => a - b);
        };
        for (const group of sets.groups()) expect(group).toEqual(met(group[0]));
      }),
    );
  });
});
