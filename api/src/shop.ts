import type { Blank, Finish, Sign } from '@plain-relief/core/sign';
import type { FontEntry } from '@plain-relief/core/type';
import { type Static, Type } from '@sinclair/typebox';
import type { EndpointTable } from './endpoint.js';
import { closed, IdParams, Moment, Words } from './schema.js';
import { SheetLayout, ShopCard } from './sheet.js';

/** Most bytes of an uploaded font. */
export const MOST_FONT_BYTES = 10_000_000;

/** A font that the shop added. */
export const ShopFont = Type.Object({
  id: Type.String(),
  entry: Type.Unsafe<FontEntry>(Type.Unknown()),
  /** Whether the font itself says that it may not be put into files. */
  isRestricted: Type.Boolean(),
  fileName: Type.String(),
  createdAt: Moment,
});
export type ShopFont = Static<typeof ShopFont>;

/** A font that was handed in. */
export const AddedFont = Type.Object({
  entry: Type.Unsafe<FontEntry>(Type.Unknown()),
  /** Whether it was at hand already, and was not added again. */
  isKnown: Type.Boolean(),
});
export type AddedFont = Static<typeof AddedFont>;

/** A blank that the shop uses often. */
export const ShopBlank = Type.Object({
  id: Type.String(),
  name: Type.String(),
  blank: Type.Unsafe<Blank>(Type.Unknown()),
});
export type ShopBlank = Static<typeof ShopBlank>;

/** A sign that the shop begins others from, by its name. */
export const ShopKind = Type.Object({ id: Type.String(), name: Type.String() });
export type ShopKind = Static<typeof ShopKind>;

/** A layout that the shop keeps. */
export const KeptLayout = Type.Object({ id: Type.String(), name: Type.String(), layout: SheetLayout });
export type KeptLayout = Static<typeof KeptLayout>;

const ShopFinish = Type.Unsafe<Finish>(Type.Unknown());

export const shopEndpoints = {
  'GET /shop/card': { answer: ShopCard },
  'PUT /shop/card': { body: ShopCard, answer: ShopCard },
  'GET /shop/layouts': { answer: Type.Array(KeptLayout) },
  'POST /shop/layouts': {
    body: Type.Object({ name: Words(80), layout: SheetLayout }, closed),
    status: 201,
    answer: KeptLayout,
  },
  'DELETE /shop/layouts/:id': { params: IdParams },
  'GET /shop/fonts': { answer: Type.Array(ShopFont) },
  'POST /shop/fonts': { isUpload: true, status: 201, answer: AddedFont },
  'DELETE /shop/fonts/:id': { params: IdParams },
  'GET /shop/blanks': { answer: Type.Array(ShopBlank) },
  'POST /shop/blanks': {
    body: Type.Object({ name: Words(80), blank: Type.Unknown() }, closed),
    status: 201,
    answer: ShopBlank,
  },
  'DELETE /shop/blanks/:id': { params: IdParams },
  'GET /shop/kinds': { answer: Type.Array(ShopKind) },
  'POST /shop/kinds': { body: Type.Object({ name: Words(80), document: Type.Unknown() }, closed), status: 201, answer: ShopKind },
  'GET /shop/kinds/:id': {
    params: IdParams,
    answer: Type.Object({ id: Type.String(), name: Type.String(), document: Type.Unsafe<Sign>(Type.Unknown()) }),
  },
  'DELETE /shop/kinds/:id': { params: IdParams },
  'GET /shop/finishes': { answer: Type.Array(ShopFinish) },
  'POST /shop/finishes': {
    body: Type.Object({ name: Words(80), colour: Type.String(), gloss: Type.String() }, closed),
    status: 201,
    answer: ShopFinish,
  },
  'DELETE /shop/finishes/:id': { params: IdParams },
} as const satisfies EndpointTable;
