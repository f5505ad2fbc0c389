import { Place } from '@plain-relief/core/in-place';
import { type Static, Type } from '@sinclair/typebox';
import type { EndpointTable } from './endpoint.js';
import { closed, IdParams, Moment, Words } from './schema.js';

/** Signs of a job as they will hang, as they are kept. */
export const KeptPlace = Type.Object({
  id: Type.String(),
  title: Type.String(),
  revision: Type.Integer(),
  document: Place,
  savedAt: Moment,
});
export type KeptPlace = Static<typeof KeptPlace>;

const Title = Words(120);

export const placeEndpoints = {
  'GET /jobs/:id/places': { params: IdParams, answer: Type.Object({ places: Type.Array(KeptPlace) }) },
  'POST /jobs/:id/places': {
    params: IdParams,
    body: Type.Object({ title: Title, document: Place }, closed),
    status: 201,
    answer: KeptPlace,
  },
  'PUT /places/:id': {
    params: IdParams,
    body: Type.Object(
      {
        /** The revision that was worked on. */
        base: Type.Integer({ minimum: 0, maximum: 2 ** 31 - 2 }),
        title: Title,
        document: Place,
      },
      closed,
    ),
    answer: KeptPlace,
  },
  'DELETE /places/:id': { params: IdParams },
} as const satisfies EndpointTable;
