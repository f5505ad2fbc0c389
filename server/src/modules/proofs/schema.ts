import { type Static, Type } from '@sinclair/typebox';
import { SheetLayout } from '../../platform/sheet-schemas.js';
import { TICKS } from '../../platform/database/models/proofs.js';

const closed = { additionalProperties: false };
const Uuid = Type.String({ minLength: 36, maxLength: 36 });
const Short = (most: number) => Type.String({ minLength: 1, maxLength: most, pattern: '\\S' });
const OptionId = Type.String({ pattern: '^[A-Za-z0-9_-]{1,64}$' });
const Share = Type.Number({ minimum: 0, maximum: 1 });

export const NewProof = Type.Object(
  {
    /** The signs to freeze, in the order in which they are shown. */
    signs: Type.Array(Uuid, { minItems: 1, maxItems: 50 }),
    recipient: Type.String({ maxLength: 200, pattern: '^[^\\s@<>,;]+@[^\\s@<>,;]+$' }),
    message: Type.String({ maxLength: 4000 }),
    /** What the sheet shows; everything where nothing is said. */
    layout: Type.Optional(SheetLayout),
    /** Days until the customer's address stops working. */
    days: Type.Integer({ minimum: 1, maximum: 365 }),
    /** Days after which the customer is reminded; never where there are none. */
    remindAfter: Type.Optional(Type.Integer({ minimum: 1, maximum: 60 })),
    /** Notes left open that somebody has seen, and sends the proof all the same. */
    confirmed: Type.Optional(
      Type.Array(Type.Object({ signId: Uuid, notes: Type.Array(Type.String({ maxLength: 2000 }), { maxItems: 500 }) }, closed), {
        maxItems: 50,
      }),
    ),
  },
  closed,
);

const Place = { across: Type.Optional(Share), down: Type.Optional(Share) };
export const NewRemark = Type.Object(
  { signId: Uuid, option: Type.Optional(OptionId), who: Short(120), text: Short(2000), ...Place },
  closed,
);
export const ShopRemark = Type.Object({ signId: Uuid, option: Type.Optional(OptionId), text: Short(2000), ...Place }, closed);

export const Approval = Type.Object(
  {
    name: Short(120),
    ticks: Type.Object(Object.fromEntries(TICKS.map((tick) => [tick, Type.Literal(true)])), closed),
    choices: Type.Record(Uuid, OptionId),
    /** Of the contents that were seen. */
    digest: Type.String({ pattern: '^[0-9a-f]{64}$' }),
  },
  closed,
);
export const Wishes = Type.Object({ name: Short(120), wishes: Short(4000) }, closed);

export const TokenParams = Type.Object({ token: Type.String({ pattern: '^[A-Za-z0-9_-]{43}$' }) }, closed);
/** Who looks: the shop itself is not taken for the customer. */
export const LookQuery = Type.Object({ by: Type.Optional(Type.Literal('shop')) }, closed);
export const PictureParams = Type.Object({ token: Type.String({ pattern: '^[A-Za-z0-9_-]{43}$' }), signId: Uuid }, closed);
export const ShopPictureParams = Type.Object({ id: Type.String({ maxLength: 64 }), signId: Uuid }, closed);
export const PictureQuery = Type.Object({ option: Type.Optional(OptionId) }, closed);

export type NewProof = Static<typeof NewProof>;
export type NewRemark = Static<typeof NewRemark>;
export type ShopRemark = Static<typeof ShopRemark>;
export interface Approval {
  name: string;
  ticks: Record<(typeof TICKS)[number], true>;
  choices: Record<string, string>;
  digest: string;
}
export type Wishes = Static<typeof Wishes>;
export type TokenParams = Static<typeof TokenParams>;
export type LookQuery = Static<typeof LookQuery>;
export type PictureParams = Static<typeof PictureParams>;
export type ShopPictureParams = Static<typeof ShopPictureParams>;
export type PictureQuery = Static<typeof PictureQuery>;
