import { produce } from 'immer';

interface Step<T> {
  /** What was done, as a person would name it. */
  readonly label: string;
  readonly key: string;
  readonly at: number;
  /** The value before it (of an undone step, after it). Values share what did not change, so that this costs little. */
  readonly other: T;
}

/** Edits of the same thing closer together than this are one step. */
const ONE_STEP_MS = 1200;
const MOST_STEPS = 300;

/** An immutable value with its undo steps. Every change gives a new history. */
export class History<T extends object> {
  private constructor(
    readonly value: T,
    private readonly done: readonly Step<T>[],
    private readonly undone: readonly Step<T>[],
  ) {}

  static of<T extends object>(value: T): History<T> {
    return new History<T>(value, [], []);
  }

  get undoLabel(): string | undefined {
    return this.done[this.done.length - 1]?.label;
  }

  get redoLabel(): string | undefined {
    return this.undone[this.undone.length - 1]?.label;
  }

  /**
   * @param key edits with the same key within a second or so are undone together
   * @param now milliseconds of any clock
   */
  changed(label: string, key: string, now: number, recipe: (draft: T) => void): History<T> {
    return this.replaced(
      label,
      key,
      now,
      produce(this.value, (draft) => recipe(draft as T)),
    );
  }

  /** The same with another value that was made elsewhere. */
  replaced(label: string, key: string, now: number, value: T): History<T> {
    if (value === this.value) return this;
    const last = this.done[this.done.length - 1];
    const joins = last !== undefined && this.undone.length === 0 && last.key === key && now - last.at < ONE_STEP_MS;
    const step = { label, key, at: now, other: joins ? last.other : this.value };
    const before = joins ? this.done.slice(0, -1) : this.done;
    return new History(value, [...before, step].slice(-MOST_STEPS), []);
  }

  /** The same with a value that belongs to the last step: what follows from it and was worked out later. */
  amended(recipe: (draft: T) => void): History<T> {
    const value = produce(this.value, (draft) => recipe(draft as T));
    return value === this.value ? this : new History(value, this.done, this.undone);
  }

  undo(): History<T> {
    const step = this.done[this.done.length - 1];
    if (!step) return this;
    // A step that was undone takes in no later edit.
    return new History(step.other, this.done.slice(0, -1), [...this.undone, { ...step, at: 0, other: this.value }]);
  }

  redo(): History<T> {
    const step = this.undone[this.undone.length - 1];
    if (!step) return this;
    return new History(step.other, [...this.done, { ...step, other: this.value }], this.undone.slice(0, -1));
  }
}
