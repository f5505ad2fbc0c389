import { randomUUID } from 'node:crypto';
import { type Finish, newSign, type Sign } from '@plain-relief/core/sign';
import { type Static, Type } from '@sinclair/typebox';
import type { FastifyInstance } from 'fastify';
import type { Database } from '../../platform/database/database.js';
import { errors } from '../../platform/errors.js';
import { isUuid } from '../../platform/http/ids.js';
import type { SignService } from '../signs/service.js';
import { SheetLayout, ShopCard } from '../../platform/sheet-schemas.js';
import { keepShopCard, shopCard } from './card.js';
import type { FontDoor, ShopFonts } from '../fonts/fonts.js';

/** Most bytes of an uploaded font. */
const MOST_BYTES = 10_000_000;
/** The outline of a blank may be a drawing that was taken over. */
const LARGEST_DOCUMENT = 4 * 1024 * 1024;

const NewFont = Type.Object(
  {
    name: Type.String({ minLength: 1, maxLength: 200, pattern: '\\S' }),
    base64: Type.String({ minLength: 4, maxLength: Math.ceil(MOST_BYTES / 3) * 4, pattern: '^[A-Za-z0-9+/]+={0,2}$' }),
  },
  { additionalProperties: false },
);
const NewBlank = Type.Object(
  { name: Type.String({ minLength: 1, maxLength: 80, pattern: '\\S' }), blank: Type.Unknown() },
  { additionalProperties: false },
);
const NewFinish = Type.Object(
  { name: Type.String({ minLength: 1, maxLength: 80, pattern: '\\S' }), colour: Type.String(), gloss: Type.String() },
  { additionalProperties: false },
);
const NewLayout = Type.Object(
  { name: Type.String({ minLength: 1, maxLength: 80, pattern: '\\S' }), layout: SheetLayout },
  { additionalProperties: false },
);
const Id = Type.Object({ id: Type.String({ minLength: 1, maxLength: 100 }) });

/** What the shop says of itself, its layouts, own fonts, usual blanks and finishes. */
export function shopRoutes(app: FastifyInstance, db: Database, fonts: ShopFonts, door: FontDoor, signs: SignService): void {
  cardRoutes(app, db);
  layoutRoutes(app, db);
  fontRoutes(app, fonts, door);
  blankRoutes(app, db, signs);
  finishRoutes(app, db, signs);
}

function cardRoutes(app: FastifyInstance, db: Database): void {
  app.get('/api/shop/card', { config: { least: 'maker' } }, () => shopCard(db));

  app.put<{ Body: ShopCard }>(
    '/api/shop/card',
    { schema: { body: ShopCard }, config: { least: 'owner', deed: 'changed what the shop says of itself' } },
    (request) => keepShopCard(db, request.body),
  );
}

function layoutRoutes(app: FastifyInstance, db: Database): void {
  app.get('/api/shop/layouts', { config: { least: 'maker' } }, async () => {
    const rows = await db.ShopLayout.findAll({ order: [['name', 'ASC']] });
    return rows.map(({ id, name, layout }) => ({ id, name, layout }));
  });

  app.post<{ Body: Static<typeof NewLayout> }>(
    '/api/shop/layouts',
    { schema: { body: NewLayout }, config: { least: 'designer', deed: 'kept a layout' } },
    async (request, reply) => {
      const row = { id: randomUUID(), name: request.body.name.trim(), layout: request.body.layout, createdAt: new Date() };
      await db.ShopLayout.create(row);
      reply.code(201);
      return { id: row.id, name: row.name, layout: row.layout };
    },
  );

  app.delete<{ Params: { id: string } }>(
    '/api/shop/layouts/:id',
    { schema: { params: Id }, config: { least: 'designer', deed: 'removed a layout' } },
    async (request, reply) => {
      const { id } = request.params;
      const row = isUuid(id) ? await db.ShopLayout.findByPk(id) : null;
      if (!row) throw errors.notFound('layout', id);
      await row.destroy();
      reply.code(204);
    },
  );
}

