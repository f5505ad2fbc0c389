import { type Contour, keyX, keyY, pointKey, STEPS_PER_MM } from '../geometry/index.js';

/** A stretch of a line of equal distance: grid points by their keys, two at least. */
export interface Strand {
  readonly keys: readonly number[];
  isUsed: boolean;
}

/** Gathers the steps of lines, one after the other, as strands that are as long as each step begins where the one before ended. */
export class Strands {
  readonly all: Strand[] = [];
  private last: number[] = [];

  step(from: number, to: number): void {
    if (from === to) return;
    if (this.last[this.last.length - 1] === from) {
      this.last.push(to);
      return;
    }
    this.last = [from, to];
    this.all.push({ keys: this.last, isUsed: false });
  }
}

const beginOf = ({ keys }: Strand): number => keys[0];
const endOf = ({ keys }: Strand): number => keys[keys.length - 1];

/** Strands by where they begin. */
function leavingFrom(strands: readonly Strand[]): Map<number, Strand[]> {
  const leaving = new Map<number, Strand[]>();
  for (const strand of strands) {
    const list = leaving.get(beginOf(strand));
    if (list) list.push(strand);
    else leaving.set(beginOf(strand), [strand]);
  }
  return leaving;
}

/** Further apart than this, in grid steps, two ends of the lines of a slope do not belong together. */
const GAP = 80;

/** Strands by about where they begin, for where two sites part their axis a hair differently and the line goes on at the nearest end. */
class Begins {
  private readonly cells = new Map<number, Strand[]>();

  constructor(
    strands: readonly Strand[],
    private readonly gap: number,
  ) {
    for (const strand of strands) {
      const key = this.cellOf(keyX(beginOf(strand)), keyY(beginOf(strand)));
      const cell = this.cells.get(key);
      if (cell) cell.push(strand);
      else this.cells.set(key, [strand]);
    }
  }

  /** The unused strand that begins nearest to a place, within the gap. */
  nearest(place: number): Strand | undefined {
    const { gap } = this;
    let best: Strand | undefined;
    let least = gap;
    for (let dx = -gap; dx <= gap; dx += gap)
      for (let dy = -gap; dy <= gap; dy += gap)
        for (const strand of this.cells.get(this.cellOf(keyX(place) + dx, keyY(place) + dy)) ?? []) {
          const distance = apartOf(beginOf(strand), place);
          if (strand.isUsed || distance >= least) continue;
          least = distance;
          best = strand;
        }
    return best;
  }

  private cellOf(x: number, y: number): number {
    return pointKey(Math.floor(x / this.gap), Math.floor(y / this.gap));
  }
}

/** A line of equal distance, and the strands that it is of where they are not those of the flanks. */
export interface Linked {
  readonly rings: Contour[];
  readonly strands?: readonly Pick<Strand, 'keys'>[];
}

/**
 * Strands of a line of equal distance as closed rings; undefined where they do not close.
 * @param gap grid steps that two ends may be apart and still belong together
 * @param mostOpen grid steps: what does not close and is no longer than that is left out
 */
export function linked(strands: readonly Strand[], gap = GAP, mostOpen = 0): Linked | undefined {
  const leaving = leavingFrom(strands);
  let begins: Begins | undefined;
  const rings: Contour[] = [];
  for (const first of strands) {
    const ring: number[] = [];
    let strand: Strand | undefined = first.isUsed ? undefined : first;
    let isOpen = false;
    while (strand && !strand.isUsed) {
      strand.isUsed = true;
      for (let i = 0; i + 1 < strand.keys.length; i++) ring.push(strand.keys[i]);
      const end = endOf(strand);
      const next: Strand | undefined = leaving.get(end)?.find(({ isUsed }) => !isUsed);
      if (!next && end !== beginOf(first)) {
        const over = (begins ??= new Begins(strands, gap)).nearest(end);
        isOpen = !over && apartOf(end, beginOf(first)) >= gap;
        if (isOpen && lengthOf([...ring, end]) > mostOpen) return undefined;
        strand = over;
      } else strand = next;
    }
    if (!isOpen && ring.length >= 3) rings.push(contourOf(ring));
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
 * Strands as far as they are connected, as polylines: those that begin where no other one ends, and then closed ones, whose first point
 * is not repeated.
 */
export function polylinesOf(strands: readonly Strand[]): { readonly points: Contour; readonly isClosed: boolean }[] {
  const leaving = leavingFrom(strands);
  const arriving = new Set(strands.map(endOf));
  const out: { points: Contour; isClosed: boolean }[] = [];
  const follow = (first: Strand): void => {
    const keys = [beginOf(first)];
    let strand: Strand | undefined = first;
    while (strand) {
      strand.isUsed = true;
      for (let i = 1; i < strand.keys.length; i++) keys.push(strand.keys[i]);
      strand = leaving.get(endOf(strand))?.find(({ isUsed }) => !isUsed);
    }
    const isClosed = keys.length > 3 && keys[0] === keys[keys.length - 1];
    out.push({ points: contourOf(isClosed ? keys.slice(0, -1) : keys), isClosed });
  };
  for (const strand of strands) if (!strand.isUsed && !arriving.has(beginOf(strand))) follow(strand);
  for (const strand of strands) if (!strand.isUsed) follow(strand);
  return out;
}

const lengthOf = (keys: readonly number[]): number =>
  keys.reduce((sum, key, i) => (i === 0 ? 0 : sum + apartOf(keys[i - 1], key)), 0);

/** Grid steps between two points. */
const apartOf = (a: number, b: number): number => Math.hypot(keyX(a) - keyX(b), keyY(a) - keyY(b));
