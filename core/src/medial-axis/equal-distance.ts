import { type Contour, keyX, keyY, pointKey, STEPS_PER_MM } from '../geometry/index.js';

/** A stretch of a line of equal distance. */
export interface Step {
  readonly from: number;
  readonly to: number;
  isUsed: boolean;
}

/** Further apart than this, in grid steps, two ends of the lines of a slope do not belong together. */
const GAP = 80;

/** Steps by where they begin, for where two sites part their axis a hair differently and the line goes on at the nearest end. */
class Begins {
  private readonly cells = new Map<number, Step[]>();

  constructor(
    steps: readonly Step[],
    private readonly gap: number,
  ) {
    for (const step of steps) {
      const key = this.cellOf(keyX(step.from), keyY(step.from));
      const cell = this.cells.get(key);
      if (cell) cell.push(step);
      else this.cells.set(key, [step]);
    }
  }

  /** The unused step that begins nearest to a place, within the gap. */
  nearest(place: number): Step | undefined {
    const { gap } = this;
    let best: Step | undefined;
    let least = gap;
    for (let dx = -gap; dx <= gap; dx += gap)
      for (let dy = -gap; dy <= gap; dy += gap)
        for (const step of this.cells.get(this.cellOf(keyX(place) + dx, keyY(place) + dy)) ?? []) {
          const distance = apartOf(step.from, place);
          if (step.isUsed || distance >= least) continue;
          least = distance;
          best = step;
        }
    return best;
  }

  private cellOf(x: number, y: number): number {
    return pointKey(Math.floor(x / this.gap), Math.floor(y / this.gap));
  }
}

/** A line of equal distance, and the stretches that it is of where they are not those of the flanks. */
export interface Linked {
  readonly rings: Contour[];
  readonly stretches?: readonly Pick<Step, 'from' | 'to'>[];
}

/**
 * Stretches of a line of equal distance as closed rings; undefined where they do not close.
 * @param gap grid steps that two ends may be apart and still belong together
 */
export function linked(steps: readonly Step[], gap = GAP): Linked | undefined {
  const leaving = new Map<number, Step[]>();
  for (const step of steps) {
    const list = leaving.get(step.from);
    if (list) list.push(step);
    else leaving.set(step.from, [step]);
  }
  let begins: Begins | undefined;
  const rings: Contour[] = [];
  for (const first of steps) {
    const ring: number[] = [];
    let step: Step | undefined = first.isUsed ? undefined : first;
    while (step && !step.isUsed) {
      step.isUsed = true;
      ring.push(step.from);
      const next: Step | undefined = leaving.get(step.to)?.find(({ isUsed }) => !isUsed);
      if (!next && step.to !== first.from) {
        const over = (begins ??= new Begins(steps, gap)).nearest(step.to);
        if (!over && apartOf(step.to, first.from) >= gap) return undefined;
        step = over;
      } else step = next;
    }
    if (ring.length >= 3) rings.push(contourOf(ring));
  }
  return { rings };
}

export function contourOf(keys: readonly number[]): Contour {
  const out = new Float64Array(2 * keys.length);
  for (let i = 0; i < keys.length; i++) {
    out[2 * i] = keyX(keys[i]) / STEPS_PER_MM;
    out[2 * i + 1] = keyY(keys[i]) / STEPS_PER_MM;
  }
  return out;
}

/**
 * Stretches of lines as far as they are connected, as polylines: those that begin where no other one ends, and then closed ones, whose
 * first point is not repeated.
 */
export function polylinesOf(steps: readonly Step[]): { readonly points: Contour; readonly isClosed: boolean }[] {
  const leaving = new Map<number, Step[]>();
  const arriving = new Set<number>();
  for (const step of steps) {
    const list = leaving.get(step.from);
    if (list) list.push(step);
    else leaving.set(step.from, [step]);
    arriving.add(step.to);
  }
  const out: { points: Contour; isClosed: boolean }[] = [];
  const follow = (first: Step): void => {
    const keys = [first.from];
    let step: Step | undefined = first;
    while (step) {
      step.isUsed = true;
      keys.push(step.to);
      step = leaving.get(step.to)?.find(({ isUsed }) => !isUsed);
    }
    const isClosed = keys.length > 3 && keys[0] === keys[keys.length - 1];
    out.push({ points: contourOf(isClosed ? keys.slice(0, -1) : keys), isClosed });
  };
  for (const step of steps) if (!step.isUsed && !arriving.has(step.from)) follow(step);
  for (const step of steps) if (!step.isUsed) follow(step);
  return out;
}

/** Grid steps between two points. */
const apartOf = (a: number, b: number): number => Math.hypot(keyX(a) - keyX(b), keyY(a) - keyY(b));
