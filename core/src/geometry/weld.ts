import { keyX, keyY, pointKey, toStep } from './grid.js';

/** Side of a cell of {@link Weld}, in times the distance below which points are one. */
const CELL = 8;
const NONE = -1;

/** Grid points of which none are nearer to each other than a few steps: a new one that is becomes the old one. */
export class Weld {
  private readonly size: number;
  private count = 0;
  /** Keys of the points, and for each the one before it in the same slot. */
  private keys = new Float64Array(64);
  private before = new Int32Array(64);
  /** For every slot the last point of the cells that fall into it. */
  private slots = new Int32Array(128).fill(NONE);

  constructor(private readonly steps: number) {
    this.size = CELL * steps;
  }

  /** The point for a place in mm, as a key. */
  place(xMm: number, yMm: number): number {
    const { steps, size, keys, before } = this;
    const x = toStep(xMm);
    const y = toStep(yMm);
    let best = NONE;
    let least = steps * steps;
    // Neighbouring cells only where they are near.
    const lastColumn = Math.floor((x + steps) / size);
    const lastRow = Math.floor((y + steps) / size);
    for (let i = Math.floor((x - steps) / size); i <= lastColumn; i++) {
      for (let j = Math.floor((y - steps) / size); j <= lastRow; j++) {
        for (let at = this.slots[this.slotOf(i, j)]; at !== NONE; at = before[at]) {
          const key = keys[at];
          const dx = keyX(key) - x;
          const dy = keyY(key) - y;
          const square = dx * dx + dy * dy;
          if (square >= least) continue;
          least = square;
          best = key;
        }
      }
    }
    if (best !== NONE) return best;
    const key = pointKey(x, y);
    this.add(key, Math.floor(x / size), Math.floor(y / size));
    return key;
  }

  private add(key: number, column: number, row: number): void {
    if (this.count === this.keys.length) this.grow();
    const slot = this.slotOf(column, row);
    this.keys[this.count] = key;
    this.before[this.count] = this.slots[slot];
    this.slots[slot] = this.count++;
  }

  private slotOf(column: number, row: number): number {
    let hash = Math.imul(column, 0x9e3779b1) ^ Math.imul(row, 0x85ebca6b);
    hash = Math.imul(hash ^ (hash >>> 15), 0x2c1b3c6d);
    return (hash ^ (hash >>> 13)) & (this.slots.length - 1);
  }

  private grow(): void {
    const { keys, before, count, size } = this;
    this.keys = new Float64Array(2 * count);
    this.keys.set(keys);
    this.before = new Int32Array(2 * count);
    this.before.set(before);
    this.slots = new Int32Array(4 * count).fill(NONE);
    for (let at = 0; at < count; at++) {
      const slot = this.slotOf(Math.floor(keyX(keys[at]) / size), Math.floor(keyY(keys[at]) / size));
      this.before[at] = this.slots[slot];
      this.slots[slot] = at;
    }
  }
}
