import type { FastifyInstance } from 'fastify';
import { errors } from '../../platform/errors.js';
import { caller } from '../people/access.js';
import type { JobState } from '../../platform/database/models/jobs.js';
import { IdParams } from '../../platform/http/ids.js';
import { JobChange, NewJob } from './schema.js';
import type { JobService } from './service.js';

/** What a maker may put a job to. */
const MAKERS_STATES: ReadonlySet<JobState> = new Set(['approved', 'in the shop', 'done']);

export function jobRoutes(app: FastifyInstance, jobs: JobService): void {
  app.get('/api/jobs', { config: { least: 'maker' } }, async () => ({
    jobs: await jobs.all(),
    customers: await jobs.customers(),
  }));

  app.get<{ Params: IdParams }>('/api/jobs/:id', { schema: { params: IdParams }, config: { least: 'maker' } }, async (request) =>
    jobs.shown(await jobs.find(request.params.id)),
  );

  app.post<{ Body: NewJob }>(
    '/api/jobs',
    { schema: { body: NewJob }, config: { least: 'designer', deed: 'made a job' } },
    async (request, reply) => {
      reply.code(201);
      return jobs.shown(await jobs.create(request.body));
    },
  );

  app.patch<{ Params: IdParams; Body: JobChange }>(
    '/api/jobs/:id',
    { schema: { params: IdParams, body: JobChange }, config: { least: 'maker', deed: 'changed a job' } },
    async (request) => {
      const { role } = caller(request);
      // Makers move a job through the shop, and change nothing else of it.
      const { state, ...rest } = request.body;
      if (role === 'maker' && (Object.keys(rest).length > 0 || !state || !MAKERS_STATES.has(state)))
        throw errors.notForRole(role, 'designer');
      return jobs.shown(await jobs.change(request.params.id, request.body));
    },
  );

  app.delete<{ Params: IdParams }>(
    '/api/jobs/:id',
    { schema: { params: IdParams }, config: { least: 'designer', deed: 'removed a job' } },
    async (request, reply) => {
      await jobs.remove(request.params.id);
      reply.code(204);
    },
  );
}
