import type { RunMaking } from '@plain-relief/api';
import { runWords } from '../jobs/run-words';
import { makingWords, shareMade, sizeWords } from './making-words';

const making = (change: Partial<RunMaking> = {}): RunMaking => ({
  id: 'm',
  title: 'Spring labels',
  state: 'running',
  who: 'Ida',
  rows: 120,
  made: 48,
  lots: 10,
  lotsMade: 4,
  workers: 2,
  underWay: 0,
  held: 0,
  others: 0,
  bytes: 0,
  laid: null,
  error: null,
  kinds: ['svg'],
  hasContact: false,
  programs: null,
  askedAt: '2026-11-29T10:00:00.000Z',
  finishedAt: null,
  ...change,
});

describe('files that workers make', () => {
  it('are told as they go on', () => {
    expect(makingWords(making())).toBe('48 of 120 plates made; 2 workers at it. Files of single signs go first.');
    expect(makingWords(making({ workers: 0, others: 1 }))).toBe('48 of 120 plates made; waiting for a worker. It takes turns with 1 other run. Files of single signs go first.'); // prettier-ignore
    expect(makingWords(making({ made: 120, lots: 14, lotsMade: 13, workers: 1 }))).toBe('120 plates made, 1 sheet or page to go; 1 worker at it. Files of single signs go first.'); // prettier-ignore
    const planned = { made: 120, lots: 14, lotsMade: 12, programs: { machine: 'Long bed', minutes: 0 } };
    expect(makingWords(making({ ...planned, underWay: 0.75 }))).toBe('120 plates made, 2 sheets, programs and pages to go; 2 workers at it, 37 % through what they have in hand. Files of single signs go first.'); // prettier-ignore
    expect(makingWords(making({ ...planned, workers: 1, underWay: 0.111 }))).toContain(
      '1 worker at it, 11 % through what it has in hand.',
    );
    expect(makingWords(making({ state: 'paused' }))).toBe('Paused: 48 of 120 plates made.');
    expect(makingWords(making({ state: 'cancelled' }))).toBe('Ended after 48 of 120 plates.');
    expect(shareMade(making())).toBe(0.4);
    // A sheet that is planned half, and another by a quarter.
    expect(shareMade(making({ underWay: 0.75 }))).toBeCloseTo(0.475, 12);
  });

  it('are told when they are done, with what is not', () => {
    const done = making({ state: 'done', made: 120, held: 2, laid: { sheets: 3, share: 0.814, left: [7] } });
    expect(makingWords(done)).toBe('120 plates made. 3 sheets, 81 % of them plates. No sheet is large enough for plate 7. 2 plates do not fit, or are not made: report.csv says why.'); // prettier-ignore
    expect(makingWords({ ...done, held: 0, laid: { sheets: 1, share: 0.5, left: [] } })).toBe(
      '120 plates made. 1 sheet, 50 % of it plates.',
    );
    const cut = { ...done, held: 0, programs: { machine: 'Long bed', minutes: 95 }, error: 'Sheet 2: too near.' };
    expect(makingWords({ ...cut, laid: null })).toBe(
      '120 plates made. Programs for Long bed take 1 h 35 min. Sheet 2: too near.',
    );
    expect(makingWords({ ...cut, state: 'running', lots: 14, lotsMade: 12 })).toContain(', 2 sheets, programs and pages to go;');
    expect([sizeWords(200), sizeWords(48_100), sizeWords(3_240_000)]).toEqual(['1 kB', '48 kB', '3.2 MB']);
  });

  it('are told on the card of their job', () => {
    const words = (state: RunMaking['state']): string => runWords({ rows: 120, making: { state, share: 0.456 } });
    expect((['running', 'paused', 'done', 'cancelled'] as const).map(words)).toEqual(['120 plates, 45 % made', '120 plates, paused at 45 %', '120 plates, files made', '120 plates']); // prettier-ignore
    expect(runWords({ rows: 1, making: null })).toBe('one plate');
  });
});
