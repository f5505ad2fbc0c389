import type { FastifyInstance } from 'fastify';
import { endpoint } from '../../platform/http/endpoint.js';
import { SAVES_PLACE } from '../people/audit.js';
import type { JobService } from '../jobs/service.js';
import type { PlaceService } from './service.js';

/** Signs of jobs as they will hang. */
export function placeRoutes(app: FastifyInstance, places: PlaceService, jobs: JobService): void {
  endpoint(app, 'GET /jobs/:id/places', { config: { least: 'maker' } }, async ({ params }) => ({
    places: await places.list((await jobs.find(params.id)).id),
  }));

  endpoint(app, 'POST /jobs/:id/places', { config: { least: 'designer', audit: 'made a place' } }, async ({ params, body }) =>
    places.create((await jobs.find(params.id)).id, body.title, body.document),
  );

  endpoint(app, 'PUT /places/:id', { config: { least: 'designer', audit: SAVES_PLACE } }, ({ params, body }) =>
    places.save(params.id, body.base, body.title, body.document),
  );

  endpoint(app, 'DELETE /places/:id', { config: { least: 'designer', audit: 'removed a place' } }, ({ params }) =>
    places.remove(params.id),
  );
}
