import { type Action } from '../src/sign/index.js';

/** How far an action rises or sinks, and which of both. */
export function amountOf(action: Action): readonly [number, 1 | -1] {
  switch (action.kind) {
    case 'raise':
      return [action.by, 1];
    case 'carve':
      return [action.by, -1];
    case 'line':
      return [action.depth, -1];
    case 'insert':
      return [action.below, -1];
    case 'set':
      return [Math.abs(action.to), action.to < 0 ? -1 : 1];
    case 'mark':
    case 'cut-through':
      return [0, 1];
  }
}

/** Letters that rise, or sink, by more: at least not at all. */
export function withMore(action: Action, more: number): Action {
  switch (action.kind) {
    case 'raise':
    case 'carve':
      return { ...action, by: Math.max(0, action.by + more) };
    case 'line':
      return { ...action, depth: Math.max(0, action.depth + more) };
    case 'set':
      return { ...action, to: action.to < 0 ? Math.min(0, action.to - more) : Math.max(0, action.to + more) };
    default:
      return action;
  }
}
