import { JOB_STATES } from '@plain-relief/api/states';
import { jobOf as job } from '../../testing/jobs';
import { due, dueWithin, LANES, matching } from './lanes';

describe('due', () => {
  const today = new Date(2026, 10, 25, 23, 30);
  it.each([
    ['2026-11-22', '3 days late', 'late'],
    ['2026-11-24', '1 day late', 'late'],
    ['2026-11-25', 'due today', 'soon'],
    ['2026-11-26', 'due tomorrow', 'soon'],
    ['2026-11-30', 'due in 5 days', 'soon'],
    ['2026-12-25', 'due in 30 days', 'later'],
  ])('%s is %s', (on, text, urgency) => expect(due(on, today)).toEqual({ text, urgency }));
  it('knows jobs without a date', () => expect(due(null, today).urgency).toBe('none'));
});

describe('the board', () => {
  it('has a lane for every state, once', () => {
    expect(LANES.flatMap(({ states }) => states).sort()).toEqual([...JOB_STATES].sort());
  });

  it('finds jobs by every word of a search', () => {
    const jobs = [
      job({}),
      job({
        id: '2',
        customer: 'Osprey Point Ferry',
        signs: [{ id: 's', title: 'Bilge pump', revision: 1, savedAt: '2026-11-20T09:00:00.000Z', words: 'LIVE WIRES' }],
      }),
    ];
    expect(matching(jobs, 'osprey bilge').map(({ id }) => id)).toEqual(['2']);
    expect(matching(jobs, 'wires ferry').map(({ id }) => id)).toEqual(['2']);
    expect(matching(jobs, 'fernhollow bilge')).toEqual([]);
    expect(matching(jobs, '  ')).toHaveLength(2);
  });

  it('finds jobs that are due within some days, the late ones too', () => {
    const today = new Date(2026, 10, 25);
    const jobs = ['2026-11-20', '2026-11-25', '2026-12-02', '2026-12-03', null].map((dueOn) => job({ dueOn }));
    expect(dueWithin(jobs, 7, today).map(({ dueOn }) => dueOn)).toEqual(['2026-11-20', '2026-11-25', '2026-12-02']);
    expect(dueWithin(jobs, -1, today).map(({ dueOn }) => dueOn)).toEqual(['2026-11-20']);
    expect(dueWithin(jobs, undefined, today)).toHaveLength(5);
  });
});
