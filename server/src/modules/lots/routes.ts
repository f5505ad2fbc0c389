import { Readable } from 'node:stream';
import { IdParams } from '../../platform/http/ids.js';
import { create as contentDisposition } from 'content-disposition';
import type { FastifyInstance } from 'fastify';
import { errors } from '../../platform/errors.js';
import { endpoint } from '../../platform/http/endpoint.js';
import { caller, isEnough } from '../people/access.js';
import { archiveOf } from './archive.js';
import type { LotService } from './service.js';

/** Bytes of an order that names every plate of the longest list. */
const LARGEST_ORDER = 512 * 1024;

/** Files of runs, made by workers. */
export function lotRoutes(app: FastifyInstance, lots: LotService): void {
  const seen = { config: { least: 'maker' as const } };

  endpoint(
    app,
    'POST /runs/:id/makings',
    { bodyLimit: LARGEST_ORDER, config: { least: 'maker', audit: 'had files of a run made' } },
    (request) => {
      const { name, role } = caller(request);
      if (request.body.override !== undefined && !isEnough(role, 'designer')) throw errors.notForRole(role, 'designer');
      return lots.ask(request.params.id, request.body, name);
    },
  );

  endpoint(app, 'GET /runs/:id/makings', seen, async ({ params }) => ({ makings: await lots.ofRun(params.id) }));

  endpoint(app, 'GET /makings/:id', seen, ({ params }) => lots.read(params.id));

  endpoint(app, 'POST /makings/:id', { config: { least: 'maker', audit: 'turned the making of a run' } }, ({ params, body }) =>
    lots.turn(params.id, body.state),
  );

  app.get<{ Params: IdParams }>('/api/makings/:id/file', { schema: { params: IdParams }, ...seen }, async (request, reply) => {
    const { name, parts } = await lots.archive(request.params.id);
    void reply
      .type('application/zip')
      .header('content-disposition', contentDisposition(name))
      .header('x-content-type-options', 'nosniff');
    return reply.send(Readable.from(archiveOf(parts)));
  });
}
