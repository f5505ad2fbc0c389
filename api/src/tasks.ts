import { TEMPLATE_PAPERS } from '@plain-relief/core/sheet';
import { type Static, Type } from '@sinclair/typebox';
import type { EndpointTable } from './endpoint.js';
import { closed, IdParams, Moment, oneOf, OptionId, orNull, Words } from './schema.js';
import { SheetLayout } from './sheet.js';
import { PLAN_KINDS, SHEET_KINDS, TASK_KINDS, TASK_STATES } from './states.js';

/** A piece of long work, from being asked for to its file. */
export const Task = Type.Object({
  id: Type.String(),
  signId: orNull(Type.String()),
  revision: Type.Integer(),
  kind: oneOf([...TASK_KINDS, ...SHEET_KINDS, ...PLAN_KINDS]),
  /** Id of the option that it is of. */
  option: orNull(Type.String()),
  state: oneOf(TASK_STATES),
  /** 0 to 1. */
  progress: Type.Number(),
  /** What is being done at the moment. */
  step: Type.String(),
  error: orNull(Type.String()),
  askedAt: Moment,
  finishedAt: orNull(Moment),
  fileName: orNull(Type.String()),
});
export type Task = Static<typeof Task>;

const Width = (most: number) => Type.Optional(Type.Number({ minimum: 0, maximum: most }));

const SplitPlaces = Type.Optional(
  Type.Array(Type.Number({ minimum: -5000, maximum: 5000 }), { maxItems: 20, uniqueItems: true }),
);

/** How files of a laser, of masks, of patterns and of prints are made; as usual where nothing is said. Lengths in mm. */
export const ProcessChoice = Type.Object(
  {
    kerf: Width(5),
    leadIn: Width(50),
    overlap: Width(20),
    choke: Type.Optional(Type.Number({ minimum: -5, maximum: 5 })),
    isMirrored: Type.Optional(Type.Boolean()),
    border: Width(200),
    /** Percent. */
    shrinkage: Width(10),
    /** Degrees. */
    draft: Width(45),
    /** Whether upright sides of a pattern are made to lean by it. */
    addsDraft: Type.Optional(Type.Boolean()),
    /** Of inlays: room for glue, the angle of the vee bit (0: straight), depth of a pocket cut with it, radius of a tool that rounds corners. */
    gap: Width(5),
    angle: Width(170),
    depth: Width(50),
    radius: Width(20),
    /** Of prints: width of a line and height of a layer, the bed (anything at 0), lines that the sign is split along, pegs (none at 0) and their play. */
    line: Type.Optional(Type.Number({ minimum: 0.05, maximum: 5 })),
    layer: Type.Optional(Type.Number({ minimum: 0.01, maximum: 5 })),
    bedWidth: Width(5000),
    bedDepth: Width(5000),
    bedHeight: Width(5000),
    upright: SplitPlaces,
    level: SplitPlaces,
    peg: Width(50),
    pegDeep: Type.Optional(Type.Number({ minimum: 1, maximum: 200 })),
    pegPlay: Width(5),
  },
  closed,
);
export type ProcessChoice = Static<typeof ProcessChoice>;

/** What is asked for: a file, of an option; a template on a paper, a sheet by a layout. */
export const NewTask = Type.Object(
  {
    kind: oneOf(TASK_KINDS),
    option: Type.Optional(OptionId),
    /** Of a template; A4 where nothing is said. */
    paper: Type.Optional(oneOf(TEMPLATE_PAPERS)),
    /** Of a sheet; everything on A4 where nothing is said. */
    layout: Type.Optional(SheetLayout),
    /** Of a laser's files, masks and patterns. */
    process: Type.Optional(ProcessChoice),
    /** Why it is made without approval; the one who is signed in takes it on themselves. */
    override: Type.Optional(Words(1000)),
  },
  closed,
);
export type NewTask = Static<typeof NewTask>;

/** Whether files for production may be made of a sign. */
export const Clearance = Type.Object({
  isCleared: Type.Boolean(),
  /** Why not, in a sentence. */
  reason: Type.String(),
  /** The approved proof that it is measured by. */
  letter: Type.Optional(Type.String()),
  changes: Type.Array(Type.String()),
});
export type Clearance = Static<typeof Clearance>;

export const taskEndpoints = {
  'GET /signs/:id/tasks': { params: IdParams, answer: Type.Object({ tasks: Type.Array(Task) }) },
  'POST /signs/:id/tasks': { params: IdParams, body: NewTask, status: 202, answer: Task },
  'GET /signs/:id/clearance': {
    params: IdParams,
    query: Type.Object({ option: Type.Optional(OptionId) }, closed),
    answer: Clearance,
  },
  'GET /tasks/:id': { params: IdParams, answer: Task },
  'POST /tasks/:id/cancel': { params: IdParams, answer: Task },
} as const satisfies EndpointTable;
