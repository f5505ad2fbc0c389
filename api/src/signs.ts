import type { Sign } from '@plain-relief/core/sign';
import { type Static, Type } from '@sinclair/typebox';
import type { EndpointTable } from './endpoint.js';
import { SignProof } from './jobs.js';
import { closed, IdParams, Moment, oneOf, Unjudged, Words } from './schema.js';
import { JOB_STATES } from './states.js';

/** A document as it was stored, which core has judged. */
export const SignDocument = Type.Unsafe<Sign>(Type.Unknown());

/** The job of a sign, as its bench shows it. */
export const SignJob = Type.Object({
  id: Type.String(),
  number: Type.String(),
  title: Type.String(),
  customer: Type.String(),
  state: oneOf(JOB_STATES),
});
export type SignJob = Static<typeof SignJob>;

export const SignAnswer = Type.Object({
  id: Type.String(),
  revision: Type.Integer(),
  document: SignDocument,
  savedAt: Moment,
  proof: Type.Optional(SignProof),
  job: SignJob,
});

const RevisionKind = oneOf(['saved', 'aside'] as const);

export const signEndpoints = {
  'POST /jobs/:id/signs': {
    params: IdParams,
    body: Type.Object(
      {
        title: Words(200),
        /** A sign document to begin with; a bare blank where there is none. */
        document: Type.Optional(Unjudged),
      },
      closed,
    ),
    status: 201,
    answer: SignAnswer,
  },
  'GET /signs/:id': { params: IdParams, answer: SignAnswer },
  'PUT /signs/:id': {
    params: IdParams,
    body: Type.Object(
      {
        /** The revision that was worked on. PostgreSQL counts them in 32 bits. */
        base: Type.Integer({ minimum: 0, maximum: 2 ** 31 - 2 }),
        document: Unjudged,
      },
      closed,
    ),
    answer: Type.Object({ revision: Type.Integer(), savedAt: Moment }),
  },
  'DELETE /signs/:id': { params: IdParams },
  'POST /signs/:id/copies': {
    params: IdParams,
    body: Type.Object(
      {
        title: Words(200),
        /** Id of the job that it goes to; its own where none is given. */
        job: Type.Optional(Type.String({ maxLength: 64 })),
      },
      closed,
    ),
    status: 201,
    answer: SignAnswer,
  },
  'POST /signs/:id/move': {
    params: IdParams,
    body: Type.Object({ job: Type.String({ maxLength: 64 }) }, closed),
    answer: SignAnswer,
  },
  'GET /signs/:id/revisions': {
    params: IdParams,
    answer: Type.Object({
      revisions: Type.Array(Type.Object({ id: Type.String(), revision: Type.Integer(), kind: RevisionKind, savedAt: Moment })),
    }),
  },
  'GET /revisions/:id': {
    params: IdParams,
    answer: Type.Object({
      id: Type.String(),
      signId: Type.String(),
      revision: Type.Integer(),
      kind: RevisionKind,
      document: SignDocument,
      savedAt: Moment,
    }),
  },
} as const satisfies EndpointTable;
