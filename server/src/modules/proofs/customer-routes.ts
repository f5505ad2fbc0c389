import { CustomerPictureParams, CustomerPlaceParams, CustomerPlateParams, PictureQuery, TokenParams } from '@plain-relief/api';
import type { Static } from '@sinclair/typebox';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import type { Database } from '../../platform/database/database.js';
import { errors } from '../../platform/errors.js';
import { endpoint } from '../../platform/http/endpoint.js';
import { answerWithFile } from '../../platform/http/files.js';
import { answerWithPhotograph, answerWithPicture } from '../../platform/http/pictures.js';
import type { SignPictures } from '../signs/pictures.js';
import type { TaskService } from '../tasks/service.js';
import { placePhotograph, placePicture, placesOf } from './frozen-places.js';
import { platePicture, platesOfRun } from './frozen-runs.js';
import { customerPicture, frozenSign } from './frozen-sign.js';
import type { Proof } from '../../platform/database/models/proofs.js';
import type { ProofService } from './service.js';
import { customerView } from './views.js';

/** Requests a minute to the address of one proof: a customer needs few. Guessers meet 256 random bits. */
const RATE = {
  config: {
    least: 'anyone' as const,
    rateLimit: {
      max: 240,
      timeWindow: '1 minute',
      keyGenerator: ({ params }: FastifyRequest) => String((params as TokenParams).token),
    },
  },
};

/** Of a contact sheet one for each plate. */
const PLATES_A_MINUTE = 1200;

/** What a customer may do with the address of a proof: see it, say something about it, answer it. Nothing else opens to them. */
export function customerRoutes(
  app: FastifyInstance,
  db: Database,
  proofs: ProofService,
  tasks: TaskService,
  pictures: SignPictures,
): void {
  const view = async (proof: Proof) => {
    const isSheetReady = (await proofs.readySheet(proof)) !== undefined;
    const beside = { isSheetReady, newer: await proofs.newerThan(proof), places: await placesOf(db, proof) };
    return customerView(proof, beside, await proofs.catalogue());
  };

  endpoint(app, 'GET /proof-links/:token', RATE, async ({ params, query }, reply) => {
    const proof = await proofs.byToken(params.token);
    if (query.by !== 'shop') await proofs.seen(proof);
    reply.header('cache-control', 'no-store');
    return view(proof);
  });

  endpoint(app, 'POST /proof-links/:token/remarks', RATE, async ({ params, body }) =>
    view(await proofs.remark(await proofs.byToken(params.token), body)),
  );

  endpoint(app, 'GET /proof-links/:token/runs/:runId', RATE, async ({ params, query }, reply) => {
    reply.header('cache-control', 'no-store');
    return platesOfRun(db, await proofs.byToken(params.token), params.runId, query);
  });

  endpoint(app, 'POST /proof-links/:token/corrections', RATE, async ({ params, body }) =>
    view(await proofs.correct(await proofs.byToken(params.token), body)),
  );

  endpoint(app, 'POST /proof-links/:token/approval', RATE, async ({ params, body }) =>
    view(await proofs.approve(await proofs.byToken(params.token), body)),
  );

  endpoint(app, 'POST /proof-links/:token/wishes', RATE, async ({ params, body }) =>
    view(await proofs.askChanges(await proofs.byToken(params.token), body)),
  );

  app.get<{ Params: TokenParams }>(
    '/api/proof-links/:token/sheet.pdf',
    { schema: { params: TokenParams }, ...RATE },
    async (request, reply) => {
      const id = await proofs.readySheet(await proofs.byToken(request.params.token));
      if (id === undefined) throw errors.notReady('under way');
      const { file, fileName, fileType } = await tasks.file(id);
      return answerWithFile(reply, { name: fileName, type: fileType, bytes: file! });
    },
  );

  customerPictureRoutes(app, proofs, pictures);
  customerPlaceRoutes(app, db, proofs, pictures);

  interface OfPlate {
    Params: Static<typeof CustomerPlateParams>;
    Querystring: Static<typeof PictureQuery>;
  }
  const ofPlate = { schema: { params: CustomerPlateParams, querystring: PictureQuery }, config: { ...RATE.config, rateLimit: { ...RATE.config.rateLimit, max: PLATES_A_MINUTE } } }; // prettier-ignore
  app.get<OfPlate>('/api/proof-links/:token/runs/:runId/plates/:row/picture.png', ofPlate, async (request, reply) => {
    const { token, runId, row } = request.params;
    const picture = await platePicture(db, pictures, await proofs.byToken(token), runId, Number(row), request.query.option);
    return answerWithPicture(request, reply, { ...picture, type: 'image/png' });
  });
}

interface SignPicture {
  Params: Static<typeof CustomerPictureParams>;
  Querystring: Static<typeof PictureQuery>;
}

function customerPictureRoutes(app: FastifyInstance, proofs: ProofService, pictures: SignPictures): void {
  const ofSign = { schema: { params: CustomerPictureParams, querystring: PictureQuery }, ...RATE };

  app.get<SignPicture>('/api/proof-links/:token/signs/:signId/picture.png', ofSign, async (request, reply) => {
    const proof = await proofs.byToken(request.params.token);
    const picture = customerPicture(pictures, proof, request.params.signId, request.query.option);
    // What is frozen never looks otherwise.
    return answerWithPicture(request, reply, { ...picture, type: 'image/png' });
  });

  app.get<SignPicture>('/api/proof-links/:token/signs/:signId/sizes.svg', ofSign, async (request, reply) => {
    const proof = await proofs.byToken(request.params.token);
    const { option } = request.query;
    const { signId, document } = frozenSign(proof, request.params.signId, option);
    const drawing = pictures.sizes(`${proof.id} ${signId} ${option ?? ''}`, document);
    return answerWithPicture(request, reply, { ...drawing, type: 'image/svg+xml; charset=utf-8' });
  });

  app.get<SignPicture>('/api/proof-links/:token/signs/:signId/model.glb', ofSign, async (request, reply) => {
    const proof = await proofs.byToken(request.params.token);
    const model = await pictures.model(frozenSign(proof, request.params.signId, request.query.option).document);
    reply.type('model/gltf-binary').header('cache-control', 'private, max-age=31536000, immutable');
    return reply.send(Buffer.from(model));
  });
}

/** Frozen signs as they will hang: their photograph, and what stands before it. */
function customerPlaceRoutes(app: FastifyInstance, db: Database, proofs: ProofService, pictures: SignPictures): void {
  const ofPlace = { schema: { params: CustomerPlaceParams }, ...RATE };
  interface OfPlace {
    Params: Static<typeof CustomerPlaceParams>;
  }

  app.get<OfPlace>('/api/proof-links/:token/places/:placeId/picture.png', ofPlace, async (request, reply) => {
    const proof = await proofs.byToken(request.params.token);
    const picture = await placePicture(db, pictures, proof, request.params.placeId);
    return answerWithPicture(request, reply, { ...picture, type: 'image/png' });
  });

  app.get<OfPlace>('/api/proof-links/:token/places/:placeId/photograph', ofPlace, async (request, reply) => {
    const content = await placePhotograph(db, await proofs.byToken(request.params.token), request.params.placeId);
    return answerWithPhotograph(reply, request.params.placeId, content);
  });
}
