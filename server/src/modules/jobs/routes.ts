import type { JobState } from '@plain-relief/api/states';
import type { FastifyInstance } from 'fastify';
import { errors } from '../../platform/errors.js';
import { endpoint } from '../../platform/http/endpoint.js';
import { caller } from '../people/access.js';
import type { Bin } from './bin.js';
import type { JobService } from './service.js';

/** What a maker may put a job to. */
const MAKERS_STATES: ReadonlySet<JobState> = new Set(['approved', 'in the shop', 'done']);

export function jobRoutes(app: FastifyInstance, jobs: JobService, bin: Bin): void {
  endpoint(app, 'GET /bin', { config: { least: 'designer' } }, () => bin.all());

  endpoint(
    app,
    'POST /bin/jobs/:id/return',
    { config: { least: 'designer', audit: 'took a job back' } },
    async ({ params: { id } }) => {
      await bin.returnJob(id);
      return jobs.shown(await jobs.find(id));
    },
  );

  endpoint(
    app,
    'POST /bin/signs/:id/return',
    { config: { least: 'designer', audit: 'took a sign back' } },
    ({ params: { id } }) => bin.returnSign(id),
  );

  endpoint(app, 'GET /jobs', { config: { least: 'maker' } }, async () => ({
    jobs: await jobs.all(),
    customers: await jobs.customers(),
  }));

  endpoint(app, 'GET /jobs/:id', { config: { least: 'maker' } }, async ({ params }) => jobs.shown(await jobs.find(params.id)));

  endpoint(app, 'POST /jobs', { config: { least: 'designer', audit: 'made a job' } }, async ({ body }) =>
    jobs.shown(await jobs.create(body)),
  );

  endpoint(app, 'PATCH /jobs/:id', { config: { least: 'maker', audit: 'changed a job' } }, async (request) => {
    const { role } = caller(request);
    // Makers move a job through the shop, and change nothing else of it.
    const { state, ...rest } = request.body;
    if (role === 'maker' && (Object.keys(rest).length > 0 || !state || !MAKERS_STATES.has(state)))
      throw errors.notForRole(role, 'designer');
    return jobs.shown(await jobs.change(request.params.id, request.body));
  });

  endpoint(app, 'DELETE /jobs/:id', { config: { least: 'designer', audit: 'removed a job' } }, ({ params }) =>
    jobs.remove(params.id),
  );

  endpoint(app, 'GET /jobs/:id/history', { config: { least: 'maker' } }, async ({ params }) => ({
    events: await jobs.history(params.id),
  }));
}
