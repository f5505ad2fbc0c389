import { describe, expect, it } from '@jest/globals';
import { Steps } from './steps';

describe('steps that can be undone', () => {
  const stepped = (...values: number[]): Steps<number> => {
    const steps = new Steps<number>();
    values.forEach((after, i) => steps.add({ label: `to ${after}`, before: values[i - 1] ?? 0, after }));
    return steps;
  };

  it('are undone from the last to the first and done again, by their labels', () => {
    const steps = stepped(1, 2);
    expect([steps.undoLabel, steps.redoLabel]).toEqual(['to 2', undefined]);
    expect([steps.undo(), steps.undo(), steps.undo()]).toEqual([1, 0, undefined]);
    expect([steps.undoLabel, steps.redoLabel]).toEqual([undefined, 'to 1']);
    expect([steps.redo(), steps.redo(), steps.redo()]).toEqual([1, 2, undefined]);
  });

  it('are forgotten where something else is done after they were undone, and all together', () => {
    const steps = stepped(1, 2);
    steps.undo();
    steps.add({ label: 'to 5', before: 1, after: 5 });
    expect([steps.redo(), steps.undo(), steps.undoLabel]).toEqual([undefined, 1, 'to 1']);
    steps.clear();
    expect([steps.undo(), steps.redo(), steps.last]).toEqual([undefined, undefined, undefined]);
  });

  it('that go on, such as a drag, are one', () => {
    const steps = stepped(1, 2);
    steps.replaceLast({ ...steps.last!, after: 9 });
    expect([steps.undo(), steps.redo()]).toEqual([1, 9]);
  });

  it('are no more than two hundred, the first of which is forgotten', () => {
    const steps = stepped(...Array.from({ length: 230 }, (_, i) => i + 1));
    let undone = 0;
    while (steps.undo() !== undefined) undone++;
    expect(undone).toBe(200);
  });
});
