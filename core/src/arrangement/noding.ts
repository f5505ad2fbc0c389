import { CellGrid, orient2d, PointSet } from '../geometry/index.js';

/** Directed segments between numbered points, in parallel arrays; `tag` travels with a segment and its pieces. */
export interface Segments {
  readonly from: number[];
  readonly to: number[];
  readonly tag: number[];
}

/** Thrown where crossings do not settle on the grid, which no real outline has shown. */
export class NodingError extends Error {
  constructor(rounds: number) {
    super(`Crossing outlines did not settle on the grid within ${rounds} rounds.`);
    this.name = 'NodingError';
  }
}

const MOST_ROUNDS = 64;

/**
 * Splits segments wherever they cross, touch or overlap, so that any two meet in shared end points only. All questions of side
 * are exact.
 *
 * Crossings are rounded to the grid, which bends their segments by up to half a grid step. So that what is bent crosses nothing
 * anew, every segment is led through the middle of every grid square that it passes and in which an end or a crossing lies
 * (snap rounding; J. D. Hobby, "Practical segment intersection with finite precision output", Computational Geometry 13, 1999). Crossings that
 * fell into the wrong square by the rounding of their own computation are found by the next round.
 */
export function node(points: PointSet, input: Segments): Segments {
  const chains = new Chains(input);
  /** Points before this one have been held against all segments that are not fresh. */
  let settled = 0;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const lines = chains.lines(round);
    const { splits, isRounded } = findSplits(points, lines, settled);
    if (splits.size === 0) return chains.pieces(input);
    if (isRounded) settled = points.size;
    chains.split(points, splits);
  }
  throw new NodingError(MOST_ROUNDS);
}

/** Segments of one round, each there once, whichever way and however often it is drawn. */
interface Lines {
  readonly from: number[];
  readonly to: number[];
  /** 1 for those that have not been held against the others yet. */
  readonly fresh: Uint8Array;
}

/**
 * The chains of points that segments have become, each from the lower number to the higher. Bundles of segments, such as rays
 * that end in one grid square, are led along the same pieces: what is drawn more than once is worked out once.
 */
class Chains {
  private readonly chainOf: number[];
  private chains: number[][] = [];
  /** Every piece that there was, by the numbers of its ends. */
  private readonly known: PointSet;
  /** By piece: the round in which it was held against the others last and needed no split, and its number in the lines of that round. */
  private readonly held: number[] = [];
  private readonly line: number[] = [];
  private readonly seen: number[] = [];

  constructor({ from, to }: Segments) {
    const ends = new PointSet(from.length);
    this.chainOf = from.map((p, s) => {
      const [a, b] = p < to[s] ? [p, to[s]] : [to[s], p];
      const chain = ends.add(a, b);
      if (chain === this.chains.length) this.chains.push([a, b]);
      return chain;
    });
    this.known = new PointSet(this.chains.length);
  }

  lines(round: number): Lines {
    const { known, held, line, seen } = this;
    const [from, to, fresh]: number[][] = [[], [], []];
    for (const chain of this.chains) {
      for (let i = 1; i < chain.length; i++) {
        const piece = this.piece(chain[i - 1], chain[i]);
        if (seen[piece] === round) continue;
        seen[piece] = round;
        line[piece] = from.length;
        fresh.push(round > 0 && held[piece] === round - 1 ? 0 : 1);
        held[piece] = round;
        from.push(known.x[piece]);
        to.push(known.y[piece]);
      }
    }
    return { from, to, fresh: Uint8Array.from(fresh) };
  }

  /** Leads the lines of a round through points. */
  split({ x, y }: PointSet, splits: ReadonlyMap<number, number[]>): void {
    this.chains = this.chains.map((chain) => {
      let split: number[] | undefined;
      for (let i = 1; i < chain.length; i++) {
        const [a, b] = [chain[i - 1], chain[i]];
        const piece = this.piece(a, b);
        const through = splits.get(this.line[piece]);
        if (through) {
          this.held[piece] = -1;
          split ??= chain.slice(0, i);
          const [dx, dy] = [x[b] - x[a], y[b] - y[a]];
          const along = (p: number) => (x[p] - x[a]) * dx + (y[p] - y[a]) * dy;
          through.sort((p, q) => along(p) - along(q));
          for (const p of through) if (p !== split.at(-1) && p !== b) split.push(p);
        }
        split?.push(b);
      }
      return split ?? chain;
    });
  }

  /** What each segment has become, in its own direction. */
  pieces({ from, tag }: Segments): Segments {
    const out: Segments = { from: [], to: [], tag: [] };
    this.chainOf.forEach((number, s) => {
      const chain = this.chains[number];
      const isForward = chain[0] === from[s];
      for (let i = 1; i < chain.length; i++) {
        const at = isForward ? i : chain.length - i;
        out.from.push(chain[isForward ? at - 1 : at]);
        out.to.push(chain[isForward ? at : at - 1]);
        out.tag.push(tag[s]);
      }
    });
    return out;
  }

