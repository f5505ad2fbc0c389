import Flatbush from 'flatbush';

/** Where a way begins and ends, in mm. */
export interface Ends {
  readonly from: readonly [number, number];
  readonly to: readonly [number, number];
}

/** A way in its turn: which one, and whether it is gone from its end to its beginning. */
export interface Turn {
  readonly way: number;
  readonly isTurned: boolean;
}

/** Ways that begin near the end of another which are tried to come right after it, and how often all are gone through. */
const NEIGHBOURS = 6;
const ROUNDS = 5;

/**
 * Ways in the order in which the next one begins nearest to where the one before ends, and then each moved to where the way through air
 * becomes shorter by it (Or, 1976: exchanges of single stops).
 * @param from where the tool comes from
 * @param canTurn whether ways may be gone from their ends
 */
export function nearestFirst(ways: readonly Ends[], from: readonly [number, number], canTurn = false): Turn[] {
  const out: Turn[] = [];
  const isDone = new Uint8Array(ways.length);
  let left = ways.map((_, way) => way);
  let [x, y] = from;
  while (left.length > 0) {
    // What is done would have to be passed over again and again: the index is made anew when half of it is.
    const entries = canTurn ? left.flatMap((way): Turn[] => [{ way, isTurned: false }, { way, isTurned: true }]) : left.map((way): Turn => ({ way, isTurned: false })); // prettier-ignore
    const index = new Flatbush(entries.length);
    for (const { way, isTurned } of entries) index.add(...(isTurned ? ways[way].to : ways[way].from));
    index.finish();
    for (let until = Math.ceil(left.length / 2); until > 0; until--) {
      const [entry] = index.neighbors(x, y, 1, Infinity, (e) => !isDone[entries[e].way]);
      const turn = entries[entry];
      isDone[turn.way] = 1;
      out.push(turn);
      [x, y] = turn.isTurned ? ways[turn.way].from : ways[turn.way].to;
    }
    left = left.filter((way) => !isDone[way]);
  }
  return shortened(out, ways, from);
}

/** Turns in a better order, each as it is. */
function shortened(turns: readonly Turn[], ways: readonly Ends[], from: readonly [number, number]): Turn[] {
  const n = turns.length;
  if (n < 3) return [...turns];
  const begins = turns.map(({ way, isTurned }) => (isTurned ? ways[way].to : ways[way].from));
  const ends = turns.map(({ way, isTurned }) => (isTurned ? ways[way].from : ways[way].to));
  // The place that the tool comes from is one more stop, before the first; after the last comes nothing.
  const start = n;
  const [next, before] = [new Int32Array(n + 1), new Int32Array(n + 1)];
  next[start] = 0;
  for (let i = 0; i < n; i++) [next[i], before[i]] = [i + 1 < n ? i + 1 : -1, i === 0 ? start : i - 1];
  const gap = (a: number, b: number): number => {
    if (b < 0) return 0;
    const [x, y] = a === start ? from : ends[a];
    return Math.hypot(begins[b][0] - x, begins[b][1] - y);
  };
  const index = new Flatbush(n);
  for (const [x, y] of begins) index.add(x, y);
  index.finish();
  const near = Array.from({ length: n + 1 }, (_, a) => index.neighbors(...(a === start ? from : ends[a]), NEIGHBOURS));
  for (let round = 0; round < ROUNDS; round++) {
    let isBetter = false;
    for (let a = 0; a <= n; a++) {
      for (const b of near[a]) {
        const [was, after, follower] = [before[b], next[b], next[a]];
        if (b === a || b === follower) continue;
        const saved = gap(was, b) + gap(b, after) - gap(was, after);
        const spent = gap(a, b) + gap(b, follower) - gap(a, follower);
        if (spent > saved - 1e-6) continue;
        next[was] = after;
        if (after >= 0) before[after] = was;
        const following = next[a];
        next[a] = b;
        before[b] = a;
        next[b] = following;
        if (following >= 0) before[following] = b;
        isBetter = true;
      }
    }
    if (!isBetter) break;
  }
  const out: Turn[] = [];
  for (let at = next[start]; at >= 0; at = next[at]) out.push(turns[at]);
  return out;
}
