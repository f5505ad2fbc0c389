import type { FastifyInstance } from 'fastify';
import { errors } from '../../platform/errors.js';
import { endpoint } from '../../platform/http/endpoint.js';
import { answerWithFile } from '../../platform/http/files.js';
import { IdParams } from '../../platform/http/ids.js';
import { caller, isEnough } from '../people/access.js';
import { type TaskService } from './service.js';

export function taskRoutes(app: FastifyInstance, tasks: TaskService): void {
  const seen = { config: { least: 'maker' as const } };
  const params = { schema: { params: IdParams }, ...seen };

  endpoint(app, 'POST /signs/:id/tasks', { config: { least: 'maker', audit: 'asked for a file' } }, (request) => {
    const { override, ...asked } = request.body;
    const { name, role } = caller(request);
    if (override !== undefined && !isEnough(role, 'designer')) throw errors.notForRole(role, 'designer');
    return tasks.ask(request.params.id, asked, override === undefined ? undefined : { name, reason: override });
  });

  endpoint(app, 'GET /signs/:id/clearance', seen, ({ params: { id }, query }) => tasks.clearance(id, query.option));

  endpoint(app, 'GET /signs/:id/tasks', seen, async ({ params: { id } }) => ({ tasks: await tasks.ofSign(id) }));

  endpoint(app, 'GET /tasks/:id', seen, ({ params: { id } }) => tasks.find(id));

  endpoint(app, 'POST /tasks/:id/cancel', { config: { least: 'maker', audit: 'stopped a file' } }, ({ params: { id } }) =>
    tasks.cancel(id),
  );

  app.get<{ Params: IdParams }>('/api/tasks/:id/file', params, async (request, reply) => {
    const { file, fileName, fileType } = await tasks.file(request.params.id);
    return answerWithFile(reply, { name: fileName, type: fileType, bytes: file! });
  });

  app.get<{ Params: IdParams }>('/api/tasks/:id/report', params, async (request, reply) => {
    const { file, fileName, fileType } = await tasks.report(request.params.id);
    return answerWithFile(reply, { name: fileName, type: fileType, bytes: file! });
  });
}
