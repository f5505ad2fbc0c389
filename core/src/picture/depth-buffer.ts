/** No triangle is seen at a sample. */
export const NOTHING = -1;

/** Share of a triangle by which it reaches over its edges, so that no sample falls between two. */
const SEAM = 1e-6;

/** For every sample of a picture the triangle that is nearest to the eye there, and how near. */
export class DepthBuffer {
  /** Greater is nearer. */
  readonly depth: Float32Array;
  readonly facet: Int32Array;

  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.depth = new Float32Array(width * height).fill(-Infinity);
    this.facet = new Int32Array(width * height).fill(NOTHING);
  }

  /**
   * Draws a triangle by its corners: sample columns from the left, rows from the top, and nearness. One that shows its back is left
   * out: seen from the front its corners run clockwise here, since rows run downwards.
   */
  draw(
    facet: number,
    ax: number,
    ay: number,
    az: number,
    bx: number,
    by: number,
    bz: number,
    cx: number,
    cy: number,
    cz: number,
  ): void {
    const twice = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (twice >= 0) return;
    const { width, height, depth } = this;
    const x0 = Math.max(0, Math.ceil(Math.min(ax, bx, cx) - 0.5));
    const x1 = Math.min(width - 1, Math.floor(Math.max(ax, bx, cx) - 0.5));
    const y0 = Math.max(0, Math.ceil(Math.min(ay, by, cy) - 0.5));
    const y1 = Math.min(height - 1, Math.floor(Math.max(ay, by, cy) - 0.5));
    // Shares of the corners a and b at the first sample of a row, and their steps from sample to sample.
    const stepU = (by - cy) / twice;
    const stepV = (cy - ay) / twice;
    for (let y = y0; y <= y1; y++) {
      const px = x0 + 0.5;
      const py = y + 0.5;
      let u = ((bx - px) * (cy - py) - (by - py) * (cx - px)) / twice;
      let v = ((cx - px) * (ay - py) - (cy - py) * (ax - px)) / twice;
      for (let x = x0, at = y * width + x0; x <= x1; x++, at++, u += stepU, v += stepV) {
        if (u < -SEAM || v < -SEAM || u + v > 1 + SEAM) continue;
        const z = u * az + v * bz + (1 - u - v) * cz;
        if (z <= depth[at]) continue;
        depth[at] = z;
        this.facet[at] = facet;
      }
    }
  }
}
