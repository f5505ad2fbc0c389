import type { FastifyInstance } from 'fastify';
import { IdParams, JobChange, NewJob } from './schema.js';
import { type JobService, jobView } from './service.js';

export function jobRoutes(app: FastifyInstance, jobs: JobService): void {
  app.get('/api/jobs', async () => ({ jobs: await jobs.all(), customers: await jobs.customers() }));

  app.get<{ Params: IdParams }>('/api/jobs/:id', { schema: { params: IdParams } }, async (request) =>
    jobView(await jobs.find(request.params.id)),
  );

  app.post<{ Body: NewJob }>('/api/jobs', { schema: { body: NewJob } }, async (request, reply) => {
    reply.code(201);
    return jobView(await jobs.create(request.body));
  });

  app.patch<{ Params: IdParams; Body: JobChange }>(
    '/api/jobs/:id',
    { schema: { params: IdParams, body: JobChange } },
    async (request) => jobView(await jobs.change(request.params.id, request.body)),
  );

  app.delete<{ Params: IdParams }>('/api/jobs/:id', { schema: { params: IdParams } }, async (request, reply) => {
    await jobs.remove(request.params.id);
    reply.code(204);
  });
}
