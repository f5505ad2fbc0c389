import { LIST_LIMITS, PLATE_FILES } from '@plain-relief/core/runs';
import { type Static, Type } from '@sinclair/typebox';
import type { EndpointTable } from './endpoint.js';
import { closed, IdParams, Moment, oneOf, OptionId, orNull, Words } from './schema.js';
import { MAKING_STATES } from './states.js';

/** What workers are to make of a run as it was saved last. */
export const NewMaking = Type.Object(
  {
    /** Numbers of plates in the list, from 1; all where none are named. */
    plates: Type.Optional(
      Type.Array(Type.Integer({ minimum: 1, maximum: LIST_LIMITS.rows }), { minItems: 1, maxItems: LIST_LIMITS.rows }),
    ),
    kinds: Type.Array(oneOf(PLATE_FILES), { maxItems: PLATE_FILES.length, uniqueItems: true }),
    /** Whether they are laid on sheets, with a file of each kind and a map of every sheet. */
    onSheets: Type.Boolean(),
    /** Whether a contact sheet is made. */
    hasContact: Type.Boolean(),
    /** Whether every sheet is cut by a machine of the shop; by the tools that its plates are proposed where none are named. */
    programs: Type.Optional(
      Type.Object(
        {
          machine: OptionId,
          tools: Type.Optional(Type.Array(OptionId, { minItems: 1, maxItems: 60, uniqueItems: true })),
        },
        closed,
      ),
    ),
    /** Why, where they were not approved as they are. */
    override: Type.Optional(Words(1000)),
  },
  closed,
);
export type NewMaking = Static<typeof NewMaking>;

/** Files of a run as workers make them. */
export const RunMaking = Type.Object({
  id: Type.String(),
  title: Type.String(),
  state: oneOf(MAKING_STATES),
  who: Type.String(),
  /** Rows, and how many are made; parts of the work, and how many are done. */
  rows: Type.Integer(),
  made: Type.Integer(),
  lots: Type.Integer(),
  lotsMade: Type.Integer(),
  /** Workers that are at it. */
  workers: Type.Integer(),
  /** Of the parts that they are at, as much as is done already, as a number of parts. */
  underWay: Type.Number(),
  /** Rows that do not fit, lack something, or are not made. */
  held: Type.Integer(),
  /** Files of other runs that are made at the same time. */
  others: Type.Integer(),
  /** Of what is made, packed. */
  bytes: Type.Number(),
  laid: orNull(Type.Object({ sheets: Type.Integer(), share: Type.Number(), left: Type.Array(Type.Integer()) })),
  error: orNull(Type.String()),
  kinds: Type.Array(oneOf(PLATE_FILES)),
  hasContact: Type.Boolean(),
  /** The machine that sheets are cut by, and how long its programs take that are made. */
  programs: orNull(Type.Object({ machine: Type.String(), minutes: Type.Number() })),
  askedAt: Moment,
  finishedAt: orNull(Moment),
});
export type RunMaking = Static<typeof RunMaking>;

export const lotEndpoints = {
  'POST /runs/:id/makings': { params: IdParams, body: NewMaking, status: 202, answer: RunMaking },
  'GET /runs/:id/makings': { params: IdParams, answer: Type.Object({ makings: Type.Array(RunMaking) }) },
  'GET /makings/:id': { params: IdParams, answer: RunMaking },
  'POST /makings/:id': {
    params: IdParams,
    body: Type.Object({ state: oneOf(['paused', 'running', 'cancelled'] as const) }, closed),
    answer: RunMaking,
  },
} as const satisfies EndpointTable;
