/** Longer texts than this, in words, are told as one change. */
const MOST_WORDS = 3000;

/**
 * How one text became another, word by word: "‘Wilmott’ → ‘Willmott’", "‘Jr’ added after ‘Wilmott’", "‘Jr’ taken out after ‘Wilmott’".
 * Empty for the same text.
 */
export function wordChanges(before: string, after: string): string[] {
  if (before === after) return [];
  const [was, is] = [before, after].map((text) => text.split(/\s+/u).filter(Boolean));
  const quoted = (words: readonly string[]) => `‘${words.join(' ')}’`;
  if (was.length > MOST_WORDS || is.length > MOST_WORDS) return ['the words are others'];
  const runs = differences(was, is);
  if (runs.length === 0) return ['the words are spaced or broken into lines otherwise'];
  return runs.map(({ from, to, at, into }) => {
    const [old, fresh] = [was.slice(from, to), is.slice(at, into)];
    if (old.length > 0 && fresh.length > 0) return `${quoted(old)} → ${quoted(fresh)}`;
    const beside = at > 0 ? ` after ${quoted([is[at - 1]])}` : ' at the beginning';
    return old.length > 0 ? `${quoted(old)} taken out${beside}` : `${quoted(fresh)} added${beside}`;
  });
}

interface Run {
  /** Words of the earlier text, from and to. */
  from: number;
  to: number;
  /** Those of the later one that stand in their place. */
  at: number;
  into: number;
}

/** The runs in which two lists differ, by the longest common sub-list (textbook: dynamic programming). */
function differences(was: readonly string[], is: readonly string[]): Run[] {
  const columns = is.length + 1;
  // Cell (i, j): how many words the rests from i and from j share at most.
  const shared = new Uint16Array((was.length + 1) * columns);
  for (let i = was.length - 1; i >= 0; i--)
    for (let j = is.length - 1; j >= 0; j--)
      shared[i * columns + j] =
        was[i] === is[j]
          ? shared[(i + 1) * columns + j + 1] + 1
          : Math.max(shared[(i + 1) * columns + j], shared[i * columns + j + 1]);
  const runs: Run[] = [];
  let [i, j] = [0, 0];
  while (i < was.length || j < is.length) {
    if (i < was.length && j < is.length && was[i] === is[j]) {
      i++;
      j++;
      continue;
    }
    const run = { from: i, to: i, at: j, into: j };
    while (i < was.length || j < is.length) {
      if (i < was.length && j < is.length && was[i] === is[j]) break;
      if (j === is.length || (i < was.length && shared[(i + 1) * columns + j] >= shared[i * columns + j + 1])) i++;
      else j++;
    }
    runs.push({ ...run, to: i, into: j });
  }
  return runs;
}
