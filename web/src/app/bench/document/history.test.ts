import { History } from './history';

interface Sign {
  words: string;
  height: number;
}

const start = () => History.of<Sign>({ words: 'Oak', height: 2 });

describe('History', () => {
  it('undoes and redoes, naming what', () => {
    const raised = start().changed('height of Line 1', 'height', 0, (sign) => void (sign.height = 3));
    expect(raised.undoLabel).toBe('height of Line 1');
    const back = raised.undo();
    expect(back.value).toEqual({ words: 'Oak', height: 2 });
    expect(back.redoLabel).toBe('height of Line 1');
    expect(back.redo().value.height).toBe(3);
  });

  it('takes quick edits of one thing as one step and others apart', () => {
    let history = start();
    for (const [i, words] of ['Oaks', 'Oaks ', 'Oaks o'].entries())
      history = history.changed('words', 'words', i * 200, (sign) => void (sign.words = words));
    history = history.changed('height', 'height', 700, (sign) => void (sign.height = 5));
    history = history.undo();
    expect(history.value).toEqual({ words: 'Oaks o', height: 2 });
    expect(history.undo().value.words).toBe('Oak');
    expect(history.undo().undoLabel).toBeUndefined();
  });

  it('begins a new step after a pause and after an undo', () => {
    const first = start().changed('words', 'words', 0, (sign) => void (sign.words = 'A'));
    const later = first.changed('words', 'words', 5000, (sign) => void (sign.words = 'B'));
    expect(later.undo().value.words).toBe('A');
    const again = later.undo().changed('words', 'words', 5100, (sign) => void (sign.words = 'C'));
    expect(again.undo().value.words).toBe('A');
    expect(again.redoLabel).toBeUndefined();
  });

  it('is the same history where nothing changes', () => {
    const history = start();
    expect(history.changed('words', 'words', 0, (sign) => void (sign.words = 'Oak'))).toBe(history);
    expect(history.undo()).toBe(history);
  });
});
