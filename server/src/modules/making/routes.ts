import { IdParams } from '../../platform/http/ids.js';
import { type Static, Type } from '@sinclair/typebox';
import type { FastifyInstance } from 'fastify';
import { zipSync } from 'fflate';
import { errors } from '../../platform/errors.js';
import { endpoint } from '../../platform/http/endpoint.js';
import { answerWithFile } from '../../platform/http/files.js';
import { answerWithPicture } from '../../platform/http/pictures.js';
import { caller, isEnough } from '../people/access.js';
import type { PlanService } from './service.js';

const FileParams = Type.Object(
  { id: Type.String({ minLength: 1, maxLength: 100 }), name: Type.String({ minLength: 1, maxLength: 120 }) },
  { additionalProperties: false },
);

/** Plans of cuts, their pictures, and their programs once they were let out. */
export function planRoutes(app: FastifyInstance, plans: PlanService): void {
  const seen = { config: { least: 'maker' as const } };
  const params = { schema: { params: IdParams }, ...seen };

  endpoint(app, 'GET /signs/:id/plans', seen, async ({ params: { id } }) => ({ plans: await plans.ofSign(id) }));

  endpoint(app, 'POST /signs/:id/plans', { config: { least: 'maker', audit: 'asked for a plan of cuts' } }, (request) =>
    plans.ask(request.params.id, request.body, caller(request)),
  );

  endpoint(app, 'GET /plans/:id', seen, ({ params: { id } }) => plans.told(id));

  endpoint(app, 'GET /plans/:id/clearance', seen, ({ params: { id } }) => plans.clearance(id));

  endpoint(app, 'GET /plans/:id/programs', seen, async ({ params: { id } }) => {
    const { programs, madeWith } = await plans.shown(id, ['programs', 'madeWith']);
    return { programs: [...programs!], madeWith };
  });

  endpoint(app, 'POST /plans/:id/again', { config: { least: 'maker', audit: 'asked for a plan of cuts again' } }, (request) =>
    plans.again(request.params.id, caller(request)),
  );

  endpoint(app, 'POST /plans/:id/release', { config: { least: 'maker', audit: 'let programs out' } }, (request) => {
    const { override } = request.body;
    const by = caller(request);
    if (override !== undefined && !isEnough(by.role, 'designer')) throw errors.notForRole(by.role, 'designer');
    return plans.release(request.params.id, by, override);
  });

  endpoint(app, 'DELETE /plans/:id', { config: { least: 'designer', audit: 'removed a plan of cuts' } }, ({ params: { id } }) =>
    plans.remove(id),
  );

  app.get<{ Params: IdParams }>('/api/plans/:id/dry-run.png', params, async (request, reply) => {
    const { picture } = await plans.shown(request.params.id, ['picture']);
    return answerWithPicture(request, reply, { tag: `"${request.params.id}"`, type: 'image/png', bytes: async () => picture! });
  });

  app.get<{ Params: IdParams }>('/api/plans/:id/sheet.pdf', params, async (request, reply) => {
    const { sheet } = await plans.shown(request.params.id, ['sheet']);
    return answerWithFile(reply, { name: 'setup-sheet.pdf', type: 'application/pdf', bytes: sheet! });
  });

  app.get<{ Params: IdParams }>('/api/plans/:id/package.zip', params, async (request, reply) => {
    const { programs, sheet, plan } = await plans.leaving(request.params.id);
    const text = new TextEncoder();
    const files: Record<string, Uint8Array> = { 'setup-sheet.pdf': new Uint8Array(sheet) };
    for (const program of programs) files[program.name] = text.encode(program.text);
    const { order, outcome, revision, released } = plan;
    files['plan.json'] = text.encode(`${JSON.stringify({ revision, order, released, ...outcome }, null, 2)}\n`);
    const bytes = Buffer.from(zipSync(files, { mtime: plan.askedAt }));
    return answerWithFile(reply, { name: `programs-r${revision}.zip`, type: 'application/zip', bytes });
  });

  app.get<{ Params: Static<typeof FileParams> }>(
    '/api/plans/:id/files/:name',
    { schema: { params: FileParams }, ...seen },
    async (request, reply) => {
      const { id, name } = request.params;
      const found = (await plans.leaving(id)).programs.find((program) => program.name === name);
      if (!found) throw errors.notFound('program', name);
      return answerWithFile(reply, { name, type: 'text/plain; charset=us-ascii', bytes: Buffer.from(found.text) });
    },
  );
}
