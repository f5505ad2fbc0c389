/** A growing set of grid points, each with a number, found again by its coordinates. Open addressing in typed arrays. */
export class PointSet {
  x: Int32Array;
  y: Int32Array;
  size = 0;
  private slots: Int32Array;

  constructor(expected: number) {
    let slots = 64;
    while (slots < expected * 2) slots *= 2;
    this.slots = new Int32Array(slots).fill(-1);
    this.x = new Int32Array(slots / 2);
    this.y = new Int32Array(slots / 2);
  }

  /** The number of the point at (x, y), given now if it is new. */
  add(x: number, y: number): number {
    const slot = this.slotOf(x, y);
    const known = this.slots[slot];
    if (known >= 0) return known;
    if (this.size === this.x.length) {
      this.grow();
      return this.add(x, y);
    }
    this.slots[slot] = this.size;
    this.x[this.size] = x;
    this.y[this.size] = y;
    return this.size++;
  }

  private slotOf(x: number, y: number): number {
    const mask = this.slots.length - 1;
    let hash = Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b);
    hash = Math.imul(hash ^ (hash >>> 15), 0x2c1b3c6d);
    let slot = (hash ^ (hash >>> 13)) & mask;
    for (;;) {
      const id = this.slots[slot];
      if (id < 0 || (this.x[id] === x && this.y[id] === y)) return slot;
      slot = (slot + 1) & mask;
    }
  }

  private grow(): void {
    const { x, y, size } = this;
    this.slots = new Int32Array(this.slots.length * 2).fill(-1);
    this.x = new Int32Array(this.slots.length / 2);
    this.y = new Int32Array(this.slots.length / 2);
    this.x.set(x.subarray(0, size));
    this.y.set(y.subarray(0, size));
    for (let id = 0; id < size; id++) this.slots[this.slotOf(x[id], y[id])] = id;
  }
}
