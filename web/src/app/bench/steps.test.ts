import type { TaskKind } from '@plain-relief/api/states';
import type { Task } from '@plain-relief/api';
import { type Note } from '@plain-relief/core/notes';
import { newSign, newText, type Sign } from '@plain-relief/core/sign';
import { stepsOf } from './steps';

const worded = (): Sign => {
  const sign = newSign('Test', 'mm');
  sign.blank.material = 'oak';
  sign.parts.push({ ...newText(sign, 'barlow-semibold'), words: 'Oak' });
  return sign;
};
const task = (kind: TaskKind, revision: number, state: Task['state'] = 'done'): Task => ({
  id: `${kind}${revision}`,
  signId: 's',
  option: null,
  revision,
  kind,
  state,
  progress: 1,
  step: '',
  error: null,
  finishedAt: null,
  askedAt: '2026-11-25T00:00:00Z',
  fileName: 'f',
});
const marks = (...args: Parameters<typeof stepsOf>) => stepsOf(...args).map(({ mark }) => mark);
const warning: Note = { code: 'thin-floor', weight: 'warning', text: 'The floor is thin.' };

describe('the steps of a job', () => {
  it('are open on a bare blank and say what to do first', () => {
    const steps = stepsOf(newSign('Test', 'mm'), [], [], 1);
    expect(steps.map(({ name }) => name)).toEqual(['Brief', 'Layout', 'Heights', 'Check', 'Proof', 'Make']);
    expect(steps.map(({ mark }) => mark)).toEqual(['begun', 'open', 'open', 'open', 'open', 'open']);
    expect(steps[1].lacks).toBe('no words yet');
  });

  it('are done when nothing is lacking', () => {
    const approved = { letter: 'B', state: 'approved', revision: 3 } as const;
    expect(marks(worded(), [], [task('package', 3)], 3, approved)).toEqual(Array(6).fill('done'));
  });

  it('name the line without words and the part without a tier', () => {
    const sign = worded();
    sign.parts.push({ ...newText(sign, 'barlow-semibold'), tiers: [] });
    const [, layout, heights] = stepsOf(sign, [], [], 1);
    expect(layout).toMatchObject({ mark: 'begun', lacks: 'a line has no words' });
    expect(heights).toMatchObject({ mark: 'begun', lacks: 'Line 2 has no tier' });
  });

  it('count what there is to look at', () => {
    const check = stepsOf(worded(), [warning, { ...warning, weight: 'error' }, { ...warning, weight: 'said' }], [], 1)[3];
    expect(check).toMatchObject({ mark: 'begun', lacks: '2 to look at' });
  });

  it.each([
    [undefined, 'open', 'not sent yet'],
    [{ letter: 'A', state: 'open', revision: 3 }, 'begun', 'proof A is with the customer'],
    [{ letter: 'B', state: 'changes asked', revision: 2 }, 'begun', 'changes asked in proof B'],
    [{ letter: 'B', state: 'approved', revision: 2 }, 'begun', 'changed since proof B'],
    [{ letter: 'B', state: 'approved', revision: 3 }, 'done', 'approved with proof B'],
  ] as const)('say where the sign stands with the customer: %j', (proof, mark, lacks) => {
    expect(stepsOf(worded(), [], [], 3, proof)[4]).toMatchObject({ mark, lacks });
  });

  it('know files of an older revision and work that failed', () => {
    expect(stepsOf(worded(), [], [task('stl', 2)], 3)[5]).toMatchObject({ mark: 'begun', lacks: 'the sign has changed since' });
    expect(stepsOf(worded(), [], [task('stl', 3, 'failed')], 3)[5].mark).toBe('open');
  });
});
