import { newCombined, newSign, newText } from '@plain-relief/core/sign';
import { Clipboard } from './clipboard';

describe('Clipboard', () => {
  const clipboard = new Clipboard();
  beforeEach(() => localStorage.clear());

  it('keeps parts as they are, also those that follow parts of their own sign', () => {
    const sign = newSign('West gate', 'mm');
    const text = {
      ...newText(sign, 'barlow-semibold'),
      words: 'FERN',
      path: { kind: 'part', part: 'hole-1', side: 'outside', shift: 0 } as const,
    };
    const parts = [text, newCombined(sign, 'join', ['line-1', 'line-2'])];
    clipboard.copy(parts);
    expect(clipboard.read()).toEqual(parts);
    clipboard.copy([]);
    expect(clipboard.read()).toEqual(parts);
  });

  it.each([
    '',
    '{',
    '[{"kind":"text"}]',
    '"words"',
    '[1]',
    '{"version":1,"parts":[]}',
    '{"version":2,"parts":[null]}',
    '{"version":2,"parts":[{"kind":"text"}]}',
  ])('gives nothing for %s, which is no parts', (stored) => {
    localStorage.setItem('plain-relief-copied', stored);
    expect(clipboard.read()).toEqual([]);
  });
});
