import { type Static, type TSchema, Type } from '@sinclair/typebox';

/** What the schemas of requests and answers are put together from. */

/** An object with these fields and no others. */
export const closed = { additionalProperties: false } as const;

/** One of some words. */
export const oneOf = <T extends string>(values: readonly T[]) => Type.Unsafe<T>({ type: 'string', enum: [...values] });

/** In an answer: a value or nothing. */
export const orNull = <T extends TSchema>(schema: T) => Type.Unsafe<Static<T> | null>({ ...schema, nullable: true });

/** A moment of ISO 8601 in UTC. */
export const Moment = Type.String();

/** Words of one to so many characters, not all of them white. */
export const Words = (most: number) => Type.String({ minLength: 1, maxLength: most, pattern: '\\S' });

export const Uuid = Type.String({ minLength: 36, maxLength: 36 });
export const Email = Type.String({ maxLength: 200, pattern: '^[^\\s@<>,;]+@[^\\s@<>,;]+$' });
export const OptionId = Type.String({ pattern: '^[A-Za-z0-9_-]{1,64}$' });
export const Unit = oneOf(['mm', 'in'] as const);

/** The parameters of an address of one thing. */
export const IdParams = Type.Object({ id: Type.String({ minLength: 1, maxLength: 100 }) }, closed);

/** A part of a document that is judged by core, not here. */
export const Unjudged = Type.Object({}, { additionalProperties: true });
