/** How much of a weight is kept after every round. */
const KEPT = 0.98;

/** What overlaps of two weigh: the more, the longer they last. */
export class Weights {
  private readonly all: Float64Array;
  private readonly pairs: number[] = [];

  /**
   * @param count how many may be moved; those after them lie fast
   * @param heavier by how much what overlaps least of all weighs more after a round, and what overlaps most
   */
  constructor(
    count: number,
    private readonly total: number,
    private readonly heavier: { readonly least: number; readonly most: number },
  ) {
    this.all = new Float64Array(count * total);
  }

  reset(): void {
    this.all.fill(1);
    this.pairs.length = 0;
  }

  of(one: number, other: number): number {
    return this.all[one * this.total + other];
  }

  /** Notes that two overlap. @param one may be moved */
  found(one: number, other: number, by: number): void {
    this.pairs.push(one, other, by);
  }

  /** Makes heavier what was found since the last time, and all else lighter. */
  update(): void {
    const { all, pairs, total } = this;
    for (let k = 0; k < all.length; k++) all[k] = Math.max(1, all[k] * KEPT);
    const { least, most: heaviest } = this.heavier;
    let most = 0;
    for (let k = 2; k < pairs.length; k += 3) most = Math.max(most, pairs[k]);
    for (let k = 0; k < pairs.length; k += 3) {
      const [one, other, by] = [pairs[k], pairs[k + 1], pairs[k + 2]];
      const factor = (least + (heaviest - least) * (by / most)) / KEPT;
      const weight = all[one * total + other] * factor;
      all[one * total + other] = weight;
      if (other * total < all.length) all[other * total + one] = weight;
    }
    pairs.length = 0;
  }
}
