import { BLOCKS, PAPER_NAMES } from '@plain-relief/core/sheet';
import { type Static, Type } from '@sinclair/typebox';

const closed = { additionalProperties: false };
const literals = <T extends string>(values: readonly T[]) => Type.Union(values.map((value) => Type.Literal(value)));

/** The schema of core's `SheetLayout`. */
export const SheetLayout = Type.Object(
  {
    paper: literals(PAPER_NAMES),
    isUpright: Type.Boolean(),
    isTurnedBySign: Type.Optional(Type.Boolean()),
    isInBothUnits: Type.Boolean(),
    isInFinishes: Type.Optional(Type.Boolean()),
    shows: Type.Array(literals(BLOCKS), { uniqueItems: true }),
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
