/** Where the labels of a ladder come to lie. */

export interface Rail {
  /** Pixels from the top for a height in mm. */
  toPixel(z: number): number;
  /** The height in mm at a pixel. */
  toHeight(pixel: number): number;
}

/** A true-to-scale rail from `top` to `bottom` (mm) in a column of pixels with a margin at both ends. */
export function rail(top: number, bottom: number, pixels: number, margin: number): Rail {
  const perMm = Math.max(1, pixels - 2 * margin) / Math.max(1e-6, top - bottom);
  return {
    toPixel: (z) => margin + (top - z) * perMm,
    toHeight: (pixel) => top - (pixel - margin) / perMm,
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
