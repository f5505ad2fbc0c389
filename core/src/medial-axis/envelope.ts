/**
 * The least of many functions of one parameter, piece by piece. All functions are sums of the same three base functions, so that
 * where two of them cross is found in closed form.
 */

/** A stretch of the parameter on which one function is the least. */
export interface EnvelopePiece {
  readonly from: number;
  to: number;
  /** Whose function it is. */
  readonly owner: number;
  /** Weights of the three base functions. */
  readonly weights: Weights;
}

export type Weights = readonly [number, number, number];

/** Three base functions. */
export interface Basis {
  /** Sum of the base functions at t under the weights. */
  value(weights: ArrayLike<number>, t: number): number;
  /** Writes down where such a sum is 0, strictly between `from` and `to`, ascending, and tells how often: twice at most. */
  zeros(weights: ArrayLike<number>, from: number, to: number, out: Float64Array): number;
  /** Whether the sum under some weights is less than that under others anywhere between `from` and `to`. Asked far more often than answered with yes. */
  isLess(weights: Weights, than: Weights, from: number, to: number): boolean;
}

/** 1, t and t². */
export const POWERS: Basis = {
  value: (weights, t) => weights[0] + t * (weights[1] + t * weights[2]),
  zeros(weights, from, to, out) {
    const a = weights[0];
    const b = weights[1];
    const c = weights[2];
    if (c === 0) return b === 0 ? 0 : within(-a / b, -a / b, from, to, out);
    const discriminant = b * b - 4 * a * c;
    if (discriminant <= 0) return 0;
    // Without cancellation: both roots from the larger of the two sums.
    const q = -(b + Math.sign(b || 1) * Math.sqrt(discriminant)) / 2;
    return q === 0 ? within(0, 0, from, to, out) : within(q / c, a / q, from, to, out);
  },
  isLess(weights, than, from, to) {
    const a = weights[0] - than[0];
    const b = weights[1] - than[1];
    const c = weights[2] - than[2];
    if (a + from * (b + from * c) < 0 || a + to * (b + to * c) < 0) return true;
    if (c <= 0) return false;
    const lowest = -b / (2 * c);
    return lowest > from && lowest < to && a + (lowest * b) / 2 < 0;
  },
};

/** 1, cos t and sin t. */
export const WAVES: Basis = {
  value: (weights, t) => weights[0] + weights[1] * Math.cos(t) + weights[2] * Math.sin(t),
  zeros(weights, from, to, out) {
    const a = weights[0];
    const b = weights[1];
    const c = weights[2];
    const reach = Math.hypot(b, c);
    if (!(reach > Math.abs(a))) return 0;
    const middle = Math.atan2(c, b);
    const aside = Math.acos(-a / reach);
    return within(turnedBeyond(middle - aside, from), turnedBeyond(middle + aside, from), from, to, out);
  },
  isLess(weights, than, from, to) {
    const a = weights[0] - than[0];
    const b = weights[1] - than[1];
    const c = weights[2] - than[2];
    if (a >= 0 && a * a >= b * b + c * c) return false;
    if (a + b * Math.cos(from) + c * Math.sin(from) < 0 || a + b * Math.cos(to) + c * Math.sin(to) < 0) return true;
    const lowest = Math.atan2(-c, -b);
    return turnedBeyond(lowest, from) < to;
  },
};

/** The first of all turns of an angle that is not below `from`. */
const turnedBeyond = (angle: number, from: number): number => angle + 2 * Math.PI * Math.ceil((from - angle) / (2 * Math.PI));

/** Writes down which of two values lie strictly between two others, ascending and each once, and tells how many. */
function within(one: number, other: number, from: number, to: number, out: Float64Array): number {
  let count = 0;
  const [low, high] = [Math.min(one, other), Math.max(one, other)];
  if (low > from && low < to) out[count++] = low;
  if (high > low && high > from && high < to) out[count++] = high;
  return count;
}

/** The least of all functions that were added, over a range of the parameter. */
export class Envelope {
  readonly pieces: EnvelopePiece[];

  constructor(
    private readonly basis: Basis,
    from: number,
    to: number,
    weights: Weights,
    owner: number,
  ) {
    this.pieces = [new Stretch(from, to, owner, weights)];
  }

  /**
   * Adds a function that holds between `from` and `to` only.
   * @returns whether it is the least anywhere
   */
  add(weights: Weights, owner: number, from: number, to: number): boolean {
    const { basis, pieces } = this;
    if (!(from < to)) return false;
    let out: EnvelopePiece[] | undefined;
    let first = 0;
    let end = this.firstBeyond(from);
    for (; end < pieces.length && pieces[end].from < to; end++) {
      const piece = pieces[end];
      const [low, high] = [Math.max(piece.from, from), Math.min(piece.to, to)];
      if (low < high && basis.isLess(weights, piece.weights, low, high)) {
        if (!out) [out, first] = [[], end];
        this.part(piece, new Stretch(low, high, owner, weights), out);
      } else out?.push(piece);
    }
    if (!out) return false;
    pieces.splice(first, end - first, ...out);
    return true;
  }

  /** The first piece that ends beyond a place. */
  private firstBeyond(t: number): number {
    const { pieces } = this;
    let [low, high] = [0, pieces.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (pieces[middle].to > t) high = middle;
      else low = middle + 1;
    }
    return low;
  }

  /** Parts a piece where a function that holds over some of it is less than its own. */
  private part(piece: EnvelopePiece, other: EnvelopePiece, out: EnvelopePiece[]): void {
    const { basis } = this;
    const { weights: w } = other;
    const { weights: v } = piece;
    // No arrays of whole and of broken numbers by turns: compiled code is thrown away at each change (measured).
    difference[0] = w[0] - v[0];
    difference[1] = w[1] - v[1];
    difference[2] = w[2] - v[2];
    const count = basis.zeros(difference, other.from, other.to, zeros);
    append(out, piece, piece.from, other.from);
    let from = other.from;
    for (let i = 0; i <= count; i++) {
      const to = i < count ? zeros[i] : other.to;
      append(out, basis.value(difference, (from + to) / 2) < 0 ? other : piece, from, to);
      from = to;
    }
    append(out, piece, other.to, piece.to);
  }
}

/** Adds a stretch of a function to pieces; the last one goes on where it is of the same. */
function append(pieces: EnvelopePiece[], { weights, owner }: EnvelopePiece, from: number, to: number): void {
  if (!(from < to)) return;
  const last = pieces[pieces.length - 1];
  if (last && last.weights === weights && last.to === from) last.to = to;
  else pieces.push(new Stretch(from, to, owner, weights));
}

class Stretch implements EnvelopePiece {
  constructor(
    readonly from: number,
    public to: number,
    readonly owner: number,
    readonly weights: Weights,
  ) {}
}

/** What {@link Envelope} works with while a piece is parted. */
const difference = new Float64Array(3);
const zeros = new Float64Array(2);
