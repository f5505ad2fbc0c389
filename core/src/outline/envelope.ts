/**
 * The least of many functions of one parameter, piece by piece. All functions are sums of the same three base functions, so that
 * where two of them cross is found in closed form.
 */

/** A stretch of the parameter on which one function is the least. */
export interface EnvelopePiece {
  readonly from: number;
  readonly to: number;
  /** Whose function it is. */
  readonly owner: number;
  /** Weights of the three base functions. */
  readonly weights: Weights;
}

export type Weights = readonly [number, number, number];

/** Three base functions. */
export interface Basis {
  /** Sum of the base functions at t under the weights. */
  value(weights: Weights, t: number): number;
  /** Where such a sum is 0, strictly between `from` and `to`, ascending. */
  zeros(weights: Weights, from: number, to: number): number[];
}

/** 1, t and t². */
export const POWERS: Basis = {
  value: ([a, b, c], t) => a + t * (b + t * c),
  zeros([a, b, c], from, to) {
    if (c === 0) return b === 0 ? [] : within([-a / b], from, to);
    const discriminant = b * b - 4 * a * c;
    if (discriminant <= 0) return [];
    // Without cancellation: both roots from the larger of the two sums.
    const q = -(b + Math.sign(b || 1) * Math.sqrt(discriminant)) / 2;
    return within(q === 0 ? [0] : [q / c, a / q], from, to);
  },
};

/** 1, cos t and sin t. */
export const WAVES: Basis = {
  value: ([a, b, c], t) => a + b * Math.cos(t) + c * Math.sin(t),
  zeros([a, b, c], from, to) {
    const reach = Math.hypot(b, c);
    if (!(reach > Math.abs(a))) return [];
    const middle = Math.atan2(c, b);
    const aside = Math.acos(-a / reach);
    const turns: number[] = [];
    for (const zero of [middle - aside, middle + aside]) {
      const first = zero + 2 * Math.PI * Math.ceil((from - zero) / (2 * Math.PI));
      turns.push(first);
    }
    return within(turns, from, to);
  },
};

const within = (values: number[], from: number, to: number): number[] =>
  values.filter((t) => t > from && t < to).sort((a, b) => a - b);

/** The least of all functions that were added, over a range of the parameter. */
export class Envelope {
  pieces: EnvelopePiece[];

  constructor(
    private readonly basis: Basis,
    from: number,
    to: number,
    weights: Weights,
    owner: number,
  ) {
    this.pieces = [{ from, to, owner, weights }];
  }

  /** Adds a function that holds between `from` and `to` only. */
  add(weights: Weights, owner: number, from: number, to: number): void {
    const { basis, pieces } = this;
    if (!(from < to) || to <= pieces[0].from || from >= pieces[pieces.length - 1].to) return;
    let out: EnvelopePiece[] | undefined;
    pieces.forEach((piece, index) => {
      const low = Math.max(piece.from, from);
      const high = Math.min(piece.to, to);
      if (!(low < high)) {
        out?.push(piece);
        return;
      }
      const [a, b, c] = weights;
      const [p, q, r] = piece.weights;
      const difference: Weights = [a - p, b - q, c - r];
      const zeros = basis.zeros(difference, low, high);
      if (zeros.length === 0 && basis.value(difference, (low + high) / 2) >= 0) {
        out?.push(piece);
        return;
      }
      out ??= pieces.slice(0, index);
      const cuts = [piece.from, low, ...zeros, high, piece.to];
      for (let i = 0; i + 1 < cuts.length; i++) {
        const [start, end] = [cuts[i], cuts[i + 1]];
        if (!(start < end)) continue;
        const isLess = i > 0 && i + 2 < cuts.length && basis.value(difference, (start + end) / 2) < 0;
        const last = out[out.length - 1];
        const [w, o] = isLess ? [weights, owner] : [piece.weights, piece.owner];
        if (last && last.weights === w && last.to === start) out[out.length - 1] = { ...last, to: end };
        else out.push({ from: start, to: end, owner: o, weights: w });
      }
    });
    if (out) this.pieces = out;
  }
}
