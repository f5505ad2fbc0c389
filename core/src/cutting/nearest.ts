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

/**
 * Ways in the order in which the next one begins nearest to where the one before ends.
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
  return out;
}
