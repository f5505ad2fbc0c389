import { type Sign, type Tier } from '../sign/index.js';

const toCut = (tier: Tier): Tier => (tier.action.kind === 'insert' ? { ...tier, action: { kind: 'cut-through' } } : tier);

/**
 * A sign as it is cut: what is filled with another material is a window of the blank, as large as its opening; the inserts are pieces of
 * their own.
 */
export function signToCut(sign: Sign): Sign {
  return { ...sign, parts: sign.parts.map((part) => ({ ...part, tiers: part.tiers.map(toCut) })) };
}