function fontRoutes(app: FastifyInstance, fonts: ShopFonts, door: FontDoor): void {
  app.get('/api/shop/fonts', { config: { least: 'maker' } }, () => fonts.list());

  app.post<{ Body: Static<typeof NewFont> }>(
    '/api/shop/fonts',
    {
      schema: { body: NewFont },
      bodyLimit: 2 * MOST_BYTES,
      config: { least: 'designer', deed: 'added a font', largestFile: MOST_BYTES },
    },
    async (request, reply) => {
      reply.code(201);
      return door.add(request.body.name.trim(), Buffer.from(request.body.base64, 'base64'));
    },
  );

  app.get<{ Params: { id: string } }>(
    '/fonts/shop/:id.ttf',
    { schema: { params: Id }, config: { least: 'maker' } },
    async (request, reply) =>
      reply
        .header('content-type', 'font/ttf')
        .header('cache-control', 'private, max-age=31536000, immutable')
        .send(await fonts.bytes(request.params.id)),
  );

  app.delete<{ Params: { id: string } }>(
    '/api/shop/fonts/:id',
    { schema: { params: Id }, config: { least: 'designer', deed: 'removed a font' } },
    async (request, reply) => {
      await fonts.remove(request.params.id);
      reply.code(204);
    },
  );
}

function blankRoutes(app: FastifyInstance, db: Database, signs: SignService): void {
  app.get('/api/shop/blanks', { config: { least: 'maker' } }, async () => {
    const rows = await db.ShopBlank.findAll({ order: [['name', 'ASC']] });
    return rows.map(({ id, name, blank }) => ({ id, name, blank }));
  });

  app.post<{ Body: Static<typeof NewBlank> }>(
    '/api/shop/blanks',
    { schema: { body: NewBlank }, bodyLimit: LARGEST_DOCUMENT, config: { least: 'designer', deed: 'added a blank' } },
    async (request, reply) => {
      const { name, blank } = request.body;
      // A blank is judged as that of a sign.
      const sign = await signs.read({ ...newSign('Blank', 'mm'), blank: blank as Sign['blank'] });
      const row = { id: randomUUID(), name: name.trim(), blank: sign.blank, createdAt: new Date() };
      await db.ShopBlank.create(row);
      reply.code(201);
      return { id: row.id, name: row.name, blank: row.blank };
    },
  );

  app.delete<{ Params: { id: string } }>(
    '/api/shop/blanks/:id',
    { schema: { params: Id }, config: { least: 'designer', deed: 'removed a blank' } },
    async (request, reply) => {
      const { id } = request.params;
      const row = isUuid(id) ? await db.ShopBlank.findByPk(id) : null;
      if (!row) throw errors.notFound('blank', id);
      await row.destroy();
      reply.code(204);
    },
  );
}

function finishRoutes(app: FastifyInstance, db: Database, signs: SignService): void {
  app.get('/api/shop/finishes', { config: { least: 'maker' } }, async () => {
    const rows = await db.ShopFinish.findAll();
    return rows.map(({ finish }) => finish).sort((a, b) => a.name.localeCompare(b.name, 'en'));
  });

  app.post<{ Body: Static<typeof NewFinish> }>(
    '/api/shop/finishes',
    { schema: { body: NewFinish }, config: { least: 'designer', deed: 'added a finish' } },
    async (request, reply) => {
      const { name, colour, gloss } = request.body;
      const id = randomUUID();
      // A finish is judged as that of a sign.
      const finish = { id: `shop-${id}`, name: name.trim(), colour, gloss } as Finish;
      const sign = await signs.read({ ...newSign('Finish', 'mm'), finishes: [finish] });
      await db.ShopFinish.create({ id, finish: sign.finishes![0], createdAt: new Date() });
      reply.code(201);
      return finish;
    },
  );

  app.delete<{ Params: { id: string } }>(
    '/api/shop/finishes/:id',
    { schema: { params: Id }, config: { least: 'designer', deed: 'removed a finish' } },
    async (request, reply) => {
      const id = request.params.id.replace(/^shop-/u, '');
      const row = isUuid(id) ? await db.ShopFinish.findByPk(id) : null;
      if (!row) throw errors.notFound('finish', request.params.id);
      await row.destroy();
      reply.code(204);
    },
  );
}
