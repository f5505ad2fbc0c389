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
  const clusters: { members: number[]; centre: number }[] = [];
  for (const i of order) {
    clusters.push({ members: [i], centre: wishes[i] });
    for (;;) {
      const last = clusters[clusters.length - 1];
      const before = clusters[clusters.length - 2];
      if (!before) break;
      const half = (cluster: { members: number[] }) => ((cluster.members.length - 1) * step) / 2;
      if (last.centre - half(last) - (before.centre + half(before)) >= step - 1e-9) break;
      const members = [...before.members, ...last.members];
      const mean = members.reduce((sum, member) => sum + wishes[member], 0) / members.length;
      clusters.splice(-2, 2, { members, centre: mean });
    }
  }
  const out = new Array<number>(wishes.length);
  for (const { members, centre } of clusters) {
    const half = ((members.length - 1) * step) / 2;
    const start = Math.min(Math.max(centre, from + half), to - half) - half;
    members.forEach((member, k) => (out[member] = start + k * step));
  }
  return out;
}
