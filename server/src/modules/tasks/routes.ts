import { TEMPLATE_PAPERS } from '@plain-relief/core/sheet';
import { type Static, Type } from '@sinclair/typebox';
import type { FastifyInstance } from 'fastify';
import { errors } from '../../platform/errors.js';
import { answerWithFile } from '../../platform/http/files.js';
import { IdParams } from '../../platform/http/ids.js';
import { SheetLayout } from '../../platform/sheet-schemas.js';
import { caller, isEnough } from '../people/access.js';
import { TASK_KINDS } from '../../platform/database/models/tasks.js';
import { taskView, type TaskService } from './service.js';

const OptionId = Type.String({ pattern: '^[A-Za-z0-9_-]{1,64}$' });
const Words = (most: number) => Type.String({ minLength: 1, maxLength: most, pattern: '\\S' });
const OptionQuery = Type.Object({ option: Type.Optional(OptionId) }, { additionalProperties: false });

const NewTask = Type.Object(
  {
    kind: Type.Union(TASK_KINDS.map((kind) => Type.Literal(kind))),
    option: Type.Optional(OptionId),
    /** Of a template; A4 where nothing is said. */
    paper: Type.Optional(Type.Union(TEMPLATE_PAPERS.map((paper) => Type.Literal(paper)))),
    /** Of a sheet; everything on A4 where nothing is said. */
    layout: Type.Optional(SheetLayout),
    /** Why it is made without approval; the one who is signed in takes it on themselves. */
    override: Type.Optional(Words(1000)),
  },
  { additionalProperties: false },
);

export function taskRoutes(app: FastifyInstance, tasks: TaskService): void {
  const params = { schema: { params: IdParams }, config: { least: 'maker' as const } };

  app.post<{ Params: IdParams; Body: Static<typeof NewTask> }>(
    '/api/signs/:id/tasks',
    { schema: { params: IdParams, body: NewTask }, config: { least: 'maker', deed: 'asked for a file' } },
    async (request, reply) => {
      const { kind, option, override, paper, layout } = request.body;
      const { name, role } = caller(request);
      if (override !== undefined && !isEnough(role, 'designer')) throw errors.notForRole(role, 'designer');
      reply.code(202);
      return taskView(
        await tasks.ask(
          request.params.id,
          { kind, option, paper, layout },
          override === undefined ? undefined : { name, reason: override },
        ),
      );
    },
  );

  app.get<{ Params: IdParams; Querystring: Static<typeof OptionQuery> }>(
    '/api/signs/:id/clearance',
    { schema: { params: IdParams, querystring: OptionQuery }, config: { least: 'maker' } },
    async (request) => tasks.clearance(request.params.id, request.query.option),
  );

  app.get<{ Params: IdParams }>('/api/signs/:id/tasks', params, async (request) => ({
    tasks: (await tasks.ofSign(request.params.id)).map(taskView),
  }));

  app.get<{ Params: IdParams }>('/api/tasks/:id', params, async (request) => taskView(await tasks.find(request.params.id)));

  app.post<{ Params: IdParams }>(
    '/api/tasks/:id/cancel',
    { schema: { params: IdParams }, config: { least: 'maker', deed: 'stopped a file' } },
    async (request) => taskView(await tasks.cancel(request.params.id)),
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
