/** Where the labels of a ladder come to lie. */

export interface Rail {
  /** Pixels from the top for a height in mm. */
  toPixel(z: number): number;
  /** The height in mm at a pixel. */
  toHeight(pixel: number): number;
}

/** A stretch of heights (mm) that is left out of a rail, since nothing lies in it. */
export interface Break {
  readonly upper: number;
  readonly lower: number;
}

/** Pixels that stand for what is left out. */
export const BREAK_PX = 26;
/** A stretch without a level is left out where it takes more than this part of the rail. */
const LONG = 0.5;

/**
 * What a rail leaves out so that levels have room: most of the longest stretch between two levels, where it is longer than everything
 * else together.
 * @param levels heights in mm that stand on the rail, its ends among them, in any order
 */
export function breakOf(levels: readonly number[]): Break | undefined {
  const sorted = [...levels].sort((a, b) => b - a);
  const total = sorted[0] - sorted[sorted.length - 1];
  let longest = { upper: 0, lower: 0 };
  for (let i = 1; i < sorted.length; i++)
    if (sorted[i - 1] - sorted[i] > longest.upper - longest.lower) longest = { upper: sorted[i - 1], lower: sorted[i] };
  const length = longest.upper - longest.lower;
  if (!(length > LONG * total)) return undefined;
  // Some of it stays at both ends, to drag a rung into.
  const stays = Math.min(length / 4, Math.max(1, (total - length) / 4));
  return { upper: longest.upper - stays, lower: longest.lower + stays };
}

/** A rail from `top` to `bottom` (mm) in a column of pixels with a margin at both ends, to scale but for what is left out. */
export function rail(top: number, bottom: number, pixels: number, margin: number, gap?: Break): Rail {
  const left = gap ? gap.upper - gap.lower : 0;
  const room = Math.max(1, pixels - 2 * margin - (gap ? BREAK_PX : 0));
  const perMm = room / Math.max(1e-6, top - bottom - left);
  if (!gap) return { toPixel: (z) => margin + (top - z) * perMm, toHeight: (pixel) => top - (pixel - margin) / perMm };
  const from = margin + (top - gap.upper) * perMm;
  const to = from + BREAK_PX;
  return {
    toPixel: (z) => {
      if (z >= gap.upper) return margin + (top - z) * perMm;
      return z <= gap.lower ? to + (gap.lower - z) * perMm : from + ((gap.upper - z) / left) * BREAK_PX;
    },
    toHeight: (pixel) => {
      if (pixel <= from) return top - (pixel - margin) / perMm;
      return pixel >= to ? gap.lower - (pixel - to) / perMm : gap.upper - ((pixel - from) / BREAK_PX) * left;
    },
  };
}

/**
 * Pushes labels apart that would overlap, keeping their order and staying as near to their wish as they can: clusters
 * move as one about the mean of their wishes.
 *
 * @param wishes pixels, in any order
 * @returns pixels in the order of the wishes
 */
export function spread(wishes: readonly number[], gap: number, from: number, to: number): number[] {
  const order = wishes.map((_, i) => i).sort((a, b) => wishes[a] - wishes[b] || a - b);
  const step = Math.min(gap, order.length > 1 ? (to - from) / (order.length - 1) : gap);
  const clusters: number[][] = [];
  /** Where the first label of a cluster lies: the cluster about the mean of its wishes, kept inside the column. */
  const startOf = (members: readonly number[]): number => {
    const mean = members.reduce((sum, member) => sum + wishes[member], 0) / members.length;
    const length = (members.length - 1) * step;
    return Math.min(Math.max(mean - length / 2, from), to - length);
  };
  for (const i of order) {
    let cluster = [i];
    for (let before = clusters.at(-1); before; before = clusters.at(-1)) {
      if (startOf(cluster) - startOf(before) >= before.length * step - 1e-9) break;
      cluster = [...before, ...cluster];
      clusters.pop();
    }
    clusters.push(cluster);
  }
  const out = new Array<number>(wishes.length);
  for (const cluster of clusters) {
    const start = startOf(cluster);
    cluster.forEach((member, k) => (out[member] = start + k * step));
  }
  return out;
}
