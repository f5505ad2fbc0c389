/**
 * A height as a function of the distance from an outline's edge: straight between its points, level after the last one. The edge
 * forms of tiers are such functions, and so is what several of them make of one letter.
 */
export class HeightProfile {
  /**
   * @param distances mm from the edge, ascending from 0
   * @param heights mm above the face, as many
   */
  constructor(
    readonly distances: readonly number[],
    readonly heights: readonly number[],
  ) {}

  static level(z: number): HeightProfile {
    return new HeightProfile([0], [z]);
  }

  get start(): number {
    return this.heights[0];
  }

  /** The height that it comes to. */
  get end(): number {
    return this.heights[this.heights.length - 1];
  }

  /** The distance from which it is level. */
  get run(): number {
    return this.distances[this.distances.length - 1];
  }

  get isLevel(): boolean {
    return this.distances.length === 1;
  }

  at(d: number): number {
    const { distances, heights } = this;
    const last = distances.length - 1;
    if (d >= distances[last]) return heights[last];
    if (d <= 0) return heights[0];
    let i = 1;
    while (distances[i] < d) i++;
    if (distances[i] === d) return heights[i];
    const t = (d - distances[i - 1]) / (distances[i] - distances[i - 1]);
    return heights[i - 1] + t * (heights[i] - heights[i - 1]);
  }

  /** The least and the greatest height up to a distance. */
  upTo(deepest: number): { readonly low: number; readonly high: number } {
    const heights = [this.at(deepest), ...this.heights.filter((_, i) => i === 0 || this.distances[i] <= deepest)];
    return { low: Math.min(...heights), high: Math.max(...heights) };
  }

  /** The least distance at which a profile that only rises, or only falls, comes to a height; undefined where it never does. */
  reaches(z: number): number | undefined {
    const { distances, heights } = this;
    for (let i = 1; i < distances.length; i++) {
      const [a, b] = [heights[i - 1], heights[i]];
      if (a === b || (z - a) * (z - b) > 0) continue;
      return distances[i - 1] + ((z - a) / (b - a)) * (distances[i] - distances[i - 1]);
    }
    return undefined;
  }

  /** The greatest rise for each mm of distance. */
  get steepest(): number {
    const { distances, heights } = this;
    let most = 0;
    for (let i = 1; i < distances.length; i++)
      most = Math.max(most, Math.abs(heights[i] - heights[i - 1]) / (distances[i] - distances[i - 1]));
    return most;
  }

  get key(): string {
    return `${this.distances.join()}:${this.heights.join()}`;
  }
}

const NEAR = 1e-9;

/** The higher of two profiles everywhere. */
export const higher = (a: HeightProfile, b: HeightProfile): HeightProfile => chosen(a, b, Math.max);

/** The lower of two profiles everywhere. */
export const lower = (a: HeightProfile, b: HeightProfile): HeightProfile => chosen(a, b, Math.min);

function chosen(a: HeightProfile, b: HeightProfile, choose: (p: number, q: number) => number): HeightProfile {
  const marks = [...new Set([...a.distances, ...b.distances])].sort((p, q) => p - q);
  const distances: number[] = [];
  const heights: number[] = [];
  marks.forEach((d, i) => {
    distances.push(d);
    heights.push(choose(a.at(d), b.at(d)));
    if (i + 1 === marks.length) return;
    const next = marks[i + 1];
    const [before, after] = [a.at(d) - b.at(d), a.at(next) - b.at(next)];
    if (before * after >= 0 || Math.abs(before) < NEAR || Math.abs(after) < NEAR) return;
    const cross = d + (next - d) * (before / (before - after));
    distances.push(cross);
    heights.push(a.at(cross));
  });
  return simplified(distances, heights);
}

/** Without the points in the middle of straight stretches. */
function simplified(distances: readonly number[], heights: readonly number[]): HeightProfile {
  const [d, h]: [number[], number[]] = [[], []];
  distances.forEach((at, i) => {
    while (d.length > 0 && h.length > 1) {
      const [a, b] = [h.length - 2, h.length - 1];
      const straight = h[a] + ((h[b] === h[a] ? 0 : h[b] - h[a]) * (at - d[a])) / (d[b] - d[a]);
      if (Math.abs(straight - heights[i]) > NEAR) break;
      d.pop();
      h.pop();
    }
    d.push(at);
    h.push(heights[i]);
  });
  while (d.length > 1 && Math.abs(h[h.length - 1] - h[h.length - 2]) < NEAR) {
    d.pop();
    h.pop();
  }
  return new HeightProfile(d, h);
}
