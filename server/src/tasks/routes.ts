import { type Static, Type } from '@sinclair/typebox';
import type { FastifyInstance } from 'fastify';
import { IdParams } from '../jobs/schema.js';
import { TASK_KINDS } from './model.js';
import { taskView, type TaskService } from './service.js';

const NewTask = Type.Object(
  {
    kind: Type.Union(TASK_KINDS.map((kind) => Type.Literal(kind))),
    option: Type.Optional(Type.String({ pattern: '^[A-Za-z0-9_-]{1,64}$' })),
  },
  { additionalProperties: false },
);

export function taskRoutes(app: FastifyInstance, tasks: TaskService): void {
  const params = { schema: { params: IdParams } };

  app.post<{ Params: IdParams; Body: Static<typeof NewTask> }>(
    '/api/signs/:id/tasks',
    { schema: { params: IdParams, body: NewTask } },
    async (request, reply) => {
      reply.code(202);
      return taskView(await tasks.ask(request.params.id, request.body.kind, request.body.option));
    },
  );

  app.get<{ Params: IdParams }>('/api/signs/:id/tasks', params, async (request) => ({
    tasks: (await tasks.ofSign(request.params.id)).map(taskView),
  }));

  app.get<{ Params: IdParams }>('/api/tasks/:id', params, async (request) => taskView(await tasks.find(request.params.id)));

  app.post<{ Params: IdParams }>('/api/tasks/:id/cancel', params, async (request) =>
    taskView(await tasks.cancel(request.params.id)),
  );

  app.get<{ Params: IdParams }>('/api/tasks/:id/file', params, async (request, reply) => {
    const { file, fileName, fileType } = await tasks.file(request.params.id);
    const name = encodeURIComponent(fileName ?? 'file');
    reply
      .type(fileType ?? 'application/octet-stream')
      .header('content-disposition', `attachment; filename*=UTF-8''${name}`)
      .header('x-content-type-options', 'nosniff');
    return reply.send(file);
  });
}
