import { randomUUID } from 'node:crypto';
import { IdParams, MOST_FONT_BYTES } from '@plain-relief/api';
import { type Finish, newSign, type Sign } from '@plain-relief/core/sign';
import type { FastifyInstance } from 'fastify';
import type { Database } from '../../platform/database/database.js';
import { errors } from '../../platform/errors.js';
import { endpoint } from '../../platform/http/endpoint.js';
import { isUuid } from '../../platform/http/ids.js';
import { uploadedFile } from '../../platform/http/uploads.js';
import type { SignService } from '../signs/service.js';
import { keepShopCard, shopCard } from './card.js';
import type { FontDoor, ShopFonts } from '../fonts/fonts.js';

/** The outline of a blank may be a drawing that was taken over. */
const LARGEST_DOCUMENT = 4 * 1024 * 1024;
const seen = { config: { least: 'maker' as const } };

/** What the shop says of itself, its layouts, own fonts, usual blanks and finishes. */
export function shopRoutes(app: FastifyInstance, db: Database, fonts: ShopFonts, door: FontDoor, signs: SignService): void {
  cardRoutes(app, db);
  layoutRoutes(app, db);
  fontRoutes(app, fonts, door);
  blankRoutes(app, db, signs);
  finishRoutes(app, db, signs);
}

function cardRoutes(app: FastifyInstance, db: Database): void {
  endpoint(app, 'GET /shop/card', seen, () => shopCard(db));

  endpoint(app, 'PUT /shop/card', { config: { least: 'owner', audit: 'changed what the shop says of itself' } }, ({ body }) =>
    keepShopCard(db, body),
  );
}

function layoutRoutes(app: FastifyInstance, db: Database): void {
  endpoint(app, 'GET /shop/layouts', seen, () => db.ShopLayout.findAll({ order: [['name', 'ASC']] }));

  endpoint(app, 'POST /shop/layouts', { config: { least: 'designer', audit: 'kept a layout' } }, ({ body }) =>
    db.ShopLayout.create({ id: randomUUID(), name: body.name.trim(), layout: body.layout, createdAt: new Date() }),
  );

  endpoint(app, 'DELETE /shop/layouts/:id', { config: { least: 'designer', audit: 'removed a layout' } }, ({ params: { id } }) =>
    removeRow('layout', id, isUuid(id) ? db.ShopLayout.findByPk(id) : null),
  );
}

/** Takes a row out that is there. */
async function removeRow(what: string, id: string, found: Promise<{ destroy(): Promise<void> } | null> | null): Promise<void> {
  const row = await found;
  if (!row) throw errors.notFound(what, id);
  await row.destroy();
}

function fontRoutes(app: FastifyInstance, fonts: ShopFonts, door: FontDoor): void {
  endpoint(app, 'GET /shop/fonts', seen, () => fonts.list());

  endpoint(app, 'POST /shop/fonts', { config: { least: 'designer', audit: 'added a font' } }, async (request) => {
    const { name, bytes } = await uploadedFile(request, MOST_FONT_BYTES);
    return door.add(name, bytes);
  });

  app.get<{ Params: { id: string } }>(
    '/fonts/shop/:id.ttf',
    { schema: { params: IdParams }, config: { least: 'maker' } },
    async (request, reply) =>
      reply
        .header('content-type', 'font/ttf')
        .header('cache-control', 'private, max-age=31536000, immutable')
        .send(await fonts.bytes(request.params.id)),
  );

  endpoint(app, 'DELETE /shop/fonts/:id', { config: { least: 'designer', audit: 'removed a font' } }, ({ params }) =>
    fonts.remove(params.id),
  );
}

function blankRoutes(app: FastifyInstance, db: Database, signs: SignService): void {
  endpoint(app, 'GET /shop/blanks', seen, () => db.ShopBlank.findAll({ order: [['name', 'ASC']] }));

  endpoint(
    app,
    'POST /shop/blanks',
    { bodyLimit: LARGEST_DOCUMENT, config: { least: 'designer', audit: 'added a blank' } },
    async ({ body: { name, blank } }) => {
      // A blank is judged as that of a sign.
      const sign = await signs.read({ ...newSign('Blank', 'mm'), blank: blank as Sign['blank'] });
      return db.ShopBlank.create({ id: randomUUID(), name: name.trim(), blank: sign.blank, createdAt: new Date() });
    },
  );

  endpoint(app, 'DELETE /shop/blanks/:id', { config: { least: 'designer', audit: 'removed a blank' } }, ({ params: { id } }) =>
    removeRow('blank', id, isUuid(id) ? db.ShopBlank.findByPk(id) : null),
  );
}

function finishRoutes(app: FastifyInstance, db: Database, signs: SignService): void {
  endpoint(app, 'GET /shop/finishes', seen, async () => {
    const rows = await db.ShopFinish.findAll();
    return rows.map(({ finish }) => finish).sort((a, b) => a.name.localeCompare(b.name, 'en'));
  });

  endpoint(app, 'POST /shop/finishes', { config: { least: 'designer', audit: 'added a finish' } }, async ({ body }) => {
    const { name, colour, gloss } = body;
    const id = randomUUID();
    // A finish is judged as that of a sign.
    const finish = { id: `shop-${id}`, name: name.trim(), colour, gloss } as Finish;
    const sign = await signs.read({ ...newSign('Finish', 'mm'), finishes: [finish] });
    await db.ShopFinish.create({ id, finish: sign.finishes![0], createdAt: new Date() });
    return finish;
  });

  endpoint(app, 'DELETE /shop/finishes/:id', { config: { least: 'designer', audit: 'removed a finish' } }, ({ params }) => {
    const id = params.id.replace(/^shop-/u, '');
    return removeRow('finish', params.id, isUuid(id) ? db.ShopFinish.findByPk(id) : null);
  });
}
