import type { FastifyInstance } from 'fastify';
import { endpoint } from '../../platform/http/endpoint.js';
import { SAVES_RUN } from '../people/audit.js';
import type { JobService } from '../jobs/service.js';
import type { RunService } from './service.js';

/** Bytes of a run with as many rows as a list may have. */
const LARGEST_RUN = 24 * 1024 * 1024;

/** Signs of jobs with lists. */
export function runRoutes(app: FastifyInstance, runs: RunService, jobs: JobService): void {
  endpoint(app, 'GET /jobs/:id/runs', { config: { least: 'maker' } }, async ({ params }) => ({
    runs: await runs.list((await jobs.find(params.id)).id),
  }));

  endpoint(
    app,
    'POST /jobs/:id/runs',
    { bodyLimit: LARGEST_RUN, config: { least: 'designer', audit: 'made a run' } },
    async ({ params, body }) => runs.create((await jobs.find(params.id)).id, body.title, body.document),
  );

  endpoint(app, 'GET /runs/:id', { config: { least: 'maker' } }, ({ params }) => runs.read(params.id));

  endpoint(
    app,
    'PUT /runs/:id',
    { bodyLimit: LARGEST_RUN, config: { least: 'designer', audit: SAVES_RUN } },
    ({ params, body }) => runs.save(params.id, body.base, body.title, body.document),
  );

  endpoint(app, 'DELETE /runs/:id', { config: { least: 'designer', audit: 'removed a run' } }, ({ params }) =>
    runs.remove(params.id),
  );
}
