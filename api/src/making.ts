import type { PlanOutcome } from '@plain-relief/core/making';
import type { Shop, ShopMachine, ShopMaterial, ShopTool } from '@plain-relief/core/shop';
import { type Static, Type } from '@sinclair/typebox';
import type { EndpointTable } from './endpoint.js';
import { closed, IdParams, Moment, oneOf, OptionId, orNull, Unjudged, Words } from './schema.js';
import { TASK_STATES } from './states.js';
import { Clearance } from './tasks.js';

const Id = OptionId;
const Library = Type.Unsafe<Shop>(Type.Unknown());

/** The shop's materials, tools, machines and rates, with how often they were kept. */
export const ShopLibrary = Type.Object({ revision: Type.Integer(), library: Library });
export type ShopLibrary = Static<typeof ShopLibrary>;

/** What a plan is asked for with. */
export const PlanOrder = Type.Object(
  {
    option: Type.Optional(OptionId),
    /** Of a block the face that it is of. */
    face: Type.Optional(OptionId),
    side: oneOf(['front', 'back'] as const),
    machine: Id,
    material: Id,
    tools: Type.Array(Id, { minItems: 1, maxItems: 60, uniqueItems: true }),
    /** How it is cut, where that is not as usual; judged by core. */
    choice: Type.Optional(Unjudged),
    /** mm between the places at which the dry run looks. */
    cell: Type.Optional(Type.Number({ minimum: 0.02, maximum: 2 })),
  },
  closed,
);
export type PlanOrder = Static<typeof PlanOrder>;

/** What a plan was made with, kept as it was then. */
export interface MadeWith {
  readonly machine: ShopMachine;
  readonly material: ShopMaterial;
  readonly tools: readonly ShopTool[];
  readonly rates: Shop['rates'];
}

/** Who let programs out, when, and why where they were not proven or not approved. */
export const Release = Type.Object({ by: Type.String(), at: Moment, reason: orNull(Type.String()) });
export type Release = Static<typeof Release>;

/** A plan of cuts, from being asked for to its programs. */
export const KeptPlan = Type.Object({
  id: Type.String(),
  signId: Type.String(),
  revision: Type.Integer(),
  order: Type.Unsafe<PlanOrder>(Type.Unknown()),
  taskId: Type.String(),
  state: oneOf(TASK_STATES),
  /** 0 to 1. */
  progress: Type.Number(),
  step: Type.String(),
  error: orNull(Type.String()),
  askedBy: Type.String(),
  askedAt: Moment,
  finishedAt: orNull(Moment),
  outcome: Type.Unsafe<PlanOutcome | null>(Type.Unknown()),
  released: Type.Unsafe<Release | null>(Type.Unknown()),
});
export type KeptPlan = Static<typeof KeptPlan>;

/** What a film of a plan is made of. */
export const PlanPrograms = Type.Object({
  programs: Type.Array(Type.Object({ name: Type.String(), text: Type.String() })),
  madeWith: Type.Unsafe<MadeWith>(Type.Unknown()),
});
export type PlanPrograms = Static<typeof PlanPrograms>;

export const makingEndpoints = {
  'GET /shop/library': { answer: ShopLibrary },
  'PUT /shop/library': {
    body: Type.Object({ base: Type.Integer({ minimum: 0, maximum: 2 ** 31 - 2 }), library: Type.Unknown() }, closed),
    answer: ShopLibrary,
  },
  'GET /signs/:id/plans': { params: IdParams, answer: Type.Object({ plans: Type.Array(KeptPlan) }) },
  'POST /signs/:id/plans': { params: IdParams, body: PlanOrder, status: 202, answer: KeptPlan },
  'GET /plans/:id': { params: IdParams, answer: KeptPlan },
  'GET /plans/:id/clearance': { params: IdParams, answer: Clearance },
  'GET /plans/:id/programs': { params: IdParams, answer: PlanPrograms },
  'POST /plans/:id/again': { params: IdParams, status: 202, answer: KeptPlan },
  'POST /plans/:id/release': {
    params: IdParams,
    body: Type.Object({ override: Type.Optional(Words(1000)) }, closed),
    answer: KeptPlan,
  },
  'DELETE /plans/:id': { params: IdParams },
} as const satisfies EndpointTable;
