import { type Action } from './schema.js';

/** The level of a cut through, below every other. */
export const THROUGH = -Infinity;

/** What a tier does to the places that it lies over. */
export type TierOperation = 'raise' | 'carve' | 'set' | 'mark' | 'through' | 'insert';

type Kind = Action['kind'];

/** What an action of one kind means. */
interface Meaning<A> {
  /** In the trade's words, as one of those that can be chosen. */
  readonly word: string;
  readonly operation: TierOperation;
  /** Its sides are upright whatever edge is chosen. */
  readonly isUpright?: true;
  /** mm from the base to its level, below 0 where it sinks. */
  rise(action: A): number;
  /** Whether it lies below the base, also where it sinks by nothing. */
  sinks(action: A): boolean;
  /** A new one of this kind by an amount, as it is put in place of another. */
  made(amount: number, before: Action): A;
  /** The action that comes to another level, so many mm above the base. */
  at(action: A, above: number): Action;
  /** The same that rises or sinks by more, and at least not at all; as it is where letters have no share in that. */
  more(action: A, more: number): A;
}

type Of<K extends Kind> = Extract<Action, { readonly kind: K }>;

const byMore = (amount: number, more: number): number => Math.max(0, amount + more);
const raisedOrCarved = (above: number): Action => (above >= 0 ? { kind: 'raise', by: above } : { kind: 'carve', by: -above });

/** All actions, in the order in which they are offered. */
const MEANINGS: { readonly [K in Kind]: Meaning<Of<K>> } = {
  raise: {
    word: 'raised',
    operation: 'raise',
    rise: ({ by }) => by,
    sinks: () => false,
    made: (amount) => ({ kind: 'raise', by: amount }),
    at: (_, above) => raisedOrCarved(above),
    more: (action, more) => ({ ...action, by: byMore(action.by, more) }),
  },
  carve: {
    word: 'carved',
    operation: 'carve',
    rise: ({ by }) => -by,
    sinks: () => true,
    made: (amount) => ({ kind: 'carve', by: amount }),
    at: (_, above) => raisedOrCarved(above),
    more: (action, more) => ({ ...action, by: byMore(action.by, more) }),
  },
  set: {
    word: 'set at a level',
    operation: 'set',
    rise: ({ to }) => to,
    sinks: ({ to }) => to < 0,
    made: (amount, before) => ({ kind: 'set', to: before.kind === 'carve' || before.kind === 'line' ? -amount : amount }),
    at: (action, above) => ({ ...action, to: above }),
    more: (action, more) => ({ ...action, to: action.to < 0 ? Math.min(0, action.to - more) : byMore(action.to, more) }),
  },
  'cut-through': {
    word: 'cut through',
    operation: 'through',
    isUpright: true,
    rise: () => THROUGH,
    sinks: () => false,
    made: () => ({ kind: 'cut-through' }),
    at: (action) => action,
    more: (action) => action,
  },
  line: {
    word: 'line engraved',
    operation: 'carve',
    rise: ({ depth }) => -depth,
    sinks: () => true,
    made: (amount) => ({ kind: 'line', depth: amount, width: 1 }),
    at: (action, above) => ({ ...action, depth: Math.max(0, -above) }),
    more: (action, more) => ({ ...action, depth: byMore(action.depth, more) }),
  },
  mark: {
    word: 'coloured',
    operation: 'mark',
    isUpright: true,
    rise: () => 0,
    sinks: () => false,
    made: () => ({ kind: 'mark' }),
    at: (action) => action,
    more: (action) => action,
  },
  insert: {
    word: 'cut through for an insert',
    operation: 'insert',
    isUpright: true,
    rise: ({ below }) => -below,
    sinks: () => true,
    made: (amount) => ({ kind: 'insert', below: Math.min(amount, 1), thickness: 3, material: 'acrylic', clearance: 0.1 }),
    at: (action, above) => ({ ...action, below: Math.max(0, -above) }),
    more: (action) => action,
  },
};

/** The meaning of an action's kind, which takes that very action. */
const meaningOf = ({ kind }: Action): Meaning<Action> => MEANINGS[kind] as Meaning<Action>;

const KINDS = Object.keys(MEANINGS) as Kind[];

/** The actions that can be chosen, in the trade's words. */
export const ACTION_WORDS: readonly (readonly [Kind, string])[] = KINDS.map((kind) => [kind, MEANINGS[kind].word]);

export const operationOf = (action: Action): TierOperation => meaningOf(action).operation;

/** mm from the level that a part sits on to that of an action, below 0 where it sinks; {@link THROUGH} of a cut through. */
export const riseOf = (action: Action): number => meaningOf(action).rise(action);

/** How far an action rises or sinks, as a positive length; 0 of one that does neither. */
export function amountOf(action: Action): number {
  const rise = riseOf(action);
  return rise === THROUGH ? 0 : Math.abs(rise);
}

/** Whether what an action makes lies below the level that its part sits on. */
export const sinks = (action: Action): boolean => meaningOf(action).sinks(action);

/** Whether what an action makes has upright sides whatever is chosen. */
export const isUpright = (action: Action): boolean => meaningOf(action).isUpright ?? false;

/** An action that rises or sinks by more, and at least not at all. */
export const withMore = (action: Action, more: number): Action => (more === 0 ? action : meaningOf(action).more(action, more));

/** Amount of an action that takes the place of one that has none, in mm. */
const USUAL = 2;

/** Another action that keeps the amount of the one before where it has one: raised 2 mm becomes carved 2 mm. */
export function actionOf(kind: Kind, before: Action): Action {
  if (kind === before.kind) return before;
  const hasAmount = before.kind !== 'mark' && before.kind !== 'cut-through';
  return MEANINGS[kind].made(hasAmount ? amountOf(before) : USUAL, before);
}

/**
 * The action that brings a tier to a level: the amount changes and, where the level lies on the other side of the base, a
 * raise becomes a carve and the other way round. A cut through has no level and stays.
 * @param level mm above the face
 * @param base the level that the part's heights are measured from
 */
export const actionAtLevel = (action: Action, level: number, base: number): Action =>
  meaningOf(action).at(action, Number((level - base).toFixed(6)));
