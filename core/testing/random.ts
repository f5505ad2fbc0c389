/** A stream of numbers that a seed fixes (Mulberry32, T. Ettinger, public domain). */
export class Random {
  private state: number;

  constructor(seed: number) {
    this.state = (seed ^ 0x9e3779b9) >>> 0;
    // The first numbers of neighbouring seeds are alike.
    for (let i = 0; i < 4; i++) this.unit();
  }

  /** At least 0 and below 1. */
  unit(): number {
    this.state = (this.state + 0x6d2b79f5) >>> 0;
    let t = this.state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  }

  between(low: number, high: number): number {
    return low + (high - low) * this.unit();
  }

  /** A whole number from `low` to `high`, both among them. */
  whole(low: number, high: number): number {
    return low + Math.floor(this.unit() * (high - low + 1));
  }

  chance(share: number): boolean {
    return this.unit() < share;
  }

  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.unit() * list.length)];
  }

  shuffled<T>(list: readonly T[]): T[] {
    const out = [...list];
    for (let i = out.length - 1; i > 0; i--) {
      const j = this.whole(0, i);
      [out[i], out[j]] = [out[j], out[i]];
    }
    return out;
  }
}
