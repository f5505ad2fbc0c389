import { describe, expect, it } from '@jest/globals';
import type { RunProof } from '@plain-relief/api';
import { isAsApproved, proofWords } from './proof-words';

const none: RunProof['changes'] = { isSignChanged: false, changed: [], added: [], removed: 0 };
const proof = (state: RunProof['state'], changes: Partial<RunProof['changes']> = {}, option: RunProof['option'] = null) => ({
  ...{ proofId: 'p', letter: 'B', state, createdAt: '2026-11-20T09:00:00.000Z' },
  endedAt: state === 'open' ? null : '2026-11-24T09:00:00.000Z',
  answeredBy: state === 'open' ? null : 'Marit Solheim',
  changes: { ...none, ...changes },
  option,
});

describe('whether plates are as approved', () => {
  it('is so where nothing was changed since, in any way', () => {
    expect(isAsApproved(proof('approved'))).toBe(true);
    expect(isAsApproved(proof('open'))).toBe(false);
    for (const change of [{ isSignChanged: true }, { changed: [1] }, { added: [2] }, { removed: 1 }]) expect(isAsApproved(proof('approved', change))).toBe(false); // prettier-ignore
  });
});

describe('plates of a sign with options', () => {
  it('are as approved where they are made as the option that was chosen', () => {
    const [made, other] = [true, false].map((isMade) => proof('approved', {}, { id: 'b', name: 'Brass', isMade }));
    expect([isAsApproved(made), isAsApproved(other)]).toEqual([true, false]);
    expect(proofWords(made)).toMatch(/, as Brass\. The plates are as approved\.$/u);
    expect(proofWords(other)).toMatch(/, as Brass\.$/u);
  });
});

describe('where a run stands with its customer', () => {
  it('is said with what is otherwise since', () => {
    expect(proofWords(proof('open'))).toMatch(/^of .*20.* waits for the customer\.$/u);
    expect(proofWords(proof('approved'))).toMatch(/^was approved by Marit Solheim on .*24.*\. The plates are as approved\.$/u);
    expect(proofWords(proof('approved', { changed: [3], added: [121, 122], removed: 2 }))).toMatch(/Otherwise since: plate 3; new: 121 and 122; 2 gone\.$/u); // prettier-ignore
    expect(proofWords(proof('changes asked', { isSignChanged: true }))).toMatch(/asks for changes\. Otherwise since: the sign, and with it every plate\.$/u); // prettier-ignore
  });
});
