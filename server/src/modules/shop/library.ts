import type { ShopLibrary } from '@plain-relief/api';
import { readShop, type Shop, ShopError, type Weighed } from '@plain-relief/core/shop';
import type { FastifyInstance } from 'fastify';
import type { Transaction } from 'sequelize';
import type { Database } from '../../platform/database/database.js';
import { errors } from '../../platform/errors.js';
import { endpoint } from '../../platform/http/endpoint.js';

/** There is one. */
const ID = 1;
const LARGEST = 2 * 1024 * 1024;
const EMPTY: Shop = {
  version: 1,
  materials: [],
  tools: [],
  machines: [],
  rates: { currency: 'EUR', machineHour: 0, handHour: 0, toolChange: 0, finishing: [], least: 0 },
};

/** The shop's materials, tools, machines and rates; empty lists where it has kept none. */
export async function shopLibrary(db: Database, transaction?: Transaction): Promise<ShopLibrary> {
  const row = await db.ShopLibraryRow.findByPk(ID, { transaction });
  return { revision: row?.revision ?? 0, library: row?.library ?? EMPTY };
}

/** What is needed of the shop's materials to weigh signs. */
export async function weighedMaterials(db: Database, transaction?: Transaction): Promise<Weighed[]> {
  const { library } = await shopLibrary(db, transaction);
  return library.materials.map(({ id, name, density }) => ({ id, name, density }));
}

/**
 * Keeps the shop's lists, unless somebody else did since they were read.
 * @param base the revision that they were changed from
 * @throws ServerError with every fault, or where they were changed meanwhile
 */
export async function keepLibrary(db: Database, base: number, source: unknown): Promise<ShopLibrary> {
  const library = judged(source);
  if (base === 0) {
    const [row, isNew] = await db.ShopLibraryRow.findOrCreate({ where: { id: ID }, defaults: { id: ID, revision: 1, library } });
    if (isNew) return { revision: 1, library };
    throw errors.staleLibrary({ base, revision: row.revision });
  }
  const [kept] = await db.ShopLibraryRow.update({ library, revision: base + 1 }, { where: { id: ID, revision: base } });
  if (kept === 1) return { revision: base + 1, library };
  throw errors.staleLibrary({ base, revision: (await shopLibrary(db)).revision });
}

function judged(source: unknown): Shop {
  try {
    return readShop(source);
  } catch (error) {
    if (error instanceof ShopError) throw errors.badRequest(error.faults);
    throw error;
  }
}

/** The shop's lists, read by everybody who makes something and kept by those who design. */
export function libraryRoutes(app: FastifyInstance, db: Database): void {
  endpoint(app, 'GET /shop/library', { config: { least: 'maker' } }, () => shopLibrary(db));

  endpoint(
    app,
    'PUT /shop/library',
    { bodyLimit: LARGEST, config: { least: 'designer', audit: 'changed materials, tools, machines or rates' } },
    ({ body: { base, library } }) => keepLibrary(db, base, library),
  );
}
