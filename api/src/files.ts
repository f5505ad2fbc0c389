import { type Static, Type } from '@sinclair/typebox';
import type { EndpointTable } from './endpoint.js';
import { IdParams, Moment } from './schema.js';

/** A file that a customer sent, kept with the job. */
export const KeptFile = Type.Object({ id: Type.String(), name: Type.String(), size: Type.Integer(), createdAt: Moment });
export type KeptFile = Static<typeof KeptFile>;

export const fileEndpoints = {
  'GET /jobs/:id/files': { params: IdParams, answer: Type.Array(KeptFile) },
  'POST /jobs/:id/files': { params: IdParams, isUpload: true, status: 201, answer: KeptFile },
  'DELETE /files/:id': { params: IdParams },
} as const satisfies EndpointTable;
