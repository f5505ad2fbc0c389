import type { JobTurnaround } from '@plain-relief/api';
import { byRounds, daysToApproval, daysWords, median } from './turnaround';

const job = (rounds: number, approvedAt: string | null = null): JobTurnaround => ({
  number: 'FA-0101',
  title: 'Signs',
  customer: 'Fernhollow Arboretum',
  rounds,
  firstSentAt: '2026-11-01T08:00:00Z',
  approvedAt,
  daysToAnswer: [],
});

describe('turnaround', () => {
  it('is the median, which one late customer does not move', () => {
    expect(median([])).toBeUndefined();
    expect(median([3, 1, 90])).toBe(3);
    expect(median([1, 2, 4, 90])).toBe(3);
  });

  it('counts from the first proof to the approval', () => {
    expect(daysToApproval(job(2, '2026-11-04T20:00:00Z'))).toBeCloseTo(3.5, 10);
    expect(daysToApproval(job(1))).toBeUndefined();
  });

  it('counts jobs by their rounds, and loses none', () => {
    const jobs = [1, 1, 2, 4, 5, 9].map((rounds) => job(rounds));
    expect(byRounds(jobs).map(({ jobs: count }) => count)).toEqual([2, 1, 0, 1, 2]);
    expect(byRounds(jobs).at(-1)!.words).toBe('5 or more');
  });

  it('says times as people do', () => {
    expect([0.001, 0.125, 1.5, 2.46].map(daysWords)).toEqual(['1 min', '3 hours', '36 hours', '2.5 days']);
  });
});
