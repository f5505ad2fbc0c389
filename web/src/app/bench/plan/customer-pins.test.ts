import type { Remark } from '@plain-relief/api';
import { describe, expect, it } from '@jest/globals';
import { pinsOf } from './customer-pins';

const remark = (id: string, change: Partial<Remark> = {}): Remark => ({
  ...{
    id,
    signId: 's',
    option: null,
    run: null,
    row: null,
    number: null,
    across: 0.25,
    down: 0.5,
    isFromShop: false,
    who: 'Ada Fern',
  },
  ...{ text: `About ${id}`, at: '2026-11-27T10:00:00Z', ...change },
});
const proof = (letter: string, state: 'open' | 'approved' | 'changes asked' | 'withdrawn' | 'replaced', remarks: Remark[]) => ({
  ...{ letter, state, remarks, createdAt: `2026-11-2${letter.charCodeAt(0) - 64}T10:00:00Z` },
  signs: [{ id: 's', title: 'Gate', revision: 1, unit: 'mm' as const, options: [], spelling: [] }],
});

describe('pins of a customer', () => {
  it('are those of the newest proof that shows the sign, numbered as there', () => {
    const b = [remark('whole', { across: null, down: null }), remark('rim'), remark('other', { signId: 't' }), remark('O', { isFromShop: true })]; // prettier-ignore
    const pins = pinsOf([proof('A', 'replaced', [remark('old')]), proof('B', 'changes asked', b)], 's');
    expect(pins.map(({ id, number, text }) => [id, number, text])).toEqual([
      ['rim', 2, 'Ada Fern on proof B: About rim'],
      ['O', 3, 'The shop on proof B: About O'],
    ]);
  });

  it('are none once it is approved, and not those of one that was withdrawn', () => {
    expect(pinsOf([proof('A', 'open', [remark('a')]), proof('B', 'approved', [remark('b')])], 's')).toEqual([]);
    expect(pinsOf([proof('A', 'open', [remark('a')]), proof('B', 'withdrawn', [remark('b')])], 's')).toHaveLength(1);
    expect(pinsOf([proof('A', 'open', [remark('a')])], 'unknown')).toEqual([]);
  });
});
