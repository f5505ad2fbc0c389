/** A step of an editor that can be undone. */
export interface Step<T> {
  readonly label: string;
  readonly before: T;
  readonly after: T;
}

const MOST_STEPS = 200;

/** What was done to a value, one step after the other, to be undone and done again. */
export class Steps<T> {
  private done: Step<T>[] = [];
  private undone: Step<T>[] = [];

  /** The step that is undone next. */
  get last(): Step<T> | undefined {
    return this.done.at(-1);
  }

  get undoLabel(): string | undefined {
    return this.last?.label;
  }

  get redoLabel(): string | undefined {
    return this.undone.at(-1)?.label;
  }

  add(step: Step<T>): void {
    this.done = [...this.done.slice(1 - MOST_STEPS), step];
    this.undone = [];
  }

  /** Makes the last step another, such as a drag that goes on. */
  replaceLast(step: Step<T>): void {
    this.done[this.done.length - 1] = step;
    this.undone = [];
  }

  /** The value before the last step; undefined where there is none. */
  undo(): T | undefined {
    const step = this.done.pop();
    if (step) this.undone.push(step);
    return step?.before;
  }

  redo(): T | undefined {
    const step = this.undone.pop();
    if (step) this.done.push(step);
    return step?.after;
  }

  clear(): void {
    [this.done, this.undone] = [[], []];
  }
}
