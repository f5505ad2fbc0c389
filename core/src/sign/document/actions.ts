import { type Action } from './schema.js';

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
