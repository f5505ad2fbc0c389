/** Whole numbers below 2³¹ in a typed array that grows. */
export class IntList {
  /** Of which as many count as the list is long. */
  values: Int32Array;
  private count = 0;

  constructor(expected = 1024) {
    this.values = new Int32Array(Math.max(16, expected));
  }

  get length(): number {
    return this.count;
  }

  push(value: number): void {
    if (this.count === this.values.length) {
      const larger = new Int32Array(this.count * 2);
      larger.set(this.values);
      this.values = larger;
    }
    this.values[this.count++] = value;
  }

  /** What was added, as an array of its own. */
  toArray(): Int32Array {
    return this.values.slice(0, this.count);
  }
}
