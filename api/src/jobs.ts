import { type Static, Type } from '@sinclair/typebox';
import type { EndpointTable } from './endpoint.js';
import { closed, IdParams, Moment, oneOf, orNull, Unit, Words } from './schema.js';
import { COUNTING_PROOF_STATES, JOB_STATES, MAKING_STATES } from './states.js';

const State = oneOf(JOB_STATES);
const isoDate = Type.String({ pattern: '^\\d{4}-\\d{2}-\\d{2}$' });
const DueOn = Type.Union([isoDate, Type.Null()]);
const Quantity = Type.Integer({ minimum: 1, maximum: 100_000 });

/** Where a sign stands with the customer: the newest proof of it that counts. */
export const SignProof = Type.Object({
  letter: Type.String(),
  state: oneOf(COUNTING_PROOF_STATES),
  /** The revision that the proof shows. */
  revision: Type.Integer(),
});
export type SignProof = Static<typeof SignProof>;

export const JobSign = Type.Object({
  id: Type.String(),
  title: Type.String(),
  revision: Type.Integer(),
  savedAt: Moment,
  /** The words of its texts, to be searched. */
  words: Type.String(),
  proof: Type.Optional(SignProof),
});
export type JobSign = Static<typeof JobSign>;

/** A run of a job: a sign with a list. */
export const JobRun = Type.Object({
  id: Type.String(),
  title: Type.String(),
  rows: Type.Integer(),
  /** The files that were asked for last: 0 to 1 of them are made. */
  making: orNull(Type.Object({ state: oneOf(MAKING_STATES), share: Type.Number() })),
});
export type JobRun = Static<typeof JobRun>;

/** A job as the board shows it. */
export const Job = Type.Object({
  id: Type.String(),
  number: Type.String(),
  title: Type.String(),
  state: State,
  /** As 2026-11-25. */
  dueOn: orNull(Type.String()),
  quantity: Type.Integer(),
  unit: Unit,
  customer: Type.String(),
  /** Who is spoken to there, and how. */
  contact: Type.String(),
  signs: Type.Array(JobSign),
  runs: Type.Array(JobRun),
});
export type Job = Static<typeof Job>;

export const NewJob = Type.Object(
  { customer: Words(120), title: Words(200), dueOn: DueOn, quantity: Quantity, unit: Unit },
  closed,
);
export type NewJob = Static<typeof NewJob>;

export const JobChange = Type.Partial(
  Type.Object({ title: Words(200), dueOn: DueOn, quantity: Quantity, unit: Unit, state: State }, closed),
  closed,
);
export type JobChange = Static<typeof JobChange>;

/** A line of a job's history. */
export const JobEvent = Type.Object({ at: Moment, who: Type.String(), text: Type.String() });
export type JobEvent = Static<typeof JobEvent>;

/** What lies in the bin, and since when. */
export const Binned = Type.Object({
  id: Type.String(),
  what: oneOf(['job', 'sign']),
  title: Type.String(),
  /** Number and title of the job that it is or belongs to. */
  job: Type.String(),
  customer: Type.String(),
  /** How many signs lie there with it. */
  signs: Type.Integer(),
  removedAt: Moment,
});
export type Binned = Static<typeof Binned>;

export const jobEndpoints = {
  'GET /bin': { answer: Type.Object({ days: Type.Integer(), things: Type.Array(Binned) }) },
  'POST /bin/jobs/:id/return': { params: IdParams, answer: Job },
  'POST /bin/signs/:id/return': { params: IdParams },
  'GET /jobs': {
    answer: Type.Object({ jobs: Type.Array(Job), customers: Type.Array(Type.Object({ name: Type.String() })) }),
  },
  'POST /jobs': { body: NewJob, status: 201, answer: Job },
  'GET /jobs/:id': { params: IdParams, answer: Job },
  'PATCH /jobs/:id': { params: IdParams, body: JobChange, answer: Job },
  'DELETE /jobs/:id': { params: IdParams },
  'GET /jobs/:id/history': { params: IdParams, answer: Type.Object({ events: Type.Array(JobEvent) }) },
} as const satisfies EndpointTable;
