import type { FastifyInstance } from 'fastify';
import { endpoint } from '../../platform/http/endpoint.js';
import { IdParams } from '../../platform/http/ids.js';
import type { JobService } from '../jobs/service.js';
import type { SignProof } from '@plain-relief/api';
import { SAVES } from '../people/audit.js';
import type { Job } from '../../platform/database/models/jobs.js';
import type { SignRow } from '../../platform/database/models/signs.js';
import { answerWithPicture } from '../../platform/http/pictures.js';
import type { SignPictures } from './pictures.js';
import type { SignService } from './service.js';

/** Drawings that were taken over are part of a document. */
const LARGEST_DOCUMENT = 4 * 1024 * 1024;

function signView(sign: SignRow, job: Job, proof?: SignProof) {
  const { id, revision, document, savedAt } = sign;
  return {
    id,
    revision,
    document,
    savedAt,
    proof,
    job: { id: job.id, number: job.number, title: job.title, customer: job.customer?.name ?? '', state: job.state },
  };
}

export function signRoutes(app: FastifyInstance, signs: SignService, jobs: JobService, pictures: SignPictures): void {
  const seen = { config: { least: 'maker' as const } };

  endpoint(
    app,
    'POST /jobs/:id/signs',
    { bodyLimit: LARGEST_DOCUMENT, config: { least: 'designer', audit: 'made a sign' } },
    async ({ params, body }) => {
      const job = await jobs.find(params.id);
      return signView(await signs.create(job, body.title.trim(), body.document), job);
    },
  );

  endpoint(app, 'GET /signs/:id', seen, async ({ params }) => {
    const sign = await signs.find(params.id);
    return signView(sign, await jobs.find(sign.jobId), await signs.proofOf(sign));
  });

  endpoint(app, 'POST /signs/:id/copies', { config: { least: 'designer', audit: 'copied a sign' } }, async ({ params, body }) => {
    const { jobId } = await signs.find(params.id);
    const job = await jobs.find(body.job ?? jobId);
    return signView(await signs.copy(params.id, job, body.title.trim()), job);
  });

  endpoint(app, 'POST /signs/:id/move', { config: { least: 'designer', audit: 'moved a sign' } }, async ({ params, body }) => {
    const job = await jobs.find(body.job);
    return signView(await signs.move(params.id, job), job);
  });

  endpoint(
    app,
    'PUT /signs/:id',
    { bodyLimit: LARGEST_DOCUMENT, config: { least: 'designer', audit: SAVES } },
    ({ params, body }) => signs.save(params.id, body.base, body.document),
  );

  endpoint(app, 'DELETE /signs/:id', { config: { least: 'designer', audit: 'removed a sign' } }, ({ params }) =>
    signs.remove(params.id),
  );

  endpoint(app, 'GET /signs/:id/revisions', seen, async ({ params }) => ({ revisions: await signs.revisions(params.id) }));

  endpoint(app, 'GET /revisions/:id', seen, ({ params }) => signs.revisionById(params.id));

  app.get<{ Params: IdParams }>(
    '/api/signs/:id/picture.png',
    { schema: { params: IdParams }, ...seen },
    async (request, reply) => {
      const { id } = request.params;
      const picture = pictures.of(id, await signs.revisionNumber(id), async () => (await signs.find(id)).document);
      // The address carries the revision.
      return answerWithPicture(request, reply, { ...picture, type: 'image/png' });
    },
  );
}
