import { type Static, Type } from '@sinclair/typebox';

/** The parameters of a route to one thing. */
export const IdParams = Type.Object({ id: Type.String({ maxLength: 64 }) }, { additionalProperties: false });
export type IdParams = Static<typeof IdParams>;

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/iu;

/** Whether a text can be an id at all: the database refuses others with an error of its own. */
export const isUuid = (text: string): boolean => UUID.test(text);
