import { createHash, randomUUID } from 'node:crypto';
import { IdParams, isUuid } from '../../platform/http/ids.js';
import { SIGN_KINDS, type Sign, signOfKind } from '@plain-relief/core/sign';
import type { FastifyInstance } from 'fastify';
import type { Database } from '../../platform/database/database.js';
import { errors } from '../../platform/errors.js';
import { endpoint } from '../../platform/http/endpoint.js';

import { answerWithPicture } from '../../platform/http/pictures.js';
import type { SignPictures } from '../signs/pictures.js';
import type { SignService } from '../signs/service.js';

/** Drawings that were taken over are part of a document. */
const LARGEST_DOCUMENT = 4 * 1024 * 1024;

/** Signs that the shop begins others from, and pictures of them and of the kinds that every shop has. */
export function kindRoutes(app: FastifyInstance, db: Database, signs: SignService, pictures: SignPictures): void {
  const seen = { config: { least: 'maker' as const } };

  endpoint(app, 'GET /shop/kinds', seen, () => db.ShopKind.findAll({ attributes: ['id', 'name'], order: [['name', 'ASC']] }));

  endpoint(
    app,
    'POST /shop/kinds',
    { bodyLimit: LARGEST_DOCUMENT, config: { least: 'designer', audit: 'kept a kind of sign' } },
    async ({ body: { name, document } }) => {
      const sign = await signs.read(document);
      return db.ShopKind.create({ id: randomUUID(), name: name.trim(), document: sign, createdAt: new Date() });
    },
  );

  endpoint(app, 'GET /shop/kinds/:id', seen, ({ params: { id } }) => kept(id));

  endpoint(
    app,
    'DELETE /shop/kinds/:id',
    { config: { least: 'designer', audit: 'removed a kind of sign' } },
    async ({ params: { id } }) => (await kept(id)).destroy(),
  );

  app.get<{ Params: IdParams }>(
    '/api/kinds/:id/picture.png',
    { schema: { params: IdParams }, ...seen },
    async (request, reply) => {
      const sign = await sample(request.params.id);
      const digest = createHash('sha256').update(JSON.stringify(sign)).digest('hex').slice(0, 32);
      const picture = pictures.sample(`kind ${digest}`, sign);
      return answerWithPicture(request, reply, { ...picture, type: 'image/png' });
    },
  );

  async function kept(id: string) {
    const row = isUuid(id) ? await db.ShopKind.findByPk(id) : null;
    if (!row) throw errors.notFound('kind of sign', id);
    return row;
  }

  /** A kind as it is offered. */
  async function sample(id: string): Promise<Sign> {
    const kind = SIGN_KINDS.find((each) => each.id === id);
    return kind ? signOfKind(kind, kind.name, 'mm', kind.usual) : (await kept(id)).document;
  }
}
