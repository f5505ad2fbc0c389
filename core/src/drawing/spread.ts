/**
 * Places for labels beside what they belong to: as near to the wished places as a least distance between them allows, in the same order,
 * so that no leader crosses another. The sum of squared ways is the least (pool adjacent violators; R. Barlow, D. Bartholomew,
 * J. Bremner, H. Brunk, "Statistical Inference under Order Restrictions", 1972).
 * @param wished ascending
 * @param gap least distance from each to the next
 */
export function spread(wished: readonly number[], gap: number): number[] {
  /** Runs of labels that stand against each other: how many, and where the first of each would stand best. */
  const runs: { count: number; first: number }[] = [];
  for (const place of wished) {
    let run = { count: 1, first: place };
    for (let last = runs.at(-1); last && last.first + last.count * gap > run.first; last = runs.at(-1)) {
      runs.pop();
      const count = last.count + run.count;
      run = { count, first: (last.count * last.first + run.count * (run.first - last.count * gap)) / count };
    }
    runs.push(run);
  }
  return runs.flatMap(({ count, first }) => Array.from({ length: count }, (_, i) => first + i * gap));
}
