import { freeId, newTier, sizeAbout } from './new-sign.js';
import { dropStale } from './references.js';
import type { Action, Part, Sign, Tier } from './schema.js';

/** Another action that keeps the amount of the one before where it has one: raised 2 mm becomes carved 2 mm. */
export function actionOf(kind: Action['kind'], before: Action): Action {
  if (kind === before.kind) return before;
  const amount = Math.abs(amountOf(before) ?? 2);
  switch (kind) {
    case 'raise':
    case 'carve':
      return { kind, by: amount };
    case 'set':
      return { kind, to: before.kind === 'carve' || before.kind === 'line' ? -amount : amount };
    case 'line':
      return { kind, depth: amount, width: 1 };
    case 'insert':
      return { kind, below: Math.min(amount, 1), thickness: 3, material: 'acrylic', clearance: 0.1 };
    case 'mark':
    case 'cut-through':
      return { kind };
  }
}

function amountOf(action: Action): number | undefined {
  switch (action.kind) {
    case 'raise':
    case 'carve':
      return action.by;
    case 'set':
      return action.to;
    case 'line':
      return action.depth;
    case 'insert':
      return -action.below;
    case 'mark':
    case 'cut-through':
      return undefined;
  }
}

/**
 * The action that brings a tier to a level: the amount changes and, where the level lies on the other side of the base, a
 * raise becomes a carve and the other way round. A cut through has no level and stays.
 * @param level mm above the face
 * @param base the level that the part's heights are measured from
 */
export function actionAtLevel(action: Action, level: number, base: number): Action {
  const above = Number((level - base).toFixed(6));
  switch (action.kind) {
    case 'raise':
    case 'carve':
      return above >= 0 ? { kind: 'raise', by: above } : { kind: 'carve', by: -above };
    case 'set':
      return { kind: 'set', to: above };
    case 'line':
      return { ...action, depth: Math.max(0, -above) };
    case 'insert':
      return { ...action, below: Math.max(0, -above) };
    case 'mark':
    case 'cut-through':
      return action;
  }
}

/** A copy of a part with ids of its own, a little below the first. */
export function copyOf(part: Part, sign: Sign): Part {
  const stem = part.id.replace(/-\d+$/u, '');
  const id = freeId(
    stem,
    sign.parts.map((other) => other.id),
  );
  const step = part.kind === 'text' ? Number((sizeAbout(part) * 1.55).toFixed(3)) : 10;
  return { ...part, id, name: `${part.name} copy`, place: { ...part.place, y: part.place.y - step } };
}

/** One more tier for a part, raised or carved as the last one is. */
export function nextTier(part: Part): Tier {
  const last = part.tiers[part.tiers.length - 1]?.action ?? { kind: 'raise', by: 2 };
  return newTier(
    freeId(
      'tier',
      part.tiers.map(({ id }) => id),
    ),
    last.kind === 'cut-through' || last.kind === 'mark' || last.kind === 'insert' ? { kind: 'carve', by: 2 } : last,
  );
}

/**
 * Takes parts out of a sign that may be changed. What sat on one sits on the face, words set along one run straight, a border
 * around one follows the blank, and what was combined from several is so from those left; of none there is none.
 */
export function removeParts(sign: Sign, ids: readonly string[]): void {
  const gone = new Set(ids);
  const orphans: string[] = [];
  sign.parts = sign.parts.filter(({ id }) => !gone.has(id));
  for (const part of sign.parts) {
    if (part.sitsOn.kind === 'part' && gone.has(part.sitsOn.part)) part.sitsOn = { kind: 'face' };
    if (part.kind === 'text') {
      if (part.path?.kind === 'part' && gone.has(part.path.part)) delete part.path;
    } else if (part.shape.kind === 'border' && gone.has(part.shape.of)) part.shape.of = 'blank';
    else if (part.shape.kind === 'combined') {
      part.shape.of = part.shape.of.filter((id) => !gone.has(id));
      if (part.shape.of.length === 0) orphans.push(part.id);
    }
  }
  if (orphans.length > 0) removeParts(sign, orphans);
  dropStale(sign);
}
