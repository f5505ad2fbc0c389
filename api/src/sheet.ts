import { BLOCKS, PAPER_NAMES } from '@plain-relief/core/sheet';
import { type Static, Type } from '@sinclair/typebox';
import { closed, oneOf } from './schema.js';

/** The schema of core's `SheetLayout`. */
export const SheetLayout = Type.Object(
  {
    paper: oneOf(PAPER_NAMES),
    isUpright: Type.Boolean(),
    isTurnedBySign: Type.Optional(Type.Boolean()),
    isInBothUnits: Type.Boolean(),
    isInFinishes: Type.Optional(Type.Boolean()),
    shows: Type.Array(oneOf(BLOCKS), { uniqueItems: true }),
  },
  closed,
);

/** What the shop says of itself on every sheet. */
export const ShopCard = Type.Object(
  {
    name: Type.String({ minLength: 1, maxLength: 120, pattern: '\\S' }),
    contact: Type.String({ maxLength: 300 }),
    terms: Type.String({ maxLength: 4000 }),
    /** A PNG or JPEG picture in base 64. */
    logo: Type.Optional(Type.String({ maxLength: 700_000, pattern: '^[A-Za-z0-9+/]+={0,2}$' })),
  },
  closed,
);
export type ShopCard = Static<typeof ShopCard>;
