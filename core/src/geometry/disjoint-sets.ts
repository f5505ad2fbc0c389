/** Numbers from 0 on in sets that are joined two by two: union-find with path halving (Tarjan and van Leeuwen 1984). */
export class DisjointSets {
  private readonly parent: Int32Array;

  constructor(size: number) {
    this.parent = Int32Array.from({ length: size }, (_, i) => i);
  }

  /** The number that stands for the set of `i`. */
  rootOf(i: number): number {
    const { parent } = this;
    while (parent[i] !== i) i = parent[i] = parent[parent[i]];
    return i;
  }

  areJoined(i: number, j: number): boolean {
    return this.rootOf(i) === this.rootOf(j);
  }

  /** Puts the set of `i` to that of `j`, whose number stands for both from now on. */
  join(i: number, j: number): void {
    this.parent[this.rootOf(i)] = this.rootOf(j);
  }

  /** The numbers of each set in ascending order, sets by their least number. */
  groups(): number[][] {
    const groups = new Map<number, number[]>();
    this.parent.forEach((_, i) => {
      const root = this.rootOf(i);
      const group = groups.get(root);
      if (group) group.push(i);
      else groups.set(root, [i]);
    });
    return [...groups.values()];
  }
}
