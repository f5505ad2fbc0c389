import { keyX, keyY, pointKey, toStep } from './grid.js';

/** Side of a cell of {@link Weld}, in times the distance below which points are one. */
const CELL = 8;

/** Grid points of which none are nearer to each other than a few steps: a new one that is becomes the old one. */
export class Weld {
  private readonly cells = new Map<number, number[]>();

  constructor(private readonly steps: number) {}

  /** The point for a place in mm, as a key. */
  place(xMm: number, yMm: number): number {
    const { steps, cells } = this;
    const [x, y] = [toStep(xMm), toStep(yMm)];
    const size = CELL * steps;
    const [cx, cy] = [Math.floor(x / size), Math.floor(y / size)];
    let best: number | undefined;
    let least = steps * steps;
    // Neighbouring cells only where they are near.
    const lastColumn = Math.floor((x + steps) / size);
    const lastRow = Math.floor((y + steps) / size);
    for (let i = Math.floor((x - steps) / size); i <= lastColumn; i++) {
      for (let j = Math.floor((y - steps) / size); j <= lastRow; j++) {
        const keys = cells.get(pointKey(i, j));
        if (!keys) continue;
        for (const key of keys) {
          const square = (keyX(key) - x) ** 2 + (keyY(key) - y) ** 2;
          if (square >= least) continue;
          least = square;
          best = key;
        }
      }
    }
    if (best !== undefined) return best;
    const key = pointKey(x, y);
    const cell = cells.get(pointKey(cx, cy));
    if (cell) cell.push(key);
    else cells.set(pointKey(cx, cy), [key]);
    return key;
  }
}
