interface Entry<T> {
  readonly list: Int32Array;
  readonly value: T;
}

/** Values by lists of whole numbers; when it holds too much it forgets everything at once. */
export class IntListMap<T> {
  private entries = new Map<number, Entry<T>[]>();
  private held = 0;

  /** @param most numbers that it may hold, over all lists */
  constructor(private readonly most: number) {}

  get(list: Int32Array): T | undefined {
    return this.entries.get(hashOf(list))?.find((entry) => areSame(entry.list, list))?.value;
  }

  /** @param weight numbers that the value itself holds */
  set(list: Int32Array, value: T, weight = 0): void {
    this.held += list.length + weight;
    if (this.held > this.most) {
      this.entries = new Map();
      this.held = list.length + weight;
    }
    const hash = hashOf(list);
    const entries = this.entries.get(hash);
    if (entries) entries.push({ list, value });
    else this.entries.set(hash, [{ list, value }]);
  }
}

/** FNV-1a over the numbers, with a shift that brings high digits down. */
function hashOf(list: Int32Array): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < list.length; i++) {
    hash = Math.imul(hash ^ list[i], 0x01000193);
    hash ^= hash >>> 15;
  }
  return hash;
}

function areSame(a: Int32Array, b: Int32Array): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}
