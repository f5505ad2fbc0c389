import { type Contour, keyX, keyY, STEPS_PER_MM } from '../geometry/index.js';

/** A stretch of a line of equal distance. */
export interface Step {
  readonly from: number;
  readonly to: number;
  isUsed: boolean;
}

/** Further apart than this, in grid steps, two ends of the lines of a slope do not belong together. */
const GAP = 80;

/** Where two sites part their axis a hair differently, the line goes on at the nearest end. */
function nearestStep(steps: readonly Step[], key: number, gap: number): Step | undefined {
  let best: Step | undefined;
  let least = gap;
  for (const step of steps) {
    const distance = apartOf(step.from, key);
    if (step.isUsed || distance >= least) continue;
    least = distance;
    best = step;
  }
  return best;
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
  const rings: Contour[] = [];
  for (const first of steps) {
    const ring: number[] = [];
    let step: Step | undefined = first.isUsed ? undefined : first;
    while (step && !step.isUsed) {
      step.isUsed = true;
      ring.push(step.from);
      const next: Step | undefined = leaving.get(step.to)?.find(({ isUsed }) => !isUsed);
      if (!next && step.to !== first.from) {
        const over = nearestStep(steps, step.to, gap);
        if (!over && apartOf(step.to, first.from) >= gap) return undefined;
        step = over;
      } else step = next;
    }
    if (ring.length >= 3) rings.push(contourOf(ring));
  }
  return { rings };
}

export const contourOf = (keys: readonly number[]): Contour =>
  Float64Array.from(keys.flatMap((key) => [keyX(key) / STEPS_PER_MM, keyY(key) / STEPS_PER_MM]));

/** Grid steps between two points. */
const apartOf = (a: number, b: number): number => Math.hypot(keyX(a) - keyX(b), keyY(a) - keyY(b));
