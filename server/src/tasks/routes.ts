import { type Static, Type } from '@sinclair/typebox';
import type { FastifyInstance } from 'fastify';
import { answerWithFile } from '../http/files.js';
import { IdParams } from '../jobs/schema.js';
import { TASK_KINDS } from './model.js';
import { taskView, type TaskService } from './service.js';

const OptionId = Type.String({ pattern: '^[A-Za-z0-9_-]{1,64}$' });
const Words = (most: number) => Type.String({ minLength: 1, maxLength: most, pattern: '\\S' });
const OptionQuery = Type.Object({ option: Type.Optional(OptionId) }, { additionalProperties: false });

const NewTask = Type.Object(
  {
    kind: Type.Union(TASK_KINDS.map((kind) => Type.Literal(kind))),
    option: Type.Optional(OptionId),
    override: Type.Optional(Type.Object({ name: Words(120), reason: Words(1000) }, { additionalProperties: false })),
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
      const { kind, option, override } = request.body;
      return taskView(await tasks.ask(request.params.id, kind, option, override));
    },
  );

  app.get<{ Params: IdParams; Querystring: Static<typeof OptionQuery> }>(
    '/api/signs/:id/clearance',
    { schema: { params: IdParams, querystring: OptionQuery } },
    async (request) => tasks.clearance(request.params.id, request.query.option),
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
    return answerWithFile(reply, { name: fileName, type: fileType, bytes: file! });
  });
}
