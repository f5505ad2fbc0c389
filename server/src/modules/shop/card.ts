import type { ShopCard } from '@plain-relief/api';
import { pictureKind } from '@plain-relief/core/artwork';
import type { Transaction } from 'sequelize';
import { PNG } from 'pngjs';
import type { Database } from '../../platform/database/database.js';
import { errors } from '../../platform/errors.js';

/** There is one. */
const ID = 1;
const BLANK: ShopCard = { name: 'The shop', contact: '', terms: '' };

/** What the shop says of itself on sheets and to customers. */
export async function shopCard(db: Database, transaction?: Transaction): Promise<ShopCard> {
  return (await db.ShopCardRow.findByPk(ID, { transaction }))?.card ?? BLANK;
}

/** @throws ServerError where the logo cannot be printed */
export async function keepShopCard(db: Database, card: ShopCard): Promise<ShopCard> {
  if (card.logo !== undefined) checkLogo(Buffer.from(card.logo, 'base64'));
  await db.ShopCardRow.upsert({ id: ID, card });
  return card;
}

/** A logo that reads as a picture and is none would be found out by the worker, proof after proof. */
function checkLogo(bytes: Buffer): void {
  const kind = pictureKind(bytes);
  if (!kind) throw errors.notAPicture('The logo');
  if (kind !== 'png') return;
  try {
    PNG.sync.read(bytes);
  } catch {
    throw errors.notAPicture('The logo');
  }
}
