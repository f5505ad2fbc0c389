import { Type, type Static } from '@sinclair/typebox';
import type { FastifyInstance } from 'fastify';
import { IdParams } from '../../platform/http/ids.js';
import type { JobService } from '../jobs/service.js';
import type { SignProof } from '../proof-states/sign-proofs.js';
import { SAVES } from '../people/deeds.js';
import type { SignRow } from '../../platform/database/models/signs.js';
import { answerWithPicture } from '../../platform/http/pictures.js';
import type { SignPictures } from './pictures.js';
import type { SignService } from './service.js';

/** Drawings that were taken over are part of a document. */
const LARGEST_DOCUMENT = 4 * 1024 * 1024;
const closed = { additionalProperties: false };
const NewSignBody = Type.Object(
  {
    title: Type.String({ minLength: 1, maxLength: 200, pattern: '\\S' }),
    /** A sign document to begin with; a bare blank where there is none. */
    document: Type.Optional(Type.Object({}, { additionalProperties: true })),
  },
  closed,
);
const SaveBody = Type.Object(
  {
    /** PostgreSQL counts revisions in 32 bits. */
    base: Type.Integer({ minimum: 0, maximum: 2 ** 31 - 2 }),
    document: Type.Object({}, { additionalProperties: true }),
  },
  closed,
);

const CopyBody = Type.Object(
  {
    title: Type.String({ minLength: 1, maxLength: 200, pattern: '\\S' }),
    /** Id of the job that it goes to; its own where none is given. */
    job: Type.Optional(Type.String({ maxLength: 64 })),
  },
  closed,
);
const MoveBody = Type.Object({ job: Type.String({ maxLength: 64 }) }, closed);

function signView(sign: SignRow, proof?: SignProof) {
  const { id, revision, document, savedAt, job } = sign;
  return {
    id,
    revision,
    document,
    savedAt,
    proof,
    job: job && { id: job.id, number: job.number, title: job.title, customer: job.customer?.name ?? '', state: job.state },
  };
}

export function signRoutes(app: FastifyInstance, signs: SignService, jobs: JobService, pictures: SignPictures): void {
  const params = { schema: { params: IdParams }, config: { least: 'maker' as const } };

  app.post<{ Params: IdParams; Body: Static<typeof NewSignBody> }>(
    '/api/jobs/:id/signs',
    {
      schema: { params: IdParams, body: NewSignBody },
      bodyLimit: LARGEST_DOCUMENT,
      config: { least: 'designer', deed: 'made a sign' },
    },
    async (request, reply) => {
      const job = await jobs.find(request.params.id);
      reply.code(201);
      return signView(await signs.create(job, request.body.title.trim(), request.body.document));
    },
  );

  app.get<{ Params: IdParams }>('/api/signs/:id', params, async (request) => {
    const sign = await signs.find(request.params.id);
    return signView(sign, await signs.proofOf(sign));
  });

  app.post<{ Params: IdParams; Body: Static<typeof CopyBody> }>(
    '/api/signs/:id/copies',
    { schema: { params: IdParams, body: CopyBody }, config: { least: 'designer', deed: 'copied a sign' } },
    async (request, reply) => {
      const { jobId } = await signs.find(request.params.id);
      const job = await jobs.find(request.body.job ?? jobId);
      reply.code(201);
      return signView(await signs.copy(request.params.id, job, request.body.title.trim()));
    },
  );

  app.post<{ Params: IdParams; Body: Static<typeof MoveBody> }>(
    '/api/signs/:id/move',
    { schema: { params: IdParams, body: MoveBody }, config: { least: 'designer', deed: 'moved a sign' } },
    async (request) => signView(await signs.move(request.params.id, await jobs.find(request.body.job))),
  );

  app.put<{ Params: IdParams; Body: Static<typeof SaveBody> }>(
    '/api/signs/:id',
    { schema: { params: IdParams, body: SaveBody }, bodyLimit: LARGEST_DOCUMENT, config: { least: 'designer', deed: SAVES } },
    async (request) => signs.save(request.params.id, request.body.base, request.body.document),
  );

  app.delete<{ Params: IdParams }>(
    '/api/signs/:id',
    { schema: { params: IdParams }, config: { least: 'designer', deed: 'removed a sign' } },
    async (request, reply) => {
      await signs.remove(request.params.id);
      reply.code(204);
    },
  );

  app.get<{ Params: IdParams }>('/api/signs/:id/revisions', params, async (request) => ({
    revisions: await signs.revisions(request.params.id),
  }));

  app.get<{ Params: IdParams }>('/api/revisions/:id', params, async (request) => {
    const { id, signId, revision, kind, document, savedAt } = await signs.revisionById(request.params.id);
    return { id, signId, revision, kind, document, savedAt };
  });

  app.get<{ Params: IdParams }>('/api/signs/:id/picture.png', params, async (request, reply) => {
    const { id } = request.params;
    const picture = pictures.of(id, await signs.revisionNumber(id), async () => (await signs.find(id)).document);
    // The address carries the revision.
    return answerWithPicture(request, reply, { ...picture, type: 'image/png' });
  });
}
