import { PictureQuery, ShopPictureParams, ShopPlateParams } from '@plain-relief/api';
import type { Static } from '@sinclair/typebox';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { errors } from '../../platform/errors.js';
import { endpoint } from '../../platform/http/endpoint.js';
import type { JobService } from '../jobs/service.js';
import type { Database } from '../../platform/database/database.js';
import { answerWithPicture } from '../../platform/http/pictures.js';
import type { SignPictures } from '../signs/pictures.js';
import { caller, isEnough } from '../people/access.js';
import type { Person } from '../../platform/database/models/people.js';
import { endCorrection, platePicture, platesOfRun, proofOfRun, releaseFiles } from './frozen-runs.js';
import { customerPicture, frozenSign } from './frozen-sign.js';
import type { Proof } from '../../platform/database/models/proofs.js';
import { turnaround } from './turnaround.js';
import type { SignService } from '../signs/service.js';
import { confirmedNotes } from './open-notes.js';
import { proofLetter, type ProofService } from './service.js';
import { correctionView, remarkView, shopView } from './views.js';

/** What the shop's side of proofs works with. */
interface Services {
  readonly jobs: JobService;
  readonly proofs: ProofService;
  readonly pictures: SignPictures;
  readonly signs: SignService;
}

/** Bytes of the numbers of as many plates as a run may have. */
const LARGEST_LIST = 256 * 1024;

/** What the shop does with proofs. */
export function proofRoutes(app: FastifyInstance, db: Database, { jobs, proofs, pictures, signs }: Services): void {
  const seen = { config: { least: 'maker' as const } };
  /** The customer's address is not for those who make: with it one could answer in the customer's place. */
  const seenBy = async ({ role }: Person, proof: Proof) =>
    shopView(proof, isEnough(role, 'designer') ? proofs.address(proof) : undefined, await proofs.catalogue());
  const told = async (request: FastifyRequest, id: string) => seenBy(caller(request), await proofs.find(id));

  endpoint(app, 'GET /jobs/:id/proofs', seen, async (request) => {
    const job = await jobs.find(request.params.id);
    const all = await proofs.ofJob(job.id);
    return {
      nextLetter: proofLetter(all.length),
      proofs: await Promise.all(
        all.map(async ({ proof, changes, sheets }) => ({ ...(await seenBy(caller(request), proof)), changes, sheets })),
      ),
    };
  });

  endpoint(app, 'POST /jobs/:id/proofs', { config: { least: 'designer', audit: 'sent a proof' } }, async (request) => {
    const job = await jobs.find(request.params.id);
    const leftOpen = await confirmedNotes(db, signs, pictures, job.id, request.body);
    const proof = await proofs.freeze(job.id, request.body, caller(request).name, leftOpen);
    // Drawn before the customer comes. One that cannot be drawn is told when it is asked for.
    for (const { signId } of proof.contents)
      void customerPicture(pictures, proof, signId)
        .bytes()
        .catch(() => undefined);
    return told(request, proof.id);
  });

  endpoint(app, 'GET /proofs/:id', seen, (request) => told(request, request.params.id));

  endpoint(app, 'POST /proofs/:id/withdraw', { config: { least: 'designer', audit: 'withdrew a proof' } }, async (request) => {
    await proofs.withdraw(request.params.id, caller(request).name);
    return told(request, request.params.id);
  });

  endpoint(app, 'POST /proofs/:id/remarks', { config: { least: 'designer', audit: 'answered a customer' } }, async (request) => {
    await proofs.remark(await proofs.find(request.params.id), request.body, caller(request).name);
    return told(request, request.params.id);
  });

  endpoint(app, 'POST /proofs/:id/sheets', { config: { least: 'maker', audit: 'asked for a sheet' } }, async ({ params, body }) =>
    proofs.sheet((await proofs.find(params.id)).id, body.kind),
  );

  endpoint(app, 'GET /proofs/:id/runs/:runId', seen, async ({ params, query }) =>
    platesOfRun(db, await proofs.find(params.id), params.runId, query),
  );

  endpoint(app, 'GET /runs/:id/proof', seen, async ({ params }) => {
    const found = await proofOfRun(db, params.id);
    if (!found) return { proof: null };
    const { proof, frozenId, changes, option } = found;
    const { id: proofId, letter, state, createdAt, endedAt, answeredBy } = proof;
    const own = <T extends { readonly run: string | null }>(all: readonly T[] = []) => all.filter(({ run }) => run === frozenId);
    const corrections = own(proof.corrections).sort((a, b) => a.number - b.number);
    return {
      proof: {
        ...{ proofId, letter, state, createdAt, endedAt, answeredBy },
        changes: { ...changes, changed: [...changes.changed], added: [...changes.added] },
        option,
        corrections: corrections.map(correctionView),
        remarks: own(proof.remarks).map(remarkView),
      },
    };
  });

  endpoint(
    app,
    'POST /runs/:id/files',
    { bodyLimit: LARGEST_LIST, config: { least: 'maker', audit: 'made files of a run' } },
    async (request) => {
      const { name, role } = caller(request);
      if (request.body.override !== undefined && !isEnough(role, 'designer')) throw errors.notForRole(role, 'designer');
      return { letter: await releaseFiles(db, request.params.id, request.body, name) };
    },
  );

  endpoint(app, 'POST /corrections/:id', { config: { least: 'designer', audit: 'answered a correction' } }, async (request) =>
    correctionView(await endCorrection(db, request.params.id, request.body.end, caller(request).name)),
  );

  endpoint(app, 'GET /turnaround', { config: { least: 'designer' } }, async () => ({ jobs: await turnaround(db) }));

  proofPictureRoutes(app, db, proofs, pictures);
}

/** Frozen signs as they are seen: by the customer, and against what they are now. */
function proofPictureRoutes(app: FastifyInstance, db: Database, proofs: ProofService, pictures: SignPictures): void {
  app.get<{ Params: Static<typeof ShopPictureParams> }>(
    '/api/proofs/:id/signs/:signId/picture.png',
    { schema: { params: ShopPictureParams }, config: { least: 'maker' } },
    async (request, reply) => {
      const { id, signId } = request.params;
      const picture = customerPicture(pictures, await proofs.find(id), signId);
      return answerWithPicture(request, reply, { ...picture, type: 'image/png' });
    },
  );

  app.get<{ Params: Static<typeof ShopPlateParams>; Querystring: Static<typeof PictureQuery> }>(
    '/api/proofs/:id/runs/:runId/plates/:row/picture.png',
    { schema: { params: ShopPlateParams, querystring: PictureQuery }, config: { least: 'maker' } },
    async (request, reply) => {
      const { id, runId, row } = request.params;
      const picture = await platePicture(db, pictures, await proofs.find(id), runId, Number(row), request.query.option);
      return answerWithPicture(request, reply, { ...picture, type: 'image/png' });
    },
  );

  // Against what the sign is now; it is our own drawing, and shown as a picture, which runs no scripts.
  app.get<{ Params: Static<typeof ShopPictureParams> }>(
    '/api/proofs/:id/signs/:signId/comparison.svg',
    { schema: { params: ShopPictureParams }, config: { least: 'maker' } },
    async (request, reply) => {
      const { id, signId } = request.params;
      const was = frozenSign(await proofs.find(id), signId).document;
      const now = await db.SignRow.findByPk(signId);
      if (!now) throw errors.notFound('sign', signId);
      const drawing = await pictures.comparison(was, now.document);
      reply.type('image/svg+xml; charset=utf-8').header('cache-control', 'no-store');
      return reply.send(Buffer.from(drawing));
    },
  );
}
