import { Run } from '@plain-relief/core/runs';
import { type Static, Type } from '@sinclair/typebox';
import type { EndpointTable } from './endpoint.js';
import { closed, IdParams, Moment, Words } from './schema.js';

/** A run of a job, without its rows. */
export const ListedRun = Type.Object({
  id: Type.String(),
  title: Type.String(),
  sign: Type.String(),
  rows: Type.Integer(),
  savedAt: Moment,
});
export type ListedRun = Static<typeof ListedRun>;

/** A run as it is kept. */
export const KeptRun = Type.Object({
  id: Type.String(),
  title: Type.String(),
  revision: Type.Integer(),
  document: Run,
  savedAt: Moment,
});
export type KeptRun = Static<typeof KeptRun>;

const Title = Words(120);

export const runEndpoints = {
  'GET /jobs/:id/runs': { params: IdParams, answer: Type.Object({ runs: Type.Array(ListedRun) }) },
  'POST /jobs/:id/runs': {
    params: IdParams,
    body: Type.Object({ title: Title, document: Run }, closed),
    status: 201,
    answer: KeptRun,
  },
  'GET /runs/:id': { params: IdParams, answer: KeptRun },
  'PUT /runs/:id': {
    params: IdParams,
    body: Type.Object(
      {
        /** The revision that was worked on. */
        base: Type.Integer({ minimum: 0, maximum: 2 ** 31 - 2 }),
        title: Title,
        document: Run,
      },
      closed,
    ),
    answer: Type.Object({ revision: Type.Integer(), savedAt: Moment }),
  },
  'DELETE /runs/:id': { params: IdParams },
} as const satisfies EndpointTable;
