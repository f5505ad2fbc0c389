import { Type } from '@sinclair/typebox';
import type { FastifyInstance } from 'fastify';
import { IdParams } from '../jobs/schema.js';
import type { JobService } from '../jobs/service.js';
import type { Database } from '../database/database.js';
import { taskView } from '../tasks/service.js';
import type { Task } from '../tasks/model.js';
import type { SignPictures } from '../signs/pictures.js';
import { frozenSign } from './frozen-sign.js';
import { NewProof, ShopPictureParams, ShopRemark } from './schema.js';
import type { ProofService } from './service.js';
import { shopView } from './views.js';

const MOST_EVENTS = 500;

/** What the shop does with proofs. */
export function proofRoutes(
  app: FastifyInstance,
  db: Database,
  jobs: JobService,
  proofs: ProofService,
  pictures: SignPictures,
): void {
  const params = { schema: { params: IdParams } };
  const told = (id: string) => proofs.find(id).then((proof) => shopView(proof, proofs.address(proof)));

  app.get<{ Params: IdParams }>('/api/jobs/:id/proofs', params, async (request) => {
    const job = await jobs.find(request.params.id);
    const all = await proofs.ofJob(job.id);
    return {
      proofs: all.map(({ proof, changes, sheets }) => ({
        ...shopView(proof, proofs.address(proof)),
        changes,
        sheets: sheets.map((task: Task) => taskView(task)),
      })),
    };
  });

  app.post<{ Params: IdParams; Body: NewProof }>(
    '/api/jobs/:id/proofs',
    { schema: { params: IdParams, body: NewProof } },
    async (request, reply) => {
      const job = await jobs.find(request.params.id);
      reply.code(201);
      return told((await proofs.freeze(job.id, request.body)).id);
    },
  );

  app.get<{ Params: IdParams }>('/api/proofs/:id', params, (request) => told(request.params.id));

  app.post<{ Params: IdParams }>('/api/proofs/:id/withdraw', params, async (request) => {
    await proofs.withdraw(request.params.id);
    return told(request.params.id);
  });

  app.post<{ Params: IdParams; Body: ShopRemark }>(
    '/api/proofs/:id/remarks',
    { schema: { params: IdParams, body: ShopRemark } },
    async (request, reply) => {
      await proofs.remark(await proofs.find(request.params.id), request.body, true);
      reply.code(201);
      return told(request.params.id);
    },
  );

  app.post<{ Params: IdParams; Body: { kind: 'sheet' | 'stamped sheet' } }>(
    '/api/proofs/:id/sheets',
    {
      schema: {
        params: IdParams,
        body: Type.Object(
          { kind: Type.Union([Type.Literal('sheet'), Type.Literal('stamped sheet')]) },
          { additionalProperties: false },
        ),
      },
    },
    async (request, reply) => {
      const proof = await proofs.find(request.params.id);
      reply.code(202);
      return taskView(await proofs.sheet(proof.id, request.body.kind));
    },
  );

  app.get<{ Params: ShopPictureParams }>(
    '/api/proofs/:id/signs/:signId/picture.png',
    { schema: { params: ShopPictureParams } },
    async (request, reply) => {
      const { id, signId } = request.params;
      const proof = await proofs.find(id);
      const picture = await pictures.front(`${proof.id} ${signId} `, frozenSign(proof, signId).document);
      reply.type('image/png').header('cache-control', 'private, max-age=31536000, immutable');
      return reply.send(Buffer.from(picture));
    },
  );

  app.get<{ Params: IdParams }>('/api/jobs/:id/history', params, async (request) => {
    const job = await jobs.find(request.params.id);
    const events = await db.JobEvent.findAll({ where: { jobId: job.id }, order: [['at', 'DESC']], limit: MOST_EVENTS });
    return { events: events.map(({ at, who, text }) => ({ at, who, text })) };
  });
}
