import { type Part, type Sign, type SlotSetting } from './schema.js';

/** The parts whose outlines a part follows, and where it says so. */
export function outlinesUsed(part: Part): { readonly at: string; readonly id: string }[] {
  if (part.kind === 'text') return part.path?.kind === 'part' ? [{ at: 'path.part', id: part.path.part }] : [];
  const { shape } = part;
  if (shape.kind === 'border') return shape.of === 'blank' ? [] : [{ at: 'shape.of', id: shape.of }];
  return shape.kind === 'combined' ? shape.of.map((id, i) => ({ at: `shape.of[${i}]`, id })) : [];
}

/**
 * Moves a part one place in the build order of a sign that may be changed: earlier (−1) or later (+1). Gives whether it did: a part
 * stays after those that it sits on or follows.
 */
export function movedInOrder(sign: Sign, id: string, by: -1 | 1): boolean {
  const from = sign.parts.findIndex((part) => part.id === id);
  const other = sign.parts[from + by];
  if (from < 0 || !other) return false;
  const [first, second] = by > 0 ? [sign.parts[from], other] : [other, sign.parts[from]];
  if (second.sitsOn.kind === 'part' && second.sitsOn.part === first.id) return false;
  if (outlinesUsed(second).some(({ id: used }) => used === first.id)) return false;
  sign.parts[from + by] = sign.parts[from];
  sign.parts[from] = other;
  return true;
}

/** What is wrong with what a slot chooses: an id of nothing. */
export function settingFault(sign: Sign, sets: SlotSetting): { readonly at: string; readonly id: string } | undefined {
  if (sets.kind === 'option') return undefined;
  const partOf = (id: string): Part | undefined => sign.parts.find((part) => part.id === id);
  if (sets.kind === 'one of') {
    const at = sets.parts.findIndex((id) => !partOf(id));
    return at < 0 ? undefined : { at: `parts[${at}]`, id: sets.parts[at] };
  }
  const { part, tier } = sets;
  if (part === undefined) return undefined;
  const found = partOf(part);
  if (!found) return { at: 'part', id: part };
  return tier === undefined || found.tiers.some(({ id }) => id === tier) ? undefined : { at: 'tier', id: tier };
}

/** Takes out of a sign that may be changed what is said of tiers and parts that are no more. */
export function dropStale(sign: Sign): void {
  const tiers = new Set(sign.parts.flatMap((part) => part.tiers.map(({ id }) => `${part.id} ${id}`)));
  for (const option of sign.options ?? []) {
    if (option.tiers.some(({ part, tier }) => !tiers.has(`${part} ${tier}`)))
      option.tiers = option.tiers.filter(({ part, tier }) => tiers.has(`${part} ${tier}`));
  }
  const isThere = (id: string): boolean => sign.parts.some((part) => part.id === id);
  for (const slot of sign.slots ?? []) {
    const { sets } = slot;
    if (sets?.kind === 'one of') {
      if (!sets.parts.every(isThere)) sets.parts = sets.parts.filter(isThere);
      if (sets.parts.length === 0) delete slot.sets;
    } else if (sets && sets.kind !== 'option' && settingFault(sign, sets)) delete slot.sets;
  }
  const { cutTo } = sign.blank;
  if (!cutTo || cutTo.parts.every(isThere)) return;
  cutTo.parts = cutTo.parts.filter(isThere);
  if (cutTo.parts.length === 0) delete sign.blank.cutTo;
}
