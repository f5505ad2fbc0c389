import { type Static, Type } from '@sinclair/typebox';
import type { EndpointTable } from './endpoint.js';
import { IdParams, Moment, oneOf, orNull } from './schema.js';
import { MAIL_STATES } from './states.js';

/** A letter to somebody outside. */
export const Mail = Type.Object({
  id: Type.String(),
  to: Type.String(),
  subject: Type.String(),
  text: Type.String(),
  state: oneOf(MAIL_STATES),
  /** Why it could not be sent. */
  error: orNull(Type.String()),
  writtenAt: Moment,
});
export type Mail = Static<typeof Mail>;

export const mailEndpoints = {
  'GET /outbox': { answer: Type.Object({ isSimulated: Type.Boolean(), mails: Type.Array(Mail) }) },
  'POST /outbox/:id/again': { params: IdParams },
} as const satisfies EndpointTable;