  private piece(p: number, q: number): number {
    return p < q ? this.known.add(p, q) : this.known.add(q, p);
  }
}

/** Points at which segments must be split, by segment; pairs of which neither is fresh were settled before. */
function findSplits(
  points: PointSet,
  { from, to, fresh }: Lines,
  settled: number,
): { readonly splits: Map<number, number[]>; readonly isRounded: boolean } {
  const splits = new Map<number, number[]>();
  const grid = new CellGrid(points, from, to);
  let isRounded = false;
  const add = (s: number, p: number) => {
    if (p === from[s] || p === to[s]) return;
    const list = splits.get(s);
    if (list) list.push(p);
    else splits.set(s, [p]);
  };

  const meet = (s: number, t: number) => {
    const { x, y } = points;
    // One by one: this is the innermost place of all.
    const a = from[s];
    const b = to[s];
    const c = from[t];
    const d = to[t];
    const ax = x[a];
    const ay = y[a];
    const bx = x[b];
    const by = y[b];
    const cx = x[c];
    const cy = y[c];
    const dx = x[d];
    const dy = y[d];
    if (ax < cx ? ax < dx && bx < cx && bx < dx : ax > dx && bx > cx && bx > dx) return;
    if (ay < cy ? ay < dy && by < cy && by < dy : ay > dy && by > cy && by > dy) return;
    if (b === c || a === d) {
      // One goes on where the other ends, as along every outline: they meet again only where it turns back on itself.
      const back = b === c ? orient2d(ax, ay, bx, by, dx, dy) : orient2d(cx, cy, dx, dy, bx, by);
      if (back !== 0) return;
    }
    const sideC = orient2d(ax, ay, bx, by, cx, cy);
    const sideD = orient2d(ax, ay, bx, by, dx, dy);
    if ((sideC > 0 && sideD > 0) || (sideC < 0 && sideD < 0)) return;
    const sideA = orient2d(cx, cy, dx, dy, ax, ay);
    const sideB = orient2d(cx, cy, dx, dy, bx, by);
    if ((sideA > 0 && sideB > 0) || (sideA < 0 && sideB < 0)) return;
    if (sideA !== 0 && sideB !== 0 && sideC !== 0 && sideD !== 0) {
      const t01 = sideC / (sideC - sideD);
      const p = points.add(Math.round(cx + t01 * (dx - cx)), Math.round(cy + t01 * (dy - cy)));
      isRounded = true;
      add(s, p);
      add(t, p);
      return;
    }
    if (sideC === 0 && within(ax, ay, bx, by, cx, cy)) add(s, c);
    if (sideD === 0 && within(ax, ay, bx, by, dx, dy)) add(s, d);
    if (sideA === 0 && within(cx, cy, dx, dy, ax, ay)) add(t, a);
    if (sideB === 0 && within(cx, cy, dx, dy, bx, by)) add(t, b);
  };

  grid.forEachPair(fresh, meet);
  if (isRounded) {
    const { x, y } = points;
    grid.forEachPoint((s, p) => {
      if (p < settled && !fresh[s]) return;
      if (passes(x[from[s]], y[from[s]], x[to[s]], y[to[s]], x[p], y[p])) add(s, p);
    });
  }
  return { splits, isRounded };
}

/**
 * Whether a segment passes the grid square about a point. Squares have their lower and left sides and not the others, as rounding has it:
 * two that both counted a corner would bend segments to and fro between them.
 */
function passes(ax: number, ay: number, bx: number, by: number, px: number, py: number): boolean {
  if (px + 0.5 < Math.min(ax, bx) || px - 0.5 > Math.max(ax, bx) || py + 0.5 < Math.min(ay, by) || py - 0.5 > Math.max(ay, by))
    return false;
  // Of the square's corners the two furthest to the sides, seen along the segment.
  const [dx, dy] = [bx - ax, by - ay];
  const reach = (Math.abs(dx) + Math.abs(dy)) / 2;
  const side = orient2d(ax, ay, bx, by, px, py);
  if (Math.abs(side) !== reach) return Math.abs(side) < reach;
  // Through one corner: only the lower left one is the square's own.
  return dx * dy < 0 && side === (dx - dy) / 2;
}

const within = (ax: number, ay: number, bx: number, by: number, px: number, py: number): boolean =>
  px >= Math.min(ax, bx) && px <= Math.max(ax, bx) && py >= Math.min(ay, by) && py <= Math.max(ay, by);
