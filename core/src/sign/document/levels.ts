import { riseOf } from './actions.js';
import { type Part, type Sign, type Tier } from './schema.js';

/** Whether windows of a sign are filled with inserts of other materials. */
export const hasInserts = ({ parts }: Sign): boolean =>
  parts.some(({ tiers, hidden }) => !hidden && tiers.some(({ on, action }) => on && action.kind === 'insert'));

/** Whether anything is made from behind: parts of the back, an edge form there, or what is done to letters from behind. */
export const hasBack = ({ parts, blank }: Sign): boolean =>
  parts.some((part) => sideOf(part) === 'back' && !part.hidden) ||
  blank.backEdge !== undefined ||
  blank.cutTo?.hollow !== undefined ||
  blank.cutTo?.studs !== undefined ||
  blank.cutTo?.backer !== undefined;

/** The level in mm that a tier's surface has, above a base, or {@link THROUGH}. */
export function tierLevel(tier: Tier, base: number): number {
  const level = base + riseOf(tier.action);
  // Sums of inch fractions to the nearest 1e-9 mm, so that 1/8 in taken off and put on again is the face.
  return Number.isFinite(level) ? Number(level.toFixed(9)) : level;
}

/** Whether a tier lies in a plane where a sign is bent around something. */
export const isFlat = ({ action }: Tier): boolean => action.kind === 'set' && action.flat === true;

/** A side of the blank. */
export type Side = 'front' | 'back';

/** The side that a part is on. */
export const sideOf = ({ side }: Pick<Part, 'side'>): Side => side ?? 'front';

/**
 * The level that each part's heights are measured from, by part id, above the face of its own side: 0 for that face, else the lowest (floor) or highest
 * (top) level among the tiers that are on of the part it sits on, or that part's own base where it has none.
 */
export function baseLevels(sign: Sign): ReadonlyMap<string, number> {
  const bases = new Map<string, number>();
  const parts = new Map<string, Part>();
  for (const part of sign.parts) {
    let base = 0;
    if (part.sitsOn.kind === 'part') {
      const host = parts.get(part.sitsOn.part);
      const hostBase = bases.get(part.sitsOn.part) ?? 0;
      const levels = (host?.tiers ?? [])
        .filter((tier) => tier.on && tier.action.kind !== 'mark')
        .map((tier) => tierLevel(tier, hostBase))
        .filter(Number.isFinite);
      if (levels.length === 0) base = hostBase;
      else base = part.sitsOn.at === 'top' ? Math.max(...levels) : Math.min(...levels);
    }
    bases.set(part.id, base);
    parts.set(part.id, part);
  }
  return bases;
}

/**
 * By part that sits on a level in a plane, the part at whose place that plane touches what the sign is bent around: what such a part makes
 * is measured from the plane as well. Of tiers at one level the first counts.
 */
export function planeHosts(sign: Sign): ReadonlyMap<string, string> {
  const hosts = new Map<string, string>();
  if (!sign.parts.some(({ tiers }) => tiers.some(isFlat))) return hosts;
  const bases = baseLevels(sign);
  for (const { id, sitsOn } of sign.parts) {
    if (sitsOn.kind !== 'part') continue;
    const beneath = sign.parts.find((other) => other.id === sitsOn.part);
    const inherited = hosts.get(sitsOn.part);
    if (inherited !== undefined) hosts.set(id, inherited);
    else if (beneath) {
      const own = bases.get(beneath.id) ?? 0;
      const tier = beneath.tiers.find((each) => each.on && each.action.kind !== 'mark' && tierLevel(each, own) === bases.get(id));
      if (tier && isFlat(tier)) hosts.set(id, beneath.id);
    }
  }
  return hosts;
}

/** Ids of the fonts that a sign's text parts are set in. */
export function fontsOf(sign: Sign): string[] {
  return [...new Set(sign.parts.flatMap((part) => (part.kind === 'text' ? [part.font] : [])))];
}
