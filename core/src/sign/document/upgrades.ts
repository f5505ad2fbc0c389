import { SIGN_VERSION } from './version.js';

type Json = Record<string, unknown>;

/** Upgrades by the version they start from; each gives a document of the next version. A checked one never meets them. */
const UPGRADES: Readonly<Record<number, (older: Json) => Json>> = {
  // Words got more ways to be sized and set apart.
  1: (older) => ({
    ...older,
    version: 2,
    parts: Array.isArray(older.parts) ? older.parts.map(upgradedPart1) : older.parts,
  }),
  // Slots, codes and what a sign is bent around came: nothing of an older one is otherwise.
  2: (older) => ({ ...older, version: 3 }),
};

function upgradedPart1(part: unknown): unknown {
  if (typeof part !== 'object' || part === null || (part as Json).kind !== 'text') return part;
  const { capHeight, leading, ...rest } = part as Json;
  return {
    ...rest,
    ...(capHeight === undefined ? {} : { size: { kind: 'capitals', height: capHeight, stretch: 100 } }),
    ...(leading === undefined ? {} : { leading: { kind: 'percent', of: leading } }),
  };
}

/**
 * A document of an earlier version brought up to this one, unchecked; the document itself where it is of this version or of
 * none that is known. It is not changed.
 */
export function upgraded<T>(document: T): T {
  let current: unknown = document;
  for (;;) {
    const version = typeof current === 'object' && current !== null ? (current as Json).version : undefined;
    const upgrade = typeof version === 'number' && version !== SIGN_VERSION ? UPGRADES[version] : undefined;
    if (!upgrade) return current as T;
    current = upgrade(current as Json);
  }
}
